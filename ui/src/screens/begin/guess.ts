import * as z from 'zod/mini'
import type { Beginning, BeginningView } from '../../api/client'
import type { Shape } from '../../api/kept'
import type { Notation } from '../../api/notation'

const text = z.string()
const yesNo = z.boolean()

/** shape is what was typed before a reload. */
export const shape: Shape<Partial<Beginning>> = z.partial(
  z.object({
    name: text,
    timeZone: text,
    week: z.array(text).check(z.length(7)),
    people: z.array(text),
    places: z.array(z.object({ name: text, kind: z.enum(['bench', 'booth', 'wheel', 'drying']) })),
    air: z.array(z.object({ months: z.optional(text), temperature: text, humidity: text })),
    notation: z.partial(z.object({ inch: yesNo, amPm: yesNo, monthFirst: yesNo, sundayFirst: yesNo })),
  }),
)

/** guess is what this device lets one suppose: its zone, and how its language writes figures. */
export function guess(view: BeginningView): Beginning {
  const { timeZone } = Intl.DateTimeFormat().resolvedOptions()
  return {
    name: '',
    timeZone,
    week: view.hours[0]?.week ?? [],
    people: [''],
    places: view.rooms[0]?.places ?? [],
    air: view.airs[1]?.air ?? [],
    notation: usualNotation(),
  }
}

/** usualNotation is how figures are written where this device is from. */
export function usualNotation(): Notation {
  const states = /-(US|LR|MM)\b/.test(navigator.language)
  const amPm = Intl.DateTimeFormat(navigator.language, { hour: 'numeric' }).resolvedOptions().hour12 ?? false
  return { inch: states, amPm, monthFirst: states, sundayFirst: states }
}
