import type { Layer, PieceWish } from '../../api/client'
import { sheens, shown, woodOptions, type FormProps } from './fields'
import { Choice } from '../../parts/fields/Choice'
import { Text } from '../../parts/fields/Text'
import { Tick } from '../../parts/fields/Tick'
import { Regions } from './Regions'
import { faultUnder, firstPiece, pathOf, pieceOf, withPiece, type Kind } from './draft'
import { endingOf, has, withEffect, withEnding, withPreset } from './stack'
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
        onChange={(on) =>
          wish(withPiece(draft.wish, kind, on ? firstPiece(props.reference, kind) : undefined), 'wish.pieces')
        }
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
  const stack = (next: PieceWish) => wish(withPiece(draft.wish, kind, next), `${path}.layers`)
  const timber = reference.woods.find((w) => w.id === piece.wood)
  const ending = endingOf(piece)
  const at = `${path}.layers[${ending?.at ?? 0}]`
  const clear = reference.clears.find((c) => c.id === ending?.layer.family)
  const stackFault = [`${at}.family`, `${at}.sheen`, `${at}.method`].map((p) => `body.${p}`)
  return (
    <div className="space-y-3">
      <div className="grid gap-3 sm:grid-cols-2">
        <Choice
          label="Look"
          value={piece.preset ?? 'natural'}
          options={reference.presets}
          fault={
            fault(`${path}.preset`) ?? faultUnder(shownProblem(props, `${path}.layers`), `${path}.layers`, stackFault)
          }
          onChange={(preset) => stack(withPreset(reference, piece, preset))}
        />
        {ending && (
          <Choice
            label="Sheen"
            value={ending.layer.sheen}
            options={sheens}
            fault={fault(`${at}.sheen`)}
            onChange={(sheen) => stack(withEnding(piece, { sheen: sheen as Layer['sheen'] }))}
          />
        )}
        {ending?.layer.effect === 'clear' && (
          <Choice
            label="Clear or oil"
            value={ending.layer.family}
            options={reference.clears.map((c) => ({ id: c.id, text: c.room ? `${c.name} (not now)` : c.name }))}
            fault={fault(`${at}.family`)}
            onChange={(family) => stack(withEnding(piece, { family, method: undefined }))}
          />
        )}
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
            on={has(piece, 'texture')}
            onChange={(on) => stack(withEffect(piece, 'texture', on))}
          />
        )}
        <Tick label="Wax last" on={has(piece, 'wax')} onChange={(on) => stack(withEffect(piece, 'wax', on))} />
      </div>
      <Regions
        {...props}
        piece={piece}
        onChange={(next) => wish(withPiece(draft.wish, kind, next), `${path}.regions`)}
      />
      {fault(`${at}.method`) && <p className="text-sm text-late">{fault(`${at}.method`)}</p>}
    </div>
  )
}

/** shownProblem is the problem once anything below a field was touched or keeping was tried. */
const shownProblem = ({ problem, draft, tried }: FormProps, path: string) =>
  tried || draft.touched.some((t) => path.startsWith(t)) ? problem : undefined
