import type { PlaceView } from '../../api/client'

/** Knot is an hour of the week whose air is known. */
export type Knot = PlaceView['knots'][number]
export type Quantity = 'temperatureC' | 'humidityPct'

export const quantities = {
  temperatureC: { word: 'temperature', low: 5, high: 35, step: 0.5 },
  humidityPct: { word: 'humidity', low: 20, high: 90, step: 1 },
} as const
export const days = ['Sun', 'Mon', 'Tue', 'Wed', 'Thu', 'Fri', 'Sat'] as const
