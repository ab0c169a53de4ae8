import { useState } from 'react'
import { v7 as uuid } from 'uuid'
import * as z from 'zod/mini'
import type { Layer, NewInstrument, PieceWish, Problem, Reference, Wish, RegionWish } from '../../api/client'
import { forget, keep, readKept, type Shape } from '../../api/kept'
import { withEffect, withEnding, withPlain, withPreset, withWays } from './stack'

/** Draft is what a person has entered so far; it survives a reload. */
export type Draft = NewInstrument & { touched: string[] }

const key = 'new-instrument.2' // drafts of earlier days are translated when they are read

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
export function firstPiece(reference: Reference, kind: Kind): PieceWish {
  if (kind === 'body') {
    const body = { kind, wood: 'ash-swamp', length: '480 mm', width: '330 mm', thickness: '44 mm' }
    return withPreset(reference, body, 'natural')
  }
  const neck = { kind, wood: 'maple-hard', length: '650 mm', width: '51 mm' }
  return withEnding(withPreset(reference, neck, 'natural'), { family: 'hardwax-oil' })
}

export function emptyDraft(reference: Reference): Draft {
  const wish = reference.archetypes[0]?.wish ?? {
    pieces: [firstPiece(reference, 'body'), firstPiece(reference, 'neck')],
  }
  return { id: uuid(), name: '', outline: 'two-horned', promise: '', wish, materials: {}, touched: [] }
}

export function useDraft(reference: Reference) {
  const [draft, setDraft] = useState<Draft>(() => {
    const kept = readKept(key, shape, null)
    return kept ? inTodaysWords(reference, kept) : emptyDraft(reference)
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

/** Former is a piece as it was kept when it had one look, and before that regions were called zones. */
type Former = PieceWish & {
  look?: string
  sheen?: Layer['sheen']
  clear?: string
  texture?: boolean
  wax?: boolean
  zones?: FormerRegion[]
}
type FormerRegion = RegionWish & { plain?: boolean }

/** inTodaysWords is a draft that was kept in words that the shop has given up since. */
function inTodaysWords(reference: Reference, draft: Draft): Draft {
  return { ...draft, wish: { ...draft.wish, pieces: draft.wish.pieces.map((p) => layered(reference, p)) } }
}

function layered(reference: Reference, { look, sheen, clear, texture, wax, zones, ...piece }: Former): PieceWish {
  const regions = (piece.regions ?? zones) as FormerRegion[] | undefined
  const bare = { ...piece, regions: regions?.map((region) => ({ ...region, plain: undefined })) }
  if (piece.layers) return bare
  const { grain, ...ways } = piece.ways ?? {}
  let next = withPreset(reference, { ...bare, ways: grain ? { grain } : undefined }, look ?? 'natural')
  next = withWays(withEnding(next, { family: clear ?? 'water-clear', sheen: sheen ?? 'satin' }), ways)
  if (texture) next = withEffect(next, 'texture', true)
  if (wax) next = withEffect(next, 'wax', true)
  for (const region of regions ?? []) {
    if (region.plain) next = withPlain(next, region.name, true)
  }
  return next
}

export const forgetDraft = () => forget(key)

/** toRequest is the draft as the shop wants it: what is empty is left out. */
export function toRequest(draft: Draft): NewInstrument {
  const { id, name, outline, outlinePath, promise, show, serial, wish, materials } = draft
  return clean({ id, name, outline, outlinePath, promise, show, serial, wish, materials })
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

/** faultUnder is the first that the shop said about anything below a field, but for some of it. */
export const faultUnder = (problem: Problem | undefined, path: string, but: string[]) =>
  problem?.faults.find((f) => f.location.startsWith(`body.${path}`) && !but.includes(f.location))?.message

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
