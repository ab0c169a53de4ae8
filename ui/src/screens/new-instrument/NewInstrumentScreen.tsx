import { keepPreviousData, useQuery } from '@tanstack/react-query'
import { useEffect, useState } from 'react'
import { useNavigate } from 'react-router'
import { Problem, api, type Forecast, type NewInstrument, type Reference } from '../../api/client'
import { refresh } from '../../api/fresh'
import { useReference } from '../../api/queries'
import { ScreenTitle } from '../../parts/ScreenTitle'
import { toast } from '../../parts/toasts'
import { Asking } from '../../parts/Asking'
import { forgetDraft, toRequest, useDraft } from './draft'
import { ForecastPanel } from './ForecastPanel'
import { Form } from './Form'

/** NewInstrumentScreen plans a job on one page: choices on one side, what they lead to on the other. */
export function NewInstrumentScreen() {
  const reference = useReference()
  return <Asking query={reference}>{(data) => <Full reference={data} />}</Asking>
}

function Full({ reference }: { reference: Reference }) {
  const { draft, change, start } = useDraft(reference)
  const navigate = useNavigate()
  const [tried, setTried] = useState(false)
  const [keeping, setKeeping] = useState(false)
  const request = useSettled(JSON.stringify(toRequest(draft)), 250)
  const forecast = useQuery({
    queryKey: ['forecast', request],
    queryFn: ({ signal }) => api.forecast(JSON.parse(request) as NewInstrument, signal), // a superseded one is given up
    placeholderData: keepPreviousData,
    retry: (count, error) => error instanceof Problem && error.away && count < 30,
  })
  const [refused, setRefused] = useState<{ problem: Problem; of: string }>()
  const asked = forecast.error instanceof Problem ? forecast.error : undefined
  // what keeping was refused for stands until something is changed: a forecast does without a name
  const problem = asked ?? (refused?.of === JSON.stringify(toRequest(draft)) ? refused.problem : undefined)

  const keepIt = async () => {
    setTried(true)
    if (asked && !asked.away) {
      window.setTimeout(showFault)
      return
    }
    setKeeping(true)
    try {
      const kept = await api.keep(toRequest(draft))
      forgetDraft()
      refresh('shop')
      toast({ text: `${kept.name} is planned`, detail: `Ready ${kept.outlook.finishDay}.` })
      await navigate(`/instruments/${kept.id}`)
    } catch (error) {
      if (error instanceof Problem && !error.away) setRefused({ problem: error, of: JSON.stringify(toRequest(draft)) })
      else await forecast.refetch()
      const detail = error instanceof Problem ? error.message : String(error)
      toast({ bad: true, text: 'Not kept yet. What you entered stays here.', detail })
      window.setTimeout(showFault)
    } finally {
      setKeeping(false)
    }
  }

  return (
    <div className="px-4 pb-4">
      <header className="flex flex-wrap items-baseline gap-x-4 py-3">
        <ScreenTitle tab="New instrument" />
        <p className="text-ink-2">Nothing is saved in the shop until you keep it.</p>
      </header>
      <div className="grid grid-cols-[minmax(0,1fr)] items-start gap-4 lg:grid-cols-[420px_minmax(0,1fr)]">
        <Form
          reference={reference}
          draft={draft}
          change={change}
          wish={(wish, field) => change({ wish }, field)}
          roles={forecast.data?.roles ?? []}
          own={forecast.data?.own}
          problem={problem}
          tried={tried}
          keeping={keeping}
          ready={forecast.data && readyText(forecast.data)}
          onKeep={() => void keepIt()}
          onStartOver={start}
        />
        <ForecastPanel
          forecast={forecast.data}
          problem={asked}
          checking={forecast.isFetching}
          request={toRequest(draft)}
          onChoose={(wish) => change({ wish }, 'wish')}
        />
      </div>
    </div>
  )
}

/** showFault brings the nearest fault of the form under somebody's eyes. */
function showFault() {
  const field = document.querySelector<HTMLElement>('form [aria-invalid=true]')
  field?.scrollIntoView({ block: 'center' })
  field?.focus({ preventScroll: true })
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
