import { useState } from 'react'
import { v7 as uuid } from 'uuid'
import type { NewInstrument, NewPiece, Problem, Reference } from '../../api/client'
import { forget, keep, readKept } from '../../api/kept'

/** Draft is what a person has entered so far; it survives a reload. */
export type Draft = Omit<NewInstrument, 'pieces'> & { body?: NewPiece; neck?: NewPiece; touched: string[] }

const key = 'new-instrument'

export function emptyDraft(): Draft {
  return {
    id: uuid(),
    name: '',
    outline: 'two-horned',
    promise: '',
    body: firstPiece('body'),
    neck: firstPiece('neck'),
    touched: [],
  }
}

/** firstPiece is a usual piece to begin from. */
export function firstPiece(kind: 'body' | 'neck'): NewPiece {
  return kind === 'body'
    ? {
        kind,
        recipe: 'waterborne-gloss-filled',
        wood: 'ash-swamp',
        length: '480 mm',
        width: '330 mm',
        thickness: '44 mm',
        materials: {},
      }
    : { kind, recipe: 'hardwax-oil-satin', wood: 'maple-hard', length: '650 mm', width: '51 mm', materials: {} }
}

export function useDraft() {
  const [draft, setDraft] = useState<Draft>(() => readKept<Draft | null>(key, null) ?? emptyDraft())
  const change = (part: Partial<Draft>, field: string) => {
    setDraft((old) => {
      const next = { ...old, ...part, touched: old.touched.includes(field) ? old.touched : [...old.touched, field] }
      keep(key, next)
      return next
    })
  }
  const start = () => {
    forget(key)
    setDraft(emptyDraft())
  }
  return { draft, change, start }
}

/** toRequest is the draft as the shop wants it. */
export function toRequest(draft: Draft): NewInstrument {
  const { id, name, outline, promise } = draft
  return { id, name, outline, promise, pieces: [draft.body, draft.neck].filter((p) => p !== undefined) }
}

/** faultAt is what the shop said about a field, such as name or body.wood. */
export function faultAt(problem: Problem | undefined, draft: Draft, field: string): string | undefined {
  const [first, ...rest] = field.split('.')
  let path = `body.${field}`
  if (first === 'body' || first === 'neck') {
    const index = first === 'body' || !draft.body ? 0 : 1
    path = [`body.pieces[${index}]`, ...rest].join('.')
  }
  return problem?.faults.find((f) => f.location === path)?.message
}

export const recipeOf = (reference: Reference, id: string) => reference.recipes.find((r) => r.id === id)
