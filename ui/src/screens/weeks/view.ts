import { useCallback, useMemo, useState } from 'react'

export const day = 86_400_000
export const week = 7 * day
const shortest = 4 * day
const widest = 13 * week
/** Weeks are fetched in blocks, so that panning asks seldom. */
const blockWeeks = 4
export const fetchWeeks = 20
const firstMonday = 4 * day // 5 January 1970

/** TimeView is the stretch of time that is seen. */
export interface TimeView {
  start: number
  span: number
  pan: (by: number) => void
  /** Zooms by a factor about a moment. */
  zoom: (factor: number, about?: number) => void
  show: (weeks: number) => void
  today: () => void
}

/** useTimeView is the stretch that is seen, at first from the given present on. */
export function useTimeView(now: number): TimeView {
  const [{ start, span }, set] = useState(() => ({ start: fromToday(now, 6 * week), span: 6 * week }))
  const pan = useCallback((by: number) => set((v) => ({ ...v, start: v.start + by })), [])
  const zoom = useCallback(
    (factor: number, about?: number) =>
      set((v) => {
        const wanted = Math.min(widest, Math.max(shortest, v.span * factor))
        const at = about ?? v.start + v.span / 2
        return { span: wanted, start: at - ((at - v.start) * wanted) / v.span }
      }),
    [],
  )
  const show = useCallback(
    (weeks: number) => set(() => ({ start: fromToday(now, weeks * week), span: weeks * week })),
    [now],
  )
  const today = useCallback(() => set((v) => ({ ...v, start: fromToday(now, v.span) })), [now])
  return useMemo(() => ({ start, span, pan, zoom, show, today }), [start, span, pan, zoom, show, today])
}

/** fromToday leaves a little of the past in view. */
const fromToday = (now: number, span: number) => now - span / 14

/** blockOf is the first day of the block of weeks that holds a moment, as 2026-03-09. */
export function blockOf(start: number): string {
  const length = blockWeeks * week
  const from = firstMonday + Math.floor((start - day - firstMonday) / length) * length
  return new Date(from + day / 2).toISOString().slice(0, 10)
}
