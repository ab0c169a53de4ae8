import type { Change, EventRef, InstrumentView, Objection } from '../../api/client'
import { suppose, useSupposed } from '../../api/supposing'
import { Button } from '../../parts/Button'

interface Props {
  view: InstrumentView
  onChoose: (event: EventRef) => void
}

/** Objections are what the schedule gets wrong: why, and what one tap would do about it. */
export function Objections({ view, onChoose }: Props) {
  const supposed = useSupposed()
  if (view.objections.length === 0) return null
  return (
    <section className="panel mb-4 p-4" aria-labelledby="objections-title" data-objections>
      <h2 id="objections-title" className="name text-lg">
        {view.objections.length === 1
          ? 'One objection to this schedule'
          : `${view.objections.length} objections to this schedule`}
      </h2>
      <ul>
        {view.objections.map((o) => (
          <li
            key={`${o.rule} ${o.stepId}`}
            className={`mt-2 border-l-4 px-3 py-2 ${o.spoils ? 'border-late bg-late-fill' : 'border-closing bg-closing-fill'}`}
            data-objection={o.rule}
          >
            <p className={`font-semibold ${o.spoils ? 'text-late' : 'text-closing'}`}>
              {o.spoils ? 'Would spoil it: ' : 'Practice warns: '}
              {o.title}
            </p>
            <p className="mb-2 max-w-prose">{o.reason}</p>
            <div className="flex flex-wrap gap-3">
              {o.mend && (
                <Button disabled={supposed.some((c) => mends(c, o))} onClick={() => suppose(mendOf(view.id, o))}>
                  {o.mend}
                </Button>
              )}
              <Button look="bare" onClick={() => onChoose(eventOf(view, o))}>
                Look at the step
              </Button>
            </div>
          </li>
        ))}
      </ul>
    </section>
  )
}

const mendOf = (instrumentId: string, o: Objection): Change => ({
  kind: 'mend',
  instrumentId,
  rule: o.rule,
  stepId: o.stepId,
})

const mends = (c: Change, o: Objection) => c.kind === 'mend' && c.rule === o.rule && c.stepId === o.stepId

function eventOf(view: InstrumentView, o: Objection): EventRef {
  const step = view.pieces.flatMap((p) => p.steps).find((s) => s.stepId === o.stepId)
  return { stepId: o.stepId, coat: step?.nextCoat ?? 1 }
}
