import type { Layer, Paint, StackRow } from '../../api/client'
import { Menu } from '../../parts/Menu'
import { Choice } from '../../parts/fields/Choice'
import { Button } from '../../parts/Button'
import { SaveRecipe } from '../../parts/SaveRecipe'
import { clean, pathOf, withPiece } from './draft'
import type { PieceProps } from './fields'
import { LayerRow } from './LayerRow'
import { OutlineChoice } from './OutlineChoice'
import { PieceFacts } from './PieceFacts'
import { Swatch } from './Swatch'
import { withNew, withOurs, withPreset } from './stack'

type Props = PieceProps & { open?: string; onOpen: (layer?: string) => void }

/** StackPanel is the finish of a piece as strata, the air above and the wood below: each a line of words with its few choices. */
export function StackPanel(props: Props) {
  const { reference, piece, set, composed, open, onOpen } = props
  const rows = composed?.stacks.find((s) => s.piece === piece.kind)?.rows ?? []
  const paints = paintsOf(props)
  const fault = elsewhere(props)
  const add = (effect: Layer['effect']) => {
    const [next, id] = withNew(reference, piece, effect)
    set(next, 'layers')
    onOpen(id)
  }
  return (
    <section className="panel min-w-0 p-4" data-stack={piece.kind}>
      <div className="mb-3 flex flex-wrap items-center gap-3">
        <h2 className="name flex-1 text-xl whitespace-nowrap">The stack, {piece.kind}</h2>
        <div className="w-56">
          <Choice
            label="Begin with"
            value={piece.own?.id ?? piece.preset ?? ''}
            options={begins(props)}
            onChange={(id) =>
              set(
                reference.presets.some((p) => p.id === id)
                  ? { ...withPreset(reference, piece, id), own: undefined }
                  : withOurs(reference, piece, id),
                'layers',
              )
            }
          />
        </div>
        <SaveRecipe
          title={`Save this stack for a ${piece.kind}`}
          label="Save it…"
          kind="stack"
          what={{ stack: clean(piece) }}
          onSaved={(r) => !props.running && set({ ...piece, own: { id: r.id, version: r.version } }, 'layers')}
        />
      </div>
      <Menu
        className="w-full rounded-b-none"
        items={reference.effects.toReversed().map((o) => ({ id: o.effect, text: o.text, hint: o.hint }))}
        focus="[data-stack] [aria-expanded=true]"
        onChoose={(effect) => add(effect as Layer['effect'])}
      >
        Add a layer
      </Menu>
      <ol aria-label={`Layers of the ${piece.kind}, the uppermost first`} className="border-x border-line">
        {inOrder(piece.layers ?? [], rows).map((r) =>
          r.layer ? (
            <LayerRow
              key={r.layer.id}
              {...props}
              layer={r.layer}
              row={r.row}
              paint={paints.get(r.layer.id)}
              open={open === r.layer.id}
              onOpen={(on) => onOpen(on ? r.layer?.id : undefined)}
              onGoTo={onOpen}
            />
          ) : (
            <Added key={`added ${r.row.title} ${r.key}`} row={r.row} />
          ),
        )}
        <Ground {...props} open={open === ground} onOpen={(on) => onOpen(on ? ground : undefined)} />
      </ol>
      {fault && (
        <p className="mt-2 text-sm text-late" data-fault>
          {fault}
        </p>
      )}
    </section>
  )
}

/** begins are the stacks to begin with: the rules' own, and those of the shop for such a piece. */
function begins({ reference, piece }: PieceProps) {
  const own = (reference.own ?? []).filter((r) => r.stack?.kind === piece.kind)
  const named = piece.own ? own.some((r) => r.id === piece.own?.id) : piece.preset !== undefined
  return [
    ...(named ? [] : [{ id: piece.own?.id ?? '', text: 'your own stack' }]),
    ...own.map((r) => ({ id: r.id, text: `${r.name} (ours)` })),
    ...reference.presets,
  ]
}

/** What is open when the wood is: no layer has such an id. */
const ground = ' wood'

/** Ground is the wood under everything: opened, what the piece is made of and how large it is. */
function Ground(props: PieceProps & { open: boolean; onOpen: (on: boolean) => void }) {
  const { reference, piece, open, onOpen, running, draft, wish } = props
  const wood = reference.woods.find((w) => w.id === piece.wood)
  const size = [piece.length, piece.width, piece.thickness].filter(Boolean).join(' × ')
  return (
    <li className={`border-b border-line ${open ? 'bg-raised' : ''}`} data-ground>
      <div className="flex items-stretch">
        <Swatch colour={wood?.colour} wood />
        <button
          type="button"
          aria-expanded={open}
          className="min-h-11 min-w-0 flex-1 px-3 py-2 text-left hover:bg-raised"
          onClick={() => onOpen(!open)}
        >
          <b>{wood?.name ?? piece.wood}</b>
          <span className="block text-sm text-ink-2">
            {[size, piece.figured && 'figured'].filter(Boolean).join(' · ')}
          </span>
          {wood?.advice && <span className="block text-sm text-ink-2">{wood.advice}</span>}
        </button>
      </div>
      {open && (
        <div className="space-y-4 border-l-4 border-umber px-3 pt-1 pb-3">
          <PieceFacts {...props} />
          {piece.kind === 'body' && !running && <OutlineChoice {...props} />}
          {draft.wish.pieces.length > 1 && !running && (
            <Button onClick={() => wish(withPiece(draft.wish, piece.kind), 'wish.pieces')}>
              Without a {piece.kind}
            </Button>
          )}
        </div>
      )}
    </li>
  )
}

/** paintsOf is what each layer looks like, where it can be seen. */
function paintsOf({ composed, piece }: PieceProps) {
  const look = composed?.looks.find((l) => l.piece === piece.kind)
  const paints = new Map<string, Paint>()
  for (const region of look?.regions ?? []) for (const paint of region.paints) paints.set(paint.layer, paint)
  return paints
}

/** elsewhere is a fault of the piece that stands beside no field and no layer. */
function elsewhere({ problem, draft, piece }: PieceProps) {
  const at = `body.${pathOf(draft.wish, piece.kind)}`
  const own = /^\.(layers\[|regions\[|wood|found|length|width|thickness)/
  return problem?.faults.find((f) => f.location.startsWith(at) && !own.test(f.location.slice(at.length)))?.message
}

type Line = { layer: Layer; row?: StackRow; key: number } | { layer?: undefined; row: StackRow; key: number }

/** inOrder puts the layers that are wished and what the rules add between them in one order, the uppermost first. */
function inOrder(layers: Layer[], rows: StackRow[]): Line[] {
  const above = new Map<string, StackRow[]>() // what the rules add right above a layer
  let below = ''
  for (const row of rows) {
    if (row.layer) below = row.layer
    else above.set(below, [...(above.get(below) ?? []), row])
  }
  const added = (id: string): Line[] => (above.get(id) ?? []).map((row, key) => ({ row, key }))
  const lines = [...added('')]
  for (const layer of layers)
    lines.push({ layer, row: rows.find((r) => r.layer === layer.id), key: 0 }, ...added(layer.id))
  return lines.reverse()
}

/** Added is a coat that the rules add, in a quieter hand with its reason. */
function Added({ row }: { row: StackRow }) {
  return (
    <li className="flex items-stretch border-b border-line text-sm text-ink-2 italic" data-added={row.title}>
      <Swatch faint />
      <p className="px-3 py-1.5">
        {row.title}
        {row.about && <span> · {row.about}</span>}
        {row.why && <span className="block">Added: {row.why}</span>}
      </p>
    </li>
  )
}
