import { createContext, use } from 'react'
import type { Problem } from '../api/client'
import type { What } from '../api/outbox'

/** Outcome is what became of an entry: the shop has it or this device keeps it, nobody wanted it after all, or it was refused. */
export type Outcome = 'logged' | 'let go' | Problem

/** Log asks the shop to log something. Held: a form holds what was written until it is known what became of it. */
export type Log = (what: What, title: string, held?: boolean) => Promise<Outcome>

export const LoggingContext = createContext<{ log: Log }>({ log: () => Promise.resolve('let go') })

/** useLog is the one way in which screens log. */
export const useLog = () => use(LoggingContext)
