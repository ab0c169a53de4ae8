import { useMutation } from '@tanstack/react-query'
import { useState } from 'react'
import { useNavigate } from 'react-router'
import * as z from 'zod/mini'
import { Problem, api, type InstrumentView, type JobForm } from '../../api/client'
import { refresh } from '../../api/fresh'
import type { Shape } from '../../api/kept'
import { Button } from '../../parts/Button'
import { bind } from '../../parts/fields/bind'
import { Day } from '../../parts/fields/Day'
import { Text } from '../../parts/fields/Text'
import { useKeptForm } from '../../parts/fields/useKeptForm'
import { toast } from '../../parts/toasts'
import { KeepRow } from '../../parts/what-if/KeepRow'
import { useChange } from '../../parts/what-if/useChange'

const jobShape: Shape<Partial<JobForm>> = z.partial(
  z.object({ name: z.string(), serial: z.string(), promise: z.string(), show: z.string() }),
)

/** Care is what an instrument is called and promised, and the way out of the plan. */
export function Care({ view, close }: { view: InstrumentView; close: () => void }) {
  return (
    <section className="panel mb-3 grid gap-4 p-4" aria-labelledby="care-head" data-care>
      <div className="flex items-center justify-between gap-3">
        <h2 id="care-head" className="name text-xl">
          Name, serial, promise
        </h2>
        <Button onClick={close}>Close</Button>
      </div>
      <Job view={view} />
      <PutAside view={view} />
      {view.log.length === 0 && <Delete view={view} />}
    </section>
  )
}

function Job({ view }: { view: InstrumentView }) {
  const stored = {
    name: view.name,
    serial: view.serial ?? '',
    promise: view.outlook.promise.date,
    show: view.show?.date ?? '',
  }
  const { form, value, touched, clear } = useKeptForm<JobForm>(`job.${view.id}`, jobShape, stored)
  const change = useChange(
    touched ? { kind: 'job', instrumentId: view.id, version: view.version, job: value } : undefined,
    clear,
  )
  return (
    <>
      <div className="grid gap-4 sm:grid-cols-2 xl:grid-cols-4">
        <Text label="Name" maxLength={60} {...bind(form, 'name')} fault={change.fault('job.name')} />
        <Text label="Serial or mark" maxLength={60} {...bind(form, 'serial')} fault={change.fault('job.serial')} />
        <Day label="Promised day" {...bind(form, 'promise')} fault={change.fault('job.promise')} />
        <Day label="Day it is shown, if any" {...bind(form, 'show')} fault={change.fault('job.show')} />
      </div>
      {touched && <KeepRow change={change} undo={clear} verb="Keep it so" />}
    </>
  )
}

/** PutAside takes an instrument out of the plan; what it does to the others is said first. */
function PutAside({ view }: { view: InstrumentView }) {
  const [asked, setAsked] = useState(false)
  const navigate = useNavigate()
  const change = useChange(asked ? { kind: 'archive', instrumentId: view.id } : undefined, () => {
    void navigate('/instruments')
  })
  return (
    <div className="grid gap-2 border-t border-line pt-3">
      <p className="text-ink-2">
        Put aside, it leaves the rack and the plan. Its schedule and its log stay, and it can be brought back.
      </p>
      {asked ? (
        <KeepRow change={change} undo={() => setAsked(false)} verb={`Put ${view.name} aside`} />
      ) : (
        <div>
          <Button onClick={() => setAsked(true)}>Put aside</Button>
        </div>
      )}
    </div>
  )
}

/** Delete takes a wrong instrument away for good: its name is typed, for nothing brings it back. */
function Delete({ view }: { view: InstrumentView }) {
  const [name, setName] = useState('')
  const navigate = useNavigate()
  const drop = useMutation({
    mutationFn: () => api.deleteInstrument({ instrumentId: view.id, name }),
    networkMode: 'always',
    onSuccess: () => {
      refresh('shop')
      toast({ text: `${view.name} is deleted` })
      void navigate('/instruments')
    },
  })
  const problem = drop.error instanceof Problem ? drop.error : undefined
  return (
    <form
      className="flex flex-wrap items-end gap-3 border-t border-line pt-3"
      onSubmit={(e) => {
        e.preventDefault()
        drop.mutate()
      }}
    >
      <div className="min-w-0 flex-1">
        <Text
          label={`A mistake? Type ${view.name} to delete it for good`}
          maxLength={60}
          value={name}
          onChange={setName}
          fault={problem && (problem.faults[0]?.message ?? problem.message)}
        />
      </div>
      <Button type="submit" disabled={drop.isPending || name.trim() === ''}>
        Delete
      </Button>
    </form>
  )
}
