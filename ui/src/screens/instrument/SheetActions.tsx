import { Dialog } from 'radix-ui'
import { useState } from 'react'
import type { Sheet } from '../../api/client'
import { useLog } from '../../frame/logging'
import { Because } from '../../parts/Because'
import { Button } from '../../parts/Button'

/** SheetActions logs the event: one loud tap, and what else may have become of it. */
export function SheetActions({ sheet }: { sheet: Sheet }) {
  const { log } = useLog()
  if (sheet.done) return null
  const { stepId, coat } = sheet.event
  return (
    <div className="flex flex-wrap gap-3" data-event={`${stepId}/${coat}`}>
      <Button
        look={sheet.canLog ? 'loud' : 'plain'}
        data-log={`${stepId}/${coat}`}
        onClick={() => log({ kind: 'done', stepId, coat })}
      >
        {sheet.logLabel}
      </Button>
      {sheet.kind === 'inspect' && <Button onClick={() => log({ kind: 'failed', stepId, coat })}>Not passed</Button>}
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
    <Dialog.Root open={open} onOpenChange={setOpen}>
      <Dialog.Trigger asChild>
        <Button look="bare">Leave it out…</Button>
      </Dialog.Trigger>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 z-40 bg-band/60" />
        <Dialog.Content
          aria-describedby={undefined}
          className="fixed top-1/2 left-1/2 z-50 w-[28rem] max-w-[calc(100vw-2rem)] -translate-1/2 border-t-3 border-umber bg-panel p-6"
        >
          <Dialog.Title className="name mb-3 text-xl">Leave out {sheet.title}</Dialog.Title>
          <form
            onSubmit={(e) => {
              e.preventDefault()
              log({ kind: 'skipped', ...sheet.event, note: reason })
              setOpen(false)
            }}
          >
            <Because label="Because" value={reason} onChange={setReason} />
            <div className="mt-4 flex justify-end gap-3">
              <Dialog.Close asChild>
                <Button>Keep it in</Button>
              </Dialog.Close>
              <Button look="loud" type="submit" disabled={reason.trim() === ''}>
                Leave it out
              </Button>
            </div>
          </form>
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  )
}
