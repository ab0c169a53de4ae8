import { scaleLinear } from 'd3-scale'
import type { PlaceNow } from '../../api/client'
import { useTemperature } from '../../parts/notation'

const width = 150
const height = 56

/** AirCurve is the last day of a place: temperature as a line, humidity dashed. */
export function AirCurve({ past }: { past: PlaceNow['past'] }) {
  const temperature = useTemperature()
  if (past.length < 2) return null
  const x = scaleLinear([0, past.length - 1], [1, width - 1])
  const points = (values: number[]) => {
    const low = Math.min(...values)
    const high = Math.max(...values, low + 1)
    const y = scaleLinear([low, high], [height - 5, 5])
    return values.map((value, i) => `${x(i)},${y(value)}`).join(' ')
  }
  const warm = past.map((p) => p.temperatureC)
  return (
    <svg
      viewBox={`0 0 ${width} ${height}`}
      className="h-14 w-full"
      role="img"
      aria-label={`The last day: ${temperature(Math.min(...warm))} to ${temperature(Math.max(...warm))}`}
    >
      <path d={`M0 ${height - 0.5}H${width}`} className="stroke-line" />
      <polyline
        points={points(past.map((p) => p.humidityPct))}
        className="fill-none stroke-drying"
        strokeDasharray="4 3"
      />
      <polyline points={points(warm)} className="fill-none stroke-umber" strokeWidth="2" />
    </svg>
  )
}
