import type { WeekDay } from '../../api/client'
import { time } from '../../parts/threads/scale'
import { day as dayLength } from './view'

interface Props {
  days: WeekDay[]
  x: (at: number) => number
  width: number
  height: number
  now: number
}

/** Ground is what lies under all threads: closed days, weeks, and now. */
export function Ground({ days, x, width, height, now }: Props) {
  const seen = days.filter((d) => x(time(d.at) + dayLength) > 0 && x(time(d.at)) < width)
  return (
    <svg width={width} height={height} className="block" aria-hidden="true">
      {seen.map((d) => {
        const from = x(time(d.at))
        return (
          <g key={d.date}>
            {!d.open && (
              <rect
                x={from}
                width={x(time(d.at) + dayLength) - from}
                y={0}
                height={height}
                className="fill-line"
                opacity="0.45"
              />
            )}
            {d.week && <line x1={from} x2={from} y1={0} y2={height} className="stroke-line" />}
          </g>
        )
      })}
      <line x1={x(now)} x2={x(now)} y1={0} y2={height} className="stroke-ink" strokeWidth="2" />
    </svg>
  )
}
