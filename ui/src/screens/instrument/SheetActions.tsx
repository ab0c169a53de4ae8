import type { Sheet } from '../../api/client'
import { useWaiting } from '../../api/outbox'
import { useLog } from '../../frame/logging'
import { tell } from '../../frame/telling'
import { Button, LinkButton } from '../../parts/Button'
import { LeaveOut } from '../../parts/LeaveOut'
import { NotSent } from '../../parts/NotSent'
import { TimerButtons } from '../../parts/TimerButtons'
import { TestFilm } from './TestFilm'

/** SheetActions logs the event: one loud tap, one that says more, and what else may have become of it. */
export function SheetActions({ sheet }: { sheet: Sheet }) {
  const { stepId, coat } = sheet.event
  const { log } = useLog()
  const waiting = useWaiting(stepId, coat)
  const title = `${sheet.title}, ${sheet.name} ${sheet.piece}`
  return (
    <>
      {waiting && <NotSent />}
      {!waiting && !sheet.done && <Actions sheet={sheet} title={title} />}
      <TimerButtons
        timers={sheet.timers}
        event={sheet.event}
        onStart={(timer) => void log({ kind: 'timed', stepId, coat, timer }, title)}
      />
      {sheet.test && <TestFilm test={sheet.test} of={`${sheet.name} ${sheet.piece}`} />}
    </>
  )
}

function Actions({ sheet, title }: { sheet: Sheet; title: string }) {
  const { log } = useLog()
  const { stepId, coat } = sheet.event
  const { rounds } = sheet
  return (
    <div className="flex flex-wrap gap-3" data-event={`${stepId}/${coat}`}>
      <Button
        needs="bench"
        look={sheet.canLog ? 'loud' : 'plain'}
        data-log={`${stepId}/${coat}`}
        onClick={() => void log({ kind: 'done', stepId, coat }, title)}
      >
        {sheet.logLabel}
      </Button>
      <Button needs="bench" data-more onClick={() => tell({ event: sheet.event, title })}>
        Log with more…
      </Button>
      <LinkButton needs="bench" to={`/sitting?step=${stepId}&coat=${coat}`}>
        Start sitting
      </LinkButton>
      {sheet.behind > 0 && (
        <Button
          needs="bench"
          data-catch-up
          onClick={() => void log({ kind: 'done', stepId, coat }, `All up to ${title}`)}
        >
          All done up to here
        </Button>
      )}
      {sheet.kind === 'inspect' && (
        <Button needs="bench" onClick={() => void log({ kind: 'failed', stepId, coat }, `Not passed: ${title}`)}>
          Not passed
        </Button>
      )}
      {rounds !== undefined && (
        <Button
          needs="bench"
          data-settle
          onClick={() => void log({ kind: 'settled', stepId, coat: rounds }, `Enough after ${rounds}: ${title}`)}
        >
          {rounds === 1 ? 'One round was enough' : `${rounds} rounds were enough`}
        </Button>
      )}
      <LeaveOut
        bare
        what={sheet.title}
        onLeave={(note) => void log({ kind: 'skipped', ...sheet.event, note }, `Left out: ${title}`)}
      />
    </div>
  )
}
