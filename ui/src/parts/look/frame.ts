import type { Look, OwnOutline, Tag } from '../../api/client'
import geometry from '../../../../internal/craft/outline/outlines.json'

/** Frame is where a face of a piece is drawn: its rim, and how mm on the piece come to lie on it. */
export interface Frame {
  view: readonly [number, number, number, number]
  rim: string
  /** Brings the rim's own measure into the view. */
  rimTransform?: string
  /** Where mm from the left and the top of the piece begin in the view. */
  origin: readonly [number, number]
  length: number
  width: number
  openings?: { path: string; transform: string }
}

export type Face = 'front' | 'back' | 'side'

const margin = 6

/** A neck is drawn as its head and the first frets; the rest of it would be a line. */
const nut = 43
const shown = 190
const head = 182
const shaft = `M-21.5 0H21.5L24.3 ${shown}H-24.3Z`
const neckView = [-56, -head - margin, 112, head + shown + margin] as const

/** frameOf is the frame of a piece, of one of its parts where a face has several. */
export function frameOf(look: Look, outline: Tag['outline'], own: OwnOutline | undefined, region: string): Frame {
  if (look.piece === 'neck') {
    const rim = region === 'headstock' ? geometry.headstock : shaft
    return {
      view: neckView,
      rim,
      origin: [-(look.widthMm || nut) / 2, -head],
      length: head + shown,
      width: look.widthMm || nut,
    }
  }
  const { path, box, pocket } = own
    ? { path: own.path, box: own.box ?? [0, 0, 1, 1], pocket: undefined }
    : geometry.bodies[outline]
  const [x = 0, y = 0, wide = 1, long = 1] = box
  const width = look.widthMm || wide
  const length = look.lengthMm || long
  const scale = `scale(${width / wide} ${length / long})`
  const rimTransform = `${scale} translate(${-x} ${-y})`
  return {
    view: [-margin, -margin, width + 2 * margin, length + 2 * margin],
    rim: path,
    rimTransform,
    origin: [0, 0],
    length,
    width,
    openings:
      pocket === undefined
        ? undefined
        : { path: geometry.openings, transform: `${rimTransform} translate(0 ${pocket})` },
  }
}

/** sideFrame is the band round a body, laid out straight. */
export const sideFrame: Frame = {
  view: [-margin, -margin, 330, 44],
  rim: 'M0 0H318V32H0Z',
  origin: [0, 0],
  length: 32,
  width: 318,
}
