import { useState } from 'react'
import { useNavigate, useParams } from 'react-router'
import { Problem, api, type SittingStep, type SittingView } from '../../api/client'
import { refresh } from '../../api/fresh'
import { useOutbox, waitingFor } from '../../api/outbox'
import { queries, useSitting } from '../../api/queries'
import { Asking } from '../../parts/Asking'
import { Button, LinkButton } from '../../parts/Button'
import { ScreenTitle } from '../../parts/ScreenTitle'
import { toast } from '../../parts/toasts'
import { LayOut } from './LayOut'
import { Step } from './Step'
import { useAwake } from './useAwake'

/** SittingScreen is one sitting on a whole screen: one step at a time, in large type. */
export function SittingScreen() {
  const { id = '' } = useParams()
  const sitting = useSitting(id)
  useAwake()
  return <Asking query={sitting}>{(view) => <Full key={id} id={id} view={view} />}</Asking>
}

function Full({ id, view }: { id: string; view: SittingView }) {
  const outbox = useOutbox()
  const [chosen, setChosen] = useState<number>()
  const done = (step: SittingStep) =>
    step.works.every((w) => w.done || waitingFor(outbox, w.event.stepId, w.event.coat) !== undefined)
  const open = view.work.findIndex((s) => !done(s))
  const at = chosen ?? (open < 0 ? view.work.length : open)
  const step = view.work[at]
  return (
    <div className="mx-auto flex min-h-dvh max-w-5xl flex-col px-4 pb-4 md:px-8" data-sitting={id}>
      <header className="flex flex-wrap items-center gap-x-4 gap-y-2 border-b border-line py-2">
        <ScreenTitle tab="Sitting" />
        <p className="text-ink-2">
          {view.place}, {view.by}, {view.when}
        </p>
        <div className="ml-auto flex gap-2">
          <LinkButton to="/rack">To the rack</LinkButton>
          <End id={id} over={view.ended !== undefined} />
        </div>
      </header>
      <nav aria-label="Steps of this sitting" className="flex flex-wrap gap-2 py-3">
        {view.work.map((s, i) => (
          <button
            key={s.sheet.event.stepId + String(i)}
            type="button"
            aria-current={i === at ? 'step' : undefined}
            aria-label={`Step ${i + 1}: ${s.title}${done(s) ? ', done' : ''}`}
            className={`min-h-11 min-w-11 rounded-sm border px-3 font-bold aria-[current]:border-2 aria-[current]:border-ink aria-[current]:bg-drying-fill ${done(s) ? 'border-ready bg-ready-fill text-ready' : 'border-ink-3'}`}
            onClick={() => setChosen(i)}
          >
            {done(s) ? '✓' : i + 1}
          </button>
        ))}
      </nav>
      <p className="sr-only" aria-live="polite">
        {step ? `Step ${at + 1} of ${view.work.length}: ${step.title}` : 'All of it is done'}
      </p>
      {step ? (
        <Step
          key={at}
          step={step}
          of={`${at + 1} of ${view.work.length}`}
          sittingId={id}
          onLogged={(all) => setChosen(all ? undefined : Math.min(at + 1, view.work.length))}
        />
      ) : (
        <AllDone />
      )}
      <div className="mt-auto flex gap-3 pt-6">
        <Button className="min-h-14 flex-1 text-lg" disabled={at === 0} onClick={() => setChosen(at - 1)}>
          Step before
        </Button>
        <Button className="min-h-14 flex-1 text-lg" disabled={at >= view.work.length} onClick={() => setChosen(at + 1)}>
          Next step
        </Button>
      </div>
      <details className="mt-4 border-t border-line pt-2">
        <summary className="min-h-11 cursor-pointer py-2 font-semibold">All that is laid out</summary>
        <LayOut sitting={view} />
      </details>
    </div>
  )
}

function AllDone() {
  return (
    <div className="panel p-6">
      <h2 className="name mb-2 text-3xl">All of it is done</h2>
      <p className="text-lg text-ink-2">
        Clean gun, brushes and cups; rags out flat or under water. Then end the sitting.
      </p>
    </div>
  )
}

/** End ends a sitting; one that was ended goes on after all. */
function End({ id, over }: { id: string; over: boolean }) {
  const navigate = useNavigate()
  const change = async () => {
    try {
      queries.setQueryData(['sitting', id], await api.changeSitting({ id, ended: !over }))
      refresh('shop')
      if (!over) await navigate('/rack')
    } catch (error) {
      const detail = error instanceof Problem ? error.message : String(error)
      toast({ bad: true, text: 'It was not ended', detail: `${detail} What is logged is kept all the same.` })
    }
  }
  return (
    <Button look="dark" onClick={() => void change()}>
      {over ? 'Go on after all' : 'End sitting'}
    </Button>
  )
}
