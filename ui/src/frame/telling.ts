import type { EventRef, LogLine } from '../api/client'
import { held } from '../api/held'
import type { Waiting } from '../api/store'

/** Telling is work of which somebody says what is true. */
export interface Telling {
  event: EventRef
  title: string
  /** Events of other pieces that are done with the same tap. */
  along?: EventRef[]
  sittingId?: string
  /** The entry that it puts right; absent: it is not logged yet. */
  corrects?: string
  /** What that entry said. */
  said?: Said
}

/** Said is what an entry says, as it would be typed. */
export interface Said {
  happenedAt?: string
  minutes?: number
  note?: string
  entered?: Partial<LogLine['entered']>
}

const asked = held<Telling | undefined>(undefined)

export const useTelling = asked.use

/** tell opens the form in which somebody says what is true of some work; without any it is closed. */
export const tell = asked.set

/** tellingOf is what was logged from here a moment ago, to say more of it. */
export function tellingOf({ entry, title, at }: Waiting): Telling | undefined {
  if (!entry.stepId || !entry.coat) return undefined
  return {
    event: { stepId: entry.stepId, coat: entry.coat },
    title,
    sittingId: entry.sittingId,
    corrects: entry.id,
    said: { happenedAt: entry.happenedAt ?? at, minutes: entry.minutes, note: entry.note, entered: entry.actual },
  }
}
