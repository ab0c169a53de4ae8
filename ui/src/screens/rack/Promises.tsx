import { Link } from 'react-router'
import type { Rack } from '../../api/client'
import { StateChip } from '../../parts/StateChip'

/** Promises are the running instruments, the one nearest to being broken first. */
export function Promises({ promises }: { promises: Rack['promises'] }) {
  return (
    <section className="panel px-4 py-3" aria-labelledby="promises-head">
      <h2 id="promises-head" className="name text-lg">
        Promises
      </h2>
      <ul>
        {promises.map(({ instrumentId, name, outlook }) => (
          <li key={instrumentId} className="border-t border-line">
            <Link
              to={`/instruments/${instrumentId}`}
              className="grid min-h-11 grid-cols-[1fr_auto] items-center gap-x-3 py-1 hover:bg-raised"
            >
              <span>
                <span className="font-semibold">{name}</span>{' '}
                <span className="text-sm text-ink-2">{outlook.promise.said}</span>
              </span>
              <StateChip state={outlook.late ? 'late' : 'ready'}>
                {outlook.late ? outlook.slack : outlook.slackDays === 0 ? 'no slack' : `${outlook.slack} slack`}
              </StateChip>
            </Link>
          </li>
        ))}
      </ul>
    </section>
  )
}
