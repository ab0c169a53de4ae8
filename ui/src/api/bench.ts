import { api, type Bench, type Reference, type SittingView, type TimerView } from './client'
import { shopNow } from './clock'
import { onConnection } from './connection'
import { held } from './held'
import { queries } from './queries'
import { keepLarge, readLarge } from './store'

/** What the device keeps to go on with when the shop cannot be reached, and when it was so. */
interface Kept {
  bench: Bench
  reference: Reference
  at: string
}

const name = 'bench'
const keptEvery = 60_000

const shownSince = held<string | undefined>(undefined)

/** useShownSince is when what is on screen was so, where it comes from this device and not from the shop. */
export const useShownSince = shownSince.use

/** startBench keeps the rack with its sheets on this device, once a minute over all tabs, and shows them while the shop cannot be reached. */
export function startBench() {
  const once = () => {
    if (navigator.locks) void navigator.locks.request(name, { ifAvailable: true }, (l) => (l ? take() : undefined))
    else void take()
  }
  window.setTimeout(once, 2000) // after the first screen has come
  window.setInterval(once, keptEvery)
  onConnection((now) => {
    if (now === 'ok') shownSince.set(undefined)
    else void show()
  })
}

async function take() {
  const known = await readLarge<Kept>(name)
  if (known && Math.abs(shopNow().getTime() - new Date(known.at).getTime()) < keptEvery / 2) return
  try {
    const [bench, reference] = await Promise.all([api.bench(), api.reference()])
    await keepLarge(name, { bench, reference, at: bench.rack.now.at } satisfies Kept)
  } catch {
    // What was kept before stands.
  }
}

async function show() {
  const sitting = await readLarge<SittingView>('sitting')
  if (sitting) offer(['sitting', sitting.id], sitting)
  offer(['timers'], await readLarge<TimerView[]>('timers'))
  const kept = await readLarge<Kept>(name)
  if (!kept) return
  if (queries.getQueryData(['rack']) === undefined) {
    queries.setQueryData(['rack'], kept.bench.rack)
    shownSince.set(kept.at)
  }
  offer(['reference'], kept.reference)
  offer(['timers'], kept.bench.timers)
  for (const s of kept.bench.sittings) offer(['sitting', s.id], s)
  for (const sheet of kept.bench.sheets) offer(['sheet', sheet.event.stepId, sheet.event.coat], sheet)
}

/** offer shows what was kept where nothing newer has come. */
function offer(key: unknown[], kept: unknown) {
  if (kept !== undefined && queries.getQueryData(key) === undefined) queries.setQueryData(key, kept)
}
