import { expect, it } from 'vitest'
import type { DayMark } from '../../api/client'
import { withMonths } from './scale'

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
