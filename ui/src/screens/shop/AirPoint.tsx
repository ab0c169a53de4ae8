import { Button } from '../../parts/Button'
import { Choice } from '../../parts/fields/Choice'
import type { Knot, Quantity } from './air'

interface Props {
  knots: Knot[]
  at: number
  step: number
  what: Quantity
  text: (knot: Knot) => string
  onChoose: (at: number) => void
  onPut: (at: number, knot: Knot) => void
  onChange: (knots: Knot[]) => void
}

const days = ['Sunday', 'Monday', 'Tuesday', 'Wednesday', 'Thursday', 'Friday', 'Saturday'] as const
const nameOf = (hour: number) => `${days[Math.floor(hour / 24)]} ${String(hour % 24).padStart(2, '0')}:00`

/** AirPoint moves one point of the curve by buttons, adds one after it, or takes it away: what a pull does, without one. */
export function AirPoint({ knots, at, step, what, text, onChoose, onPut, onChange }: Props) {
  const knot = knots[at]
  if (!knot) return null
  const between = halfway(knots, at)
  const add = () => {
    if (between === undefined) return
    const next = [...knots, { ...knot, hour: between }].toSorted((a, b) => a.hour - b.hour)
    onChange(next)
    onChoose(next.findIndex((k) => k.hour === between))
  }
  const tools = [
    ['−', `Lower ${text(knot)}`, () => onPut(at, { ...knot, [what]: knot[what] - step })],
    ['+', `Raise ${text(knot)}`, () => onPut(at, { ...knot, [what]: knot[what] + step })],
    ['←', 'An hour earlier', () => onPut(at, { ...knot, hour: knot.hour - 1 })],
    ['→', 'An hour later', () => onPut(at, { ...knot, hour: knot.hour + 1 })],
  ] as const
  return (
    <div className="flex flex-wrap items-end gap-2" data-air-point>
      <div className="min-w-40 flex-1">
        <Choice
          label="A point of it"
          value={String(at)}
          options={knots.map((k, i) => ({ id: String(i), text: `${nameOf(k.hour)}, ${text(k)}` }))}
          onChange={(chosen) => onChoose(Number(chosen))}
        />
      </div>
      {tools.map(([sign, label, act]) => (
        <Button key={sign} className="w-11 px-0!" aria-label={label} onClick={act}>
          {sign}
        </Button>
      ))}
      <Button onClick={add} disabled={between === undefined}>
        Add
      </Button>
      <Button
        disabled={knots.length < 2}
        onClick={() => {
          onChange(knots.filter((_, i) => i !== at))
          onChoose(Math.max(0, at - 1))
        }}
      >
        Remove
      </Button>
    </div>
  )
}

/** halfway is the hour between a point and the next, round the week; undefined where there is none between. */
function halfway(knots: Knot[], at: number) {
  const from = knots[at]?.hour ?? 0
  const to = knots[at + 1]?.hour ?? (knots[0]?.hour ?? 0) + 168
  const hour = Math.floor((from + to) / 2)
  return hour === from ? undefined : hour % 168
}
