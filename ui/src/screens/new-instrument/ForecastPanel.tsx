import { Tabs } from 'radix-ui'
import type { Forecast, NewInstrument, PieceView, Problem, Wish } from '../../api/client'
import { KindMark } from '../../parts/BeadMark'
import { LatestStart, Slack } from '../../parts/OutlookFigures'
import { StateChip } from '../../parts/StateChip'
import { Told } from '../../parts/Told'
import { Threads } from '../../parts/threads/Threads'
import { Schools } from './Schools'

/** ForecastPanel is what the choices lead to: dates, threads and every step, before anything is kept. */
export function ForecastPanel({
  forecast,
  problem,
  checking,
  request,
  onChoose,
}: {
  forecast?: Forecast
  problem?: Problem
  checking: boolean
  request: NewInstrument
  onChoose: (wish: Wish) => void
}) {
  if (!forecast)
    return (
      <section className="panel p-6" aria-live="polite">
        <h2 className="name mb-2 text-xl">The schedule appears here</h2>
        <p className="max-w-prose text-ink-2">
          {problem?.away
            ? problem.message
            : problem
              ? 'What is wrong stands beside its field. Put right, its steps stand here with their dates: when each coat can go on, and whether the promise holds.'
              : 'Working it out…'}
        </p>
      </section>
    )
  return (
    <section className="panel space-y-4 p-4" aria-live="polite" aria-busy={checking} data-forecast>
      <Summary forecast={forecast} promised={request.promise !== ''} stale={problem !== undefined && !problem.away} />
      <Threads days={forecast.days} pieces={forecast.pieces} outlook={forecast.outlook} now={forecast.now.at} />
      <Tabs.Root defaultValue="schools">
        <Tabs.List aria-label="What it comes to" className="flex border-b border-line">
          {[
            { id: 'schools', text: `Where schools differ (${forecast.choices.length})` },
            { id: 'steps', text: 'Every step' },
          ].map((tab) => (
            <Tabs.Trigger
              key={tab.id}
              value={tab.id}
              className="name min-h-11 px-4 text-ink-2 data-[state=active]:border-b-3 data-[state=active]:border-umber data-[state=active]:text-ink"
            >
              {tab.text}
            </Tabs.Trigger>
          ))}
        </Tabs.List>
        <Tabs.Content value="schools" tabIndex={-1}>
          <Schools choices={forecast.choices} request={request} now={forecast.now.at} onChoose={onChoose} />
        </Tabs.Content>
        <Tabs.Content value="steps" tabIndex={-1} className="grid gap-x-6 gap-y-4 pt-3 xl:grid-cols-2">
          {forecast.pieces.map((piece) => (
            <Steps key={piece.id} piece={piece} />
          ))}
        </Tabs.Content>
      </Tabs.Root>
    </section>
  )
}

function Summary({ forecast, promised, stale }: { forecast: Forecast; promised: boolean; stale: boolean }) {
  const { outlook } = forecast
  return (
    <div>
      <p className="flex flex-wrap items-baseline gap-x-4 gap-y-1">
        <span className="name text-2xl">{outlook.impossible ? 'Cannot be placed' : `Ready ${outlook.finishDay}`}</span>
        {(promised || outlook.late) && (
          <StateChip state={outlook.late ? 'late' : 'ready'}>
            {!outlook.late && 'slack '}
            <Slack outlook={outlook} />
          </StateChip>
        )}
        <span className="text-ink-2">
          {forecast.coats} coats, {forecast.handsOn} of hands-on work, a redo {forecast.redo}, latest start{' '}
          <LatestStart outlook={outlook} />
        </span>
      </p>
      {outlook.show && <p className={outlook.show.late ? 'text-late' : 'text-ink-2'}>{outlook.show.text}.</p>}
      {stale && <p className="text-closing">These dates are of the last choices that could be planned.</p>}
      {forecast.notes.map((note) => (
        <p key={note} className={/^(This promise|It cannot)/.test(note) ? 'text-late' : 'text-ink-2'}>
          {note}
        </p>
      ))}
      {forecast.moved.map((m) => (
        <p key={m.instrumentId} className="text-late">
          {m.days === 0 ? `${m.name} ${m.text}.` : `${m.name} would move from ${m.before} to ${m.after}.`}
        </p>
      ))}
    </div>
  )
}

function Steps({ piece }: { piece: PieceView }) {
  return (
    <div>
      <h3 className="name text-lg">{piece.kind}</h3>
      <ol>
        {piece.steps.map((step) => (
          <li
            key={step.stepId}
            className="grid grid-cols-[20px_1fr_auto] items-center gap-x-2 border-t border-line py-1"
          >
            <KindMark kind={step.kind} method={step.method} className="size-5 text-umber" />
            <span className="min-w-0">
              {step.title}
              {step.coats > 1 && <span className="text-ink-2"> × {step.coats}</span>}
              {step.about && <span className="block text-sm text-ink-2">{step.about}</span>}
            </span>
            <Told more={step.start?.full} className="text-sm text-ink-2">
              {step.when}
            </Told>
          </li>
        ))}
      </ol>
    </div>
  )
}
