import { useMutation, useQuery } from '@tanstack/react-query'
import { useEffect, useState } from 'react'
import { Navigate, useLocation } from 'react-router'
import { Problem, api, type DoorView } from '../../api/client'
import { forgetViews } from '../../api/door'
import { useOutbox } from '../../api/outbox'
import { setOutside } from '../../api/outside'
import { queries } from '../../api/queries'
import { Mark } from '../../frame/icons'
import { Asking } from '../../parts/Asking'
import { Button } from '../../parts/Button'
import { Text } from '../../parts/fields/Text'
import { ScreenTitle } from '../../parts/ScreenTitle'
import { Untrusted } from '../../parts/Untrusted'

/** PairScreen lets this device into the shop by a code that one already in it shows. */
export function PairScreen() {
  const door = useQuery({ queryKey: ['door', 'now'], queryFn: api.door, gcTime: 0, retry: false }) // not as it was once
  const code = useLocation().hash.slice(1) // of the picture that its camera has read
  return (
    <main className="mx-auto grid min-h-dvh max-w-[560px] content-center gap-4 px-4 py-8">
      <Asking query={door}>
        {(view) =>
          view.role === '' || (view.paired && code !== '') ? <Ask key={code} door={view} code={code} /> : <In />
        }
      </Asking>
    </main>
  )
}

/** In is a device that needs no pairing, or has it. */
function In() {
  useEffect(() => setOutside(false), [])
  return <Navigate to="/rack" replace />
}

function Ask({ door, code: given }: { door: DoorView; code: string }) {
  const [code, setCode] = useState(given)
  const [name, setName] = useState(guess)
  const waiting = useOutbox().length
  useEffect(() => {
    if (!door.paired) void forgetViews()
  }, [door.paired])
  const pair = useMutation({
    mutationFn: api.pair,
    networkMode: 'always',
    onSuccess: (now) => {
      queries.setQueryData(['door'], now)
      setOutside(false)
      window.location.replace('/rack') // everything begins anew, as this device
    },
  })
  const problem = pair.error instanceof Problem ? pair.error : undefined
  const fault = (field: string) => problem?.faults.find((f) => f.location === `body.${field}`)?.message
  return (
    <section className="panel p-6" data-pair>
      <Mark className="mb-3 size-11 rounded-sm bg-band p-1 text-band-text" />
      <ScreenTitle tab="Pair this device">
        {door.withdrawn ? 'This device is let in no more' : 'Pair this device'}
      </ScreenTitle>
      <p className="my-3 text-ink-2">
        On a device that is in the shop, open <b>Shop, Devices</b> and make a code. It is good for ten minutes and for
        one device.
      </p>
      {waiting > 0 && (
        <p className="mb-3 border-l-4 border-closing bg-closing-fill px-3 py-2 text-closing">
          {waiting === 1 ? 'One log entry' : `${waiting} log entries`} made here {waiting === 1 ? 'has' : 'have'} not
          been sent yet. {waiting === 1 ? 'It stays' : 'They stay'} on this device, and {waiting === 1 ? 'goes' : 'go'}{' '}
          out when it is paired again.
        </p>
      )}
      <form
        className="grid gap-4"
        onSubmit={(e) => {
          e.preventDefault()
          pair.mutate({ code, name })
        }}
      >
        <Text
          label="Code"
          maxLength={40}
          autoFocus={given === ''}
          value={code}
          onChange={setCode}
          fault={fault('code')}
        />
        <Text label="What this device is called" maxLength={60} value={name} onChange={setName} fault={fault('name')} />
        {problem && problem.faults.length === 0 && (
          <p className="text-late" role="alert">
            {problem.message}
          </p>
        )}
        <Button type="submit" look="loud" disabled={pair.isPending || code.trim() === ''}>
          Pair this device
        </Button>
      </form>
      <Untrusted door={door} />
    </section>
  )
}

/** guess is what a device like this is mostly called. */
function guess() {
  const width = Math.min(window.screen.width, window.screen.height)
  return width < 600 ? 'Phone' : width < 1000 ? 'Bench tablet' : 'Computer'
}
