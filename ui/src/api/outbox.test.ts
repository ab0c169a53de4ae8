import 'fake-indexeddb/auto'
import { beforeEach, expect, it, vi } from 'vitest'
import { Problem, type Entry } from './client'

/** The shop, as far as the outbox sees it: what it logged, and what it answers next. */
const shop = vi.hoisted(() => ({
  logged: [] as Entry[],
  answer: undefined as ((entry: Entry) => Error | undefined) | undefined,
}))

vi.stubGlobal('localStorage', { getItem: () => null, setItem: () => undefined, removeItem: () => undefined })
vi.stubGlobal('window', {
  location: { origin: 'http://localhost' },
  setInterval: () => 0,
  setTimeout: () => 0,
  addEventListener: () => undefined,
})
vi.stubGlobal('navigator', {})
vi.mock('./fresh', () => ({ refresh: () => undefined }))
vi.mock('./client', async () => {
  class Problem extends Error {
    constructor(
      readonly status: number,
      readonly kind: string,
      detail: string,
    ) {
      super(detail)
    }
    get outside() {
      return this.status === 401
    }
    get away() {
      return this.status === 0 || this.status >= 502
    }
  }
  const log = (entry: Entry) => {
    const refused = shop.answer?.(entry)
    if (refused) return Promise.reject(refused)
    shop.logged.push(entry)
    return Promise.resolve({ id: entry.id, title: '', flags: [], moved: [] })
  }
  return { Problem, api: { log } }
})

const { drop, put, send, startOutbox, tryAgain } = await import('./outbox')
const { store } = await import('./store')

const away = () => new Problem(0, 'network', 'away', [])
const waiting = async () => (await store()).getAll('outbox')

beforeEach(async () => {
  shop.logged = []
  shop.answer = undefined
  await (await store()).clear('outbox')
})

it('numbers entries in the order in which they are made, and sends them so', async () => {
  shop.answer = away
  for (const note of ['first', 'second', 'third']) {
    const made = await put({ kind: 'note', note }, note)
    expect(await send(made, 'mara', 'room')).toEqual({ kept: true })
  }
  shop.answer = undefined
  await send(await put({ kind: 'note', note: 'fourth' }, 'fourth'), 'mara', 'room')
  expect(shop.logged.map((e) => e.note)).toEqual(['first', 'second', 'third', 'fourth'])
  const numbers = shop.logged.map((e) => e.deviceSeq)
  expect(numbers).toEqual(numbers.toSorted((a, b) => a - b))
  expect(shop.logged.map((e) => e.late ?? false)).toEqual([true, true, true, false])
  expect(await waiting()).toEqual([])
})

it('keeps what a shop fails on, and the reason where it refuses', async () => {
  shop.answer = () => new Problem(500, 'about:blank', 'Something went wrong', [])
  expect(await send(await put({ kind: 'note', note: 'kept' }, 'kept'), 'mara', 'room')).toEqual({ kept: true })
  shop.answer = (e) => (e.note === 'kept' ? undefined : new Problem(422, 'about:blank', 'too long', []))
  await expect(send(await put({ kind: 'note', note: 'long' }, 'long'), 'mara', 'room')).rejects.toThrow('too long')
  expect((await waiting()).map((w) => [w.entry.note, w.refused])).toEqual([['long', 'too long']])
})

it('keeps what it cannot send while the shop does not let this device in', async () => {
  shop.answer = () => new Problem(401, '/problems/withdrawn', 'let in no more', [])
  const made = await put({ kind: 'note', note: 'written at the bench' }, 'a note')
  expect(await send(made, 'mara', 'room')).toEqual({ kept: true })
  for (let again = 0; again < 9; again++) await startOutbox()
  const [kept] = await waiting()
  expect(kept).toMatchObject({ tries: 0, entry: { late: true, note: 'written at the bench' } })
  expect(kept?.refused).toBeUndefined()
})

it('does not send to one shop what was logged for another', async () => {
  shop.answer = away
  await send(await put({ kind: 'note', note: 'elsewhere' }, ''), 'mara', 'demo')
  shop.answer = undefined
  await send(await put({ kind: 'note', note: 'here' }, ''), 'mara', 'own')
  expect(shop.logged.map((e) => e.note)).toEqual(['here'])
  expect((await waiting()).map((w) => w.entry.note)).toEqual(['elsewhere'])
})

it('puts an entry right under its own id, and says when it has gone already', async () => {
  shop.answer = away
  const made = await put({ kind: 'note', note: 'wrnog' }, '')
  await send(made, 'mara', 'room')
  expect(await tryAgain(made, { note: 'wrong no more' })).toBe(true)
  expect((await waiting()).map((w) => [w.entry.id, w.entry.note])).toEqual([[made.entry.id, 'wrong no more']])
  await drop(made.seq)
  expect(await tryAgain(made, { note: 'too late' })).toBe(false)
})

it('keeps what is asked about until that is answered, also where the tab is gone by then', async () => {
  shop.answer = () => new Problem(409, '/problems/doubtful', 'before it is dry', [])
  const made = await put({ kind: 'done', note: 'mine' }, 'Coat 2')
  await expect(send(made, 'mara', 'room')).rejects.toThrow('before it is dry')
  expect((await waiting()).map((w) => [w.entry.note, w.asked, w.refused])).toEqual([
    ['mine', 'before it is dry', undefined],
  ])
  await startOutbox() // as another tab does that finds it
  const [kept] = await waiting()
  expect(kept?.refused).toContain('before it is dry')
  expect(kept?.entry).toMatchObject({ late: true, title: 'Coat 2' })
  if (kept) await tryAgain(kept)
  const [again] = await waiting()
  expect(again?.refused).toBeUndefined()
  expect(again?.entry.late, 'who tries again says so on purpose: it is kept, and flagged').toBe(true)
})

it('keeps a tap that is refused, and the reason', async () => {
  shop.answer = () => new Problem(422, 'about:blank', 'no such coat', [])
  await expect(send(await put({ kind: 'done', stepId: 'first', coat: 9 }, 'Coat 9'), 'mara', 'room')).rejects.toThrow(
    'no such coat',
  )
  expect((await waiting()).map((w) => [w.title, w.refused])).toEqual([['Coat 9', 'no such coat']])
})

it('sends an entry that the device cannot keep, and says when that fails', async () => {
  const db = await store()
  const refuse = vi.spyOn(db, 'transaction').mockImplementation(() => {
    throw new Error('forbidden')
  })
  vi.spyOn(console, 'error').mockImplementation(() => undefined)
  const made = await put({ kind: 'note', note: 'on the wire only' }, '')
  await send(made, 'mara', 'room')
  expect(shop.logged.map((e) => e.note)).toEqual(['on the wire only'])
  shop.answer = away
  await expect(send(made, 'mara', 'room')).rejects.toThrow('away')
  refuse.mockRestore()
})

it('takes on what a tab left behind that is gone', async () => {
  await put({ kind: 'note', note: 'in flight' }, '')
  await startOutbox()
  expect((await waiting()).map((w) => [w.tab, w.entry.late])).toEqual([['', true]])
})

it('knows an event that waits along with another', async () => {
  const { waitingFor } = await import('./outbox')
  shop.answer = away
  const along = [{ stepId: 'second', coat: 2 }]
  await send(await put({ kind: 'done', stepId: 'first', coat: 1, along }, 'one tap for two'), 'mara', 'room')
  await send(await put({ kind: 'timed', stepId: 'third', coat: 1 }, 'a timer'), 'mara', 'room')
  const all = await waiting()
  expect(waitingFor(all, 'first', 1)?.title).toBe('one tap for two')
  expect(waitingFor(all, 'second', 2)?.title).toBe('one tap for two')
  expect(waitingFor(all, 'second', 1)).toBeUndefined()
  expect(waitingFor(all, 'third', 1), 'a timer is no work').toBeUndefined()
})

it('keeps nothing of a refusal that a form holds', async () => {
  shop.answer = () => new Problem(422, '/problems/invalid', 'wrong', [])
  const made = await put({ kind: 'done', stepId: 'first', coat: 1, note: 'a note' }, 'held')
  await expect(send(made, 'mara', 'room', true)).rejects.toThrow('wrong')
  expect(await waiting()).toEqual([])
})
