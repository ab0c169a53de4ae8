import type { Sheet } from '../../api/client'
import { useWaiting } from '../../api/outbox'
import { useLog } from '../../frame/logging'
import { Button } from '../../parts/Button'
import { LeaveOut } from '../../parts/LeaveOut'
import { NotSent } from '../../parts/NotSent'

/** SheetActions logs the event: one loud tap, and what else may have become of it. */
export function SheetActions({ sheet }: { sheet: Sheet }) {
  const { log } = useLog()
  const { stepId, coat } = sheet.event
  const waiting = useWaiting(stepId, coat)
  if (waiting) return <NotSent />
  if (sheet.done) return null
  const title = `${sheet.title}, ${sheet.name} ${sheet.piece}`
  return (
    <div className="flex flex-wrap gap-3" data-event={`${stepId}/${coat}`}>
      <Button
        look={sheet.canLog ? 'loud' : 'plain'}
        data-log={`${stepId}/${coat}`}
        onClick={() => log({ kind: 'done', stepId, coat }, title)}
      >
        {sheet.logLabel}
      </Button>
      {sheet.kind === 'inspect' && (
        <Button onClick={() => log({ kind: 'failed', stepId, coat }, `Not passed: ${title}`)}>Not passed</Button>
      )}
      <LeaveOut
        bare
        what={sheet.title}
        onLeave={(note) => log({ kind: 'skipped', ...sheet.event, note }, `Left out: ${title}`)}
      />
    </div>
  )
}
