import type { EditFields, InstrumentView, PieceView, Reference, StepRow } from '../../../api/client'
import { Choice } from '../../../parts/fields/Choice'
import { Committed } from '../../../parts/fields/Committed'
import { Toggles } from '../../../parts/fields/Toggles'
import { regionsFor } from './editing'
import { Ladder } from './Ladder'

export interface FieldsProps {
  step: StepRow
  piece: PieceView
  view: InstrumentView
  pieces: PieceView[]
  reference: Reference
  /** What would be accepted, by the field that cannot be as it is. */
  faults: Record<string, string>
  set: (fields: EditFields) => void
}

const milestones = [
  { id: '', text: 'as is usual before such work' },
  { id: 'touch-dry', text: 'dry to touch' },
  { id: 'recoat', text: 'ready for another coat' },
  { id: 'sand', text: 'fit to sand' },
  { id: 'topcoat', text: 'fit for another family' },
  { id: 'handle', text: 'fit to handle' },
  { id: 'buff', text: 'fit to buff' },
  { id: 'full-cure', text: 'cured through' },
] as const

/** StepFields are all figures of a step; each counts as soon as it is left. */
export function StepFields(props: FieldsProps) {
  const { step, faults, set, reference } = props
  const f = step.fields
  const nobody = '00000000-0000-0000-0000-000000000000'
  const places = [{ id: nobody, text: 'its usual place' }, ...reference.places.map((p) => ({ id: p.id, text: p.name }))]
  return (
    <div className="grid gap-3 sm:grid-cols-2" data-step-fields>
      <div className="sm:col-span-2">
        <Committed
          label="Step"
          maxLength={120}
          required
          value={step.title}
          fault={faults.title}
          onCommit={(title) => set({ title })}
        />
      </div>
      <Counts {...props} />
      {step.kind === 'coat' && <With {...props} />}
      <Committed
        label={step.coats > 1 ? 'Minutes for each' : 'Minutes'}
        type="number"
        min={0}
        max={1440}
        value={String(f.minutes)}
        fault={faults.minutes}
        onCommit={(minutes) => set({ minutes: Math.round(Number(minutes)) })}
      />
      <Choice
        label="Films below must be"
        value={f.film ?? ''}
        options={milestones}
        fault={faults.film}
        onChange={(film) => set({ film: film as EditFields['film'] })}
      />
      <Committed
        label="Rest after it, in hours"
        type="number"
        min={0}
        max={1440}
        step="any"
        value={String((f.restMin ?? 0) / 60)}
        fault={faults.restMin}
        onCommit={(hours) => set({ restMin: Math.round(Number(hours) * 60) })}
      />
      <Choice
        label="At"
        value={f.placeId ?? nobody}
        options={places}
        fault={faults.placeId}
        onChange={(placeId) => set({ placeId })}
      />
      {f.handwork && <Spread {...props} />}
      {f.handwork && (
        <div className="sm:col-span-2">
          <Ladder ladder={f.ladder} grits={reference.grits} onChange={(ladder) => set({ ladder })} />
        </div>
      )}
      <Regions {...props} />
      <div className="sm:col-span-2">
        <Committed
          label="Note, in addition to how it is done"
          maxLength={500}
          value={f.note ?? ''}
          fault={faults.note}
          onCommit={(note) => set({ note })}
        />
      </div>
    </div>
  )
}

function Counts({ step, faults, set }: FieldsProps) {
  const rounds = (step.fields.most ?? 0) > 0
  const count = step.kind === 'coat' || rounds
  return (
    <>
      {count && (
        <Committed
          label={rounds ? 'Rounds expected' : 'Coats'}
          type="number"
          min={1}
          max={50}
          value={String(step.coats)}
          fault={faults.coats}
          onCommit={(coats) => set({ coats: Math.round(Number(coats)) })}
        />
      )}
      <Choice
        label="How often"
        value={rounds ? 'rounds' : 'count'}
        options={[
          { id: 'count', text: step.kind === 'coat' ? 'as many coats as it says' : 'once' },
          { id: 'rounds', text: 'in rounds, until it is right' },
        ]}
        fault={faults.rounds}
        onChange={(how) =>
          set({ rounds: how === 'rounds' ? { least: 1, most: Math.max(6, step.coats) } : { least: 0, most: 0 } })
        }
      />
      {rounds && (
        <Committed
          label="Rounds at most"
          type="number"
          min={1}
          max={50}
          value={String(step.fields.most)}
          onCommit={(most) => set({ rounds: { least: step.fields.least ?? 1, most: Math.round(Number(most)) } })}
        />
      )}
    </>
  )
}

const methods: Record<string, string> = {
  spray: 'by gun',
  aerosol: 'from the can',
  brush: 'by brush',
  wipe: 'by cloth',
  pad: 'by pad',
  pour: 'poured',
  drop: 'dropped in',
}

function With({ step, reference, faults, set }: FieldsProps) {
  const like = reference.materials.filter((m) => m.group === step.group)
  const other = reference.materials.filter((m) => m.group !== step.group)
  return (
    <>
      <Choice
        label="With"
        value={step.fields.material}
        options={[...like, ...other].map((m) => ({ id: m.id, text: m.name }))}
        fault={faults.material}
        onChange={(material) => set({ material })}
      />
      <Choice
        label="How it is put on"
        value={step.method}
        options={step.fields.methods.map((id) => ({ id, text: methods[id] ?? id }))}
        fault={faults.method}
        onChange={(method) => set({ method: method as EditFields['method'] })}
      />
    </>
  )
}

function Spread({ step, faults, set }: FieldsProps) {
  const now = step.fields.divideMin ?? 0
  const stretches = [...new Set([0, 15, 30, 45, 60, 90, now])].sort((a, b) => a - b)
  return (
    <Choice
      label="Spread over sittings"
      value={String(now)}
      options={stretches.map((m) => ({
        id: String(m),
        text: m === 0 ? 'as is usual for such work' : `in stretches of ${m} min and more`,
      }))}
      fault={faults.divideMin}
      onChange={(least) => set({ divideMin: Number(least) })}
    />
  )
}

function Regions({ step, piece, pieces, faults, set }: FieldsProps) {
  const all = regionsFor(piece, pieces)
  if (all.length < 2) return null
  return (
    <Toggles
      legend="Where"
      className="sm:col-span-2"
      some
      options={all.map((r) => ({ id: r.id, text: r.name }))}
      on={step.fields.regions}
      fault={faults.regions}
      onChange={(regions) => set({ regions })}
    />
  )
}
