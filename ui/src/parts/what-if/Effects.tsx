import type { Effect } from '../../api/client'

/** Effects is what changes would do to every instrument that differs. */
export function Effects({ effects }: { effects: Effect[] }) {
  return (
    <ul className="grid gap-x-6 sm:grid-cols-2">
      {effects.map((e) => (
        <li
          key={e.instrumentId}
          className="flex flex-wrap items-baseline gap-x-2 border-t border-line py-1"
          data-effect={e.name}
        >
          <b>{e.name}</b>
          {e.lost || e.found ? (
            <span className={e.lost ? 'font-semibold text-late' : 'text-ready'}>{e.text}</span>
          ) : e.days === 0 ? (
            <span className="text-ink-2">
              same day, {e.events === 1 ? '1 sitting moves' : `${e.events} sittings move`}
            </span>
          ) : (
            <span>
              {e.text}, {e.after}
            </span>
          )}
          {e.late !== e.wasLate && !e.lost && (
            <span className={`font-semibold ${e.late ? 'text-late' : 'text-ready'}`}>
              {e.late ? 'its promise would break' : 'its promise would hold'}
            </span>
          )}
        </li>
      ))}
    </ul>
  )
}
