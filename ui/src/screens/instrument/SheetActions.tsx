import { useState } from 'react'
import type { Sheet } from '../../api/client'
import { useWaiting } from '../../api/outbox'
import { useLog } from '../../frame/logging'
import { Because } from '../../parts/Because'
import { Button } from '../../parts/Button'
import { NotSent } from '../../parts/NotSent'
import { Over } from '../../parts/Over'

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
      <LeaveOut sheet={sheet} />
    </div>
  )
}

/** LeaveOut asks for the reason: what is skipped on purpose is written down as such. */
function LeaveOut({ sheet }: { sheet: Sheet }) {
  const { log } = useLog()
  const [open, setOpen] = useState(false)
  const [reason, setReason] = useState('')
  return (
    <Over
      title={`Leave out ${sheet.title}`}
      open={open}
      onOpenChange={setOpen}
      trigger={<Button look="bare">Leave it out…</Button>}
    >
      <form
        onSubmit={(e) => {
          e.preventDefault()
          log(
            { kind: 'skipped', ...sheet.event, note: reason },
            `Left out: ${sheet.title}, ${sheet.name} ${sheet.piece}`,
          )
          setOpen(false)
        }}
      >
        <Because label="Because" value={reason} onChange={setReason} />
        <div className="mt-4 flex justify-end gap-3">
          <Button onClick={() => setOpen(false)}>Keep it in</Button>
          <Button look="loud" type="submit" disabled={reason.trim() === ''}>
            Leave it out
          </Button>
        </div>
      </form>
    </Over>
  )
}
