import type { Layer, Paint, StackRow } from '../../api/client'
import { Button } from '../../parts/Button'
import { faultUnder } from './draft'
import { isDone, layerPath, type PieceProps } from './fields'
import { LayerChoices } from './LayerChoices'
import { Swatch } from './Swatch'
import { LayerSchools } from './Schools'
import { regionsOf, withLayer, withMoved, without, withTwin } from './stack'

type Props = PieceProps & {
  layer: Layer
  row?: StackRow
  paint?: Paint
  open: boolean
  onOpen: (on: boolean) => void
  onGoTo: (layer?: string) => void
}

/** LayerRow is one layer: what it is, where it lies and what it takes; opened, its choices. */
export function LayerRow(props: Props) {
  const { layer, row, paint, open, onOpen, composed, piece, problem } = props
  const fault = faultUnder(problem, layerPath(props, layer.id), [])
  const warned = composed?.objections.filter((o) => o.layer === layer.id && o.piece === piece.kind) ?? []
  const fixed = (row?.done ?? 0) > 0
  return (
    <li className={`border-b border-line ${open ? 'bg-raised' : ''}`} data-layer={layer.id}>
      <div className="flex items-stretch">
        <Swatch paint={paint} faint={layer.off} />
        <button
          type="button"
          aria-expanded={open}
          className="min-h-11 min-w-0 flex-1 px-3 py-2 text-left hover:bg-raised"
          onClick={() => onOpen(!open)}
        >
          <b className={layer.off ? 'line-through' : ''}>{titleOf(props)}</b>
          <span className="block text-sm text-ink-2">
            {[whereText(props), !layer.off && row?.about, layer.off && 'switched off', row?.masked && 'masked']
              .filter(Boolean)
              .join(' · ')}
          </span>
          {fixed && (
            <span className="block text-sm font-semibold">
              {isDone(props, layer.id)
                ? 'Logged: it stays as it was done.'
                : `${row?.done} of ${row?.total} logged: what is done stays.`}
            </span>
          )}
          {fault && (
            <span className="block text-sm text-late" data-fault>
              {fault}
            </span>
          )}
          {warned.map((o) => (
            <span key={o.rule} className={`block text-sm ${o.spoils ? 'text-late' : 'text-closing'}`}>
              {o.title}
            </span>
          ))}
        </button>
      </div>
      {open && (
        <div className="space-y-3 border-l-4 border-umber px-3 pt-1 pb-3" data-layer-choices>
          {warned.map((o) => (
            <p key={o.rule} className="text-sm">
              {o.reason}
              {o.mend && ` What would mend it: ${o.mend}.`}
            </p>
          ))}
          {isDone(props, layer.id) ? (
            <p>
              All of it is in the log, and stays as it was done. To put it on once more, duplicate it; to do a step
              again, ask <b>What if</b> on the instrument.
            </p>
          ) : (
            <>
              <LayerChoices {...props} paint={paint} warned={warned.length > 0} />
              <LayerSchools {...props} layer={layer.id} />
            </>
          )}
          <Actions {...props} />
        </div>
      )}
    </li>
  )
}

/** titleOf says what the layer is: as the shop last said it, or the effect while that is not known. */
function titleOf({ reference, layer, row }: Props) {
  return row?.title ?? reference.effects.find((o) => o.effect === layer.effect)?.text ?? layer.effect
}

function whereText({ layer, piece }: Props) {
  const all = regionsOf(piece)
  if (!layer.regions?.length || layer.regions.length === all.length) return ''
  return layer.regions.length > all.length / 2 && layer.regions.length > 2
    ? `all but ${all.filter((r) => !layer.regions?.includes(r)).join(', ')}`
    : layer.regions.join(', ')
}

function Actions(props: Props) {
  const { piece, layer, set, onGoTo, row } = props
  const fixed = isDone(props, layer.id)
  const at = piece.layers?.findIndex((l) => l.id === layer.id) ?? -1
  const name = row?.title ?? layer.effect
  const act = (text: string, disabled: boolean, onClick: (stack: Element | null) => void) => (
    <Button
      aria-label={`${text}: ${name}`}
      disabled={disabled}
      onClick={(e) => onClick(e.currentTarget.closest('[data-stack]'))}
    >
      {text}
    </Button>
  )
  return (
    <div className="flex flex-wrap gap-2 border-t border-line pt-3">
      {act('Higher', fixed || at >= (piece.layers?.length ?? 0) - 1, () =>
        set(withMoved(piece, layer.id, 1), 'layers'),
      )}
      {act('Lower', fixed || at <= 0, () => set(withMoved(piece, layer.id, -1), 'layers'))}
      {act('Duplicate', false, (stack) => {
        const [next, id] = withTwin(piece, layer.id)
        set(next, 'layers')
        onGoTo(id)
        window.setTimeout(() => focusIn(stack, '[aria-expanded=true]'))
      })}
      {act(layer.off ? 'Switch on' : 'Switch off', fixed, () =>
        set(withLayer(piece, layer.id, { off: layer.off ? undefined : true }), 'layers'),
      )}
      {act('Remove', fixed, (stack) => {
        set(without(piece, layer.id), 'layers')
        onGoTo(undefined)
        focusIn(stack, '[aria-haspopup=menu]')
      })}
    </div>
  )
}

/** focusIn moves the focus to where one looks next: what was pressed is gone. */
const focusIn = (stack: Element | null, selector: string) => stack?.querySelector<HTMLElement>(selector)?.focus()
