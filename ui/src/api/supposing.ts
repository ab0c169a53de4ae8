import { useSyncExternalStore } from 'react'
import type { Change, EventRef } from './client'
import { keep, readKept } from './kept'

/**
 * What a person supposes: changes that are planned beside today's plan until they are kept
 * or dropped. They stay on this device, over reloads, and are seen on every screen.
 */
let changes = readKept<Change[]>('supposing', [])
const listeners = new Set<() => void>()

function set(next: Change[]) {
  changes = next
  keep('supposing', next)
  listeners.forEach((tell) => tell())
}

export function useSupposed() {
  return useSyncExternalStore(
    (tell) => {
      listeners.add(tell)
      return () => listeners.delete(tell)
    },
    () => changes,
  )
}

/** same reports whether one change replaces another: the same event pinned, the same day painted. */
function same(a: Change, b: Change) {
  const pins = ['pin', 'unpin']
  if (pins.includes(a.kind) && pins.includes(b.kind)) return a.stepId === b.stepId && a.coat === b.coat
  return a.kind === 'day' && b.kind === 'day' && a.date === b.date && a.placeId === b.placeId
}

/** withChange is a list of changes with one more, in place of what it replaces. */
export function withChange(list: Change[], change: Change): Change[] {
  return [...list.filter((c) => !same(c, change)), change]
}

export const suppose = (change: Change) => set(withChange(changes, change))
export const supposeAll = (more: Change[]) => set(more.reduce(withChange, changes))
export const letGo = (index: number) => set(changes.filter((_, i) => i !== index))
export const dropAll = () => set([])
export const takeBack = (change: Change) => set(changes.filter((c) => !same(c, change)))

export const pinTo = (event: EventRef, at: Date): Change => ({
  kind: 'pin',
  stepId: event.stepId,
  coat: event.coat,
  at: at.toISOString(),
})
