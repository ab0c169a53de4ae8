import { useMutation } from '@tanstack/react-query'
import { AlertDialog } from 'radix-ui'
import { useState } from 'react'
import { Problem, api } from '../api/client'
import { useDoor } from '../api/door'
import { setPerson, usePerson } from '../api/person'
import { queries, useReference } from '../api/queries'
import { Button } from '../parts/Button'
import { Text } from '../parts/fields/Text'
import { toast } from '../parts/toasts'

/** Who stands at this device: their name goes into the log. On a paired device the shop keeps who it is. */
export function Who() {
  const people = useReference().data?.people ?? []
  const chosen = usePerson()
  const door = useDoor().data
  const [asked, setAsked] = useState<{ id: string; name: string }>()
  const be = useMutation({
    mutationFn: api.beOnDevice,
    networkMode: 'always',
    onSuccess: (now) => {
      setPerson(now.personId)
      queries.setQueryData(['door'], now)
      setAsked(undefined)
    },
    onError: (error, { pin }) => {
      if (pin === undefined) toast({ bad: true, text: error.message })
    },
  })
  if (people.length < 2) return null
  const at = Math.max(
    0,
    people.findIndex((p) => p.id === chosen),
  )
  const next = people[(at + 1) % people.length]
  const change = () => {
    if (!next) return
    if (!door?.paired) setPerson(next.id)
    else if (door.pins.includes(next.id)) setAsked(next)
    else be.mutate({ personId: next.id })
  }
  return (
    <>
      <button
        className="flex min-h-14 min-w-14 flex-col items-center justify-center px-2 text-[13px] hover:bg-band-on md:w-full"
        onClick={change}
      >
        <span className="text-[11px] opacity-80">{door?.role === 'look' ? 'looking' : 'logging'}</span>
        <span className="font-semibold">{people[at]?.name}</span>
        <span className="sr-only">on this device. Change to {next?.name}</span>
      </button>
      {asked && (
        <Pin
          name={asked.name}
          fault={be.error instanceof Problem ? (be.error.faults[0]?.message ?? be.error.message) : undefined}
          enter={(pin) => be.mutate({ personId: asked.id, pin })}
          close={() => {
            be.reset()
            setAsked(undefined)
          }}
        />
      )}
    </>
  )
}

interface Asks {
  name: string
  fault?: string
  enter: (pin: string) => void
  close: () => void
}

function Pin({ name, fault, enter, close }: Asks) {
  const [pin, setPin] = useState('')
  return (
    <AlertDialog.Root open onOpenChange={(open) => !open && close()}>
      <AlertDialog.Portal>
        <AlertDialog.Overlay className="fixed inset-0 z-40 bg-band/60" />
        <AlertDialog.Content className="fixed top-1/2 left-1/2 z-50 w-[24rem] max-w-[calc(100vw-2rem)] -translate-1/2 border-t-3 border-umber bg-panel p-6">
          <AlertDialog.Title className="name mb-2 text-xl">{name} on this device</AlertDialog.Title>
          <AlertDialog.Description className="mb-4 text-ink-2">
            What is decided here from now on is in their name.
          </AlertDialog.Description>
          <form
            className="grid gap-4"
            onSubmit={(e) => {
              e.preventDefault()
              enter(pin)
            }}
          >
            <Text
              label={`PIN of ${name}`}
              type="password"
              inputMode="numeric"
              maxLength={12}
              autoFocus
              value={pin}
              onChange={setPin}
              fault={fault}
            />
            <div className="flex justify-end gap-3">
              <Button onClick={close}>Not now</Button>
              <Button type="submit" look="loud" disabled={pin === ''}>
                Be on this device
              </Button>
            </div>
          </form>
        </AlertDialog.Content>
      </AlertDialog.Portal>
    </AlertDialog.Root>
  )
}
