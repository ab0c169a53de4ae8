import { scaleLinear, type ScaleLinear } from 'd3-scale'
import type { Bead, DayMark } from '../../api/client'

export type DayScale = ScaleLinear<number, number>

/** A day of curing is narrow; one with work is wider by its minutes, up to a point. */
const curing = 0.3
const afterwards = 0.12
const widest = 7
const minutesPerWidth = 30

/**
 * dayScale gives days with work room for their beads and lets days of curing
 * pass quickly. It is linear within a day.
 */
export function dayScale(days: DayMark[], from: number, to: number): DayScale {
  const lastWork = days.findLastIndex((d) => d.work > 0)
  const weights = days.map((d, i) =>
    i > lastWork ? afterwards : d.work === 0 ? curing : 1 + Math.min(widest, d.work / minutesPerWidth),
  )
  const total = weights.reduce((a, b) => a + b, 0)
  const domain: number[] = []
  const range: number[] = []
  let x = from
  days.forEach((d, i) => {
    domain.push(time(d.at))
    range.push(x)
    x += ((weights[i] ?? 1) / total) * (to - from)
  })
  domain.push(time(days.at(-1)?.at ?? new Date(0).toISOString()) + 24 * 3600_000)
  range.push(x)
  return scaleLinear().domain(domain).range(range).clamp(true)
}

export const time = (at: string) => new Date(at).getTime()

/** Where the middle of a day's label stands: never so far left that it would be cut off. */
export const labelAt = (x: DayScale, day: DayMark) => Math.max(38, x(time(day.at)))

/** dayLabels picks the days to name: weeks first, then days with work, as far as there is room. */
export function dayLabels(days: DayMark[], x: DayScale, taken: number[], room: number) {
  const chosen: DayMark[] = []
  const places = [...taken]
  const wanted = [...days.filter((d) => d.week), ...days.filter((d) => !d.week && d.work > 0)]
  for (const day of wanted) {
    const at = labelAt(x, day)
    if (places.every((p) => Math.abs(p - at) >= room)) {
      places.push(at)
      chosen.push(day)
    }
  }
  return chosen
}

/** withMonths are the labels of days, the first of each month with its name where the reader looks for it. */
export function withMonths(days: DayMark[], monthFirst: boolean) {
  const inOrder = [...days].sort((a, b) => time(a.at) - time(b.at))
  return inOrder.map((d, i) => {
    if (d.month === inOrder[i - 1]?.month) return d
    const [weekday, date] = d.label.split(' ')
    const month = d.month.slice(0, 3)
    return { ...d, label: [weekday, ...(monthFirst ? [month, date] : [date, month])].join(' ') }
  })
}

/** The least distance at which two beads can be told apart. */
const beadGap = 11

/**
 * beadPlaces is where each bead of a thread stands. Work done minutes apart is
 * drawn side by side: done beads make room towards the past, planned ones
 * towards the future, and none crosses the present.
 */
export function beadPlaces(beads: Bead[], x: DayScale, now: number): number[] {
  const places = beads.map((b) => x((time(b.start) + time(b.end)) / 2))
  const present = x(now)
  let most = present - 7
  for (let i = beads.length - 1; i >= 0; i--) {
    if (!beads[i]?.done) continue
    places[i] = Math.min(places[i] ?? 0, most)
    most = (places[i] ?? 0) - beadGap
  }
  let least = present + 7
  beads.forEach((b, i) => {
    if (b.done) return
    places[i] = Math.max(places[i] ?? 0, least)
    least = (places[i] ?? 0) + beadGap
  })
  return places
}
