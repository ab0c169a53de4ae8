import * as z from 'zod/mini'
import { held } from './held'
import { forget, keep, readKept } from './kept'
import type { components } from './schema'

/** Notation is how figures are written: in which units, clock, order of dates, and days of a week. */
export type Notation = Required<components['schemas']['Notation']>

export const plain: Notation = { inch: false, amPm: false, monthFirst: false, sundayFirst: false }

const key = 'notation'
const shape = z.nullable(
  z.object({ inch: z.boolean(), amPm: z.boolean(), monthFirst: z.boolean(), sundayFirst: z.boolean() }),
)
const own = held(readKept<Notation | null>(key, shape, null))

/** useOwnNotation is how this device has figures written, where it differs from its shop. */
export const useOwnNotation = own.use

/** setOwnNotation lets this device differ from its shop, or not any more. */
export function setOwnNotation(next: Notation | null) {
  if (next) keep(key, next)
  else forget(key)
  own.set(next)
}

/** notationHeader is what a request says of how its answer is to be written; empty leaves it to the shop. */
export function notationHeader() {
  const now = own.get()
  return now ? notationWords(now) : ''
}

/** notationWords name a notation for the server. */
export function notationWords(now: Notation) {
  const words = [now.inch && 'inch', now.amPm && 'am-pm', now.monthFirst && 'month-first'].filter(Boolean)
  return words.join(' ') || 'plain'
}
