import * as z from 'zod/mini'
import { keep, readKept } from './kept'

/** How far the shop's clock is from this device's, in milliseconds. It is kept for a reload without the shop. */
let ahead = readKept('ahead', z.number(), 0)

/** What an answer takes on its way: by so much the clock is not set anew. */
const slack = 500

/** hearClock notes the present as the shop sees it. */
export function hearClock(shop: string) {
  const heard = new Date(shop).getTime() - Date.now()
  if (Math.abs(heard - ahead) < slack) return
  ahead = heard
  keep('ahead', ahead)
}

/** shopNow is the present by the shop's clock, also when the shop cannot be reached. */
export function shopNow() {
  return new Date(Date.now() + ahead)
}
