import * as z from 'zod/mini'
import type { PersonForm, PlaceForm, ShopForm } from '../../api/client'
import type { Shape } from '../../api/kept'

/** What was typed into a setting, and is used again after a reload. */
const week = z.array(z.string()).check(z.length(7))
const text = z.string()
const yesNo = z.boolean()

export const shopShape: Shape<Partial<ShopForm>> = z.partial(
  z.object({
    name: text,
    timeZone: text,
    margin: text,
    week,
    notation: z.partial(z.object({ inch: yesNo, amPm: yesNo, monthFirst: yesNo, sundayFirst: yesNo })),
    ways: z.record(text, text),
  }),
)

export const placeShape: Shape<Partial<PlaceForm>> = z.partial(
  z.object({
    name: text,
    kind: z.enum(['bench', 'booth', 'wheel', 'drying']),
    capacity: text,
    hooks: text,
    air: text,
    hangsIn: text,
    ownHours: yesNo,
    week,
  }),
)

export const personShape: Shape<Partial<PersonForm>> = z.partial(
  z.object({ name: text, ownHours: yesNo, left: yesNo, week }),
)

export const airShape = z.partial(
  z.object({ knots: z.array(z.object({ hour: z.number(), temperatureC: z.number(), humidityPct: z.number() })) }),
)
