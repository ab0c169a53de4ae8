import { expect, it } from 'vitest'
import type { DayMark } from '../../api/client'
import { dayLabels, dayScale, withMonths } from './scale'

const day = (date: string, label: string, month: string) => ({ date, label, month, at: `${date}T00:00:00Z` }) as DayMark
const days = [
  day('2026-03-30', 'Mon 30', 'March'),
  day('2026-03-16', 'Mon 16', 'March'),
  day('2026-04-06', 'Mon 6', 'April'),
  day('2026-04-13', 'Mon 13', 'April'),
]
const labels = (monthFirst: boolean) => withMonths(days, monthFirst).map((d) => d.label)

it('names each month once, as the reader is used to', () => {
  expect(labels(false)).toEqual(['Mon 16 Mar', 'Mon 30', 'Mon 6 Apr', 'Mon 13'])
  expect(labels(true)).toEqual(['Mon Mar 16', 'Mon 30', 'Mon Apr 6', 'Mon 13'])
})

it('leaves room between labels, also for one that is held back from the edge', () => {
  const crowd = Array.from({ length: 20 }, (_, i) => ({
    ...day(`2026-03-${String(i + 1).padStart(2, '0')}`, `Mon ${i + 1}`, 'March'),
    work: 60,
    open: true,
  }))
  const x = dayScale(crowd, 0, 600)
  const at = dayLabels(crowd, x, [], 82)
    .map((d) => Math.max(38, x(new Date(d.at).getTime())))
    .sort((a, b) => a - b)
  expect(at.length).toBeGreaterThan(3)
  at.slice(1).forEach((p, i) => expect(p - (at[i] ?? 0)).toBeGreaterThanOrEqual(82))
})
