import { useSyncExternalStore } from 'react'

/** Toast is a short word on what just happened. */
export interface Toast {
  id: number
  text: string
  detail?: string
  bad?: boolean
  /** The log entry that its undo strikes. */
  undoes?: string
  /** What taking it back does, where it can be. */
  takeBack?: () => void
}

/** How long one stands, in milliseconds. */
export const standsFor = 10_000
let list: Toast[] = []
let count = 0
const listeners = new Set<() => void>()

function change(next: Toast[]) {
  list = next
  listeners.forEach((tell) => tell())
}

export function dismiss(id: number) {
  change(list.filter((t) => t.id !== id))
}

export function toast(t: Omit<Toast, 'id'>) {
  const id = ++count
  change([...list.slice(-2), { ...t, id }])
}

export function useToasts() {
  return useSyncExternalStore(
    (tell) => {
      listeners.add(tell)
      return () => listeners.delete(tell)
    },
    () => list,
  )
}
