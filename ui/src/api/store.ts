import { openDB, type DBSchema } from 'idb'
import type { Entry } from './client'

/** Waiting is a log entry that is kept on this device until the shop has it. */
export interface Waiting {
  /** The order in which entries were made on this device, over all tabs. */
  seq: number
  entry: Entry
  /** What it logs, in words. */
  title: string
  /** When it was made, by the shop's clock. */
  at: string
  /** The shop it is for; empty until that is known. */
  shop: string
  /** The tab that is about to send it; empty when it is sent later, by whichever tab comes first. */
  tab: string
  /** How often the shop failed on it. */
  tries: number
  /** What the shop asked about it, until somebody has answered. */
  asked?: string
  /** Why the shop refused it, when it did: somebody has to look. */
  refused?: string
}

interface Schema extends DBSchema {
  outbox: { key: number; value: Waiting }
  kept: { key: string; value: unknown }
}

let opened: ReturnType<typeof open> | undefined

const open = () =>
  openDB<Schema>('umberfrost', 1, {
    upgrade(db) {
      db.createObjectStore('outbox', { keyPath: 'seq', autoIncrement: true })
      db.createObjectStore('kept')
    },
  })

/** store is the device's own database, shared by all tabs of the browser. */
export const store = () => (opened ??= open())

/** What is too much for local storage is kept by name; nothing depends on its being there. */
export async function keepLarge(name: string, value: unknown) {
  try {
    await (await store()).put('kept', value, name)
  } catch {
    // A full or forbidden store costs only the safety net.
  }
}

export async function dropLarge(name: string) {
  try {
    await (await store()).delete('kept', name)
  } catch {
    // A forbidden store has nothing to drop.
  }
}

export async function readLarge<T>(name: string): Promise<T | undefined> {
  try {
    return (await (await store()).get('kept', name)) as T | undefined
  } catch {
    return undefined
  }
}
