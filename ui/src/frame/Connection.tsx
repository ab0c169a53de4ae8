import { CloudOff } from 'lucide-react'
import { useConnection } from '../api/connection'
import { drop, useOutbox } from '../api/outbox'

const words = {
  network:
    'The server cannot be reached. What is on screen may be old; what you log is kept on this device and sent later.',
  database:
    'The shop’s database does not answer. What is on screen may be old; what you typed and log is kept on this device. Trying again by itself.',
}

/** Connection says when the shop cannot be reached, and what is kept here until it can. */
export function Connection() {
  const connection = useConnection()
  const outbox = useOutbox()
  const waiting = outbox.filter((w) => w.refused === undefined && w.entry.late)
  const refused = outbox.filter((w) => w.refused !== undefined)
  if (connection === 'ok' && waiting.length + refused.length === 0) return null
  return (
    <div
      role="alert"
      className="border-b-2 border-closing bg-closing-fill px-4 py-2 text-closing"
      data-connection={connection}
    >
      {connection !== 'ok' && (
        <p className="flex items-center gap-2 font-semibold">
          <CloudOff className="size-5 shrink-0" /> {words[connection]}
        </p>
      )}
      {waiting.length > 0 && (
        <p>
          {waiting.length === 1 ? 'One log entry is' : `${waiting.length} log entries are`} kept here and will be sent
          in order.
        </p>
      )}
      {refused.map((w) => (
        <p key={w.entry.id} className="flex flex-wrap items-center gap-x-3">
          The shop refused an entry made here ({w.entry.kind}): {w.refused}
          <button className="min-h-11 font-bold underline" onClick={() => drop(w.entry.id)}>
            Let it go
          </button>
        </p>
      ))}
    </div>
  )
}
