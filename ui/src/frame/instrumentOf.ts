import type { InstrumentView, Rack, Sheet } from '../api/client'
import type { What } from '../api/outbox'
import { queries } from '../api/queries'

/**
 * instrumentOf is the instrument that an entry is about, as far as this page knows it: where what it is about is gone
 * when it comes to the shop, it is kept with that.
 */
export function instrumentOf({ stepId, coat, pieceId }: What): string | undefined {
  const rack = queries.getQueryData<Rack>(['rack'])
  const tag = rack?.tags.find((t) => (stepId ? t.event.stepId === stepId : t.pieceId === pieceId))
  if (tag) return tag.instrumentId
  if (!stepId) return undefined
  const due = rack?.next.find((d) => d.event.stepId === stepId)
  const sheet = queries.getQueryData<Sheet>(['sheet', stepId, coat])
  const views = queries.getQueriesData<InstrumentView>({ queryKey: ['instrument'] }).map(([, view]) => view)
  const view = views.find((v) => v?.pieces.some((p) => p.steps.some((s) => s.stepId === stepId)))
  return due?.instrumentId ?? sheet?.instrumentId ?? view?.id
}
