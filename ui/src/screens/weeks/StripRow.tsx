import { useRef, useState, type KeyboardEvent, type PointerEvent } from 'react'
import type { WeekDay } from '../../api/client'
import { time } from '../../parts/threads/scale'
import { day as dayLength } from './view'

const rowHeight = 30

/** Line is one row of the strip: the shop, or one place. */
export interface Line {
  name: string
  placeId?: string
  load: (day: WeekDay) => WeekDay['hands'] | undefined
}

interface RowProps {
  line: Line
  days: WeekDay[]
  x: (at: number) => number
  past: number
  state: (d: WeekDay) => { open: boolean; would: boolean }
  onPaint: (d: WeekDay, open: boolean) => void
  onOver: (d: WeekDay) => void
  /** A day that is pointed at, or has the focus, says what it holds. */
  onTold: (text: string) => void
}

/** StripRow is what each day of a line holds, to be painted open or closed. */
export function StripRow({ line, days, x, past, state, onPaint, onOver, onTold }: RowProps) {
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
        const holds = `${d.label} ${d.month}, ${line.name}: ${load?.text ?? ''}`
        const over = (e: PointerEvent) => {
          onTold(holds)
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
            onFocus={() => onTold(holds)}
            aria-label={`${holds}, ${open ? 'open' : 'closed'}${would !== open ? `, supposed ${would ? 'open' : 'closed'}` : ''}`}
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
