import { useForm } from 'react-hook-form'
import { tryAgain } from '../api/outbox'
import type { Waiting } from '../api/store'
import { Button } from '../parts/Button'
import { bind, useValues } from '../parts/fields/bind'
import { Day } from '../parts/fields/Day'
import { Text } from '../parts/fields/Text'
import { toast } from '../parts/toasts'
import { useMoment, useWall } from '../parts/zone'

/** Correct puts an entry right before the shop has it: what was written, and when it happened. */
export function Correct({ waiting, close }: { waiting: Waiting; close: () => void }) {
  const moment = useMoment()
  const wall = useWall()
  const { entry, at } = waiting
  const form = useForm({ defaultValues: { note: entry.note ?? '', happened: wall(entry.happenedAt ?? at) } })
  useValues(form)
  const keep = async ({ note, happened }: { note: string; happened: string }) => {
    const happenedAt = happened ? moment(happened) : (entry.happenedAt ?? at)
    if (!(await tryAgain(waiting, { note: note.trim() || undefined, happenedAt })))
      toast({
        bad: true,
        text: 'It was sent before it was put right',
        detail: 'Strike it in the log of its instrument, and log it again.',
      })
    close()
  }
  return (
    <form
      className="my-2 grid max-w-xl gap-3 border-t border-closing py-3 text-ink sm:grid-cols-2"
      onSubmit={(e) => void form.handleSubmit(keep)(e)}
    >
      <Text label="Note" maxLength={2000} autoFocus {...bind(form, 'note')} />
      <Day moment label="Done since" {...bind(form, 'happened')} />
      <div className="flex justify-end gap-3 sm:col-span-2">
        <Button onClick={close}>Leave it</Button>
        <Button type="submit" look="loud">
          Keep it so
        </Button>
      </div>
    </form>
  )
}
