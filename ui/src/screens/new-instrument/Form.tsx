import type { Problem, Reference, Tag } from '../../api/client'
import { Button } from '../../parts/Button'
import { Outline } from '../../parts/Outline'
import { faultAt, type Draft } from './draft'
import { Field, inputLook } from '../../parts/Field'
import { PieceFields } from './PieceFields'

export interface FormProps {
  reference: Reference
  draft: Draft
  change: (part: Partial<Draft>, field: string) => void
  problem?: Problem
  /** Whether keeping was tried: then every fault shows, touched or not. */
  tried: boolean
}

type Props = FormProps & { keeping: boolean; onKeep: () => void; onStartOver: () => void }

/** Form is everything a person chooses for a new job. */
export function Form(props: Props) {
  const { reference, draft, change, keeping, onKeep, onStartOver } = props
  const fault = shown(props)
  return (
    <form
      noValidate
      className="panel space-y-4 p-4"
      onSubmit={(e) => {
        e.preventDefault()
        onKeep()
      }}
    >
      <div className="grid gap-4 sm:grid-cols-2">
        <Field label="Name" fault={fault('name')}>
          {(a) => (
            <input
              {...a}
              maxLength={80}
              className={inputLook}
              value={draft.name}
              onChange={(e) => change({ name: e.target.value }, 'name')}
            />
          )}
        </Field>
        <Field label="Promised day" fault={fault('promise')}>
          {(a) => (
            <input
              {...a}
              type="date"
              min={reference.today}
              className={inputLook}
              value={draft.promise}
              onChange={(e) => change({ promise: e.target.value }, 'promise')}
            />
          )}
        </Field>
      </div>
      <OutlineChoice
        outlines={reference.outlines}
        chosen={draft.outline}
        onChoose={(outline) => change({ outline }, 'outline')}
      />
      <PieceFields {...props} kind="body" />
      <PieceFields {...props} kind="neck" />
      {fault('pieces') && <p className="text-late">{fault('pieces')}</p>}
      <div className="flex flex-wrap items-center gap-3 border-t border-line pt-4">
        <Button type="submit" look="loud" disabled={keeping}>
          {keeping ? 'Keeping…' : 'Keep this instrument'}
        </Button>
        <Button look="bare" onClick={onStartOver}>
          Start over
        </Button>
      </div>
    </form>
  )
}

/** shown is what is wrong with a field, once it was touched or keeping was tried. */
export function shown({ problem, draft, tried }: FormProps) {
  return (field: string) => (tried || draft.touched.includes(field) ? faultAt(problem, draft, field) : undefined)
}

function OutlineChoice({
  outlines,
  chosen,
  onChoose,
}: {
  outlines: string[]
  chosen: string
  onChoose: (o: string) => void
}) {
  return (
    <fieldset>
      <legend className="mb-1 font-semibold">Outline</legend>
      <div className="grid grid-cols-5 gap-2">
        {outlines.map((o) => (
          <label
            key={o}
            className="flex cursor-pointer flex-col items-center gap-1 rounded-sm border border-line bg-raised p-1.5 text-xs has-checked:border-2 has-checked:border-ink has-focus-visible:outline-3 has-focus-visible:outline-drying"
          >
            <input
              type="radio"
              name="outline"
              className="sr-only"
              checked={o === chosen}
              onChange={() => onChoose(o)}
            />
            <Outline shape={o as Tag['outline']} piece="body" colour="var(--line)" frost={0} className="h-12" />
            {o}
          </label>
        ))}
      </div>
    </fieldset>
  )
}
