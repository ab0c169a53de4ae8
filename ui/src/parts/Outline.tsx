import { useId } from 'react'
import type { Tag } from '../api/client'

type Shape = Tag['outline'] | 'neck'

/** Our own neutral shapes in a box of 48 by 72; no maker's outline. */
const bodies: Record<Shape, string> = {
  'two-horned':
    'M15 7C9.5 7 8 13 9.5 19C11 25 10 29 7.5 33C5 38 4 43 4 49C4 61 13 68 24 68C35 68 44 61 44 49C44 43 43 38 40.5 33C38 29 37 25 38.5 19C40 13 38.5 7 33 7C30 7 29.5 11 29.5 15V20H18.5V15C18.5 11 18 7 15 7Z',
  'one-horned':
    'M18.5 14C12 13 8 17 9 23C10 28 9.5 31 7.5 35C5 40 4 44 4 50C4 61 13 68 24 68C35 68 44 61 44 50C44 43 42 38 39 33C37 29 37 25 38.5 20C40 14 38 7 34 7C31 7 29.5 11 29.5 15V21H18.5Z',
  slab: 'M18.5 12C12 10 8 14 8.5 21C9 27 9 30 7 35C5 40 4 45 4 51C4 62 13 68 24 68C35 68 44 62 44 51C44 45 43 40 41 35C39 30 39 27 39.5 21C40 14 36 10 29.5 12V19H18.5Z',
  angular: 'M18.5 16L12 6L7 22L11 34L3 52L14 68H34L45 52L37 34L41 22L36 6L29.5 16V21H18.5Z',
  bass: 'M12 3C7 4 7 12 9.5 19C11 25 9.5 29 7 34C4.5 39 3.5 44 4 51C5 62 14 68 25 68C37 68 44 61 44 50C44 43 42 38 39.5 33C37.5 29 37 25 38.5 21C40 15 38 10 34 10C31 10 30 13 30 17V22H19L18.5 14C18 8 16.5 2.5 12 3Z',
  neck: 'M18 3H30L33 14L28 20V68H20V20L15 14Z',
}

interface Props {
  shape: Tag['outline']
  piece: string
  colour: string
  /** Share of the wait that is left: this much of the piece is frosted, from the top. */
  frost: number
  className?: string
}

/** Outline draws a piece in its colour; frost leaves it as it cures. */
export function Outline({ shape, piece, colour, frost, className }: Props) {
  const id = useId()
  const path = bodies[piece === 'neck' ? 'neck' : shape]
  return (
    <svg viewBox="0 0 48 72" className={className} aria-hidden="true">
      <clipPath id={id}>
        <path d={path} />
      </clipPath>
      <path d={path} fill={colour} />
      {frost > 0 && (
        <g clipPath={`url(#${id})`}>
          <path d={frostEdge(frost)} className="fill-drying-fill transition-all duration-200" />
          <Flakes below={6 + 62 * frost} />
        </g>
      )}
      <path d={path} fill="none" className="stroke-ink" strokeWidth="1.6" />
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
