import { held } from '../api/held'

/** Toast is a short word on what just happened. */
export interface Toast {
  id: number
  text: string
  detail?: string
  bad?: boolean
  /** The log entry that its undo strikes. */
  undoes?: string
  /** What starts a clock of minutes, and how that is called. */
  timer?: { text: string; start: () => void }
  /** What opens the form in which more is said of it. */
  adds?: () => void
  /** What taking it back does, where it can be. */
  takeBack?: () => void
}

/** How long one stands, in milliseconds. */
export const standsFor = 10_000
const list = held<Toast[]>([])
let count = 0

export function dismiss(id: number) {
  list.set(list.get().filter((t) => t.id !== id))
}

export function toast(t: Omit<Toast, 'id'>) {
  const id = ++count
  list.set([...list.get().slice(-2), { ...t, id }])
}

export const useToasts = list.use
