import { useSyncExternalStore } from 'react'

/** Connection is whether the shop can be reached: the network, the database, or both are well. */
export type Connection = 'ok' | 'network' | 'database'

let current: Connection = 'ok'
const listeners = new Set<() => void>()

export function setConnection(next: Connection) {
  if (next === current) return
  current = next
  listeners.forEach((tell) => tell())
}

/** onConnection calls whenever it changes. */
export function onConnection(tell: (now: Connection) => void) {
  listeners.add(() => tell(current))
}

function subscribe(tell: () => void) {
  listeners.add(tell)
  return () => listeners.delete(tell)
}

export function useConnection(): Connection {
  return useSyncExternalStore(subscribe, () => current)
}
