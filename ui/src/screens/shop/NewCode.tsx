import { useMutation } from '@tanstack/react-query'
import { useState } from 'react'
import { encode } from 'uqr'
import { api } from '../../api/client'
import type { Role } from '../../api/door'
import { useReference } from '../../api/queries'
import { useWho } from '../../api/who'
import { Button } from '../../parts/Button'
import { Choice } from '../../parts/fields/Choice'
import { Told } from '../../parts/Told'
import { roleOptions } from './roles'

/** NewCode makes a code that lets one device in, and shows it as text and as a picture that a camera reads. */
export function NewCode({ addresses, close }: { addresses: string[]; close: () => void }) {
  const people = useReference().data?.people ?? []
  const who = useWho()
  const [role, setRole] = useState<Role>('bench')
  const [chosen, setChosen] = useState<string>()
  const [at, setAt] = useState(addresses[0] ?? '')
  const person = chosen ?? who
  const make = useMutation({ mutationFn: api.makeCode, networkMode: 'always' })
  const made = make.data
  if (made)
    return (
      <div className="grid gap-3" data-code>
        <div className="flex flex-wrap items-center gap-5">
          <Picture text={`${at}/pair#${made.code}`} />
          <div className="min-w-56 flex-1">
            <p className="name text-[34px] leading-10 tracking-wide" data-code-text>
              {made.code}
            </p>
            <p className="text-ink-2">
              for one device, lapses <Told more={made.until.full}>{made.until.said}</Told>
            </p>
            <p className="mt-2">
              Let its camera read the picture, or open <b className="break-all">{at}</b> on it and enter the code.
            </p>
          </div>
        </div>
        {addresses.length > 1 && (
          <Choice label="Address" value={at} options={addresses.map((a) => ({ id: a, text: a }))} onChange={setAt} />
        )}
        <p className="text-sm text-ink-2">
          The first time, the device warns of a certificate that it does not know: it says how to take the shop’s own.
        </p>
        <div className="flex justify-end gap-3">
          <Button onClick={() => make.reset()}>Another code</Button>
          <Button onClick={close}>Done</Button>
        </div>
      </div>
    )
  return (
    <form
      className="grid gap-3"
      onSubmit={(e) => {
        e.preventDefault()
        make.mutate({ role, personId: person })
      }}
    >
      <Choice label="The device may" value={role} options={roleOptions} onChange={(next) => setRole(next as Role)} />
      <Choice
        label="Who will be on it"
        value={person}
        options={people.map((p) => ({ id: p.id, text: p.name }))}
        onChange={setChosen}
      />
      {make.error && (
        <p role="alert" className="text-late">
          {make.error.message}
        </p>
      )}
      <div className="flex justify-end gap-3">
        <Button onClick={close}>Not now</Button>
        <Button type="submit" look="loud" disabled={make.isPending}>
          Make a code
        </Button>
      </div>
    </form>
  )
}

/** Picture is a text as a camera reads it: dark on light, by day and by night. */
function Picture({ text }: { text: string }) {
  const { data, size } = encode(text, { border: 3 })
  const path = data.flatMap((row, y) => row.map((dark, x) => (dark ? `M${x} ${y}h1v1h-1z` : ''))).join('')
  return (
    <svg
      role="img"
      aria-label="The code and the address, for a camera"
      viewBox={`0 0 ${size} ${size}`}
      className="size-44 shrink-0"
      shapeRendering="crispEdges"
    >
      <rect width={size} height={size} fill="#fff" />
      <path d={path} fill="#000" />
    </svg>
  )
}
