import { keepPreviousData, useQueries } from '@tanstack/react-query'
import { api, type WeekRow, type Weeks } from '../../api/client'
import { fetchWeeks } from './view'

export const pageSize = 20

/** Pages is what is known of the weeks: the days, and the rows that were asked for so far. */
export interface Pages {
  head?: Weeks
  row: (index: number) => WeekRow | undefined
  error: Error | null
  retry: () => void
}

/** usePages fetches the rows that are in sight, a page at a time. */
export function usePages(from: string, firstRow: number, lastRow: number): Pages {
  const first = Math.floor(firstRow / pageSize)
  const last = Math.max(first, Math.floor(lastRow / pageSize))
  const wanted = [...new Set([0, ...Array.from({ length: last - first + 1 }, (_, i) => first + i)])]
  const answers = useQueries({
    queries: wanted.map((page) => ({
      queryKey: ['weeks', from, page],
      queryFn: () => api.weeks({ from, weeks: fetchWeeks, first: page * pageSize, count: pageSize }),
      placeholderData: keepPreviousData,
      refetchInterval: 30_000,
    })),
  })
  const byPage = new Map(wanted.map((page, i) => [page, answers[i]?.data]))
  const failed = answers.find((a) => a.error && a.data === undefined)
  return {
    head: byPage.get(0),
    row: (index) => byPage.get(Math.floor(index / pageSize))?.rows[index % pageSize],
    error: failed?.error ?? null,
    retry: () => answers.forEach((a) => void a.refetch()),
  }
}
