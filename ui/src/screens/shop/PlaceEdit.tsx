import type { PlaceForm, PlaceView } from '../../api/client'
import { Field, inputLook } from '../../parts/Field'
import { Choice } from '../../parts/what-if/Ask'
import { KeepRow } from './KeepRow'
import { Tick } from './PeoplePanel'
import { useChange } from './useChange'
import { useDraft } from './useDraft'
import { WeekFields } from './WeekFields'

interface Props {
  place: PlaceForm
  /** Absent: a new place. */
  id?: string
  seen?: string
  places: PlaceView[]
  close: () => void
}

const kinds = [
  ['bench', 'a bench'],
  ['booth', 'a booth, where coats are sprayed'],
  ['wheel', 'a buffing wheel'],
  ['drying', 'a place to dry'],
] as const

/** formOf is a place without what only belongs to how it is shown. */
function formOf({ name, kind, capacity, hooks, air, hangsIn, ownHours, week }: PlaceForm): PlaceForm {
  return { name, kind, capacity, hooks, air, ownHours, week, ...(hangsIn && { hangsIn }) }
}

/** PlaceEdit changes a place, or adds one. */
export function PlaceEdit({ place, id, seen, places, close }: Props) {
  const draft = useDraft(`place.${id ?? 'new'}`, formOf(place))
  const p = draft.value
  const done = () => {
    draft.clear()
    close()
  }
  const ready = draft.touched && p.name.trim() !== ''
  const change = useChange(
    ready ? { kind: 'place', place: formOf(p), ...(id && { placeId: id }), ...(seen && { seen }) } : undefined,
    done,
  )
  const text = (label: string, key: 'name' | 'capacity' | 'hooks' | 'air') => (
    <Field label={label} fault={change.fault(`place.${key}`)}>
      {(wiring) => (
        <input
          {...wiring}
          className={inputLook}
          inputMode={key === 'capacity' || key === 'hooks' ? 'numeric' : undefined}
          value={p[key]}
          onChange={(e) => draft.change({ [key]: e.target.value })}
        />
      )}
    </Field>
  )
  return (
    <div className="my-3 grid gap-4">
      <div className="grid gap-4 sm:grid-cols-2">
        {text('Name', 'name')}
        <Choice
          label="It is"
          value={p.kind}
          options={kinds}
          onChange={(kind) => draft.change({ kind: kinds.find(([k]) => k === kind)?.[0] ?? 'bench' })}
        />
        {text('Pieces at a time', 'capacity')}
        {text('Hooks for drying', 'hooks')}
        {text('Air it shares, by a name', 'air')}
        <Choice
          label="Its pieces hang to dry in"
          value={p.hangsIn ?? ''}
          options={[['', 'the same place'], ...places.filter((o) => o.id !== id).map((o) => [o.id, o.name] as const)]}
          onChange={(hangsIn) => draft.change({ hangsIn: hangsIn === '' ? undefined : hangsIn })}
        />
      </div>
      <Tick
        label="Hours of its own, within the shop’s"
        on={p.ownHours}
        onChange={(ownHours) => draft.change({ ownHours })}
      />
      {p.ownHours && (
        <WeekFields week={p.week} path="place.week" fault={change.fault} onChange={(week) => draft.change({ week })} />
      )}
      <KeepRow change={change} undo={done} verb={id ? 'Keep' : 'Add'} />
    </div>
  )
}
