import { useMutation } from '@tanstack/react-query'
import { Problem, api, type EditView, type InstrumentView } from '../../../api/client'
import { refresh } from '../../../api/fresh'
import { useWhoKnown } from '../../../api/who'
import { Button } from '../../../parts/Button'
import { toast } from '../../../parts/toasts'
import { movedText } from '../../../parts/words'
import { RepairButton } from './Repair'
import { SaveSchedule } from './SaveSchedule'

interface Props {
  view: InstrumentView
  open: boolean
  /** Changes wait to be kept or dropped. */
  pending: boolean
  onOpen: (on: boolean) => void
}

/** ScheduleBar opens the schedule to be changed by hand, and takes back what was changed last. */
export function ScheduleBar({ view, open, pending, onOpen }: Props) {
  const last = view.undo ?? view.redo
  return (
    <div className="panel mb-2 p-2" data-schedule-bar>
      <div className="flex flex-wrap gap-2">
        <Button
          look={open ? 'dark' : 'plain'}
          className="grow px-2"
          aria-pressed={open}
          disabled={pending}
          onClick={() => onOpen(!open)}
        >
          {open ? 'Changing the schedule' : 'Change the schedule'}
        </Button>
        <RepairButton view={view} label="Put damage right…" />
        {open && <SaveSchedule view={view} />}
        {view.undo && <Turn view={view} edit={view.undo} back />}
        {view.redo && <Turn view={view} edit={view.redo} />}
      </div>
      {last && (
        <p className="px-1 pt-1 text-[13px] text-ink-2" data-last-change>
          {view.undo ? 'Changed' : 'Taken back'} {last.at.said}
          {last.by && `, ${last.by}`}: {last.said.join('; ')}
        </p>
      )}
    </div>
  )
}

function Turn({ view, edit, back }: { view: InstrumentView; edit: EditView; back?: boolean }) {
  const who = useWhoKnown()
  const turn = useMutation({
    mutationFn: async () => {
      const body = { instrumentId: view.id, editId: edit.id, personId: await who() }
      return back ? api.undo(body) : api.redo(body)
    },
    networkMode: 'always',
    onSuccess: (kept) => {
      toast({ text: kept.changes.join('; '), detail: movedText(kept.moved) })
      refresh('shop')
    },
    onError: (error) => {
      const detail = error instanceof Problem && error.faults[0] ? error.faults[0].message : error.message
      toast({ bad: true, text: back ? 'Not taken back' : 'Not made again', detail })
      refresh('shop')
    },
  })
  return (
    <Button
      className="px-3"
      aria-label={`${back ? 'Undo' : 'Redo'}: ${edit.said.join('; ')}`}
      disabled={turn.isPending}
      onClick={() => turn.mutate()}
    >
      {back ? 'Undo' : 'Redo'}
    </Button>
  )
}
