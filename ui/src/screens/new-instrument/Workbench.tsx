import { useState } from 'react'
import { Button } from '../../parts/Button'
import { firstPiece, pathOf, pieceOf, withPiece, type Kind } from './draft'
import { DrawingPanel } from './DrawingPanel'
import type { PieceProps, StackProps } from './fields'
import { StackPanel } from './StackPanel'

/** Workbench is where a finish is made: the drawing of a piece, and its stack beside it. */
export function Workbench(props: StackProps) {
  const { draft, wish, reference } = props
  const [kind, setKind] = useState<Kind>(draft.wish.pieces[0]?.kind ?? 'body')
  const piece = pieceOf(draft.wish, kind)
  return (
    <div className="min-w-0">
      <div className="mb-2 flex flex-wrap items-center gap-2" role="group" aria-label="Which piece">
        {(['body', 'neck'] as const).map((k) => (
          <button
            key={k}
            type="button"
            aria-pressed={k === kind}
            className="name min-h-11 px-4 text-ink-2 aria-pressed:border-b-3 aria-pressed:border-umber aria-pressed:text-ink"
            onClick={() => setKind(k)}
          >
            {k === 'body' ? 'Body' : 'Neck'}
          </button>
        ))}
      </div>
      {piece ? (
        <OnePiece
          key={kind}
          {...props}
          piece={piece}
          set={(next, field) => wish(withPiece(draft.wish, kind, next), `${pathOf(draft.wish, kind)}.${field}`)}
        />
      ) : (
        <div className="panel p-6">
          <p className="mb-3">This instrument has no {kind} to be finished.</p>
          <Button onClick={() => wish(withPiece(draft.wish, kind, firstPiece(reference, kind)), 'wish.pieces')}>
            Add a {kind}
          </Button>
        </div>
      )}
    </div>
  )
}

function OnePiece(props: PieceProps) {
  const [layer, setLayer] = useState<string>()
  const [region, setRegion] = useState<string>()
  return (
    <div className="grid grid-cols-[minmax(0,1fr)] items-start gap-4 md:grid-cols-[minmax(250px,5fr)_minmax(0,8fr)]">
      <div className="min-w-0 md:sticky md:top-4">
        <DrawingPanel {...props} layer={layer} region={region} onRegion={setRegion} />
      </div>
      <StackPanel {...props} open={layer} onOpen={setLayer} />
    </div>
  )
}
