import { useSyncExternalStore } from 'react'

/** Held is a value outside of any screen; the screens that use it are drawn again when it is set. */
export interface Held<T> {
  get: () => T
  set: (next: T) => void
  use: () => T
  /** on calls whenever it is set. */
  on: (tell: (now: T) => void) => void
}

export function held<T>(first: T): Held<T> {
  let now = first
  const listeners = new Set<() => void>()
  const get = () => now
  const subscribe = (tell: () => void) => {
    listeners.add(tell)
    return () => listeners.delete(tell)
  }
  return {
    get,
    set: (next) => {
      if (next === now) return
      now = next
      listeners.forEach((tell) => tell())
    },
    use: () => useSyncExternalStore(subscribe, get),
    on: (tell) => void listeners.add(() => tell(now)),
  }
}
