import { CloudOff } from 'lucide-react'
import { useShownSince } from '../api/bench'
import { useConnection } from '../api/connection'
import { useOutbox } from '../api/outbox'
import { useRackNow } from '../api/queries'
import { useShopId } from '../api/who'
import { useSay } from '../parts/zone'
import { Kept } from './Kept'

const words = {
  network:
    'The server cannot be reached. What is on screen may be old; what you log is kept on this device and sent later.',
  database:
    'The shop’s database does not answer. What is on screen may be old; what you typed and log is kept on this device. Trying again by itself.',
  full: 'The shop’s database has no room left: somebody has to make room on its disk. What you typed and log is kept on this device. Trying again by itself.',
  slow: 'Another change is taking long. What you typed and log is kept on this device. Trying again by itself.',
}

const ago = (minutes: number) => (minutes < 1 ? 'less than a minute ago' : `${minutes} min ago`)

/** Connection says when the shop cannot be reached, and what is kept here until it can. */
export function Connection() {
  const connection = useConnection()
  const shop = useShopId()
  const outbox = useOutbox()
  const since = useShownSince()
  const say = useSay()
  const remembered = useRackNow()?.remembered
  const mine = outbox.filter((w) => w.shop === '' || w.shop === shop)
  const waiting = mine.filter((w) => w.refused === undefined && (w.tab === '' || connection !== 'ok'))
  const refused = mine.filter((w) => w.refused !== undefined)
  const others = outbox.length - mine.length
  if (connection === 'ok' && waiting.length + refused.length + others === 0) return null
  return (
    <div
      role="alert"
      className="border-b-2 border-closing bg-closing-fill px-4 py-2 text-closing"
      data-connection={connection}
    >
      {connection !== 'ok' && (
        <p className="flex items-center gap-2 font-semibold">
          <CloudOff className="size-5 shrink-0" /> {words[connection]}
          {remembered && <> The rack is as it was {ago(remembered.minutes)}.</>}
          {!remembered && since && <> The rack is as it was {say(Date.parse(since))}.</>}
        </p>
      )}
      {waiting.length > 0 && (
        <details>
          <summary className="min-h-11 cursor-pointer py-2.5">
            {waiting.length === 1 ? 'One log entry is' : `${waiting.length} log entries are`} kept here and will be sent
            in order.
          </summary>
          {waiting.map((w) => (
            <Kept key={w.seq} waiting={w} />
          ))}
        </details>
      )}
      {refused.map((w) => (
        <Kept key={w.seq} waiting={w} />
      ))}
      {others > 0 && (
        <p>
          {others === 1 ? 'One more is' : `${others} more are`} kept here for another shop, and sent when that is served
          again.
        </p>
      )}
    </div>
  )
}
