import { useSyncExternalStore } from 'react'
import { keep, readKept, text } from './kept'

let person = readKept('person', text, '')
const listeners = new Set<() => void>()

/** usePerson is who stands at this device, for the log; empty until somebody said. */
export function usePerson() {
  return useSyncExternalStore(
    (tell) => {
      listeners.add(tell)
      return () => listeners.delete(tell)
    },
    () => person,
  )
}

export function setPerson(id: string) {
  person = id
  keep('person', id)
  listeners.forEach((tell) => tell())
}
