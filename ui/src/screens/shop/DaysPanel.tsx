import { useState } from 'react'
import { Link } from 'react-router'
import type { ShopView } from '../../api/client'
import { suppose } from '../../api/supposing'
import { Button } from '../../parts/Button'
import { Choice } from '../../parts/fields/Choice'
import { Day } from '../../parts/fields/Day'

/** DaysPanel is the days that differ from their week; new ones go into the tray, as when they are painted. */
export function DaysPanel({ view, today }: { view: ShopView; today: string }) {
  const [placeId, setPlace] = useState('')
  const [date, setDate] = useState('')
  const add = (open: boolean) => {
    suppose({ kind: 'day', date, open, ...(placeId && { placeId }) })
    setDate('')
  }
  return (
    <section className="panel p-4" aria-labelledby="days-head" data-days>
      <h2 id="days-head" className="name mb-2 text-xl">
        Days that differ
      </h2>
      {view.days.length === 0 && (
        <p className="mb-2 text-ink-2">
          None ahead. Close a holiday here, or paint days on{' '}
          <Link to="/weeks" className="underline decoration-ink-3 underline-offset-4">
            Weeks
          </Link>
          .
        </p>
      )}
      <ul>
        {view.days.map((d) => (
          <li key={d.date + d.place} className="flex flex-wrap items-center gap-3 border-t border-line py-2">
            <span>
              <b>{d.said}</b>, {d.place}: {d.hours}
            </span>
            <Button
              className="ml-auto"
              aria-label={`${d.said}, ${d.place}, as usual`}
              onClick={() =>
                suppose({ kind: 'day', date: d.date, open: d.usuallyOpen, ...(d.placeId && { placeId: d.placeId }) })
              }
            >
              As usual
            </Button>
          </li>
        ))}
      </ul>
      <form
        className="grid grid-cols-[minmax(0,1fr)] gap-3 border-t border-line pt-3 sm:grid-cols-2"
        onSubmit={(e) => e.preventDefault()}
      >
        <Choice
          label="What"
          value={placeId}
          options={[{ id: '', text: 'the whole shop' }, ...view.places.map((p) => ({ id: p.id, text: p.name }))]}
          onChange={setPlace}
        />
        <Day label="Day" min={today} value={date} onChange={setDate} />
        <div className="flex flex-wrap gap-3 sm:col-span-2 sm:justify-end">
          <Button disabled={!date} onClick={() => add(true)}>
            Open that day
          </Button>
          <Button disabled={!date} onClick={() => add(false)}>
            Closed that day
          </Button>
        </div>
      </form>
    </section>
  )
}
