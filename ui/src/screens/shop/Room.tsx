import { useQuery } from '@tanstack/react-query'
import { api } from '../../api/client'

const words = { data: 'where the shop is kept', backups: 'where its backups are' }

/** Room is how much room is left on the disks that the shop is kept on; it says nothing where the server does not know. */
export function Room() {
  const health = useQuery({ queryKey: ['health'], queryFn: api.health, refetchInterval: 60_000 })
  const spaces = health.data?.space ?? []
  if (spaces.length === 0) return null
  return (
    <ul className="mb-3">
      {spaces.map((s) => (
        <li key={s.what} className={s.low ? 'font-semibold text-late' : 'text-ink-2'}>
          {size(s.freeBytes)} free {words[s.what]}
          {s.low && ': make room, or what is logged can soon not be kept any more'}
        </li>
      ))}
    </ul>
  )
}

const giga = 2 ** 30

const size = (bytes: number) =>
  bytes < 10 * giga ? `${Math.max(0, bytes / giga).toFixed(1)} GB` : `${Math.round(bytes / giga)} GB`
