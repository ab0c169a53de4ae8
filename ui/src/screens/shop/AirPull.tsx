import { scaleLinear } from 'd3-scale'
import { useDrag } from '@use-gesture/react'
import { useId, useRef, useState, type KeyboardEvent } from 'react'
import { AirPoint } from './AirPoint'
import { days, quantities, type Knot, type Quantity } from './air'
import { useTemperature } from '../../parts/notation'
import { useWidth } from '../../parts/useWidth'

const height = 150
const hours = 168

/** AirPull is a quantity over the week as a curve whose points are pulled, or moved by arrow keys. */
export function AirPull({
  knots,
  what,
  onChange,
}: {
  knots: Knot[]
  what: Quantity
  onChange: (knots: Knot[]) => void
}) {
  const [ref, width] = useWidth<HTMLDivElement>()
  const clip = useId()
  const svg = useRef<SVGSVGElement>(null)
  const [chosen, setChosen] = useState(0)
  const { low, high, step, word } = quantities[what]
  const temperature = useTemperature()
  const figure = (knot: Knot) => (what === 'temperatureC' ? temperature(knot[what]) : `${knot[what]} %`)
  const x = scaleLinear([0, hours], [28, Math.max(60, width - 6)])
  const y = scaleLinear([low, high], [height - 20, 12])
  const put = (i: number, next: Knot) => {
    const hour = Math.min(hours - 1, Math.max(0, next.hour))
    const value = Math.min(high, Math.max(low, Math.round(next[what] / step) * step))
    if (knots.some((k, at) => at !== i && k.hour === hour)) return
    onChange(knots.map((k, at) => (at === i ? { ...next, hour, [what]: value } : k)))
  }
  const pull = useDrag(({ args: [i], xy: [clientX, clientY] }) => {
    const box = svg.current?.getBoundingClientRect()
    const knot = knots[i as number]
    if (!box || !knot) return
    setChosen(i as number)
    put(i as number, { ...knot, hour: Math.round(x.invert(clientX - box.left)), [what]: y.invert(clientY - box.top) })
  })
  const keys = (i: number, knot: Knot, e: KeyboardEvent) => {
    const by = { ArrowUp: step, ArrowDown: -step }[e.key]
    const on = { ArrowLeft: -1, ArrowRight: 1 }[e.key]
    if (by) put(i, { ...knot, [what]: knot[what] + by })
    else if (on) put(i, { ...knot, hour: knot.hour + on })
    else if (e.key === 'Delete' && knots.length > 1) onChange(knots.filter((_, at) => at !== i))
    else return
    e.preventDefault()
  }
  const line = (q: Quantity, scale: (v: number) => number) => {
    const [first] = knots
    const last = knots.at(-1)
    if (!first || !last) return ''
    const round = [{ ...last, hour: last.hour - hours }, ...knots, { ...first, hour: first.hour + hours }]
    return round.map((k) => `${x(k.hour)},${scale(k[q])}`).join(' ')
  }
  const other: Quantity = what === 'temperatureC' ? 'humidityPct' : 'temperatureC'
  const otherY = scaleLinear([quantities[other].low, quantities[other].high], [height - 20, 12])
  return (
    <div ref={ref}>
      {width > 0 && (
        <svg
          ref={svg}
          width={width}
          height={height}
          className="block overflow-hidden"
          role="group"
          aria-label={`${word} over the week; pull the points, or use the arrow keys on them; Delete takes one away`}
        >
          {days.map((d, i) => (
            <g key={d}>
              <line x1={x(i * 24)} x2={x(i * 24)} y1={8} y2={height - 16} className="stroke-line" />
              <text x={x(i * 24) + 4} y={height - 4} className="fill-ink-2 text-[12px]">
                {d}
              </text>
            </g>
          ))}
          {[low, (low + high) / 2, high].map((v) => (
            <text key={v} x={24} y={y(v) + 4} textAnchor="end" className="fill-ink-2 text-[11px]">
              {what === 'temperatureC' ? parseFloat(temperature(v)) : v}
            </text>
          ))}
          <clipPath id={clip}>
            <rect x={x(0)} y={0} width={x(hours) - x(0)} height={height} />
          </clipPath>
          <g clipPath={`url(#${clip})`} className="fill-none">
            <polyline points={line(other, otherY)} className="stroke-ink-3" strokeDasharray="4 3" opacity="0.6" />
            <polyline points={line(what, y)} className="stroke-umber" strokeWidth="2" />
          </g>
          {knots.map((knot, i) => (
            <circle
              key={`${knot.hour}`}
              cx={x(knot.hour)}
              cy={y(knot[what])}
              r={i === chosen ? 8 : 6}
              tabIndex={0}
              role="slider"
              aria-label={`${word}, ${days[Math.floor(knot.hour / 24)]} ${String(knot.hour % 24).padStart(2, '0')}:00`}
              aria-valuemin={low}
              aria-valuemax={high}
              aria-valuenow={knot[what]}
              aria-valuetext={figure(knot)}
              className="cursor-grab touch-none fill-raised stroke-umber"
              strokeWidth="2"
              {...pull(i)}
              onFocus={() => setChosen(i)}
              onKeyDown={(e) => keys(i, knot, e)}
            >
              <title>{figure(knot)}</title>
            </circle>
          ))}
        </svg>
      )}
      <AirPoint
        knots={knots}
        at={Math.min(chosen, knots.length - 1)}
        step={step}
        what={what}
        text={figure}
        onChoose={setChosen}
        onPut={put}
        onChange={onChange}
      />
    </div>
  )
}
