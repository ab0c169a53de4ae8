import { useState } from 'react'
import type { Look, RegionWish } from '../../api/client'
import { Button } from '../../parts/Button'
import type { Face } from '../../parts/look/frame'
import { PieceLook } from '../../parts/look/PieceLook'
import { isDone, outlineOf, type PieceProps } from './fields'
import { NewRegion } from './NewRegion'
import { RegionEdit } from './RegionEdit'
import { isPlain, reaches, regionsOf, withReach, withRegion } from './stack'

type Props = PieceProps & {
  /** The layer that is open: pointing at a region puts it there or takes it off. */
  layer?: string
  region?: string
  onRegion: (region?: string) => void
}

/** DrawingPanel shows the finish of a piece and its regions: pointed at, told apart, split. */
export function DrawingPanel(props: Props) {
  const { piece, composed, draft, own, layer, region, onRegion, set } = props
  const [corners, setCorners] = useState<[number, number][]>()
  const look = composed?.looks.find((l) => l.piece === piece.kind)
  const chosen = piece.layers?.find((l) => l.id === layer && !isDone(props, l.id))
  const point = (name: string) => {
    if (!regionsOf(piece).includes(name)) return // a board that is seen beside its neck
    if (chosen) set(withReach(piece, chosen.id, name), 'layers')
    else onRegion(name === region ? undefined : name)
  }
  const pointing = {
    outline: outlineOf(draft),
    own,
    chosen: chosen ? undefined : region,
    masked: chosen ? regionsOf(piece).filter((r) => chosen.off || !reaches(chosen, r)) : undefined,
    onChoose: point,
  }
  const edited: RegionWish | undefined = region
    ? (piece.regions?.find((r) => r.name === region) ?? { name: region })
    : undefined
  return (
    <section className="panel min-w-0 p-4" data-drawing={piece.kind}>
      {look ? (
        <Faces
          look={look}
          {...pointing}
          corners={corners}
          onCorner={corners && ((at) => setCorners([...corners, [...at]]))}
        />
      ) : (
        <p className="py-24 text-center text-ink-2">The drawing appears here.</p>
      )}
      {chosen && (
        <p className="mt-2 text-sm" data-pointing>
          Point at a region to put this layer on it or keep it off. Hatched: it is kept off.
        </p>
      )}
      {look?.regions.some((r) => r.paints.some((p) => p.guessed)) && (
        <p className="mt-2 text-sm text-ink-2">An estimate: not every colour is chosen yet.</p>
      )}
      <div className="mt-3 flex flex-wrap gap-2" role="group" aria-label={`Regions of the ${piece.kind}`}>
        {regionsOf(piece).map((name) => (
          <button
            key={name}
            type="button"
            aria-pressed={name === region}
            className="min-h-11 rounded-sm border border-line bg-raised px-3 py-1 text-left aria-pressed:border-2 aria-pressed:border-ink"
            onClick={() => onRegion(name === region ? undefined : name)}
          >
            <b>{name}</b>
            <span className="block text-xs text-ink-2">{differenceText(props, name)}</span>
          </button>
        ))}
        <NewRegion {...props} onMade={onRegion} />
      </div>
      {edited && (
        <RegionEdit
          key={edited.name}
          {...props}
          region={edited}
          onRename={onRegion}
          drawing={corners !== undefined}
          onDraw={() => setCorners([])}
        />
      )}
      {corners && edited && (
        <div className="mt-2 flex flex-wrap items-center gap-2" role="status">
          <p className="w-full text-sm">
            {corners.length < 3
              ? 'Point at three corners or more on the drawing.'
              : `${corners.length} corners. More, or done.`}
          </p>
          <Button
            look="loud"
            disabled={corners.length < 3}
            onClick={() => {
              set(withRegion(piece, { ...edited, path: pathOf(corners) }), 'regions')
              setCorners(undefined)
            }}
          >
            Shape is done
          </Button>
          <Button onClick={() => setCorners(corners.slice(0, -1))} disabled={corners.length === 0}>
            One corner back
          </Button>
          <Button look="bare" onClick={() => setCorners(undefined)}>
            Leave it
          </Button>
        </div>
      )}
    </section>
  )
}

const pathOf = (corners: [number, number][]) => `M${corners.map(([x, y]) => `${x} ${y}`).join('L')}Z`

type FacesProps = Omit<Parameters<typeof PieceLook>[0], 'face' | 'className'>

/** Faces are the front large, the back and the sides small. */
function Faces({ corners, onCorner, ...props }: FacesProps & { look: Look }) {
  const small: Face[] = props.look.piece === 'body' ? ['back', 'side'] : ['back']
  return (
    <div className="flex items-end justify-center gap-3 md:max-xl:flex-col md:max-xl:items-center">
      <figure className="min-w-0">
        <PieceLook {...props} corners={corners} onCorner={onCorner} className="mx-auto h-64 max-w-full sm:h-72" />
        <figcaption className="text-center text-xs text-ink-2">front</figcaption>
      </figure>
      <div className="w-24 shrink-0 space-y-2 md:max-xl:flex md:max-xl:w-full md:max-xl:items-end md:max-xl:justify-center md:max-xl:gap-4 md:max-xl:[&>*]:w-24">
        {small.map((face) => (
          <figure key={face}>
            <PieceLook {...props} face={face} className="max-h-32 w-full" />
            <figcaption className="text-center text-xs text-ink-2">{face === 'side' ? 'sides' : face}</figcaption>
          </figure>
        ))}
      </div>
    </div>
  )
}

function differenceText({ piece, reference }: PieceProps, name: string) {
  const region = piece.regions?.find((r) => r.name === name)
  const wood = reference.woods.find((w) => w.id === region?.wood)?.name
  const kind = reference.regionKinds.find((k) => k.id === region?.kind)?.text
  return [kind, wood, region?.sheen, isPlain(piece, name) && 'no colour'].filter(Boolean).join(', ') || 'as the rest'
}
