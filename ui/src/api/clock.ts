/** How far the shop's clock is from this device's, in milliseconds. */
let ahead = 0

/** hearClock notes the present as the shop sees it. */
export function hearClock(shop: string) {
  ahead = new Date(shop).getTime() - Date.now()
}

/** shopNow is the present by the shop's clock, also when the shop cannot be reached. */
export function shopNow() {
  return new Date(Date.now() + ahead)
}
