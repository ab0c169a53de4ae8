import { useMutation } from '@tanstack/react-query'
import { useState } from 'react'
import { v7 as uuid } from 'uuid'
import * as z from 'zod/mini'
import { Problem, api, type RoomNow } from '../../api/client'
import { refresh } from '../../api/fresh'
import { useWhoKnown } from '../../api/who'
import { Button } from '../../parts/Button'
import { bind } from '../../parts/fields/bind'
import { Choice } from '../../parts/fields/Choice'
import { Text } from '../../parts/fields/Text'
import { useKeptForm } from '../../parts/fields/useKeptForm'
import { useNotation } from '../../parts/notation'
import { toast } from '../../parts/toasts'
import { movedText } from '../../parts/words'

const shape = z.partial(z.object({ placeId: z.string(), temperature: z.string(), humidity: z.string() }))

/** TypeReading takes a reading off a thermometer; what was typed survives a reload. */
export function TypeReading({ places, start, done }: { places: RoomNow['places']; start: string; done: () => void }) {
  const who = useWhoKnown()
  const { inch } = useNotation()
  const { form, value, clear } = useKeptForm('reading', shape, { placeId: start, temperature: '', humidity: '' })
  const written = `${value.placeId} ${value.temperature} ${value.humidity}`
  const [made, setMade] = useState(() => ({ id: uuid(), written }))
  const { id } = made
  const send = useMutation({
    mutationFn: async (confirm: string[]) =>
      api.typeReading({
        ...value,
        id,
        confirm,
        temperature: withUnit(value.temperature, inch),
        personId: await who(),
      }),
    networkMode: 'always',
    onSuccess: ({ moved }) => {
      clear()
      toast({ text: 'Reading kept', detail: movedText(moved) })
      refresh('shop', 'settings')
      done()
    },
  })
  if (made.written !== written) {
    setMade({ id: uuid(), written }) // another reading has an id of its own, and no question yet
    send.reset()
  }
  const problem = send.error instanceof Problem ? send.error : undefined
  const doubtful = problem?.kind === '/problems/doubtful'
  const fault = (field: string) => problem?.faults.find((f) => f.location.startsWith(`body.${field}`))?.message
  return (
    <form
      className="grid grid-cols-2 gap-3 py-2"
      onSubmit={(e) => {
        e.preventDefault()
        send.mutate([])
      }}
    >
      <div className="col-span-2">
        <Choice
          label="Place"
          options={places.map((p) => ({ id: p.id, text: p.name }))}
          fault={fault('placeId')}
          {...bind(form, 'placeId')}
        />
      </div>
      <Text
        label={`Temperature, ${inch ? '°F' : '°C'}`}
        inputMode="decimal"
        autoFocus
        fault={fault('temperature')}
        {...bind(form, 'temperature')}
      />
      <Text label="Humidity, %" inputMode="decimal" fault={fault('humidity')} {...bind(form, 'humidity')} />
      {doubtful && (
        <div className="col-span-2 border-l-4 border-closing bg-closing-fill px-3 py-2 text-closing" role="alert">
          <p>{problem?.faults[0]?.message}</p>
          <Button className="mt-2" disabled={send.isPending} onClick={() => send.mutate(['unlikely'])}>
            It is right, keep it
          </Button>
        </div>
      )}
      {problem && problem.faults.length === 0 && (
        <p className="col-span-2 text-sm text-late" role="alert">
          {problem.message}
        </p>
      )}
      <div className="col-span-2 flex justify-end gap-3">
        <Button onClick={done}>Not now</Button>
        {!doubtful && (
          <Button type="submit" look="loud" disabled={send.isPending}>
            Keep reading
          </Button>
        )}
      </div>
    </form>
  )
}

/** withUnit says which unit a bare number is in; what says so itself stays as typed. */
const withUnit = (typed: string, inch: boolean) => (inch && /\d\s*$/.test(typed) ? `${typed.trim()} °F` : typed)
