import type { WeekDay } from '../../api/client'
import { time } from '../../parts/threads/scale'
import { day as dayLength } from './view'

interface Props {
  days: WeekDay[]
  x: (at: number) => number
  width: number
  now: number
}

/** DayLabels names months, weeks and, where there is room, days. */
export function DayLabels({ days, x, width, now }: Props) {
  const [first] = days
  if (!first) return <div style={{ height: 42 }} />
  const wide = x(time(first.at) + dayLength) - x(time(first.at))
  const everySo = Math.ceil(60 / (7 * wide)) // weeks between names, where they are narrow
  const mondays = days.filter((d) => d.week)
  const named = wide >= 44 ? days : mondays.filter((_, i) => i % everySo === 0)
  const months = days.filter((d, i) => i === 0 || d.month !== days[i - 1]?.month)
  return (
    <svg width={width} height={42} className="block" aria-hidden="true">
      {months.map((d, i) => {
        const at = Math.max(0, x(time(d.at)))
        const next = months[i + 1]
        if (next && x(time(next.at)) - at < 60) return null
        return (
          <text key={d.date} x={at + 4} y={14} className="name fill-ink text-[14px]">
            {d.month}
          </text>
        )
      })}
      {named.map((d) => (
        <g key={d.date}>
          <line x1={x(time(d.at))} x2={x(time(d.at))} y1={22} y2={42} className="stroke-ink-3" />
          <text
            x={x(time(d.at)) + 4}
            y={36}
            opacity={x(time(d.at)) < -4 ? 0 : 1}
            className="fill-ink-2 text-[12.5px] font-semibold"
          >
            {d.label}
          </text>
        </g>
      ))}
      {x(now) > 0 && x(now) < width && (
        <path d={`M${x(now) - 5} 34h10l-5 8z`} className="fill-ink">
          <title>now</title>
        </path>
      )}
    </svg>
  )
}
