import type { Paint, RegionLook } from '../../api/client'
import { Cover, Patterned, type PaintedProps } from './Cover'
import type { Frame } from './frame'
import { Relief } from './Relief'

interface Props {
  region: RegionLook
  frame: Frame
  /** Of the drawing: pores, figure and sheen are defined once in it. */
  shared: string
  /** Of this region in it. */
  id: string
}

/** Coating is what lies on a region, drawn from the wood upwards. */
export function Coating({ region, frame, shared, id }: Props) {
  return (
    <>
      <Cover region={region} frame={frame} fill={region.ground} />
      {region.pores && <Cover region={region} frame={frame} fill={`url(#${shared}-pores)`} opacity={0.5} />}
      {region.figured && <Cover region={region} frame={frame} fill={`url(#${shared}-figure)`} opacity={0.5} />}
      {region.paints.map((paint) => (
        <Painted key={paint.layer} paint={paint} region={region} frame={frame} id={`${id}-${paint.layer}`} />
      ))}
      {region.sheen && region.sheen !== 'matte' && (
        <Cover region={region} frame={frame} fill={`url(#${shared}-${region.sheen})`} />
      )}
    </>
  )
}

function Painted({ paint, region, frame, id }: PaintedProps) {
  const first = paint.colours[0] ?? '#888888'
  const at = { region, frame }
  switch (paint.as) {
    case 'even':
      return <Cover {...at} fill={first} opacity={paint.cover} />
    case 'burst':
      return <Burst {...at} paint={paint} id={id} />
    case 'fade':
      return (
        <>
          <Fade paint={paint} frame={frame} id={id} />
          <Cover {...at} fill={`url(#${id})`} />
        </>
      )
    case 'grain':
      return (
        <>
          <Cover {...at} fill={first} opacity={0.15} />
          <Patterned {...at} id={id} size={[23, 61]} opacity={paint.cover}>
            <path
              d="M3 0q3 16 0 31t1 30M8 0q-2 20 1 33t-1 28M14 0q3 12 1 30t2 31M20 0q-3 18 0 28t-1 33"
              fill="none"
              stroke={first}
              strokeWidth="1.6"
            />
          </Patterned>
        </>
      )
    case 'wiped':
      return (
        <>
          <Cover {...at} fill={first} opacity={paint.cover * 0.7} />
          <Patterned {...at} id={id} size={[97, 53]} opacity={0.3}>
            <path d="M0 9q30-9 60 2t37-3v9q-40 6-70-1T0 20zM20 36q26-6 50 0l-6 9q-22 3-40-1z" fill={first} />
          </Patterned>
        </>
      )
    default:
      return <Relief {...at} paint={paint} id={id} first={first} />
  }
}

/** Burst darkens towards the edge: lines along the rim, each narrower than the last. */
function Burst({ paint, region, frame, id }: PaintedProps) {
  const widths = [0.62, 0.52, 0.43, 0.34, 0.26, 0.18, 0.1]
  const colourAt = (i: number) =>
    paint.colours[Math.min(paint.colours.length - 1, Math.floor((i / widths.length) * paint.colours.length))] ?? '#333'
  return (
    <>
      <clipPath id={id}>
        <Cover region={region} frame={frame} fill="#000" />
      </clipPath>
      <filter id={`${id}-soft`}>
        <feGaussianBlur stdDeviation={frame.width / 26} />
      </filter>
      <g clipPath={`url(#${id})`} fill="none">
        <g filter={`url(#${id}-soft)`}>
          {widths.map((share, i) => (
            <path
              key={share}
              d={frame.rim}
              transform={frame.rimTransform}
              stroke={colourAt(i)}
              strokeWidth={share * frame.width}
              opacity={0.1 + 0.05 * i}
            />
          ))}
        </g>
      </g>
    </>
  )
}

/** Fade is one colour that thins out along the piece, or two that run into each other. */
function Fade({ paint, frame, id }: { paint: Paint; frame: Frame; id: string }) {
  const [from, to] = [paint.colours[0] ?? '#888888', paint.colours[1]]
  return (
    <linearGradient
      id={id}
      gradientUnits="userSpaceOnUse"
      x1={frame.origin[0]}
      x2={frame.origin[0] + frame.width * 0.4}
      y1={frame.origin[1]}
      y2={frame.origin[1] + frame.length}
    >
      <stop offset="0.12" stopColor={from} stopOpacity={paint.cover} />
      <stop offset="0.9" stopColor={to ?? from} stopOpacity={to ? paint.cover : 0} />
    </linearGradient>
  )
}
