import type { Layer, PieceWish, Reference } from '../../api/client'

/** A piece's stack is edited here as a document: what it means, and whether it can be had, the shop says. */

const ends = (layer: Layer) => layer.effect === 'clear' || layer.effect === 'rounds'

/** colours are the effects that change how the wood looks: a region that keeps its own colour is without them. */
const colours = ['texture', 'flame', 'colour', 'flake', 'candy', 'particles', 'leaf', 'tint']

/** endingOf is the layer that a piece ends in, with where it stands; undefined where it stays bare. */
export function endingOf(piece: PieceWish) {
  const at = piece.layers?.findIndex(ends) ?? -1
  const layer = piece.layers?.[at]
  return layer && { layer, at }
}

/** withPreset is the piece with the stack of a preset; its clear, texture and wax stay as they were. */
export function withPreset(reference: Reference, piece: PieceWish, id: string): PieceWish {
  const preset = reference.presets.find((p) => p.id === id)
  if (!preset) return piece
  const before = piece.layers ?? []
  const clear = before.find((l) => l.effect === 'clear')
  const kept = preset.layers.map((l) => (l.effect === 'clear' && clear ? { ...clear, id: l.id } : l))
  const texture = before.filter((l) => l.effect === 'texture')
  const wax = kept.some((l) => l.effect === 'wax') ? [] : before.filter((l) => l.effect === 'wax')
  return { ...piece, preset: id, layers: [...texture, ...kept, ...wax] }
}

/** withEnding changes what the piece ends in. */
export function withEnding(piece: PieceWish, part: Partial<Layer>): PieceWish {
  return { ...piece, layers: piece.layers?.map((l) => (ends(l) ? { ...l, ...part } : l)) }
}

/** has reports whether an effect is wished at all. */
export const has = (piece: PieceWish, effect: Layer['effect']) =>
  piece.layers?.some((l) => l.effect === effect) ?? false

/** withEffect adds texture below everything or wax above it, or takes it away. */
export function withEffect(piece: PieceWish, effect: 'texture' | 'wax', on: boolean): PieceWish {
  const others = piece.layers?.filter((l) => l.effect !== effect) ?? []
  if (!on) return { ...piece, layers: others }
  const added: Layer = { id: effect, effect }
  return { ...piece, layers: effect === 'texture' ? [added, ...others] : [...others, added] }
}

/** withWays is the piece with schools that were chosen when they stood with the piece, each at the layer whose choice it is. */
export function withWays(piece: PieceWish, ways: Record<string, string>): PieceWish {
  const of = (...topics: string[]) => {
    const own = Object.entries(ways).filter(([topic]) => topics.includes(topic))
    return own.length ? Object.fromEntries(own) : undefined
  }
  const layers = piece.layers?.map((l): Layer => {
    switch (l.effect) {
      case 'clear':
        return {
          ...l,
          method: ways.method as Layer['method'],
          ways: of('build', 'flatting', 'cure-by', 'levelling', 'pads', 'shine'),
        }
      case 'fill':
        return { ...l, as: ways.pores, ways: of('fill-with') }
      case 'colour':
        if (l.as === 'burst') return { ...l, method: ways.burst === 'rub' ? 'wipe' : undefined }
        return l.as === 'even' && !l.carrier
          ? { ...l, carrier: carriers[ways['colour-as'] ?? ''], ways: of('colour-on') }
          : l
      default:
        return l
    }
  })
  return { ...piece, layers }
}

const carriers: Record<string, Layer['carrier']> = { dye: 'water', bound: 'bound', stain: 'stain' }

const reaches = (layer: Layer, region: string) => !layer.regions?.length || layer.regions.includes(region)

/** isPlain reports whether a region keeps its own colour although others of its piece get one. */
export function isPlain(piece: PieceWish, region: string) {
  const coloured = piece.layers?.filter((l) => colours.includes(l.effect)) ?? []
  return coloured.length > 0 && coloured.every((l) => !reaches(l, region))
}

/** withPlain keeps what colours the wood off a region, or lets it reach it again. */
export function withPlain(piece: PieceWish, region: string, plain: boolean, all: readonly string[]): PieceWish {
  const layers = piece.layers?.map((l) => {
    if (!colours.includes(l.effect)) return l
    const now = l.regions?.length ? l.regions : [...all]
    const next = plain ? now.filter((name) => name !== region) : [...new Set([...now, region])]
    return { ...l, off: next.length === 0, regions: next.length === all.length ? undefined : next }
  })
  return { ...piece, layers }
}
