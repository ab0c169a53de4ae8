import { useSyncExternalStore } from 'react'
import { keep, readKept, yesNo } from '../api/kept'

/** Whether keys without a modifier act on this device. */
let acting = readKept('keys', yesNo, true)
const listeners = new Set<() => void>()

export const keysAct = () => acting

export function setKeysAct(next: boolean) {
  acting = next
  keep('keys', next)
  listeners.forEach((tell) => tell())
}

export function useKeysAct() {
  return useSyncExternalStore((tell) => {
    listeners.add(tell)
    return () => listeners.delete(tell)
  }, keysAct)
}

/** modal reports whether a dialog is open: no key acts below it. */
export const modal = () => document.getElementById('root')?.getAttribute('aria-hidden') === 'true'

export function typing(target: EventTarget | null) {
  return target instanceof HTMLElement && (target.isContentEditable || /^(INPUT|TEXTAREA|SELECT)$/.test(target.tagName))
}
