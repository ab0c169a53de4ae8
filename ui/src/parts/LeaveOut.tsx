import { useState } from 'react'
import { Because } from './Because'
import { Button } from './Button'
import { Over } from './Over'

interface Props {
  what: string
  /** What becomes of it. */
  says?: string
  bare?: boolean
  onLeave: (reason: string) => void
}

/** LeaveOut asks for the reason: what is left out on purpose is written down as such. */
export function LeaveOut({ what, says, bare, onLeave }: Props) {
  const [open, setOpen] = useState(false)
  const [reason, setReason] = useState('')
  return (
    <Over
      title={`Leave out ${what}`}
      open={open}
      onOpenChange={setOpen}
      trigger={
        <Button needs="bench" look={bare ? 'bare' : 'plain'}>
          Leave it out…
        </Button>
      }
    >
      <form
        onSubmit={(e) => {
          e.preventDefault()
          onLeave(reason)
          setOpen(false)
        }}
      >
        {says && <p className="mb-2">{says}</p>}
        <Because label="Because" value={reason} onChange={setReason} />
        <div className="mt-4 flex justify-end gap-3">
          <Button needs="bench" onClick={() => setOpen(false)}>
            Keep it in
          </Button>
          <Button needs="bench" look="loud" type="submit" disabled={reason.trim() === ''}>
            Leave it out
          </Button>
        </div>
      </form>
    </Over>
  )
}
