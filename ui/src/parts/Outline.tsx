import { useId } from 'react'
import type { OwnOutline, Tag } from '../api/client'
import { shapeOfPiece } from './outlines'

interface Props {
  shape: Tag['outline']
  /** An outline of its own, which goes before the shape. */
  own?: OwnOutline
  piece: string
  colour: string
  /** Share of the wait that is left: this much of the piece is frosted, from the top. */
  frost: number
  className?: string
}

/** Outline draws a piece in its colour; frost leaves it as it cures. */
export function Outline({ shape, own, piece, colour, frost, className }: Props) {
  const id = useId()
  const { path, transform, openings } = shapeOfPiece(piece, shape, own)
  return (
    <svg viewBox="0 0 48 72" className={className} aria-hidden="true">
      <clipPath id={id}>
        <path d={path} transform={transform} />
      </clipPath>
      <path d={path} transform={transform} fill={colour} />
      {openings && (
        <path
          d={openings.path}
          transform={openings.transform}
          className="fill-none stroke-ink"
          opacity="0.4"
          strokeWidth="0.8"
          vectorEffect="non-scaling-stroke"
        />
      )}
      {frost > 0 && (
        <g clipPath={`url(#${id})`}>
          <path d={frostEdge(frost)} className="fill-drying-fill transition-all duration-200" />
          <Flakes below={6 + 62 * frost} />
        </g>
      )}
      <path
        d={path}
        transform={transform}
        fill="none"
        className="stroke-ink"
        strokeWidth="1.3"
        strokeLinejoin="round"
        vectorEffect="non-scaling-stroke"
      />
    </svg>
  )
}

/** frostEdge is the frosted part: from the top down to an uneven edge. */
function frostEdge(share: number) {
  const y = 6 + 62 * share
  const edge = [48, 42, 35, 29, 22, 15, 8, 0].map((x, i) => `L${x} ${y + (i % 2 === 0 ? -2.5 : 2.5)}`).join('')
  return `M0 0H48${edge}Z`
}

function Flakes({ below }: { below: number }) {
  const spots = [
    [13, 12],
    [34, 14],
    [24, 27],
    [14, 40],
    [33, 41],
    [23, 53],
    [12, 60],
    [36, 60],
    [24, 40],
    [24, 12],
  ] as const
  return (
    <g className="stroke-drying" strokeWidth="0.9" opacity="0.55">
      {spots
        .filter(([, y]) => y < below - 4)
        .map(([x, y]) => (
          <path key={`${x} ${y}`} d={`M${x - 3} ${y}h6M${x - 1.5} ${y - 2.6}l3 5.2M${x + 1.5} ${y - 2.6}l-3 5.2`} />
        ))}
    </g>
  )
}
