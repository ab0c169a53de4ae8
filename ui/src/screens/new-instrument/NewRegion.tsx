import type { RegionWish } from '../../api/client'
import { Menu } from '../../parts/Menu'
import type { PieceProps } from './fields'
import { regionsOf, withSplit } from './stack'

/** NewRegion splits a region: what is drawn within it is cut out of it. */
export function NewRegion({ reference, piece, set, onMade }: PieceProps & { onMade: (name: string) => void }) {
  const make = (kind: NonNullable<RegionWish['kind']>) => {
    const taken = regionsOf(piece)
    const word = kind.replace('-', ' ')
    let name = word
    for (let n = 2; taken.includes(name); n++) name = `${word} ${n}`
    set(withSplit(piece, { name, kind, ...begin[kind] }), 'regions')
    onMade(name)
  }
  return (
    <Menu items={reference.regionKinds} onChoose={(kind) => make(kind as NonNullable<RegionWish['kind']>)}>
      Split a region
    </Menu>
  )
}

/** What a drawn region begins with; sizes are typed over. */
const begin: Record<NonNullable<RegionWish['kind']>, Partial<RegionWish>> = {
  strips: { count: 3, width: '30 mm', edge: 'seam' },
  border: { width: '12 mm', edge: 'taped' },
  bevel: { width: '30 mm', length: '180 mm', edge: 'soft' },
  half: { side: 'left', edge: 'taped' },
  shape: { edge: 'taped', path: 'M60 250H180L120 360Z' },
  inlay: { edge: 'scored', path: 'M150 200a14 14 0 1 0 28 0a14 14 0 1 0 -28 0Z' },
  binding: { width: '6 mm', edge: 'scraped' },
  'joint-face': {},
  'cut-out': { path: 'M150 230a16 16 0 1 0 32 0a16 16 0 1 0 -32 0Z' },
  cavity: {},
  'round-over': { width: '6 mm', edge: 'soft' },
}
