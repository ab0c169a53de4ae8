import { held } from '../api/held'
import { keep, readKept, yesNo } from '../api/kept'

/** Whether keys without a modifier act on this device. */
const acting = held(readKept('keys', yesNo, true))

export const keysAct = acting.get
export const useKeysAct = acting.use

export function setKeysAct(next: boolean) {
  keep('keys', next)
  acting.set(next)
}

/** modal reports whether a dialog or a menu is open: no key acts below it. */
export const modal = () =>
  document.getElementById('root')?.getAttribute('aria-hidden') === 'true' ||
  document.querySelector('[role=menu]') !== null

export function typing(target: EventTarget | null) {
  return target instanceof HTMLElement && (target.isContentEditable || /^(INPUT|TEXTAREA|SELECT)$/.test(target.tagName))
}
