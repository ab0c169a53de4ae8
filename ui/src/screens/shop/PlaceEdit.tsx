import type { PlaceForm, PlaceView } from '../../api/client'
import { bind } from '../../parts/fields/bind'
import { Choice } from '../../parts/fields/Choice'
import { Text } from '../../parts/fields/Text'
import { Tick } from '../../parts/fields/Tick'
import { useKeptForm } from '../../parts/fields/useKeptForm'
import { KeepRow } from '../../parts/what-if/KeepRow'
import { placeShape } from './shapes'
import { useChange } from '../../parts/what-if/useChange'
import { WeekFields } from '../../parts/fields/WeekFields'

interface Props {
  place: PlaceForm
  /** Absent: a new place. */
  id?: string
  seen?: string
  places: PlaceView[]
  close: () => void
}

const kinds = [
  { id: 'bench', text: 'a bench' },
  { id: 'booth', text: 'a booth, where coats are sprayed' },
  { id: 'wheel', text: 'a buffing wheel' },
  { id: 'drying', text: 'a place to dry' },
] as const

/** formOf is a place without what only belongs to how it is shown. */
function formOf({ name, kind, capacity, hooks, air, hangsIn, ownHours, week }: PlaceForm): PlaceForm {
  return { name, kind, capacity, hooks, air, ownHours, week, ...(hangsIn && { hangsIn }) }
}

/** PlaceEdit changes a place, or adds one. */
export function PlaceEdit({ place, id, seen, places, close }: Props) {
  const { form, value, touched, clear } = useKeptForm<PlaceForm>(
    `settings.place.${id ?? 'new'}`,
    placeShape,
    formOf(place),
  )
  const done = () => {
    clear()
    close()
  }
  const ready = touched && value.name.trim() !== ''
  const change = useChange(
    ready ? { kind: 'place', place: formOf(value), ...(id && { placeId: id }), ...(seen && { seen }) } : undefined,
    done,
  )
  const kind = bind(form, 'kind')
  const others = places.filter((o) => o.id !== id).map((o) => ({ id: o.id, text: o.name }))
  return (
    <div className="my-3 grid gap-4">
      <div className="grid gap-4 sm:grid-cols-2">
        <Text label="Name" {...bind(form, 'name')} fault={change.fault('place.name')} />
        <Choice
          label="It is"
          {...kind}
          options={kinds}
          onChange={(chosen) => kind.onChange(kinds.find((k) => k.id === chosen)?.id ?? 'bench')}
        />
        <Text
          label="Pieces at a time"
          inputMode="numeric"
          {...bind(form, 'capacity')}
          fault={change.fault('place.capacity')}
        />
        <Text
          label="Hooks for drying"
          inputMode="numeric"
          {...bind(form, 'hooks')}
          fault={change.fault('place.hooks')}
        />
        <Text label="Air it shares, by a name" {...bind(form, 'air')} fault={change.fault('place.air')} />
        <Choice
          label="Its pieces hang to dry in"
          {...bind(form, 'hangsIn')}
          options={[{ id: '', text: 'the same place' }, ...others]}
        />
      </div>
      <Tick
        label="Hours of its own, within the shop’s"
        on={value.ownHours}
        onChange={bind(form, 'ownHours').onChange}
      />
      {value.ownHours && <WeekFields {...bind(form, 'week')} path="place.week" fault={change.fault} />}
      <KeepRow change={change} undo={done} verb={id ? 'Keep' : 'Add'} />
    </div>
  )
}
