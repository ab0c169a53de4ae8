import { useState } from 'react'
import { v7 as uuid } from 'uuid'
import * as z from 'zod/mini'
import type { NewInstrument, PieceWish, Problem, Reference, Wish, RegionWish } from '../../api/client'
import { forget, keep, readKept, type Shape } from '../../api/kept'

/** Draft is what a person has entered so far; it survives a reload. */
export type Draft = NewInstrument & { touched: string[] }

const key = 'new-instrument.2'

/** What the page relies on of a kept draft; the shop judges the rest. */
const shape = z.nullable(
  z.looseObject({
    id: z.string(),
    name: z.string(),
    outline: z.string(),
    promise: z.string(),
    wish: z.looseObject({ pieces: z.array(z.looseObject({ kind: z.enum(['body', 'neck']), wood: z.string() })) }),
    touched: z.array(z.string()),
  }),
) as Shape<unknown> as Shape<Draft | null>

export type Kind = PieceWish['kind']

/** firstPiece is a usual piece to begin from. */
export function firstPiece(kind: Kind): PieceWish {
  return kind === 'body'
    ? {
        kind,
        wood: 'ash-swamp',
        length: '480 mm',
        width: '330 mm',
        thickness: '44 mm',
        look: 'natural',
        sheen: 'satin',
        clear: 'water-clear',
      }
    : {
        kind,
        wood: 'maple-hard',
        length: '650 mm',
        width: '51 mm',
        look: 'natural',
        sheen: 'satin',
        clear: 'hardwax-oil',
      }
}

export function emptyDraft(reference: Reference): Draft {
  const wish = reference.archetypes[0]?.wish ?? { pieces: [firstPiece('body'), firstPiece('neck')] }
  return { id: uuid(), name: '', outline: 'two-horned', promise: '', wish, materials: {}, touched: [] }
}

export function useDraft(reference: Reference) {
  const [draft, setDraft] = useState<Draft>(() => {
    const kept = readKept(key, shape, null)
    return kept ? inTodaysWords(kept) : emptyDraft(reference)
  })
  const change = (part: Partial<Draft>, field: string) => {
    setDraft((old) => {
      const next = { ...old, ...part, touched: old.touched.includes(field) ? old.touched : [...old.touched, field] }
      keep(key, next)
      return next
    })
  }
  const start = () => {
    forget(key)
    setDraft(emptyDraft(reference))
  }
  return { draft, change, start }
}

/** inTodaysWords is a draft that was kept when regions were called zones. */
function inTodaysWords(draft: Draft): Draft {
  const pieces = draft.wish.pieces?.map(({ zones, ...piece }: PieceWish & { zones?: RegionWish[] }) => ({
    ...piece,
    regions: piece.regions ?? zones,
  }))
  return { ...draft, wish: { ...draft.wish, pieces } }
}

export const forgetDraft = () => forget(key)

/** toRequest is the draft as the shop wants it: what is empty is left out. */
export function toRequest(draft: Draft): NewInstrument {
  const { id, name, outline, promise, show, serial, wish, materials } = draft
  return clean({ id, name, outline, promise, show, serial, wish, materials })
}

/** clean leaves out what is empty, all the way down, but for what is asked of everything. */
export function clean<T>(value: T): T {
  if (Array.isArray(value)) return value.map(clean) as T
  if (value === null || typeof value !== 'object') return value
  const kept = Object.entries(value).filter(
    ([field, v]) => asked.has(field) || (v !== '' && v !== undefined && v !== false),
  )
  return Object.fromEntries(kept.map(([field, v]) => [field, clean(v)])) as T
}

const asked = new Set(['id', 'name', 'outline', 'promise', 'wood', 'length', 'width', 'what'])

/** faultAt is what the shop said about a field, such as name or wish.pieces[0].wood. */
export const faultAt = (problem: Problem | undefined, path: string) =>
  problem?.faults.find((f) => f.location === `body.${path}`)?.message

export const pieceOf = (wish: Wish, kind: Kind) => wish.pieces.find((p) => p.kind === kind)

/** pathOf is where a piece stands in the wish. */
export const pathOf = (wish: Wish, kind: Kind) => `wish.pieces[${wish.pieces.findIndex((p) => p.kind === kind)}]`

/** withPiece is the wish with a piece changed, added, or left out. */
export function withPiece(wish: Wish, kind: Kind, piece?: PieceWish): Wish {
  const others = wish.pieces.filter((p) => p.kind !== kind)
  const pieces = piece ? (kind === 'body' ? [piece, ...others] : [...others, piece]) : others
  const left: Wish = { ...wish, pieces }
  if (!piece && kind === 'neck') return { ...left, board: undefined, frets: undefined }
  return !piece ? { ...left, cavities: undefined } : left
}

/** withRegion is a piece with one of its regions changed; one that differs in nothing is left out. */
export function withRegion(piece: PieceWish, region: RegionWish): PieceWish {
  const others = (piece.regions ?? []).filter((r) => r.name !== region.name)
  const differs = region.wood || region.sheen || region.plain
  return { ...piece, regions: differs ? [...others, region] : others }
}
