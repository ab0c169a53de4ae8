import type { Layer, PieceWish, Reference, RegionWish } from '../../api/client'

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

/** withOurs is the piece with a stack of the shop's own; its wood and its size stay. */
export function withOurs(reference: Reference, piece: PieceWish, id: string): PieceWish {
  const own = reference.own?.find((r) => r.id === id)
  if (!own?.stack) return piece
  const { kind, wood, figured, length, width, thickness } = piece
  return { ...own.stack, kind, wood, figured, length, width, thickness, own: { id: own.id, version: own.version } }
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

/** regionsOf are the names of a piece's regions: those that it has by itself, then those that are drawn. */
export function regionsOf(piece: PieceWish) {
  const names: string[] = piece.kind === 'neck' ? ['shaft', 'headstock'] : ['top', 'back', 'sides']
  for (const { name } of piece.regions ?? []) if (!names.includes(name)) names.push(name)
  return names
}

/** withLayers is the piece with other layers: a recipe of the shop's own that was changed is one's own stack. */
const withLayers = (piece: PieceWish, layers: Layer[]): PieceWish => ({ ...piece, own: undefined, layers })

/** withOurs is the piece with a stack of its own: no preset's any more, but that of bare wood where nothing is left. */
const withOwn = (piece: PieceWish, layers: Layer[]): PieceWish => ({
  ...piece,
  own: undefined,
  preset: layers.length ? undefined : 'bare',
  layers,
})

/** freeId is a layer's id that is not taken yet. */
function freeId(piece: PieceWish, wished: string) {
  const taken = new Set(piece.layers?.map((l) => l.id))
  let id = wished
  for (let n = 2; taken.has(id); n++) id = `${wished}-${n}`
  return id
}

/** withNew is the piece with a layer more, where one of its effect usually lies; its id comes with it. */
export function withNew(reference: Reference, piece: PieceWish, effect: Layer['effect']): [PieceWish, string] {
  const offer = reference.effects.find((o) => o.effect === effect)
  const rank = (l: Layer) => reference.effects.findIndex((o) => o.effect === l.effect)
  const layers = piece.layers ?? []
  const made: Layer = { ...offer?.new, effect, id: freeId(piece, effect) }
  const above = layers.findIndex((l) => rank(l) > rank(made))
  const at = above < 0 ? layers.length : above
  return [withOwn(piece, layers.toSpliced(at, 0, made)), made.id]
}

/** withLayer is the piece with one of its layers changed. */
export const withLayer = (piece: PieceWish, id: string, part: Partial<Layer>) =>
  withLayers(piece, piece.layers?.map((l) => (l.id === id ? { ...l, ...part } : l)) ?? [])

/** without is the piece without one of its layers. */
export const without = (piece: PieceWish, id: string) => withOwn(piece, piece.layers?.filter((l) => l.id !== id) ?? [])

/** withTwin is the piece with a layer a second time, above the first; the twin's id comes with it. */
export function withTwin(piece: PieceWish, id: string): [PieceWish, string] {
  const layers = piece.layers ?? []
  const at = layers.findIndex((l) => l.id === id)
  const found = layers[at]
  if (!found) return [piece, id]
  const twin = { ...found, id: freeId(piece, id.replace(/-\d+$/, '')) }
  return [withOwn(piece, layers.toSpliced(at + 1, 0, twin)), twin.id]
}

/** withMoved is the piece with a layer a place higher (1) or lower (-1). */
export function withMoved(piece: PieceWish, id: string, by: 1 | -1): PieceWish {
  const layers = [...(piece.layers ?? [])]
  const at = layers.findIndex((l) => l.id === id)
  const [one, other] = [layers[at], layers[at + by]]
  if (!one || !other) return piece
  layers[at] = other
  layers[at + by] = one
  return withOwn(piece, layers)
}

/** reaches reports whether a layer is wished on a region. */
export const reaches = (layer: Layer, region: string) => !layer.regions?.length || layer.regions.includes(region)

/** withReach puts a layer on a region, or takes it off; one that is left without any is switched off. */
export function withReach(piece: PieceWish, id: string, region: string): PieceWish {
  const all = regionsOf(piece)
  const layer = piece.layers?.find((l) => l.id === id)
  if (!layer) return piece
  const now = layer.off ? [] : layer.regions?.length ? layer.regions : all
  const next = all.filter((name) => (name === region ? !now.includes(name) : now.includes(name)))
  if (next.length === 0) return withLayer(piece, id, { off: true })
  return withLayer(piece, id, { off: undefined, regions: next.length === all.length ? undefined : next })
}

/** isPlain reports whether a region keeps its own colour although others of its piece get one. */
export function isPlain(piece: PieceWish, region: string) {
  const coloured = piece.layers?.filter((l) => colours.includes(l.effect)) ?? []
  return coloured.length > 0 && coloured.every((l) => !reaches(l, region))
}

/** withPlain keeps what colours the wood off a region, or lets it reach it again. */
export function withPlain(piece: PieceWish, region: string, plain: boolean): PieceWish {
  const all = regionsOf(piece)
  const layers = piece.layers?.map((l) => {
    if (!colours.includes(l.effect)) return l
    const now = l.regions?.length ? l.regions : all
    const next = plain ? now.filter((name) => name !== region) : [...new Set([...now, region])]
    return { ...l, off: next.length === 0, regions: next.length === all.length ? undefined : next }
  })
  return { ...piece, layers }
}

/** withRegion is the piece with one of its regions as given; a natural one that differs in nothing is left out. */
export function withRegion(piece: PieceWish, region: RegionWish): PieceWish {
  const known = piece.regions ?? []
  const differs = Boolean(region.kind ?? region.wood ?? region.sheen ?? region.found ?? region.edge)
  const regions = known.some((r) => r.name === region.name)
    ? known.map((r) => (r.name === region.name ? region : r))
    : [...known, region]
  return { ...piece, regions: differs ? regions : regions.filter((r) => r.name !== region.name) }
}

/** withRegionNamed gives a drawn region another name, wherever it is spoken of. */
export function withRegionNamed(piece: PieceWish, old: string, name: string): PieceWish {
  const renamed = (list?: string[]) => list?.map((n) => (n === old ? name : n))
  return {
    ...piece,
    regions: piece.regions?.map((r) => (r.name === old ? { ...r, name } : r)),
    layers: piece.layers?.map((l) => (l.regions ? { ...l, regions: renamed(l.regions) } : l)),
  }
}

/** withoutRegion is the piece without a region that was drawn: what was wished there only is switched off. */
export function withoutRegion(piece: PieceWish, name: string): PieceWish {
  return {
    ...piece,
    regions: piece.regions?.filter((r) => r.name !== name),
    layers: piece.layers?.map((l) => {
      if (!l.regions?.includes(name)) return l
      const left = l.regions.filter((n) => n !== name)
      return left.length ? { ...l, regions: left } : { ...l, regions: undefined, off: true }
    }),
  }
}

/** withSplit is the piece with a region drawn within another: what was wished of that only is wished of both. */
export function withSplit(piece: PieceWish, region: RegionWish): PieceWish {
  const into = region.in ?? (piece.kind === 'neck' ? 'headstock' : 'top')
  return {
    ...piece,
    regions: [...(piece.regions ?? []), region],
    layers: piece.layers?.map((l) => (l.regions?.includes(into) ? { ...l, regions: [...l.regions, region.name] } : l)),
  }
}
