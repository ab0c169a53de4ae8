import { v7 as uuid } from 'uuid'
import * as z from 'zod/mini'
import type { Change, EventRef } from './client'
import { held } from './held'
import { keep, readKept, text, type Shape } from './kept'

/**
 * What a person supposes: changes that are planned beside today's plan until they are kept
 * or dropped. They stay on this device, over reloads, and are seen on every screen.
 */
const key = 'supposing'
const decisionKey = 'supposing.id'
/** The shop judges what is in a change; here it only has to be one. */
const shape = z.array(z.looseObject({ kind: z.string() })) as Shape<unknown> as Shape<Change[]>
const changes = held(readKept(key, shape, []))

/** change works on what is stored, so that two tabs do not overwrite each other. */
function change(how: (list: Change[]) => Change[]) {
  const next = how(readKept(key, shape, []))
  keep(key, next)
  keep(decisionKey, uuid())
  changes.set(next)
}

window.addEventListener('storage', (e) => {
  if (e.key === null || e.key.endsWith(`.${key}`)) changes.set(readKept(key, shape, []))
})

/** decisionId names what is supposed now, also in another tab: kept twice, by a double tap or after a lost answer, it is kept once. */
export function decisionId(): string {
  const known = readKept(decisionKey, text, '')
  if (known) return known
  const id = uuid()
  keep(decisionKey, id)
  return id
}

export const useSupposed = changes.use

/** same reports whether one change replaces another: the same event pinned, the same day painted, the same instrument wished otherwise. */
function same(a: Change, b: Change) {
  const pins = ['pin', 'unpin']
  if (pins.includes(a.kind) && pins.includes(b.kind)) return a.stepId === b.stepId && a.coat === b.coat
  if (a.kind === 'wish' && b.kind === 'wish') return a.instrumentId === b.instrumentId
  return a.kind === 'day' && b.kind === 'day' && a.date === b.date && a.placeId === b.placeId
}

/** withChange is a list of changes with one more, in place of what it replaces. */
export function withChange(list: Change[], one: Change): Change[] {
  const last = list.at(-1)
  const more = last && withFields(last, one)
  if (more) return [...list.slice(0, -1), more]
  return [...list.filter((c) => !same(c, one)), one]
}

/** withFields is a change of a step's figures together with the one just before it. */
function withFields(last: Change, one: Change): Change | undefined {
  if (last.kind !== 'edit' || one.kind !== 'edit' || last.instrumentId !== one.instrumentId) return undefined
  const [a, b] = [last.edit, one.edit]
  if (a?.op !== 'set' || b?.op !== 'set' || a.stepId !== b.stepId) return undefined
  return { ...one, edit: { ...b, version: a.version, fields: { ...a.fields, ...b.fields } } }
}

export const suppose = (one: Change) => change((list) => withChange(list, one))
/** letGo takes one change out, whatever another tab has added. */
export const letGo = (one: Change) => change((list) => list.filter((c) => JSON.stringify(c) !== JSON.stringify(one)))
export const takeBack = (one: Change) => change((list) => list.filter((c) => !same(c, one)))
export const dropAll = () => change(() => [])

/** onTop puts what is changed of a step on top of another version of it. */
export const onTop = (stepId: string, version: number) =>
  change((list) => list.map((c) => (c.edit?.stepId === stepId ? { ...c, edit: { ...c.edit, version } } : c)))

export const pinTo = (event: EventRef, at: Date): Change => ({
  kind: 'pin',
  stepId: event.stepId,
  coat: event.coat,
  at: at.toISOString(),
})
