import { useId } from 'react'
import type { Look, OwnOutline, RegionLook, Tag } from '../../api/client'
import { Coating } from './Coating'
import { Cover } from './Cover'
import { frameOf, sideFrame, type Face, type Frame } from './frame'

interface Props {
  look: Look
  outline: Tag['outline']
  own?: OwnOutline
  face?: Face
  /** Share of the wait that is left: this much of the piece is frosted, from the top. */
  frost?: number
  className?: string
  /** The region that is chosen, and those that masks cover. */
  chosen?: string
  masked?: readonly string[]
  onChoose?: (region: string) => void
  /** Corners of a shape while it is drawn, in mm on the piece. */
  corners?: readonly (readonly [number, number])[]
  onCorner?: (at: readonly [number, number]) => void
}

/**
 * PieceLook draws a face of a piece with its real layers: wood, colour by region, burst and fade, strips, leaf, flake,
 * char, sheen. Frost lies over it while it cures. Whoever points at it can point at buttons beside it too.
 */
export function PieceLook(props: Props) {
  const { look, outline, own, face = 'front', frost = 0, className, onCorner } = props
  const id = useId()
  const regions = look.regions.filter((r) => shows(r, look, face))
  const of = (region: string) => (face === 'side' ? sideFrame : frameOf(look, outline, own, region))
  const whole = of('')
  const [x, y, wide, high] = whole.view
  return (
    <svg
      viewBox={whole.view.join(' ')}
      className={className}
      aria-hidden="true"
      data-look={`${look.piece} ${face}`}
      onClick={(e) => {
        if (!onCorner) return
        const box = e.currentTarget.getBoundingClientRect()
        const scale = Math.max(wide / box.width, high / box.height)
        const left = x + (e.clientX - box.left - (box.width - wide / scale) / 2) * scale
        const top = y + (e.clientY - box.top - (box.height - high / scale) / 2) * scale
        onCorner([Math.round(left - whole.origin[0]), Math.round(top - whole.origin[1])])
      }}
    >
      <Grounds id={id} frame={whole} />
      {partsOf(regions).map((part) => (
        <Part key={part.frame} {...props} id={id} name={part.frame} regions={part.regions} frame={of(part.frame)} />
      ))}
      {frost > 0 && (
        <>
          <clipPath id={`${id}-all`}>
            {partsOf(regions).map((part) => (
              <path key={part.frame} d={of(part.frame).rim} transform={of(part.frame).rimTransform} />
            ))}
          </clipPath>
          <Frost view={whole.view} share={frost} clip={`${id}-all`} />
        </>
      )}
    </svg>
  )
}

/** shows reports whether a region is drawn on a face; a neck is seen from the front with its board, from behind with its shaft. */
function shows(region: RegionLook, look: Look, face: Face) {
  if (region.hidden) return false
  if (look.piece !== 'neck' || region.face === face) return region.face === face
  const bare = region.name === 'shaft' && !look.regions.some((r) => r.name === 'fretboard')
  return region.name === 'headstock' || bare
}

/** partsOf groups regions by what they are drawn on: a neck has a head and a shaft, a body only itself. */
function partsOf(regions: RegionLook[]) {
  const parts: { frame: string; regions: RegionLook[] }[] = []
  for (const region of regions) {
    const frame =
      region.name === 'shaft' || region.name === 'fretboard'
        ? 'shaft'
        : regions.some((r) => r.name === 'headstock')
          ? 'headstock'
          : 'face'
    const part = parts.find((p) => p.frame === frame)
    if (part) part.regions.push(region)
    else parts.push({ frame, regions: [region] })
  }
  return parts
}

type PartProps = Pick<Props, 'chosen' | 'masked' | 'onChoose' | 'onCorner' | 'corners'> & {
  /** Of the drawing, and of this part of it: what is defined once is found by it. */
  id: string
  name: string
  regions: RegionLook[]
  frame: Frame
}

function Part({ id, name, regions, frame, chosen, masked, onChoose, onCorner, corners }: PartProps) {
  const { rim, rimTransform } = frame
  return (
    <g>
      <clipPath id={`${id}-${name}-rim`}>
        <path d={rim} transform={rimTransform} clipRule="evenodd" />
      </clipPath>
      <g clipPath={`url(#${id}-${name}-rim)`}>
        {regions.map((region, i) => (
          <g
            key={region.name}
            data-region={region.name}
            className={onChoose ? 'cursor-pointer' : ''}
            onClick={onChoose && !onCorner ? () => onChoose(region.name) : undefined}
          >
            <Coating region={region} frame={frame} shared={id} id={`${id}-${name}-${i}`} />
            {masked?.includes(region.name) && <Cover region={region} frame={frame} fill={`url(#${id}-mask)`} />}
          </g>
        ))}
        {regions
          .filter((region) => region.name === chosen)
          .map((region) => (
            <Chosen key={region.name} region={region} frame={frame} />
          ))}
      </g>
      {frame.openings && regions.some((r) => r.face === 'front') && (
        <path
          {...opened(frame)}
          className="fill-none stroke-ink"
          opacity="0.35"
          strokeWidth="0.8"
          vectorEffect="non-scaling-stroke"
        />
      )}
      <path
        d={rim}
        transform={rimTransform}
        fill="none"
        className="stroke-ink"
        strokeWidth="1.3"
        strokeLinejoin="round"
        vectorEffect="non-scaling-stroke"
      />
      {corners && corners.length > 0 && (
        <polyline
          points={corners.map(([cx, cy]) => `${cx + frame.origin[0]},${cy + frame.origin[1]}`).join(' ')}
          className="fill-none stroke-drying"
          strokeWidth="3"
          strokeDasharray="8 5"
        />
      )}
    </g>
  )
}

const opened = ({ openings }: Frame) => ({ d: openings?.path, transform: openings?.transform })

/** Chosen is a line round the region that is chosen, dark with light beside it so that it shows on any colour. */
function Chosen({ region, frame }: { region: RegionLook; frame: Frame }) {
  const shape = region.path
    ? { d: region.path, transform: `translate(${frame.origin[0]} ${frame.origin[1]})` }
    : { d: frame.rim, transform: frame.rimTransform }
  return (
    <g fill="none" pointerEvents="none">
      <path {...shape} stroke="#fff" strokeWidth="11" vectorEffect="non-scaling-stroke" />
      <path {...shape} className="stroke-drying" strokeWidth="6" vectorEffect="non-scaling-stroke" />
    </g>
  )
}

/** Grounds are the patterns that regions share: pores, figure, sheen, masks. */
function Grounds({ id, frame }: { id: string; frame: Frame }) {
  const [x, y, wide, high] = frame.view
  return (
    <defs>
      <pattern id={`${id}-pores`} patternUnits="userSpaceOnUse" width="16" height="44">
        <path d="M3 4v7M10 14v9M6 28v8M13 36v6" stroke="#2a1c14" strokeOpacity="0.45" strokeWidth="0.9" />
      </pattern>
      <pattern id={`${id}-figure`} patternUnits="userSpaceOnUse" width="60" height="17">
        <path d="M0 5q15-5 30 0t30 0v5q-15 5-30 0t-30 0z" fill="#2a1c14" fillOpacity="0.22" />
      </pattern>
      <pattern id={`${id}-mask`} patternUnits="userSpaceOnUse" width="12" height="12" patternTransform="rotate(45)">
        <rect width="12" height="12" fill="#f3f7f9" fillOpacity="0.55" />
        <path d="M0 0V12" stroke="#2a1c14" strokeWidth="3" />
      </pattern>
      {(['gloss', 'satin'] as const).map((sheen) => (
        <linearGradient
          key={sheen}
          id={`${id}-${sheen}`}
          gradientUnits="userSpaceOnUse"
          x1={x}
          y1={y}
          x2={x + wide}
          y2={y + high * 0.8}
        >
          <stop offset="0.22" stopColor="#fff" stopOpacity="0" />
          <stop offset={sheen === 'gloss' ? 0.31 : 0.38} stopColor="#fff" stopOpacity={sheen === 'gloss' ? 0.4 : 0.1} />
          <stop offset={sheen === 'gloss' ? 0.36 : 0.6} stopColor="#fff" stopOpacity="0" />
        </linearGradient>
      ))}
    </defs>
  )
}

/** Frost lies over what cures, from the top down to an uneven edge. */
function Frost({ view: [x, y, wide, high], share, clip }: { view: Frame['view']; share: number; clip: string }) {
  const edge = y + high * share
  const ragged = [1, 0.87, 0.73, 0.6, 0.46, 0.31, 0.17, 0]
    .map((at, i) => `L${x + wide * at} ${edge + (i % 2 === 0 ? -0.03 : 0.03) * high}`)
    .join('')
  return (
    <g clipPath={`url(#${clip})`} pointerEvents="none">
      <path d={`M${x} ${y}H${x + wide}${ragged}Z`} className="fill-drying-fill" opacity="0.82" />
      <g className="stroke-drying" strokeWidth={wide / 60} opacity="0.55">
        {flakes
          .map(([fx, fy]) => [x + wide * fx, y + high * fy] as const)
          .filter(([, cy]) => cy < edge - 0.05 * high)
          .map(([cx, cy]) => (
            <path key={`${cx} ${cy}`} d={star(cx, cy, wide / 18)} />
          ))}
      </g>
    </g>
  )
}

const flakes = [
  [0.27, 0.17],
  [0.7, 0.2],
  [0.5, 0.38],
  [0.3, 0.55],
  [0.68, 0.57],
  [0.48, 0.73],
  [0.26, 0.83],
  [0.74, 0.83],
  [0.5, 0.17],
] as const

const star = (x: number, y: number, r: number) =>
  `M${x - r} ${y}h${2 * r}M${x - r / 2} ${y - 0.87 * r}l${r} ${1.74 * r}M${x - r / 2} ${y + 0.87 * r}l${r} ${-1.74 * r}`
