import { useState } from 'react'
import type { PersonForm, ShopView } from '../../api/client'
import { Button } from '../../parts/Button'
import { bind } from '../../parts/fields/bind'
import { Text } from '../../parts/fields/Text'
import { Tick } from '../../parts/fields/Tick'
import { useKeptForm } from '../../parts/fields/useKeptForm'
import { KeepRow } from '../../parts/what-if/KeepRow'
import { PinRow } from './PinRow'
import { personShape } from './shapes'
import { useChange } from '../../parts/what-if/useChange'
import { WeekFields } from '../../parts/fields/WeekFields'

/** PeoplePanel is whose hands there are, and when. */
export function PeoplePanel({ view }: { view: ShopView }) {
  const [open, setOpen] = useState<string>()
  const fresh: PersonForm = { name: '', ownHours: false, left: false, week: view.shop.week }
  return (
    <section className="panel p-4" aria-labelledby="people-head" data-people>
      <h2 id="people-head" className="name mb-2 text-xl">
        People
      </h2>
      <ul>
        {view.people.map((p) => (
          <li key={p.id} className="border-t border-line py-2">
            {open === p.id ? (
              <Edit person={p} close={() => setOpen(undefined)} />
            ) : (
              <div className="flex items-center gap-3">
                <span className={p.left ? 'text-ink-3' : ''}>
                  <b>{p.name}</b>{' '}
                  <span className="text-ink-2">
                    {p.left
                      ? 'works here no more'
                      : p.ownHours
                        ? 'has hours of their own'
                        : 'is there whenever the shop is open'}
                  </span>
                </span>
                <Button className="ml-auto" aria-label={`Change ${p.name}`} onClick={() => setOpen(p.id)}>
                  Change
                </Button>
              </div>
            )}
          </li>
        ))}
        <li className="border-t border-line py-2">
          {open === 'new' ? (
            <Edit person={fresh} close={() => setOpen(undefined)} />
          ) : (
            <Button onClick={() => setOpen('new')}>Add somebody</Button>
          )}
        </li>
      </ul>
    </section>
  )
}

function Edit({ person, close }: { person: PersonForm; close: () => void }) {
  const { form, value, touched, clear } = useKeptForm<PersonForm>(
    `settings.person.${person.id ?? 'new'}`,
    personShape,
    person,
  )
  const done = () => {
    clear()
    close()
  }
  const ready = touched && value.name.trim() !== ''
  const change = useChange(ready ? { kind: 'person', person: value } : undefined, done)
  return (
    <div className="grid gap-3">
      <Text label="Name" autoFocus {...bind(form, 'name')} fault={change.fault('person.name')} />
      <Tick
        label="Hours of their own, within the shop’s"
        on={value.ownHours}
        onChange={bind(form, 'ownHours').onChange}
      />
      {value.ownHours && <WeekFields {...bind(form, 'week')} path="person.week" fault={change.fault} />}
      {person.id && (
        <Tick
          label="Works here no more; the log keeps the name"
          on={value.left}
          onChange={bind(form, 'left').onChange}
        />
      )}
      <KeepRow change={change} undo={done} verb={person.id ? 'Keep' : 'Add'} />
      {person.id && !person.left && <PinRow id={person.id} name={person.name} />}
    </div>
  )
}
