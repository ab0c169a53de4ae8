import { useRef, useState, type KeyboardEvent, type PointerEvent } from 'react'
import type { Change, WeekDay, Weeks } from '../../api/client'
import { suppose, takeBack, useSupposed } from '../../api/supposing'
import { time } from '../../parts/threads/scale'
import { DayLabels } from './DayLabels'
import { day as dayLength } from './view'

const rowHeight = 30

interface Line {
  name: string
  placeId?: string
  load: (day: WeekDay) => WeekDay['hands'] | undefined
}

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
          />
        ))}
      </div>
    </div>
  )
}

interface RowProps {
  line: Line
  days: WeekDay[]
  x: (at: number) => number
  past: number
  state: (d: WeekDay) => { open: boolean; would: boolean }
  onPaint: (d: WeekDay, open: boolean) => void
  onOver: (d: WeekDay) => void
}

function StripRow({ line, days, x, past, state, onPaint, onOver }: RowProps) {
  const row = useRef<HTMLDivElement>(null)
  const [focus, setFocus] = useState<string>()
  const upcoming = days.find((d) => time(d.at) + dayLength > past)?.date
  const stop = days.some((d) => d.date === focus) ? focus : upcoming
  const go = (e: KeyboardEvent, i: number) => {
    const by = { ArrowLeft: -1, ArrowRight: 1 }[e.key]
    const next = by && days[i + by]
    if (!next) return
    e.preventDefault()
    setFocus(next.date)
    row.current?.querySelector<HTMLElement>(`[data-day="${next.date}"]`)?.focus()
  }
  return (
    <div ref={row} role="row" className="relative border-t border-line" style={{ height: rowHeight }}>
      {days.map((d, i) => {
        const load = line.load(d)
        const { open, would } = state(d)
        const from = x(time(d.at))
        const width = x(time(d.at) + dayLength) - from
        const share = load && load.of > 0 ? Math.min(1, load.minutes / load.of) : 0
        const over = (e: PointerEvent) => {
          if (e.buttons !== 1) return
          // A finger keeps to the cell it began on; let the next one feel it.
          if (e.currentTarget.hasPointerCapture(e.pointerId)) e.currentTarget.releasePointerCapture(e.pointerId)
          onOver(d)
        }
        return (
          <button
            key={d.date}
            role="gridcell"
            type="button"
            data-day={d.date}
            data-open={would}
            tabIndex={d.date === stop ? 0 : -1}
            disabled={time(d.at) + dayLength <= past}
            title={`${d.label} ${d.month}, ${line.name}: ${load?.text ?? ''}`}
            aria-label={`${d.label} ${d.month}, ${line.name}: ${load?.text ?? ''}, ${open ? 'open' : 'closed'}${would !== open ? `, supposed ${would ? 'open' : 'closed'}` : ''}`}
            aria-selected={would !== open}
            onPointerDown={(e) => {
              if (e.button !== 0) return
              e.currentTarget.releasePointerCapture(e.pointerId)
              onPaint(d, !would)
            }}
            onPointerEnter={over}
            onClick={(e) => e.detail === 0 && onPaint(d, !would)}
            onKeyDown={(e) => {
              if (e.key === ' ' || e.key === 'Enter') {
                e.preventDefault()
                onPaint(d, !would)
              } else go(e, i)
            }}
            className={`absolute inset-y-px touch-none border-l border-line ${would ? 'bg-panel' : 'bg-line'} ${would !== open ? 'outline-2 -outline-offset-2 outline-ready outline-dashed' : ''} disabled:cursor-default`}
            style={{ left: from, width: Math.max(1, width) }}
          >
            {share > 0 && (
              <span
                className={`absolute inset-x-[15%] bottom-0 ${share > 0.9 ? 'bg-closing' : 'bg-umber'}`}
                style={{ height: Math.max(2, share * (rowHeight - 6)) }}
              />
            )}
            {!would && width > 46 && <span className="text-[11px] leading-none text-ink-2">closed</span>}
          </button>
        )
      })}
    </div>
  )
}
