import { createContext, use } from 'react'
import type { What } from '../api/outbox'

/** Log asks the shop to log something and says what became of it. */
export type Log = (what: What, title: string) => void

export const LoggingContext = createContext<{ log: Log }>({ log: () => undefined })

/** useLog is the one way in which screens log. */
export const useLog = () => use(LoggingContext)
