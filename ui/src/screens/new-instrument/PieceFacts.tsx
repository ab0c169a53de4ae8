import type { PieceWish } from '../../api/client'
import { Choice } from '../../parts/fields/Choice'
import { Text } from '../../parts/fields/Text'
import { Tick } from '../../parts/fields/Tick'
import { capital } from '../../parts/words'
import { pathOf } from './draft'
import { shown, woodOptions, type PieceProps } from './fields'
import { PieceSchools } from './Schools'

const sizes = { body: ['length', 'width', 'thickness'], neck: ['length', 'width'] } as const

/** PieceFacts is what a piece is made of, how it comes and how large it is. */
export function PieceFacts(props: PieceProps) {
  const { reference, draft, piece, set } = props
  const fault = (field: string) => shown(props)(`${pathOf(draft.wish, piece.kind)}.${field}`)
  const put = (part: Partial<PieceWish>, field: string) => set({ ...piece, ...part }, field)
  return (
    <div className="space-y-3" data-piece={piece.kind}>
      <Choice
        label="Wood"
        value={piece.wood}
        options={woodOptions(reference)}
        fault={fault('wood')}
        onChange={(wood) => put({ wood }, 'wood')}
      />
      <Choice
        label="Surface as it comes"
        value={piece.found}
        options={[{ id: '', text: 'bare' }, ...reference.found.filter((f) => f.id !== 'bare')]}
        fault={fault('found')}
        onChange={(found) => put({ found: found || undefined }, 'found')}
      />
      <div className="grid grid-cols-3 gap-3">
        {sizes[piece.kind].map((size) => (
          <Text
            key={size}
            label={capital(size)}
            value={piece[size]}
            fault={fault(size)}
            onChange={(v) => put({ [size]: v }, size)}
          />
        ))}
      </div>
      <Tick label="Figured" on={piece.figured ?? false} onChange={(figured) => put({ figured }, 'figured')} />
      <PieceSchools {...props} />
    </div>
  )
}
