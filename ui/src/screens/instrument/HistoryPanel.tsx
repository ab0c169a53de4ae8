import { Told } from '../../parts/Told'
import type { PromiseMove } from '../../api/client'

/** HistoryPanel is what moved the day on which the instrument is ready, newest first. */
export function HistoryPanel({ moves }: { moves: PromiseMove[] }) {
  return (
    <section className="panel p-4" aria-labelledby="history-head" data-history>
      <h2 id="history-head" className="name mb-2 text-lg">
        How the date moved
      </h2>
      {moves.length === 0 && <p className="text-ink-2">It stands where it was first planned.</p>}
      <ol className="max-h-80 overflow-y-auto" tabIndex={0} aria-label="What moved the date">
        {moves.map((move, i) => (
          <li key={`${move.at.at} ${i}`} className="border-t border-line py-2 text-[15px]">
            <p className="flex flex-wrap justify-between gap-x-3">
              <b className={move.days > 0 ? 'text-late' : move.days < 0 ? 'text-ready' : ''}>{move.text}</b>
              <span className="text-ink-2">{move.after}</span>
            </p>
            <p className="text-[13px] text-ink-2">
              <Told more={move.at.full}>{move.at.said}</Told>: {move.cause}
            </p>
          </li>
        ))}
      </ol>
    </section>
  )
}
