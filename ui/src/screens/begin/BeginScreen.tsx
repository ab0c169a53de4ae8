import { useMutation, useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import { Navigate } from 'react-router'
import { Problem, api, type Beginning, type BeginningView } from '../../api/client'
import { queries } from '../../api/queries'
import { Asking } from '../../parts/Asking'
import { Button, LinkButton } from '../../parts/Button'
import { NotationFields } from '../../parts/fields/NotationFields'
import { Text } from '../../parts/fields/Text'
import { useKeptForm } from '../../parts/fields/useKeptForm'
import { Restore } from '../../parts/Restore'
import { ScreenTitle } from '../../parts/ScreenTitle'
import { AirFields } from './AirFields'
import { guess, shape, usualNotation } from './guess'
import { HoursFields } from './HoursFields'
import { PeopleFields } from './PeopleFields'
import { PlacesFields } from './PlacesFields'

/** BeginScreen asks a new shop what it is like, with a guess at everything, and leads to its first instrument. */
export function BeginScreen() {
  const beginning = useQuery({ queryKey: ['beginning'], queryFn: () => api.beginning(usualNotation()) })
  const [opened, setOpened] = useState(false)
  return (
    <main className="mx-auto max-w-[920px] px-4 pb-10">
      <Asking query={beginning}>
        {(view) =>
          opened ? (
            <Opened />
          ) : view.begun ? (
            <Navigate to="/rack" replace />
          ) : (
            <Ask view={view} done={() => setOpened(true)} />
          )
        }
      </Asking>
    </main>
  )
}

function Ask({ view, done }: { view: BeginningView; done: () => void }) {
  const [stored] = useState(() => guess(view))
  const { form, value, clear } = useKeptForm<Beginning>('beginning', shape, stored)
  const open = useMutation({
    mutationFn: () => api.begin(value),
    networkMode: 'always',
    onSuccess: () => {
      clear()
      done()
      void queries.invalidateQueries()
    },
  })
  const problem = open.error instanceof Problem ? open.error : undefined
  const fault = (field: string) => problem?.faults.find((f) => f.location === `body.${field}`)?.message
  const set = <N extends keyof Beginning>(name: N, next: Beginning[N]) =>
    form.setValue(name, next as never, { shouldDirty: true })
  return (
    <form
      onSubmit={(e) => {
        e.preventDefault()
        open.mutate()
      }}
      className="grid gap-4"
    >
      <header className="py-4">
        <ScreenTitle tab="A shop of your own">What is your shop like?</ScreenTitle>
        <p className="mt-1 text-ink-2">
          Dates are planned from these. A guess stands everywhere; put right what is wrong, and change any of it later
          under Shop.
        </p>
      </header>
      <Part title="The shop" id="shop">
        <div className="grid gap-4 sm:grid-cols-2">
          <Text label="Name of the shop" value={value.name} onChange={(v) => set('name', v)} fault={fault('name')} />
          <Text
            label="Time zone"
            value={value.timeZone}
            onChange={(v) => set('timeZone', v)}
            fault={fault('timeZone')}
          />
        </div>
        <PeopleFields value={value.people} onChange={(v) => set('people', v)} fault={fault} />
      </Part>
      <Part title="When hands are there" id="hours">
        <HoursFields ways={view.hours} value={value.week} onChange={(v) => set('week', v)} fault={fault} />
      </Part>
      <Part title="Where work is done" id="places">
        <PlacesFields
          ways={view.rooms}
          kinds={view.kinds}
          value={value.places}
          onChange={(v) => set('places', v)}
          fault={fault}
        />
      </Part>
      <Part title="What the air is usually like there" id="air">
        <AirFields ways={view.airs} value={value.air} onChange={(v) => set('air', v)} fault={fault} />
      </Part>
      <Part title="How figures are written" id="notation">
        <NotationFields legend="Units, clock and dates" value={value.notation} onChange={(v) => set('notation', v)} />
      </Part>
      {problem && (
        <p role="alert" className="font-semibold text-late">
          {problem.message}
        </p>
      )}
      <div className="flex flex-wrap items-center gap-4">
        <Button type="submit" look="loud" disabled={open.isPending}>
          Open the shop
        </Button>
      </div>
      <details className="border-t border-line pt-3">
        <summary className="min-h-11 py-2 font-semibold">There is a backup of a shop already</summary>
        <Restore most={view.most} done={() => window.location.assign('/rack')} />
      </details>
    </form>
  )
}

function Part({ title, id, children }: { title: string; id: string; children: React.ReactNode }) {
  return (
    <section className="panel grid grid-cols-[minmax(0,1fr)] gap-4 p-4" aria-labelledby={`begin-${id}`} data-begin={id}>
      <h2 id={`begin-${id}`} className="name text-xl">
        {title}
      </h2>
      {children}
    </section>
  )
}

function Opened() {
  return (
    <div className="panel mt-10 p-6">
      <ScreenTitle tab="A shop of your own">The shop is open</ScreenTitle>
      <p className="mt-2 mb-5 text-ink-2">
        Nothing hangs on its rail yet. Plan an instrument: its stack of layers, its dates and what to do first stand
        there at once.
      </p>
      <LinkButton look="loud" to="/instruments/new">
        The first instrument
      </LinkButton>
    </div>
  )
}
