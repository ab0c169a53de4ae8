import type { Forecast, NewInstrument, OwnOutline, PieceWish, Problem, Reference, Tag, Wish } from '../../api/client'
import { faultAt, pathOf, type Draft } from './draft'

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

/** Composed is what the shop says of the layers: how they look, how they lie, what speaks against them. */
export type Composed = Pick<Forecast, 'looks' | 'stacks' | 'roles' | 'choices' | 'objections'>

/** StackProps is what the parts of the stack are given beside that. */
export interface StackProps extends FormProps {
  composed?: Composed
  request: NewInstrument
  /** The instrument is kept already: what is logged of it is fixed. */
  running: boolean
  now: string
}

/** PieceProps is what the parts of one piece are given. */
export interface PieceProps extends StackProps {
  piece: PieceWish
  /** The piece with something chosen; the field is below it, such as layers or wood. */
  set: (next: PieceWish, field: string) => void
}

/** shown is what is wrong with a field, once it was touched or keeping was tried. */
export function shown({ problem, draft, tried }: Pick<FormProps, 'problem' | 'draft' | 'tried'>) {
  return (field: string) =>
    tried || draft.touched.some((t) => field.startsWith(t)) ? faultAt(problem, field) : undefined
}

/** layerPath is where a layer stands in the wish. */
export const layerPath = ({ draft, piece }: PieceProps, id: string) =>
  `${pathOf(draft.wish, piece.kind)}.layers[${piece.layers?.findIndex((l) => l.id === id) ?? -1}]`

/** isDone reports whether all of a layer is logged: it is fixed, then. */
export function isDone({ composed, piece }: Pick<PieceProps, 'composed' | 'piece'>, id: string) {
  const row = composed?.stacks.find((s) => s.piece === piece.kind)?.rows.find((r) => r.layer === id)
  return row !== undefined && row.total > 0 && row.done === row.total
}

export const outlineOf = (draft: Draft) => draft.outline as Tag['outline']

/** sheens and woodOptions are what may be chosen. */
export const sheens = [
  { id: 'matte', text: 'Matte' },
  { id: 'satin', text: 'Satin' },
  { id: 'gloss', text: 'Gloss' },
]

export const woodOptions = (reference: Reference) => reference.woods.map((w) => ({ id: w.id, text: w.name }))
