import { useMutation } from '@tanstack/react-query'
import { useState } from 'react'
import { Problem, api, type RoomNow } from '../../api/client'
import { keep, readKept } from '../../api/kept'
import { refresh } from '../../api/fresh'
import { toast } from '../../parts/toasts'
import { useWhoKnown } from '../../api/who'
import { Button } from '../../parts/Button'
import { Field, inputLook } from '../../parts/Field'
import { movedText } from '../../parts/words'

const kept = 'reading'
const empty = { temperature: '', humidity: '' }

/** TypeReading takes a reading off a thermometer; what was typed survives a reload. */
export function TypeReading({ places, start, done }: { places: RoomNow['places']; start: string; done: () => void }) {
  const who = useWhoKnown()
  const [placeId, setPlace] = useState(start)
  const [typed, setTyped] = useState(() => readKept(kept, empty))
  const change = (part: Partial<typeof typed>) => {
    const next = { ...typed, ...part }
    setTyped(next)
    keep(kept, next)
  }
  const send = useMutation({
    mutationFn: async () => api.typeReading({ placeId, personId: await who(), ...typed }),
    networkMode: 'always',
    onSuccess: ({ moved }) => {
      keep(kept, empty)
      const detail = movedText(moved)
      toast({ text: 'Reading kept', detail })
      refresh('shop', 'settings')
      done()
    },
  })
  const problem = send.error instanceof Problem ? send.error : undefined
  const fault = (field: string) => problem?.faults.find((f) => f.location.startsWith(`body.${field}`))?.message
  return (
    <form
      className="grid grid-cols-2 gap-3 py-2"
      onSubmit={(e) => {
        e.preventDefault()
        send.mutate()
      }}
    >
      <div className="col-span-2">
        <Field label="Place" fault={fault('placeId')}>
          {(wiring) => (
            <select {...wiring} className={inputLook} value={placeId} onChange={(e) => setPlace(e.target.value)}>
              {places.map((p) => (
                <option key={p.id} value={p.id}>
                  {p.name}
                </option>
              ))}
            </select>
          )}
        </Field>
      </div>
      <Field label="Temperature, °C" fault={fault('temperature')}>
        {(wiring) => (
          <input
            {...wiring}
            className={inputLook}
            inputMode="decimal"
            autoFocus
            value={typed.temperature}
            onChange={(e) => change({ temperature: e.target.value })}
          />
        )}
      </Field>
      <Field label="Humidity, %" fault={fault('humidity')}>
        {(wiring) => (
          <input
            {...wiring}
            className={inputLook}
            inputMode="decimal"
            value={typed.humidity}
            onChange={(e) => change({ humidity: e.target.value })}
          />
        )}
      </Field>
      {problem && problem.faults.length === 0 && (
        <p className="col-span-2 text-sm text-late" role="alert">
          {problem.message}
        </p>
      )}
      <div className="col-span-2 flex justify-end gap-3">
        <Button onClick={done}>Not now</Button>
        <Button type="submit" look="loud" disabled={send.isPending}>
          Keep reading
        </Button>
      </div>
    </form>
  )
}
