import { beforeEach, expect, it, vi } from 'vitest'
import * as z from 'zod/mini'
import { forget, keep, readKept } from './kept'

const store = new Map<string, string>()
const local = {
  getItem: (key: string) => store.get(key) ?? null,
  setItem: (key: string, value: string) => void store.set(key, value),
  removeItem: (key: string) => void store.delete(key),
}

beforeEach(() => {
  store.clear()
  vi.stubGlobal('localStorage', local)
})

const shape = z.object({ name: z.string() })

it('gives back what was kept', () => {
  keep('draft', { name: 'Ösen' })
  expect(readKept('draft', shape, { name: '' })).toEqual({ name: 'Ösen' })
  forget('draft')
  expect(readKept('draft', shape, { name: 'none' })).toEqual({ name: 'none' })
})

it.each(['{"name":', '{"name":7}', 'null', '[]'])('puts aside what is broken or has another shape: %s', (broken) => {
  store.set('umberfrost.draft', broken)
  expect(readKept('draft', shape, { name: 'none' })).toEqual({ name: 'none' })
  expect(store.get('umberfrost.draft')).toBeUndefined()
  expect(store.get('umberfrost.draft.broken')).toBe(broken)
})

it('goes on where nothing may be kept', () => {
  const refuses = () => {
    throw new Error('forbidden')
  }
  vi.stubGlobal('localStorage', { getItem: refuses, setItem: refuses, removeItem: refuses })
  keep('draft', 1)
  forget('draft')
  expect(readKept('draft', shape, { name: 'none' })).toEqual({ name: 'none' })
})
