import type { OwnOutline, Problem, Reference, Wish } from '../../api/client'
import { faultAt, type Draft } from './draft'

/** FormProps is what every part of the form is given. */
export interface FormProps {
  reference: Reference
  draft: Draft
  change: (part: Partial<Draft>, field: string) => void
  /** The wish with something chosen; the field is where it stands, such as wish.pieces[0].wood. */
  wish: (next: Wish, field: string) => void
  problem?: Problem
  /** An outline of its own, as the shop has read it. */
  own?: OwnOutline
  /** Whether keeping was tried: then every fault shows, touched or not. */
  tried: boolean
}

/** shown is what is wrong with a field, once it was touched or keeping was tried. */
export function shown({ problem, draft, tried }: Pick<FormProps, 'problem' | 'draft' | 'tried'>) {
  return (field: string) =>
    tried || draft.touched.some((t) => field.startsWith(t)) ? faultAt(problem, field) : undefined
}

/** sheens and woodOptions are what may be chosen. */
export const sheens = [
  { id: 'matte', text: 'Matte' },
  { id: 'satin', text: 'Satin' },
  { id: 'gloss', text: 'Gloss' },
]

export const woodOptions = (reference: Reference) => reference.woods.map((w) => ({ id: w.id, text: w.name }))
