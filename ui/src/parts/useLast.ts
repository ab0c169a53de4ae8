import { useState } from 'react'
import { Problem } from '../api/client'

/** useLast is a value, or the last that there was while there is none: what was worked out stands until it is worked out anew. */
export function useLast<T>(value: T | undefined): T | undefined {
  const [last, setLast] = useState(value)
  if (value !== undefined && value !== last) setLast(value)
  return value ?? last
}

/** useProblem is what is wrong with what was asked; while it is asked anew, what was wrong last still stands. */
export function useProblem(query: { error: unknown; isFetching: boolean }): Problem | undefined {
  const now = query.error instanceof Problem ? query.error : undefined
  const [last, setLast] = useState(now)
  if (!query.isFetching && now !== last) setLast(now)
  return query.isFetching ? (now ?? last) : now
}
