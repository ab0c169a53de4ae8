import { useEffect, useRef } from 'react'
import { useParams, useSearchParams } from 'react-router'
import type { EventRef, InstrumentView, PieceView, Sheet } from '../../api/client'
import { useConnection } from '../../api/connection'
import { queries, useInstrument } from '../../api/queries'
import { Asking } from '../../parts/Asking'
import { ScreenTitle } from '../../parts/ScreenTitle'
import { Threads } from '../../parts/threads/Threads'
import { Aside } from './Aside'
import { Care } from './Care'
import { EditEffect } from './edit/EditEffect'
import { markOf, useEditing } from './edit/editing'
import { ScheduleBar } from './edit/ScheduleBar'
import { StepEdit } from './edit/StepEdit'
import { Head } from './Head'
import { HistoryPanel } from './HistoryPanel'
import { LogPanel } from './LogPanel'
import { LookPanel } from './LookPanel'
import { Objections } from './Objections'
import { SheetPanel } from './SheetPanel'
import { StepList } from './StepList'

/** InstrumentScreen is one job: its threads, its steps, the chosen step, its log. */
export function InstrumentScreen() {
  const { id = '' } = useParams()
  const instrument = useInstrument(id)
  const kept = useKeptSheet(instrument.isPending || instrument.isError)
  if (kept && instrument.data === undefined)
    return (
      <div className="mx-auto max-w-2xl space-y-3 p-4">
        <ScreenTitle tab={`${kept.name} ${kept.piece}`} />
        <p className="text-ink-2">
          This sheet is from this device. The rest of the instrument comes when the shop can be reached.
        </p>
        <SheetPanel event={kept.event} />
      </div>
    )
  return <Asking query={instrument}>{(view) => <Full key={view.id} view={view} />}</Asking>
}

/** useKeptSheet is the sheet that the address names, as this device has it, while the shop cannot be reached. */
function useKeptSheet(wanted: boolean) {
  const [params] = useSearchParams()
  const away = useConnection() !== 'ok'
  if (!wanted || !away) return undefined
  return queries.getQueryData<Sheet>(['sheet', params.get('step'), Number(params.get('coat'))])
}

function Full({ view }: { view: InstrumentView }) {
  const [params, setParams] = useSearchParams()
  const editing = useEditing(view)
  const open = params.has('edit') || editing.changes.length > 0
  const { pieces, edited } = editing
  const chosen = chosenEvent(pieces, view.next, params)
  const go = (to: Record<string, string>) => setParams({ ...to, ...(open && { edit: '' }) }, { replace: true })
  useOnwards(view, chosen, () => go({}))
  const choose = (event: EventRef) => go({ step: event.stepId, coat: String(event.coat) })
  return (
    <div className="px-4 pb-4">
      <Head view={view} onCare={() => setParams({ care: '' }, { replace: true })} />
      <Aside view={view} />
      {params.has('care') && !view.archived && <Care view={view} close={() => go({})} />}
      <Threads
        days={edited?.days ?? view.days}
        pieces={pieces}
        outlook={edited?.outlook ?? view.outlook}
        now={view.now.at}
        critical={edited ? undefined : view.critical}
        chosen={chosen}
        onChoose={choose}
      />
      <div className="mt-3 grid grid-cols-[minmax(0,1fr)] items-start gap-4 md:grid-cols-[250px_minmax(0,1fr)] xl:grid-cols-[260px_minmax(0,1fr)_300px]">
        <div className="order-2 md:order-1 md:row-span-2 xl:row-span-1">
          {!view.archived && (
            <ScheduleBar
              view={view}
              open={open}
              pending={editing.changes.length > 0}
              onOpen={(on) => setParams(on ? { ...Object.fromEntries(params), edit: '' } : {}, { replace: true })}
            />
          )}
          <StepList
            pieces={pieces}
            chosen={chosen}
            onChoose={choose}
            mark={open ? (step) => markOf(step, view, editing) : undefined}
          />
        </div>
        <div className="order-1 md:order-2">
          <Objections view={{ ...view, pieces, objections: edited?.objections ?? view.objections }} onChoose={choose} />
          {open ? (
            <StepEdit
              view={view}
              editing={editing}
              stepId={chosen?.stepId}
              onGoTo={(stepId) => choose({ stepId, coat: 1 })}
            />
          ) : (
            !view.archived && <SheetPanel event={chosen} />
          )}
          <div className="mt-4 first:mt-0">
            <HistoryPanel moves={view.history} />
          </div>
        </div>
        <div className="order-3">
          {open && <EditEffect answer={editing.answer} edited={edited} />}
          <LookPanel view={view} />
          <LogPanel log={view.log} more={view.moreLog} instrumentId={view.id} />
        </div>
      </div>
    </div>
  )
}

/** useOnwards goes on to what is next when the chosen event is done while it is looked at. */
function useOnwards(view: InstrumentView, chosen: EventRef | undefined, goOn: () => void) {
  const bead = view.pieces
    .flatMap((p) => p.beads)
    .find((b) => b.event.stepId === chosen?.stepId && b.event.coat === chosen.coat)
  const key = bead && `${bead.event.stepId}/${bead.event.coat}`
  const open = useRef<string>(undefined)
  useEffect(() => {
    if (bead?.done && open.current === key) goOn()
    open.current = bead?.done ? undefined : key
  })
}

/** chosenEvent is what the address names, else what hands do next, else the first step. */
function chosenEvent(pieces: PieceView[], next: EventRef | undefined, params: URLSearchParams): EventRef | undefined {
  const steps = pieces.flatMap((p) => p.steps)
  const step = steps.find((s) => s.stepId === params.get('step'))
  if (step) {
    const coat = Number(params.get('coat'))
    return { stepId: step.stepId, coat: coat >= 1 && coat <= step.coats ? coat : step.nextCoat }
  }
  const last = steps.at(-1)
  return next ?? (last && { stepId: last.stepId, coat: last.nextCoat })
}
