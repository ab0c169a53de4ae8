import type { Problem } from '../../api/client'
import { capital } from '../../parts/words'

/** Faults are what is wrong, wherever on the page it stands. */
export function Faults({ problem }: { problem: Problem }) {
  return (
    <ul className="text-late" data-faults>
      {problem.faults.map((f) => (
        <li key={f.location}>{capital(f.message)}.</li>
      ))}
    </ul>
  )
}
