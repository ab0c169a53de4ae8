import { useState } from 'react'
import type { Change, WeekDay, Weeks } from '../../api/client'
import { suppose, takeBack, useSupposed } from '../../api/supposing'
import { time } from '../../parts/threads/scale'
import { DayLabels } from './DayLabels'
import { StripRow, type Line } from './StripRow'
import { day as dayLength } from './view'

interface Props {
  head: Weeks
  x: (at: number) => number
  width: number
}

/** stripLines are hands and the places that take only so many pieces at a time. */
function stripLines(head: Weeks): Line[] {
  return [
    { name: `shop, ${head.hands}`, load: (d) => d.hands },
    ...head.loads.map((p, i) => ({ name: p.name, placeId: p.id, load: (d: WeekDay) => d.places[i] })),
  ]
}

/** StripNames stand before the strip. */
export function StripNames({ head }: { head: Weeks }) {
  return (
    <div className="pt-[42px]">
      {stripLines(head).map((line) => (
        <p key={line.name} className="truncate pr-2 text-[13px] leading-[30px] font-semibold" title={line.name}>
          {line.name}
        </p>
      ))}
    </div>
  )
}

/** Strip is what the days hold, and when shop and places are open: paint over days to open or close them. */
export function Strip({ head, x, width }: Props) {
  const supposed = useSupposed()
  const lines = stripLines(head)
  const seen = head.days.filter((d) => x(time(d.at) + dayLength) > 0 && x(time(d.at)) < width)
  const [brush, setBrush] = useState<{ line: number; open: boolean }>()
  const [told, setTold] = useState('')
  const today = head.now.at
  const state = (line: Line, d: WeekDay) => {
    const change = supposed.find(
      (c) => c.kind === 'day' && c.date === d.date && (c.placeId ?? '') === (line.placeId ?? ''),
    )
    const open = line.load(d)?.open ?? false
    return { open, would: change ? (change.open ?? false) : open }
  }
  const paint = (line: Line, d: WeekDay, open: boolean) => {
    if (time(d.at) + dayLength <= time(today)) return
    const change: Change = { kind: 'day', date: d.date, open, ...(line.placeId && { placeId: line.placeId }) }
    if (state(line, d).open === open) takeBack(change)
    else suppose(change)
  }
  return (
    <div onPointerUp={() => setBrush(undefined)} onPointerLeave={() => setBrush(undefined)}>
      <DayLabels days={seen} x={x} width={width} now={time(today)} />
      <div role="grid" aria-label="What the days hold, and when shop and places are open">
        {lines.map((line, i) => (
          <StripRow
            key={line.name}
            line={line}
            days={seen}
            x={x}
            past={time(today)}
            state={(d) => state(line, d)}
            onPaint={(d, open) => {
              setBrush({ line: i, open })
              paint(line, d, open)
            }}
            onOver={(d) => brush?.line === i && paint(line, d, brush.open)}
            onTold={setTold}
          />
        ))}
      </div>
      <p className="truncate text-[13px] leading-6 text-ink-2" aria-hidden="true" data-load>
        {told || 'A day says here what it holds; press it to suppose it open or closed.'}
      </p>
    </div>
  )
}
