import type { InstrumentView, PieceView } from '../../api/client'
import { time } from '../../parts/threads/scale'
import { Portrait } from '../../parts/look/Portrait'

/** LookPanel is how the instrument looks by now; frost lies over what cures. */
export function LookPanel({ view }: { view: InstrumentView }) {
  const shown = view.pieces.filter((p) => p.kind === 'body' || p.kind === 'neck')
  if (shown.length === 0) return null
  return (
    <section
      className="panel mb-4 flex items-end justify-evenly gap-3 p-4"
      aria-label="How it looks by now"
      data-portrait
    >
      {shown.map((piece) => (
        <figure key={piece.id} className="min-w-0">
          <Portrait
            instrumentId={view.id}
            piece={piece.kind}
            outline={view.outline}
            own={view.own}
            colour={piece.colour}
            frost={frostOf(piece, time(view.now.at))}
            className="mx-auto h-44 max-w-full"
          />
          <figcaption className="text-center text-sm text-ink-2">{piece.kind}</figcaption>
        </figure>
      ))}
    </section>
  )
}

/** frostOf is the share of the wait that is left. */
function frostOf({ frost }: PieceView, now: number) {
  if (!frost) return 0
  const [from, to] = [time(frost.from), time(frost.to)]
  return to > from ? Math.max(0, Math.min(1, (to - now) / (to - from))) : 0
}
