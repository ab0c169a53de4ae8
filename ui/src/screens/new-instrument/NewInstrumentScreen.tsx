import { keepPreviousData, useQuery } from '@tanstack/react-query'
import { useEffect, useState } from 'react'
import { useNavigate } from 'react-router'
import { Problem, api, type Forecast, type NewInstrument, type Reference } from '../../api/client'
import { refresh } from '../../api/fresh'
import { useReference } from '../../api/queries'
import { Asking } from '../../parts/Asking'
import { ScreenTitle } from '../../parts/ScreenTitle'
import { Threads } from '../../parts/threads/Threads'
import { toast } from '../../parts/toasts'
import { useLast, useProblem } from '../../parts/useLast'
import { Begin } from './Begin'
import { forgetDraft, toRequest, useDraft } from './draft'
import { EveryStep } from './EveryStep'
import { Faults } from './Faults'
import type { StackProps } from './fields'
import { JobPanel, KeepBar } from './JobPanel'
import { Objections } from './Objections'
import { Outcome } from './Outcome'
import { WholePanel } from './WholePanel'
import { Workbench } from './Workbench'

/** NewInstrumentScreen plans a job on one page: the stack and its drawing, and what they lead to. */
export function NewInstrumentScreen() {
  const reference = useReference()
  return <Asking query={reference}>{(data) => <Full reference={data} />}</Asking>
}

function Full({ reference }: { reference: Reference }) {
  const { draft, change, start } = useDraft(reference)
  const request = useSettled(JSON.stringify(toRequest(draft)), settles)
  const forecast = useForecast(request)
  const asked = useProblem(forecast)
  const { keeping, tried, refused, keepIt } = useKeeping(toRequest(draft), asked, () => void forecast.refetch())
  const data = useLast(forecast.data)
  const props: StackProps = {
    reference,
    draft,
    change,
    wish: (wish, field) => change({ wish }, field),
    composed: data,
    own: data?.own,
    // what keeping was refused for stands until something is changed: a forecast does without a name
    problem: asked ?? refused,
    tried,
    request: toRequest(draft),
    running: false,
    now: data?.now.at ?? '',
  }
  return (
    <div className="px-4 pb-4">
      <header className="flex flex-wrap items-center gap-x-6 gap-y-2 py-3 print:hidden">
        <div>
          <ScreenTitle tab="New instrument" />
          <p className="text-ink-2">Nothing is saved in the shop until you keep it.</p>
        </div>
        <Begin {...props} />
      </header>
      <Result forecast={data} problem={asked} checking={forecast.isFetching} promised={draft.promise !== ''} />
      <div className="mt-4 grid grid-cols-[minmax(0,1fr)] items-start gap-4 lg:grid-cols-[minmax(0,1fr)_300px] print:hidden">
        <Workbench {...props} />
        <div className="min-w-0 space-y-4 lg:mt-[52px]">
          <JobPanel {...props} onKeep={keepIt} />
          {data && <Objections objections={data.objections} notes={data.notes.filter((note) => !ofPromise(note))} />}
          <WholePanel {...props} />
        </div>
      </div>
      {data && (
        <div className="mt-4">
          <EveryStep pieces={data.pieces} />
        </div>
      )}
      <KeepBar keeping={keeping} ready={data && readyText(data)} onStartOver={start} />
    </div>
  )
}

/** How long somebody has to pause before the shop is asked: a little more than between two letters. */
const settles = 120

/** useForecast asks what a new instrument comes to; a superseded question is given up. */
const useForecast = (request: string) =>
  useQuery({
    queryKey: ['forecast', request],
    queryFn: ({ signal }) => api.forecast(JSON.parse(request) as NewInstrument, signal),
    placeholderData: keepPreviousData,
    retry: (count, error) => error instanceof Problem && error.away && count < 30,
  })

/** useKeeping keeps the instrument, or shows what stands against it. */
function useKeeping(request: NewInstrument, asked: Problem | undefined, again: () => void) {
  const navigate = useNavigate()
  const [tried, setTried] = useState(false)
  const [keeping, setKeeping] = useState(false)
  const [refused, setRefused] = useState<{ problem: Problem; of: string }>()
  const keep = async () => {
    setTried(true)
    if (asked && !asked.away) {
      window.setTimeout(showFault)
      return
    }
    setKeeping(true)
    try {
      const kept = await api.keep(request)
      forgetDraft()
      refresh('shop')
      toast({ text: `${kept.name} is planned`, detail: `Ready ${kept.outlook.finishDay}.` })
      await navigate(`/instruments/${kept.id}`)
    } catch (error) {
      if (error instanceof Problem && !error.away) setRefused({ problem: error, of: JSON.stringify(request) })
      else again()
      const detail = error instanceof Problem ? error.message : String(error)
      toast({ bad: true, text: 'Not kept yet. What you entered stays here.', detail })
      window.setTimeout(showFault)
    } finally {
      setKeeping(false)
    }
  }
  return {
    keeping,
    tried,
    refused: refused?.of === JSON.stringify(request) ? refused.problem : undefined,
    keepIt: () => void keep(),
  }
}

interface ResultProps {
  forecast?: Forecast
  problem?: Problem
  checking: boolean
  promised: boolean
}

/** Result is what the choices lead to: the day, the hours, and the threads. */
function Result({ forecast, problem, checking, promised }: ResultProps) {
  if (!forecast)
    return (
      <section className="panel p-6" aria-live="polite">
        <h2 className="name mb-2 text-xl">The schedule appears here</h2>
        {problem && !problem.away ? (
          <>
            <Faults problem={problem} />
            <p className="max-w-prose text-ink-2">
              Put right, its steps stand here with their dates: when each coat can go on, and whether the promise holds.
            </p>
          </>
        ) : (
          <p className="max-w-prose text-ink-2">{problem ? problem.message : 'Working it out…'}</p>
        )}
      </section>
    )
  return (
    <section className="panel space-y-2 p-4" aria-busy={checking} data-forecast>
      <div aria-live="polite">
        <Outcome {...forecast} promised={promised} stale={problem !== undefined && !problem.away}>
          {problem && !problem.away && <Faults problem={problem} />}
          {forecast.notes.filter(ofPromise).map((note) => (
            <p key={note} className="text-late">
              {note}
            </p>
          ))}
          {forecast.moved.map((m) => (
            <p key={m.instrumentId} className="text-late">
              {m.days === 0 ? `${m.name} ${m.text}.` : `${m.name} would move from ${m.before} to ${m.after}.`}
            </p>
          ))}
        </Outcome>
      </div>
      <Threads days={forecast.days} pieces={forecast.pieces} outlook={forecast.outlook} now={forecast.now.at} />
    </section>
  )
}

/** ofPromise reports whether a note says that the promise will not hold: it stands with the day. */
const ofPromise = (note: string) => /^(This promise|It cannot)/.test(note)

/** showFault brings the nearest fault under somebody's eyes. */
function showFault() {
  const field = document.querySelector<HTMLElement>('main [aria-invalid=true], main [data-fault]')
  field?.scrollIntoView({ block: 'center' })
  ;(field?.closest('button') ?? field)?.focus({ preventScroll: true })
}

const readyText = ({ outlook }: Forecast) =>
  outlook.impossible
    ? `It cannot be placed: ${outlook.impossible}`
    : `Ready ${outlook.finishDay}${outlook.late ? ', late' : ''}`

/** useSettled follows a value once it has stood still for a moment. */
function useSettled(value: string, ms: number) {
  const [settled, setSettled] = useState(value)
  useEffect(() => {
    const timer = window.setTimeout(() => setSettled(value), ms)
    return () => window.clearTimeout(timer)
  }, [value, ms])
  return settled
}
