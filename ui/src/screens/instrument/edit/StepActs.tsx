import { useState } from 'react'
import { v7 as uuid } from 'uuid'
import type { Edit, InstrumentView, PieceView, Reference, StepRow } from '../../../api/client'
import { Button } from '../../../parts/Button'
import { LeaveOut } from '../../../parts/LeaveOut'
import { Menu } from '../../../parts/Menu'
import { Over } from '../../../parts/Over'
import { Tick } from '../../../parts/fields/Tick'
import { regionsFor } from './editing'
import { RepairButton } from './Repair'

export interface ActsProps {
  view: InstrumentView
  step: StepRow
  piece: PieceView
  pieces: PieceView[]
  reference: Reference
  change: (edit: Edit) => void
  onGoTo: (stepId: string) => void
}

/** StepActs are what may be done with a whole step: moved, repeated, split, joined, left out, taken away; and another added after it. */
export function StepActs(props: ActsProps) {
  const { view, step, piece, change, onGoTo } = props
  const at = piece.steps.findIndex((s) => s.stepId === step.stepId)
  const version = step.fields.version
  const begun = step.done > 0
  const joinable = piece.steps.filter((s) => fits(step, s))
  const seen = { stepId: step.stepId, version }
  return (
    <div className="flex flex-wrap gap-2" data-step-acts>
      <AddStep {...props} />
      <Button
        disabled={begun || at <= 0}
        onClick={() => change({ op: 'move', ...seen, ...(at > 1 && { afterId: piece.steps[at - 2]?.stepId }) })}
      >
        Earlier
      </Button>
      <Button
        disabled={begun || at >= piece.steps.length - 1}
        onClick={() => change({ op: 'move', ...seen, afterId: piece.steps[at + 1]?.stepId })}
      >
        Later
      </Button>
      <Button
        onClick={() => {
          const newId = uuid()
          change({ op: 'duplicate', ...seen, newId })
          onGoTo(newId)
        }}
      >
        Once more
      </Button>
      {step.fields.regions.length > 1 && <SplitStep {...props} />}
      {joinable.length > 0 && (
        <Menu
          items={joinable.map((s) => ({ id: s.stepId, text: s.title, hint: s.where }))}
          onChoose={(withId) => change({ op: 'join', ...seen, withId })}
        >
          Do along with it…
        </Menu>
      )}
      {step.out ? (
        <Button onClick={() => change({ op: 'take-back', ...seen })}>Take it back in</Button>
      ) : (
        step.done < step.coats && (
          <LeaveOut
            what={step.title}
            says="It stays in the schedule, struck, and can be taken back in."
            onLeave={(reason) => change({ op: 'leave-out', ...seen, reason: reason.trim().slice(0, 200) })}
          />
        )
      )}
      {begun && <RepairButton view={view} from={step.stepId} label="Do it again from here…" />}
      {step.fields.byHand && !begun && (
        <Button
          onClick={() => {
            change({ op: 'remove', ...seen })
            const next = piece.steps[at - 1] ?? piece.steps[at + 1]
            if (next) onGoTo(next.stepId)
          }}
        >
          Remove
        </Button>
      )}
    </div>
  )
}

/** fits reports whether another step is the same work elsewhere. */
const fits = (a: StepRow, b: StepRow) =>
  a.stepId !== b.stepId &&
  a.done + b.done === 0 &&
  !a.out &&
  !b.out &&
  a.kind === b.kind &&
  a.method === b.method &&
  a.coats === b.coats &&
  a.fields.material === b.fields.material

function AddStep({ step, piece, reference, change, onGoTo }: ActsProps) {
  return (
    <Menu
      items={reference.extras ?? []}
      onChoose={(what) => {
        const stepId = uuid()
        change({ op: 'add', stepId, pieceId: piece.id, afterId: step.stepId, what })
        onGoTo(stepId)
      }}
    >
      Add a step after it…
    </Menu>
  )
}

function SplitStep({ step, piece, pieces, change }: ActsProps) {
  const [open, setOpen] = useState(false)
  const [apart, setApart] = useState<string[]>([])
  const regions = regionsFor(piece, pieces).filter((r) => step.fields.regions.includes(r.id))
  return (
    <Over title={`Split ${step.title}`} open={open} onOpenChange={setOpen} trigger={<Button>Split by region…</Button>}>
      <p className="mb-2">What is ticked becomes a step of its own, with its own figures.</p>
      {regions.map((r) => (
        <Tick
          key={r.id}
          label={r.name}
          on={apart.includes(r.id)}
          onChange={(on) => setApart(on ? [...apart, r.id] : apart.filter((id) => id !== r.id))}
        />
      ))}
      <div className="mt-4 flex justify-end gap-3">
        <Button onClick={() => setOpen(false)}>Leave it whole</Button>
        <Button
          look="loud"
          disabled={apart.length === 0 || apart.length === regions.length}
          onClick={() => {
            change({ op: 'split', stepId: step.stepId, version: step.fields.version, newId: uuid(), regions: apart })
            setApart([])
            setOpen(false)
          }}
        >
          Split
        </Button>
      </div>
    </Over>
  )
}
