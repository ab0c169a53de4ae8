import type { Layer, Offer, Paint } from '../../api/client'
import { Choice, type Option } from '../../parts/fields/Choice'
import { Text } from '../../parts/fields/Text'
import { Tick } from '../../parts/fields/Tick'
import { Toggles } from '../../parts/fields/Toggles'
import { ColourFields } from './ColourFields'
import { faultAt } from './draft'
import { layerPath, sheens, shown, type PieceProps } from './fields'
import { Where } from './Where'
import { regionsOf, withLayer } from './stack'

type Props = PieceProps & { layer: Layer; paint?: Paint; warned: boolean }

/** LayerChoices are the few things that may be said of a layer; what is left open the rules choose. */
export function LayerChoices(props: Props) {
  const { reference, piece, layer, set, warned } = props
  const offer = reference.effects.find((o) => o.effect === layer.effect)
  if (!offer) return null
  const fault = (field: string) => shown(props)(`${layerPath(props, layer.id)}.${field}`)
  const reason = faultAt(props.problem, `${layerPath(props, layer.id)}.because`)
  const put = (part: Partial<Layer>) => set(withLayer(piece, layer.id, part), 'layers')
  const has = (field: string) => offer.fields.includes(field)
  const choice = (label: string, field: keyof Layer, options: readonly Option[], also: Partial<Layer> = {}) =>
    options.length > 1 && (
      <Choice
        label={label}
        value={layer[field] as string | undefined}
        options={options}
        fault={fault(field)}
        onChange={(v) => put({ ...also, [field]: v || undefined })}
      />
    )
  return (
    <div className="space-y-3">
      <p className="text-sm text-ink-2">{offer.hint}</p>
      <div className="grid gap-3 sm:grid-cols-2">
        {choice('Kind', 'as', kindOptions(offer))}
        {choice('Carried', 'carrier', offer.carriers, { family: undefined })}
        {choice('Which', 'of', offer.of)}
        {choice(layer.effect === 'clear' ? 'Clear or oil' : 'Material', 'family', families(props, offer), {
          method: undefined,
        })}
        {has('sheen') && choice('Sheen', 'sheen', sheens)}
        {layer.effect === 'clear' && choice('Put on', 'method', methods(props))}
        {has('grit') && choice('Grit before this group', 'grit', grits)}
        {has('depth') && (
          <Text label="Depth" value={layer.depth} fault={fault('depth')} onChange={(depth) => put({ depth })} />
        )}
        {has('coats') && layer.as !== 'drop' && (
          <Count
            label={layer.effect === 'mend' ? 'How many' : 'Coats'}
            value={layer.coats}
            fault={fault('coats')}
            onChange={(coats) => put({ coats })}
          />
        )}
        {has('filmUm') && (
          <Count label="Film on the faces, µm" value={layer.filmUm} onChange={(filmUm) => put({ filmUm })} />
        )}
        <Shelf {...props} />
      </div>
      <RoomLimit {...props} />
      {has('colours') && <ColourFields {...props} put={put} />}
      {has('over') && (
        <Text
          label={layer.effect === 'pour' ? 'What lies in it' : 'What it shows'}
          value={layer.over}
          fault={fault('over')}
          onChange={(over) => put({ over: over || undefined })}
        />
      )}
      <div className="flex flex-wrap gap-x-5">
        {has('tinted') && (
          <Tick label="Tinted as the grain" on={layer.tinted ?? false} onChange={(tinted) => put({ tinted })} />
        )}
        {has('wet') && (
          <Tick label="Blended wet, in one sitting" on={layer.wet ?? false} onChange={(wet) => put({ wet })} />
        )}
        {has('torn') && <Tick label="In torn pieces" on={layer.torn ?? false} onChange={(torn) => put({ torn })} />}
      </div>
      {has('places') && <Places {...props} put={put} />}
      <Where {...props} />
      {(warned || layer.because !== undefined || reason || layer.of === 'wear-wood') && (
        <Text
          label={layer.of === 'wear-wood' ? 'Left bare on purpose, because' : 'On purpose, because'}
          value={layer.because}
          maxLength={200}
          fault={reason}
          onChange={(because) => put({ because: because || undefined })}
        />
      )}
    </div>
  )
}

/** Places are where wear may be, on the map of places; none: all over. */
function Places({ reference, piece, layer, put }: Props & { put: (part: Partial<Layer>) => void }) {
  const here = (reference.wearPlaces ?? []).filter((p) => regionsOf(piece).includes(p.region))
  return (
    <Toggles
      legend="Worn where; none chosen: all over"
      options={here}
      on={layer.places ?? []}
      onChange={(places) => put({ places })}
    />
  )
}

/** kindOptions are the kinds of an effect; the usual one stands first, and is what nothing chosen means. */
const kindOptions = ({ kinds }: Offer) => kinds.map((k, i) => (i === 0 ? { ...k, id: '' } : k))

function families({ reference }: Props, offer: Offer) {
  if (offer.effect !== 'clear') return offer.families
  return reference.clears.map((c) => ({ id: c.id, text: c.room ? `${c.name} (not now)` : c.name }))
}

function methods({ reference, layer }: Props) {
  const ways = reference.clears.find((c) => c.id === layer.family)?.methods ?? []
  return [{ id: '', text: 'as is usual' }, ...ways.map((m) => ({ id: m, text: methodTexts[m] ?? m }))]
}

const methodTexts: Record<string, string> = {
  spray: 'sprayed',
  aerosol: 'from a can',
  brush: 'brushed',
  wipe: 'wiped',
  pad: 'padded',
  pour: 'poured',
  drop: 'dropped in',
}

const grits = [
  { id: '', text: 'as the rules choose' },
  ...[320, 400, 600, 800, 1000].map((p) => ({ id: `fepa:P${p}`, text: `P${p}` })),
]

function Count(p: { label: string; value?: number; fault?: string; onChange: (n?: number) => void }) {
  return (
    <Text
      label={p.label}
      type="number"
      inputMode="numeric"
      min={0}
      placeholder="by rule"
      value={p.value ? String(p.value) : ''}
      fault={p.fault}
      onChange={(v) => p.onChange(v === '' ? undefined : Number(v))}
    />
  )
}

/** RoomLimit says why what is chosen cannot be put on here now. */
function RoomLimit({ reference, layer }: Props) {
  const clear = layer.effect === 'clear' ? reference.clears.find((c) => c.id === layer.family) : undefined
  if (!clear?.room) return null
  return (
    <p className="border-l-4 border-closing bg-closing-fill px-3 py-2 text-sm text-closing" data-room-limit>
      {clear.name}: {clear.room}.
    </p>
  )
}

/** Shelf is the product that a layer takes, and what the rules add to it; without one the family's usual figures stand in. */
function Shelf(props: Props) {
  const { composed, piece, layer, draft, change, running } = props
  if (running) return null // its steps name their products already
  const roles = composed?.roles.filter((r) => r.layer === layer.id && r.products.length > 0) ?? []
  const choose = (role: string, product: string) => {
    const others = Object.entries(draft.materials ?? {}).filter(([other]) => other !== role)
    change({ materials: Object.fromEntries(product ? [...others, [role, product]] : others) }, `materials.${role}`)
  }
  return roles
    .filter((r) => r.piece === piece.kind || r.piece === 'whole')
    .map((role) => (
      <Choice
        key={role.id}
        label={`${role.title} from the shelf`}
        value={draft.materials?.[role.id]}
        options={[{ id: '', text: 'any, by its family' }, ...role.products.map((p) => ({ id: p.id, text: p.name }))]}
        fault={shown(props)(`materials.${role.id}`)}
        onChange={(product) => choose(role.id, product)}
      />
    ))
}
