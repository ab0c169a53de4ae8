import { useState } from 'react'
import type { HoursLine } from '../../api/client'
import { useHours } from '../../api/queries'
import { Asking } from '../../parts/Asking'
import { LinkButton } from '../../parts/Button'
import { Figure } from '../../parts/Figure'
import { ScreenTitle } from '../../parts/ScreenTitle'
import { inputLook } from '../../parts/fields/Field'

const spans = [
  { id: '30', text: 'the last 30 days' },
  { id: '90', text: 'the last 90 days' },
  { id: '365', text: 'the last year' },
  { id: '3660', text: 'ten years' },
]

/** HoursScreen is how long work took against its plan, and what the shop's own minutes are by now. */
export function HoursScreen() {
  const [days, setDays] = useState('90')
  const hours = useHours(Number(days))
  return (
    <div className="px-4 pb-4">
      <header className="flex flex-wrap items-center gap-x-4 gap-y-2 py-3">
        <ScreenTitle tab="Hours" />
        <p className="text-ink-2">Of work where somebody looked at the clock, against what was planned.</p>
        <div className="ml-auto flex items-center gap-3">
          <select
            aria-label="Over which time"
            className={`${inputLook} w-auto`}
            value={days}
            onChange={(e) => setDays(e.target.value)}
          >
            {spans.map((s) => (
              <option key={s.id} value={s.id}>
                {s.text}
              </option>
            ))}
          </select>
          <LinkButton look="bare" to="/log">
            Log
          </LinkButton>
        </div>
      </header>
      <Asking query={hours}>
        {(view) =>
          view.times === 0 ? (
            <p className="panel max-w-xl p-6">
              No entry since {view.since.said} says how long it took. <b>Log with more…</b> on a step takes the minutes;
              what they are here by now then stands on this page, and later plans go by it.
            </p>
          ) : (
            <div className="grid grid-cols-[minmax(0,1fr)] items-start gap-4 lg:grid-cols-2">
              <Table title="By kind of work" lines={view.kinds} />
              <section className="panel p-4" aria-label="Our own minutes">
                <h2 className="name mb-2 text-lg">Our own minutes</h2>
                <ul>
                  {view.own.map((own) => (
                    <li key={own.kind} className="border-t border-line py-2">
                      <b>{own.label}:</b> <Figure working={own.working}>{own.text}</Figure>
                      <span className="text-ink-2">
                        , from {own.times === 1 ? 'one entry' : `${own.times} entries`}
                      </span>
                    </li>
                  ))}
                </ul>
              </section>
              <Table title="By person" lines={view.people} />
              <Table title="By instrument" lines={view.instruments} />
            </div>
          )
        }
      </Asking>
    </div>
  )
}

/** Table is hours line by line, each with a bar of what was taken over one of what was planned. */
function Table({ title, lines }: { title: string; lines: HoursLine[] }) {
  const most = Math.max(...lines.map((l) => Math.max(l.takenMin, l.plannedMin)))
  return (
    <section className="panel p-4" aria-label={title}>
      <h2 className="name mb-2 text-lg">{title}</h2>
      <ul>
        {lines.map((l) => (
          <li
            key={l.id ?? l.label}
            className="grid grid-cols-[minmax(6rem,1fr)_2fr] items-center gap-x-3 border-t border-line py-2"
          >
            <span className="min-w-0">
              <b className="block truncate">{l.label}</b>
              <span className="text-sm text-ink-2">{l.times === 1 ? 'one entry' : `${l.times} entries`}</span>
            </span>
            <span>
              <span className="relative mb-1 block h-4" aria-hidden="true">
                <span
                  className="absolute inset-y-0 left-0 bg-umber"
                  style={{ width: `${(100 * l.takenMin) / most}%` }}
                />
                <span
                  className="absolute -inset-y-0.5 left-0 border-2 border-l-0 border-ink"
                  style={{ width: `${(100 * l.plannedMin) / most}%` }}
                />
              </span>
              {l.text}: <span className="text-ink-2">{l.against}</span>
            </span>
          </li>
        ))}
      </ul>
    </section>
  )
}
