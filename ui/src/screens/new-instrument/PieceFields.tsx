import type { PieceWish } from '../../api/client'
import { sheens, shown, woodOptions, type FormProps } from './fields'
import { Choice } from '../../parts/fields/Choice'
import { Text } from '../../parts/fields/Text'
import { Tick } from '../../parts/fields/Tick'
import { Regions } from './Regions'
import { firstPiece, pathOf, pieceOf, withPiece, type Kind } from './draft'
import { capital } from '../../parts/words'

type Props = FormProps & { kind: Kind }

const sizes = { body: ['length', 'width', 'thickness'], neck: ['length', 'width'] } as const

/** PieceFields is one piece of the job: whether it is part of it, and what is wished for it. */
export function PieceFields(props: Props) {
  const { kind, draft, wish } = props
  const piece = pieceOf(draft.wish, kind)
  return (
    <fieldset className="border-t border-line pt-3" data-piece={kind}>
      <legend className="sr-only">{kind}</legend>
      <Tick
        loud
        label={kind === 'body' ? 'A body' : 'A neck'}
        on={piece !== undefined}
        onChange={(on) => wish(withPiece(draft.wish, kind, on ? firstPiece(kind) : undefined), 'wish.pieces')}
      />
      {piece && <Wished {...props} piece={piece} />}
    </fieldset>
  )
}

function Wished({ piece, ...props }: Props & { piece: PieceWish }) {
  const { kind, reference, draft, wish } = props
  const fault = shown(props)
  const path = pathOf(draft.wish, kind)
  const set = (part: Partial<PieceWish>, field: string) =>
    wish(withPiece(draft.wish, kind, { ...piece, ...part }), `${path}.${field}`)
  const timber = reference.woods.find((w) => w.id === piece.wood)
  const clear = reference.clears.find((c) => c.id === piece.clear)
  return (
    <div className="space-y-3">
      <div className="grid gap-3 sm:grid-cols-2">
        <Choice
          label="Look"
          value={piece.look}
          options={reference.looks}
          fault={fault(`${path}.look`)}
          onChange={(look) => set({ look: look as PieceWish['look'] }, 'look')}
        />
        <Choice
          label="Sheen"
          value={piece.sheen}
          options={sheens}
          fault={fault(`${path}.sheen`)}
          onChange={(sheen) => set({ sheen: sheen as PieceWish['sheen'] }, 'sheen')}
        />
        <Choice
          label="Clear or oil"
          value={piece.clear}
          options={reference.clears.map((c) => ({ id: c.id, text: c.room ? `${c.name} (not now)` : c.name }))}
          fault={fault(`${path}.clear`)}
          onChange={(family) => set({ clear: family, ways: without(piece.ways, 'method') }, 'clear')}
        />
        <Choice
          label="Wood"
          value={piece.wood}
          options={woodOptions(reference)}
          fault={fault(`${path}.wood`)}
          onChange={(wood) => set({ wood }, 'wood')}
        />
      </div>
      {clear?.room && (
        <p className="border-l-4 border-closing bg-closing-fill px-3 py-2 text-sm text-closing" data-room-limit>
          {clear.name}: {clear.room}.
        </p>
      )}
      {timber?.advice && <p className="text-sm text-ink-2">{timber.advice}</p>}
      <div className="grid grid-cols-3 gap-3">
        {sizes[kind].map((size) => (
          <Text
            key={size}
            label={capital(size)}
            value={piece[size]}
            fault={fault(`${path}.${size}`)}
            onChange={(v) => set({ [size]: v }, size)}
          />
        ))}
      </div>
      <div className="flex flex-wrap gap-x-5">
        <Tick label="Figured" on={piece.figured ?? false} onChange={(figured) => set({ figured }, 'figured')} />
        {kind === 'body' && (
          <Tick
            label="Grain brushed out"
            on={piece.texture ?? false}
            onChange={(texture) => set({ texture }, 'texture')}
          />
        )}
        <Tick label="Wax last" on={piece.wax ?? false} onChange={(wax) => set({ wax }, 'wax')} />
      </div>
      <Regions
        {...props}
        piece={piece}
        onChange={(next) => wish(withPiece(draft.wish, kind, next), `${path}.regions`)}
      />
      {fault(`${path}.ways.method`) && <p className="text-sm text-late">{fault(`${path}.ways.method`)}</p>}
    </div>
  )
}

const without = (ways: PieceWish['ways'], topic: string) =>
  ways && Object.fromEntries(Object.entries(ways).filter(([other]) => other !== topic))
