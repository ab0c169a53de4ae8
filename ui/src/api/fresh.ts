import { queries } from './queries'

/** What an event can touch, by the first part of a query's key. Forecasts and schools are asked when somebody changes a choice, and stand until then. */
const touched = {
  /** Somebody logged, planned or changed something. */
  shop: [
    'rack',
    'instruments',
    'archive',
    'having',
    'instrument',
    'looks',
    'sheet',
    'sittings',
    'sitting',
    'timers',
    'log',
    'hours',
    'weeks',
    'starts',
    'proposal',
    'what-if',
    'repairs',
    'recipe',
    'recipes',
    'door',
    'pairings',
  ],
  /** A better order or chances were worked out. */
  thought: ['rack', 'instruments', 'instrument', 'weeks', 'proposal'],
  /** People, places, hours, products or usual air are others. */
  settings: ['reference', 'shop', 'recipe', 'recipes'],
} as const

export type Touch = keyof typeof touched

/** Things that come together are asked for once. */
const gathering = 40
let pending = new Set<string>()

/** refresh asks again for what is on screen and was touched; what is not on screen is asked for when it is shown. */
export function refresh(...touches: Touch[]) {
  if (pending.size === 0) window.setTimeout(ask, gathering)
  touches.forEach((t) => touched[t].forEach((key) => pending.add(key)))
}

function ask() {
  const keys = pending
  pending = new Set()
  void queries.invalidateQueries({
    predicate: (q) => keys.has(String(q.queryKey[0])),
    refetchType: document.hidden ? 'none' : 'active', // a hidden tab asks when somebody looks at it
  })
}
