import { v7 as uuid } from 'uuid'
import { Problem, api, type Entry, type Logged } from './client'
import { shopNow } from './clock'
import { refresh } from './fresh'
import { held } from './held'
import { readKept, text } from './kept'
import { asLate } from './late'
import { store, type Waiting } from './store'
import { takeOver } from './takeover'

/**
 * The outbox keeps every log entry on the device until the shop has it. There is one for all
 * tabs. An entry is sent once, in the order in which entries were made; its id, made here, lets the
 * server tell a second sending from a second coat.
 */
const name = 'umberfrost-outbox'
const retryEvery = 4000
/** How often the shop may fail on one entry before somebody has to look at it. */
const mostTries = 5

const ownTab = uuid()
const channel = 'BroadcastChannel' in window ? new BroadcastChannel(name) : undefined
const waiting = held<Waiting[]>([])
export const useOutbox = waiting.use

/** What was sent from this page lately, and when: until the shop has told of it, it is known from here. */
const sent = held<(Waiting & { sentAt: number })[]>([])

export const useSent = sent.use

/** How many are remembered. */
const lately = 30

async function arrived(w: Waiting) {
  sent.set([...sent.get().slice(1 - lately), { ...w, sentAt: Date.now() }])
  await drop(w.seq)
}

/** What an entry may say that settles what becomes of its event. */
const settling: readonly Entry['kind'][] = ['done', 'skipped', 'failed']

/** waitingFor is the entry about an event that is kept here and not sent yet; one that the shop refused is not on its way. */
export const waitingFor = (outbox: readonly Waiting[], stepId: string, coat: number): Waiting | undefined =>
  outbox.find(
    ({ entry, refused }) =>
      refused === undefined &&
      settling.includes(entry.kind) &&
      [{ stepId: entry.stepId, coat: entry.coat }, ...(entry.along ?? [])].some(
        (e) => e.stepId === stepId && e.coat === coat,
      ),
  )

export const useWaiting = (stepId: string, coat: number) => waitingFor(useOutbox(), stepId, coat)

async function reload() {
  waiting.set(await (await store()).getAll('outbox'))
}

async function changed() {
  channel?.postMessage('changed')
  await reload()
}

/** What is an entry without what the device and the person at it give it. */
export type What = Omit<Entry, 'id' | 'personId' | 'deviceId' | 'deviceSeq' | 'late' | '$schema'>

/** The number of an entry that this device cannot keep: its store is full or forbidden. */
const unkept = -1

/** put makes an entry of this device. One that the device cannot keep can still be sent. */
export async function put(what: What, title: string): Promise<Waiting> {
  try {
    return await keepEntry(what, title)
  } catch (error) {
    console.error('nothing can be kept on this device', error)
    const entry: Entry = { ...what, id: uuid(), personId: '', deviceId: uuid(), deviceSeq: 1 }
    return { entry, title, at: shopNow().toISOString(), shop: '', tab: ownTab, tries: 0, seq: unkept }
  }
}

/** keepEntry makes an entry and keeps it; its number is taken in the transaction that does so. */
async function keepEntry(what: What, title: string): Promise<Waiting> {
  const tx = (await store()).transaction(['outbox', 'kept'], 'readwrite')
  const kept = tx.objectStore('kept')
  const device = ((await kept.get('device')) as string | undefined) ?? uuid()
  const deviceSeq = (((await kept.get('deviceSeq')) as number | undefined) ?? 0) + 1
  const entry: Entry = { ...what, id: uuid(), personId: '', deviceId: device, deviceSeq }
  const one = { entry, title, at: shopNow().toISOString(), shop: '', tab: ownTab, tries: 0 }
  void kept.put(device, 'device')
  void kept.put(deviceSeq, 'deviceSeq')
  const seq = await tx.objectStore('outbox').add(one as Waiting)
  await tx.done
  await changed()
  return { ...one, seq }
}

/** putBack keeps an entry again that was asked about, with what was answered. */
export async function putBack(w: Waiting): Promise<Waiting> {
  if (w.seq === unkept) return w
  await (await store()).put('outbox', w)
  await changed()
  return w
}

/** update changes an entry that is kept here still; false when it is not. */
async function update(seq: number, how: Partial<Waiting>): Promise<boolean> {
  const tx = (await store()).transaction('outbox', 'readwrite')
  const known = await tx.store.get(seq)
  if (known) await tx.store.put({ ...known, ...how })
  await tx.done
  await changed()
  return known !== undefined
}

export async function drop(seq: number) {
  if (seq === unkept) return
  await (await store()).delete('outbox', seq)
  await changed()
}

/** Correction is what of an entry may be put right before the shop has it. */
export type Correction = Pick<Entry, 'note' | 'happenedAt'>

/**
 * tryAgain sends an entry once more that the shop refused, or that was put right here; false when it has gone
 * meanwhile. It waits for what is under way, so that nothing is put right in one place and sent from another.
 */
export async function tryAgain(w: Waiting, correction: Correction = {}): Promise<boolean> {
  const kept = await inTurn(() =>
    update(w.seq, { entry: { ...w.entry, ...correction }, refused: undefined, tries: 0, tab: '' }),
  )
  void flushAlone()
  return kept
}

/** Sent is what became of an entry: logged, or kept here until the shop can be reached. */
export type Sent = { logged: Logged } | { kept: true }

/**
 * send gives an entry to the shop, after those that were made before it. A doubt is thrown, and the entry stays until
 * that is answered; a refusal is thrown and it stays, with the reason, unless a form holds what was entered; when the shop
 * cannot be reached it stays and goes later.
 */
export async function send(made: Waiting, personId: string, shop: string, held = false): Promise<Sent> {
  const w = { ...made, shop, entry: { ...made.entry, personId } }
  if (w.seq === unkept) {
    const logged = await api.log(w.entry)
    refresh('shop')
    return { logged }
  }
  await putBack(w)
  return inTurn(async () => {
    if (!(await flush(shop, w.seq))) {
      await update(w.seq, asLate(w))
      return { kept: true }
    }
    try {
      const logged = await api.log(w.entry)
      await arrived(w)
      refresh('shop')
      return { logged }
    } catch (error) {
      if (!(error instanceof Problem) || failed(error)) {
        await update(w.seq, asLate(w))
        return { kept: true }
      }
      if (error.kind === '/problems/doubtful') await update(w.seq, { ...w, asked: error.message })
      else if (held) await drop(w.seq)
      else await update(w.seq, { ...asLate(w), refused: error.message })
      throw error
    }
  })
}

/** failed reports whether the shop did not get as far as judging an entry: also where it does not let the device in. */
const failed = (error: Problem) => error.status === 0 || error.status >= 500 || error.outside || error.status === 429

/** flush sends what is waiting for a shop, in order, up to an entry; false when the shop cannot take it now. */
async function flush(shop: string, before = Infinity): Promise<boolean> {
  const person = readKept('who', text, '')
  for (const w of await (await store()).getAll('outbox')) {
    const entry = { ...w.entry, personId: w.entry.personId || person }
    const mine = w.shop === '' || w.shop === shop
    if (w.seq >= before || w.tab !== '' || w.refused !== undefined || !mine || entry.personId === '') continue
    try {
      await api.log(entry)
      await arrived(w)
      refresh('shop')
    } catch (error) {
      if (!(error instanceof Problem)) return false
      const tries = w.tries + 1
      const waits = error.away || error.outside
      if (waits || (failed(error) && tries < mostTries)) {
        if (!waits) await update(w.seq, { tries })
        return false
      }
      await update(w.seq, { refused: error.message, tries })
    }
  }
  return true
}

/** inTurn lets one tab send at a time. */
async function inTurn<T>(what: () => Promise<T>): Promise<T> {
  return await (navigator.locks ? navigator.locks.request(name, what) : what())
}

function flushAlone() {
  return inTurn(() => flush(readKept('shopId', text, '')))
}

/** startOutbox sends what a reload or a lost network left behind. */
export async function startOutbox() {
  if (channel) channel.onmessage = () => void reload()
  void navigator.locks?.request(`${name}-${ownTab}`, () => new Promise(() => undefined)) // held for as long as this tab lives
  try {
    await takeOver()
    await adopt()
    await reload()
  } catch (error) {
    console.error('the outbox cannot be read', error)
  }
  const once = () => {
    if (waiting.get().some((w) => w.tab === '' && w.refused === undefined)) void flushAlone()
  }
  once()
  window.setInterval(once, retryEvery)
  window.addEventListener('online', once)
}

/** adopt takes on what tabs left behind that are gone. An entry in flight then has no answer: it is sent again, late. */
async function adopt() {
  const held = (await navigator.locks?.query())?.held?.map((l) => l.name) ?? []
  for (const w of await (await store()).getAll('outbox'))
    if (w.tab !== '' && !held.includes(`${name}-${w.tab}`))
      await update(w.seq, {
        ...asLate(w),
        asked: undefined,
        refused: w.asked && `It was asked about, and nobody has answered. ${w.asked}`,
      })
}
