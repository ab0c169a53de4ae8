import type { OwnOutline, Tag } from '../api/client'
import geometry from '../../../internal/craft/outline/outlines.json'

/** Drawn is how a piece is drawn in a box of 48 by 72. */
export interface Drawn {
  path: string
  /** Brings the path, in mm, into the box. */
  transform?: string
  /** Pickups, bridge and controls, where it has them; in the path's own measure. */
  openings?: { path: string; transform: string }
}

const wide = 48
const high = 72
const margin = 3

/** into brings a box of mm into the middle of ours. */
function into([x, y, width, length]: readonly number[]) {
  if (x === undefined || y === undefined || width === undefined || length === undefined) return ''
  const scale = Math.min((wide - 2 * margin) / width, (high - 2 * margin) / length)
  return `translate(${wide / 2} ${high / 2}) scale(${scale.toFixed(5)}) translate(${-(x + width / 2)} ${-(y + length / 2)})`
}

function body({ path, box, pocket }: (typeof geometry.bodies)[Tag['outline']]): Drawn {
  const transform = into(box)
  return {
    path,
    transform,
    openings: { path: geometry.openings, transform: `${transform} translate(0 ${pocket})` },
  }
}

const bodies = Object.fromEntries(
  Object.entries(geometry.bodies).map(([id, shape]) => [id, body(shape)]),
) as unknown as Record<Tag['outline'], Drawn>

/** A neck's head and the first frets of its shaft: the rest of it would be a line. */
const neckBox = [-60, -182, 120, 330]
export const headstock: Drawn = { path: geometry.headstock, transform: into(neckBox) }
export const shaft: Drawn = { path: 'M-21.5 0H21.5L23.6 148H-23.6Z', transform: into(neckBox) }

/** What is smaller, or lies on another piece, is drawn as it is. */
const small: Record<string, Drawn> = {
  neck: { path: `${geometry.headstock}M-21.5 0H21.5L23.6 148H-23.6Z`, transform: into(neckBox) },
  fretboard: { path: 'M19 6H29L31.5 66H16.5Z' },
  frets: { path: 'M12 12H36V16H12ZM12 26H36V30H12ZM12 39H36V43H12ZM12 51H36V55H12ZM12 62H36V66H12Z' },
  hardware: {
    path: 'M10 14H38V34H10ZM14 40a6 6 0 1 0 12 0a6 6 0 1 0-12 0ZM26 54a6 6 0 1 0 12 0a6 6 0 1 0-12 0Z',
  },
  plastics: {
    path: 'M8 18C14 10 34 10 40 18L36 44C30 48 18 48 12 44ZM18 58a6 6 0 1 0 12 0a6 6 0 1 0-12 0Z',
  },
  fittings: {
    path: 'M14 12H34V38H14ZM16 56a8 8 0 1 0 16 0a8 8 0 1 0-16 0Z',
  },
  cavity: {
    path: 'M12 22C12 17 16 14 20 14H30C35 14 37 18 36 23L34 32C34 35 37 37 38 42C40 52 34 60 25 60C15 60 9 53 11 43C12 38 14 36 14 32Z',
  },
}

/** shapeOf is how a body is drawn: in an outline of its own where it has one, else in the one it is named by. */
export const shapeOf = (outline: Tag['outline'], own?: OwnOutline): Drawn =>
  own ? { path: own.path, transform: into(own.box ?? []) } : bodies[outline]

/** shapeOfPiece is how a piece is drawn: a body and a whole in their outline, a smaller thing as it is. */
export const shapeOfPiece = (piece: string, outline: Tag['outline'], own?: OwnOutline) =>
  small[piece] ?? shapeOf(outline, own)
