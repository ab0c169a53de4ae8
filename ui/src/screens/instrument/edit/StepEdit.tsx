import { Problem, type InstrumentView, type StepRow } from '../../../api/client'
import { useReference, useWhatIf } from '../../../api/queries'
import { useSupposed } from '../../../api/supposing'
import { useProblem } from '../../../parts/useLast'
import type { Editing } from './editing'
import { StepActs } from './StepActs'
import { StepFields } from './StepFields'

interface Props {
  view: InstrumentView
  editing: Editing
  stepId?: string
  onGoTo: (stepId: string) => void
}

/** StepEdit is the chosen step while the schedule is changed by hand. */
export function StepEdit({ view, editing, stepId, onGoTo }: Props) {
  const reference = useReference().data
  const faults = useFaults(stepId)
  const piece = editing.pieces.find((p) => p.steps.some((s) => s.stepId === stepId))
  const step = piece?.steps.find((s) => s.stepId === stepId)
  if (!reference || !piece || !step) return null
  return (
    <section className="panel p-4" aria-labelledby="edit-title" data-step-edit={step.stepId}>
      <h2 id="edit-title" className="name mb-1 text-xl">
        {step.title}
      </h2>
      <p className="mb-3 text-ink-2">{about(step)}</p>
      {step.out && (
        <p className="mb-3 border-l-4 border-closing pl-3">
          <b>Left out:</b> {step.out}
        </p>
      )}
      <StepActs
        key={`acts ${step.stepId}`}
        view={view}
        step={step}
        piece={piece}
        pieces={editing.pieces}
        reference={reference}
        change={editing.change}
        onGoTo={onGoTo}
      />
      {!step.out && step.done < step.coats && (
        <div className="mt-4 border-t border-line pt-4">
          <StepFields
            key={step.stepId}
            step={step}
            piece={piece}
            view={view}
            pieces={editing.pieces}
            reference={reference}
            faults={faults}
            set={(fields) => editing.set(step, fields)}
          />
        </div>
      )}
    </section>
  )
}

function about(step: StepRow) {
  if (step.done >= step.coats) return 'It is done: what happened is not changed. It can be done once more.'
  if (step.done > 0)
    return `${step.done} of ${step.coats} done: they stay as they were done, and what you change here is the rest.`
  return [step.minutes, step.when, step.where].filter(Boolean).join(' · ')
}

/** useFaults is what is wrong with the changes of a step, by field. */
function useFaults(stepId?: string): Record<string, string> {
  const supposed = useSupposed()
  const problem = useProblem(useWhatIf(supposed))
  const faults: Record<string, string> = {}
  if (!(problem instanceof Problem)) return faults
  for (const f of problem.faults) {
    const [, at, field] = /changes\[(\d+)\]\.edit\.fields\.(\w+)/.exec(f.location) ?? []
    if (at !== undefined && field && supposed[Number(at)]?.edit?.stepId === stepId) faults[field] = f.message
  }
  return faults
}
