import { useSyncExternalStore } from 'react'
import * as z from 'zod/mini'
import type { Schemas } from './client'
import { forget, keep, readKept } from './kept'

/** Notation is how figures are written: in which units, clock, order of dates, and days of a week. */
export type Notation = Required<Schemas['Notation']>

export const plain: Notation = { inch: false, amPm: false, monthFirst: false, sundayFirst: false }

const key = 'notation'
const shape = z.nullable(
  z.object({ inch: z.boolean(), amPm: z.boolean(), monthFirst: z.boolean(), sundayFirst: z.boolean() }),
)
let own = readKept<Notation | null>(key, shape, null)
const listeners = new Set<() => void>()

/** useOwnNotation is how this device has figures written, where it differs from its shop. */
export function useOwnNotation() {
  return useSyncExternalStore(
    (tell) => {
      listeners.add(tell)
      return () => listeners.delete(tell)
    },
    () => own,
  )
}

/** setOwnNotation lets this device differ from its shop, or not any more. */
export function setOwnNotation(next: Notation | null) {
  own = next
  if (next) keep(key, next)
  else forget(key)
  listeners.forEach((tell) => tell())
}

/** notationHeader is what a request says of how its answer is to be written; empty leaves it to the shop. */
export function notationHeader() {
  if (!own) return ''
  const words = [own.inch && 'inch', own.amPm && 'am-pm', own.monthFirst && 'month-first'].filter(Boolean)
  return words.join(' ') || 'plain'
}
