import { useMutation, useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import { api, type PairingView } from '../../api/client'
import { useDoor } from '../../api/door'
import { queries } from '../../api/queries'
import { Asking } from '../../parts/Asking'
import { Button } from '../../parts/Button'
import { Choice } from '../../parts/fields/Choice'
import { Told } from '../../parts/Told'
import { toast } from '../../parts/toasts'
import { NewCode } from './NewCode'
import { roleOptions, roleWords } from './roles'

/** How often it is asked who is on each device, in ms: that is told to nobody when it changes. */
const aWhile = 15_000

/** PairingPanel is the devices that are let into the shop, and the code for another. */
export function PairingPanel() {
  const pairings = useQuery({ queryKey: ['pairings'], queryFn: api.pairings, refetchInterval: aWhile })
  const door = useDoor().data
  const [making, setMaking] = useState(false)
  const reached = (door?.addresses.length ?? 0) > 0
  return (
    <section className="panel p-4" aria-labelledby="pairing-head" data-pairings>
      <h2 id="pairing-head" className="name mb-2 text-xl">
        Devices
      </h2>
      <p className="text-ink-2">
        This machine is in the shop by itself. A tablet or a phone is let in by a code, and may do what you say here.
      </p>
      <Asking query={pairings}>
        {(list) => (
          <ul className="mt-2">
            {list.map((p) => (
              <li key={p.id} className="border-t border-line py-2">
                <Device pairing={p} />
              </li>
            ))}
          </ul>
        )}
      </Asking>
      <div className="border-t border-line pt-3">
        {!reached ? (
          <p className="text-ink-2">
            No other device reaches this server yet. Make the shop an authority with <code>umberfrost trust</code>, and
            serve it on your network: <code>umberfrost start --listen 0.0.0.0:8443</code>
          </p>
        ) : making && door ? (
          <NewCode addresses={door.addresses} close={() => setMaking(false)} />
        ) : (
          <Button onClick={() => setMaking(true)}>Let a device in</Button>
        )}
      </div>
    </section>
  )
}

function Device({ pairing: p }: { pairing: PairingView }) {
  const [open, setOpen] = useState(false)
  const change = useMutation({
    mutationFn: api.changePairing,
    networkMode: 'always',
    onSuccess: (list, asked) => {
      queries.setQueryData(['pairings'], list)
      setOpen(false)
      if (asked.withdraw) toast({ text: `${p.name} is let in no more`, detail: 'What it has not sent stays on it.' })
    },
  })
  if (p.withdrawn)
    return (
      <p className="text-ink-3">
        <b>{p.name}</b>, withdrawn <Told more={p.withdrawn.full}>{p.withdrawn.said}</Told>
      </p>
    )
  return (
    <>
      <div className="flex flex-wrap items-center gap-3">
        <span>
          <b>{p.name}</b> <span className="text-ink-2">{roleWords[p.role]}</span>
          <span className="block text-sm text-ink-2">
            {p.this ? 'this device, ' : ''}
            {p.person} is on it, seen <Told more={p.seen.full}>{p.seen.said}</Told>
          </span>
        </span>
        {!open && (
          <Button className="ml-auto" aria-label={`Change ${p.name}`} onClick={() => setOpen(true)}>
            Change
          </Button>
        )}
      </div>
      {open && (
        <div className="mt-2 grid gap-3">
          <Choice
            label="It may"
            value={p.role}
            options={roleOptions}
            onChange={(role) => change.mutate({ id: p.id, role: role as PairingView['role'] })}
          />
          <div className="flex flex-wrap justify-end gap-3">
            <Button onClick={() => setOpen(false)}>Leave it</Button>
            <Button onClick={() => change.mutate({ id: p.id, withdraw: true })} disabled={change.isPending}>
              Let it in no more
            </Button>
          </div>
        </div>
      )}
      {change.error && (
        <p role="alert" className="text-late">
          {change.error.message}
        </p>
      )}
    </>
  )
}
