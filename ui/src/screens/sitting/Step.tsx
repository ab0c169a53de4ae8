import { useState } from 'react'
import type { EventRef, SittingStep, SittingStep as StepView } from '../../api/client'
import { useOutbox, waitingFor } from '../../api/outbox'
import { useLog } from '../../frame/logging'
import { tell } from '../../frame/telling'
import { Button } from '../../parts/Button'
import { Figure } from '../../parts/Figure'
import { TimerButtons } from '../../parts/TimerButtons'
import { Batch } from './LayOut'

interface Props {
  step: StepView
  /** 2 of 5 */
  of: string
  sittingId: string
  /** Whether all of it is done now. */
  onLogged: (all: boolean) => void
}

const same = (a: EventRef, b: EventRef) => a.stepId === b.stepId && a.coat === b.coat

/** Step is one step of a sitting, to be read from two metres away: what to do, with what, and one tap when it is done. */
export function Step({ step, of, sittingId, onLogged }: Props) {
  const { log } = useLog()
  const outbox = useOutbox()
  const [without, setWithout] = useState<EventRef[]>([])
  const open = step.works.filter((w) => !w.done && !waitingFor(outbox, w.event.stepId, w.event.coat))
  const on = open.filter((w) => !without.some((e) => same(e, w.event)))
  const [first, ...rest] = on
  const { sheet } = step
  const title = `${sheet.title}, ${on.map((w) => `${w.name} ${w.piece}`).join(', ')}`
  const along = rest.map((w) => w.event)
  const logAll = async () => {
    if (!first) return
    const entry = { kind: 'done' as const, ...first.event, along: along.length > 0 ? along : undefined, sittingId }
    if ((await log(entry, title)) === 'logged') onLogged(on.length === open.length)
  }
  const toggle = (event: EventRef) =>
    setWithout(without.some((e) => same(e, event)) ? without.filter((e) => !same(e, event)) : [...without, event])
  return (
    <section aria-labelledby="step-head" className="text-lg" data-step={step.title}>
      <p className="text-ink-2">
        Step {of}, {step.minutes}
      </p>
      <h2 id="step-head" className="name text-3xl leading-tight md:text-4xl">
        {step.title}
      </h2>
      <Pieces step={step} left={without} toggle={toggle} />
      <p className="mt-4 text-xl md:text-2xl md:leading-9">{sheet.how}</p>
      {step.mix.map((b) => (
        <div key={b.title} className="mt-4 border-l-4 border-drying bg-drying-fill px-3 py-2 text-drying">
          <Batch batch={b} />
        </div>
      ))}
      <dl className="mt-4 grid grid-cols-[6rem_1fr] gap-x-3 gap-y-1">
        {sheet.lines.map((line) => (
          <div key={line.label} className="contents">
            <dt className="text-ink-2">{line.label}</dt>
            <dd>{line.working ? <Figure working={line.working}>{line.text}</Figure> : line.text}</dd>
          </div>
        ))}
        {sheet.check && (
          <>
            <dt className="text-ink-2">Look for</dt>
            <dd>
              {sheet.check.how} <b>Passed when:</b> {sheet.check.passWhen}
            </dd>
          </>
        )}
        {sheet.window && (
          <>
            <dt className="text-ink-2">Until</dt>
            <dd>{sheet.window}</dd>
          </>
        )}
      </dl>
      <TimerButtons
        big
        timers={sheet.timers}
        event={sheet.event}
        onStart={(timer) => void log({ kind: 'timed', ...sheet.event, timer, sittingId }, title)}
      />
      {first ? (
        <div className="mt-5 flex flex-wrap gap-3" data-event={`${first.event.stepId}/${first.event.coat}`}>
          <Button
            needs="bench"
            look="loud"
            className="min-h-16 flex-[2] px-6 text-xl"
            data-log={`${first.event.stepId}/${first.event.coat}`}
            onClick={() => void logAll()}
          >
            {sheet.logLabel}
            {rest.length > 0 && ` on ${on.length} pieces`}
          </Button>
          <Button
            needs="bench"
            className="min-h-16 flex-1 text-lg"
            data-more
            onClick={() => tell({ event: first.event, title, along, sittingId })}
          >
            Log with more…
          </Button>
          {sheet.kind === 'inspect' && (
            <Button
              needs="bench"
              className="min-h-16 flex-1 text-lg"
              onClick={() => void log({ kind: 'failed', ...first.event, sittingId }, `Not passed: ${title}`)}
            >
              Not passed
            </Button>
          )}
        </div>
      ) : (
        <p className="mt-5 font-semibold text-ready">
          {open.length > 0 ? 'Every piece is left out for now.' : 'Done.'}
        </p>
      )}
      <p className="mt-4 text-ink-2">Then: {sheet.then}</p>
    </section>
  )
}

/** Pieces are what one tap logs; any may be left out of it. */
function Pieces({ step, left, toggle }: { step: SittingStep; left: EventRef[]; toggle: (event: EventRef) => void }) {
  const several = step.works.length > 1
  return (
    <ul className="mt-2 flex flex-wrap gap-2" aria-label="Pieces">
      {step.works.map((w) => {
        const text = `${w.name} ${w.piece}`
        const out = left.some((e) => same(e, w.event))
        return (
          <li key={`${w.event.stepId}/${w.event.coat}`}>
            {several && !w.done ? (
              <button
                type="button"
                aria-pressed={!out}
                className="min-h-12 rounded-sm border border-ink-3 px-4 font-semibold aria-pressed:border-2 aria-pressed:border-ready aria-pressed:bg-ready-fill aria-pressed:text-ready"
                onClick={() => toggle(w.event)}
              >
                {out ? `${text}: not now` : text}
              </button>
            ) : (
              <span className={`inline-block py-2.5 font-semibold ${w.done ? 'text-ready' : ''}`}>
                {text}
                {w.done && ', logged'}
                {!w.done && !w.canLog && `, ${w.when}`}
              </span>
            )}
          </li>
        )
      })}
    </ul>
  )
}
