import { useState } from 'react'
import type { Change, PlaceView } from '../../api/client'
import { Button } from '../../parts/Button'
import { days, quantities, type Knot, type Quantity } from './air'
import { AirPull } from './AirPull'
import { KeepRow } from '../../parts/what-if/KeepRow'
import { useChange } from '../../parts/what-if/useChange'
import { useKeptForm } from '../../parts/fields/useKeptForm'
import { airShape } from './shapes'

/** AirWeek is the usual air of a place over a week, as a curve one can pull. */
export function AirWeek({ place }: { place: PlaceView }) {
  const { form, value, touched, clear } = useKeptForm(`settings.air.${place.id}`, airShape, { knots: place.knots })
  const [what, setWhat] = useState<Quantity>('temperatureC')
  const set = (next: Knot[]) => form.setValue('knots', next, { shouldDirty: true })
  const knots = value.knots.toSorted((a, b) => a.hour - b.hour)
  const asked: Change | undefined = touched
    ? { kind: 'profile', placeId: place.id, knots, seen: place.seen }
    : undefined
  const change = useChange(asked, clear)
  if (knots.length === 0)
    return (
      <p className="mt-2 flex flex-wrap items-center gap-3 text-ink-2">
        Nobody has said what its air is usually like; waits are reckoned at 20 °C and 50 %.
        <Button
          onClick={() =>
            set([
              { hour: 6, temperatureC: 20, humidityPct: 50 },
              { hour: 15, temperatureC: 20, humidityPct: 50 },
            ])
          }
        >
          Draw it
        </Button>
      </p>
    )
  return (
    <div className="mt-2" data-air={place.name}>
      <div className="flex flex-wrap items-center gap-x-4" role="group" aria-label={`What is pulled: ${place.name}`}>
        {(['temperatureC', 'humidityPct'] as const).map((q) => (
          <button
            key={q}
            type="button"
            aria-pressed={q === what}
            onClick={() => setWhat(q)}
            className={`min-h-11 ${q === what ? 'border-b-2 border-umber font-semibold' : 'text-ink-2 hover:text-ink'}`}
          >
            {quantities[q].word}
          </button>
        ))}
        <Button look="bare" className="ml-auto px-0!" onClick={() => set(everyDay(knots))}>
          Every day like Monday
        </Button>
      </div>
      <AirPull knots={knots} what={what} onChange={set} />
      {touched && <KeepRow change={change} undo={clear} verb="Keep this air" />}
    </div>
  )
}

/** everyDay repeats what Monday has on all days. */
function everyDay(knots: Knot[]): Knot[] {
  const monday = knots.filter((k) => k.hour >= 24 && k.hour < 48)
  const pattern = monday.length > 0 ? monday : knots.slice(0, 1)
  return days.flatMap((_, d) => pattern.map((k) => ({ ...k, hour: d * 24 + (k.hour % 24) })))
}
