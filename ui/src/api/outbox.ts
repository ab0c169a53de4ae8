import { useSyncExternalStore } from 'react'
import { v7 as uuid } from 'uuid'
import { Problem, api, type Entry, type Logged } from './client'
import { keep, readKept } from './kept'
import { queries } from './queries'
import { shopNow } from './clock'

/**
 * The outbox keeps every log entry on the device until the shop has it. An
 * entry is sent once, in order; its id, made here, lets the server tell a
 * second sending from a second coat.
 */
interface Waiting {
  entry: Entry
  /** When it was made, by the shop's clock. */
  at: string
  /** Why the shop refused it, when it did: somebody has to look. */
  refused?: string
}

const retryEvery = 4000
let waiting = readKept<Waiting[]>('outbox', [])
const listeners = new Set<() => void>()

/** change works on what is stored, so that two tabs do not overwrite each other. */
function change(how: (list: Waiting[]) => Waiting[]) {
  waiting = how(readKept<Waiting[]>('outbox', []))
  keep('outbox', waiting)
  listeners.forEach((tell) => tell())
}

const replace = (id: string, how: (w: Waiting) => Waiting) =>
  change((list) => list.map((w) => (w.entry.id === id ? how(w) : w)))

const asLate = (w: Waiting): Waiting => ({
  ...w,
  entry: { ...w.entry, late: true, happenedAt: w.entry.happenedAt ?? w.at },
})

export function useOutbox() {
  return useSyncExternalStore(
    (tell) => {
      listeners.add(tell)
      return () => listeners.delete(tell)
    },
    () => waiting,
  )
}

export type What = Pick<Entry, 'kind'> &
  Partial<
    Pick<
      Entry,
      'stepId' | 'coat' | 'voids' | 'instrumentId' | 'note' | 'minutes' | 'confirm' | 'happenedAt' | 'caughtUp'
    >
  >

/** newEntry makes an entry of this device and person. */
export function newEntry(what: What, personId: string): Entry {
  const device = readKept('device', '') || uuid()
  const seq = readKept('seq', 0) + 1
  keep('device', device)
  keep('seq', seq)
  return { ...what, id: uuid(), personId, deviceId: device, deviceSeq: seq }
}

/** setAside keeps an entry that cannot be sent yet: who is at the device is not known, or others come first. */
export function setAside(entry: Entry) {
  change((list) => [...list, { entry, at: shopNow().toISOString() }])
}

/** Sent is what became of an entry: logged, or kept here until the shop can be reached. */
export type Sent = { logged: Logged } | { kept: true }

/**
 * send gives an entry to the shop. A doubt or a refusal is thrown and nothing is
 * kept; when the shop cannot be reached the entry stays here and goes later.
 */
export async function send(entry: Entry): Promise<Sent> {
  const known = readKept<Waiting[]>('outbox', []).some((w) => w.entry.id === entry.id)
  if (known) replace(entry.id, (w) => ({ ...w, entry }))
  else setAside(entry)
  try {
    const logged = await api.log(entry)
    drop(entry.id)
    await queries.invalidateQueries()
    return { logged }
  } catch (error) {
    if (error instanceof Problem && error.away) {
      replace(entry.id, asLate)
      return { kept: true }
    }
    drop(entry.id)
    throw error
  }
}

export function drop(id: string) {
  change((list) => list.filter((w) => w.entry.id !== id))
}

/** flush sends what is waiting, in order, until the shop cannot be reached. */
async function flush() {
  for (const { entry: made, refused } of readKept<Waiting[]>('outbox', [])) {
    const entry = { ...made, personId: made.personId || readKept('who', '') }
    if (refused !== undefined || !entry.late || entry.personId === '') continue
    try {
      await api.log(entry)
      drop(entry.id)
      await queries.invalidateQueries()
    } catch (error) {
      if (!(error instanceof Problem) || error.away) return
      replace(entry.id, (w) => ({ ...w, refused: error.message }))
    }
  }
}

/** startOutbox sends what a reload or a lost network left behind. */
export function startOutbox() {
  // An entry in flight when the page went away has no answer: it is sent again, late.
  change((list) => list.map(asLate))
  const once = () => {
    if (navigator.locks)
      void navigator.locks.request('umberfrost-outbox', { ifAvailable: true }, (l) => (l ? flush() : undefined))
    else void flush()
  }
  once()
  window.setInterval(once, retryEvery)
  window.addEventListener('online', once)
}
