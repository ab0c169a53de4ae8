import { useState } from 'react'
import type { InstrumentView } from '../../../api/client'
import { SaveRecipe } from '../../../parts/SaveRecipe'
import { Choice } from '../../../parts/fields/Choice'

/** SaveSchedule saves the whole schedule, or some steps of a piece, as a recipe of the shop's own. */
export function SaveSchedule({ view }: { view: InstrumentView }) {
  const [what, setWhat] = useState(view.wish ? '' : (view.pieces[0]?.id ?? ''))
  const piece = view.pieces.find((p) => p.id === what)
  const [from, setFrom] = useState('')
  const [to, setTo] = useState('')
  const steps = piece?.steps ?? []
  const first = Math.max(
    0,
    steps.findIndex((s) => s.stepId === from),
  )
  const found = steps.findIndex((s) => s.stepId === to)
  const last = Math.max(first, found < 0 ? first : found)
  const options = steps.map((s) => ({ id: s.stepId, text: s.title }))
  return (
    <SaveRecipe
      title="Save as a recipe of our own"
      label="Save as recipe…"
      className="grow px-2"
      kind={piece ? 'fragment' : 'schedule'}
      what={{
        instrumentId: view.id,
        ...(piece && { stepIds: steps.slice(first, last + 1).map((s) => s.stepId) }),
      }}
    >
      <Choice
        label="What"
        value={what}
        options={[
          ...(view.wish ? [{ id: '', text: 'the whole schedule, with what was changed by hand' }] : []),
          ...view.pieces.map((p) => ({ id: p.id, text: `some steps of the ${p.kind}` })),
        ]}
        onChange={(id) => {
          setWhat(id)
          setFrom('')
          setTo('')
        }}
      />
      {piece && (
        <div className="grid gap-3 sm:grid-cols-2">
          <Choice label="From" value={steps[first]?.stepId} options={options} onChange={setFrom} />
          <Choice label="To" value={steps[last]?.stepId} options={options.slice(first)} onChange={setTo} />
        </div>
      )}
    </SaveRecipe>
  )
}
