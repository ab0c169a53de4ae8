import { useState } from 'react'
import type { PersonForm, ShopView } from '../../api/client'
import { Button } from '../../parts/Button'
import { Field, inputLook } from '../../parts/Field'
import { KeepRow } from './KeepRow'
import { useChange } from './useChange'
import { useDraft } from './useDraft'
import { WeekFields } from './WeekFields'

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
  const draft = useDraft(`person.${person.id ?? 'new'}`, person)
  const p = draft.value
  const done = () => {
    draft.clear()
    close()
  }
  const ready = draft.touched && p.name.trim() !== ''
  const change = useChange(ready ? { kind: 'person', person: p } : undefined, done)
  return (
    <div className="grid gap-3">
      <Field label="Name" fault={change.fault('person.name')}>
        {(wiring) => (
          <input
            {...wiring}
            autoFocus
            className={inputLook}
            value={p.name}
            onChange={(e) => draft.change({ name: e.target.value })}
          />
        )}
      </Field>
      <Tick
        label="Hours of their own, within the shop’s"
        on={p.ownHours}
        onChange={(ownHours) => draft.change({ ownHours })}
      />
      {p.ownHours && (
        <WeekFields week={p.week} path="person.week" fault={change.fault} onChange={(week) => draft.change({ week })} />
      )}
      {person.id && (
        <Tick
          label="Works here no more; the log keeps the name"
          on={p.left}
          onChange={(left) => draft.change({ left })}
        />
      )}
      <KeepRow change={change} undo={done} verb={person.id ? 'Keep' : 'Add'} />
    </div>
  )
}

/** Tick is a labelled box to tick. */
export function Tick({ label, on, onChange }: { label: string; on: boolean; onChange: (on: boolean) => void }) {
  return (
    <label className="flex min-h-11 items-center gap-3">
      <input
        type="checkbox"
        className="size-5 accent-ready"
        checked={on}
        onChange={(e) => onChange(e.target.checked)}
      />
      {label}
    </label>
  )
}
