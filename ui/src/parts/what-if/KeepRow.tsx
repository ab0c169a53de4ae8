import { Button } from '../Button'
import type { useChange } from './useChange'

/** KeepRow says what an edited setting would do, and keeps or undoes it. */
export function KeepRow({
  change,
  undo,
  verb = 'Keep',
}: {
  change: ReturnType<typeof useChange>
  undo: () => void
  verb?: string
}) {
  return (
    <div className="flex flex-wrap items-center gap-3" data-keep-row>
      <p className="min-w-0 flex-1" role="status">
        {change.trouble ? (
          <span className="font-semibold text-late">{change.trouble}</span>
        ) : (
          change.sum && <span className="text-ink-2">{change.sum}</span>
        )}
      </p>
      <Button onClick={undo}>Undo</Button>
      <Button needs="shop" look="loud" disabled={change.busy || change.wrong} onClick={change.keep}>
        {verb}
      </Button>
    </div>
  )
}
