import type { UseQueryResult } from '@tanstack/react-query'
import type { ReactNode } from 'react'
import { Problem } from '../api/client'
import { Button } from './Button'

/** Asking shows what a query has: its data, that it is coming, or what went wrong. */
export function Asking<T>({ query, children }: { query: UseQueryResult<T>; children: (data: T) => ReactNode }) {
  if (query.data !== undefined) return children(query.data)
  if (query.isPending)
    return (
      <div className="p-6 text-ink-2" role="status" aria-busy="true">
        Asking the shop…
      </div>
    )
  const gone = query.error instanceof Problem && query.error.status === 404
  return (
    <div className="panel m-4 max-w-xl p-6" role="alert">
      <h2 className="name mb-2 text-xl">{gone ? 'There is no such thing here' : 'This cannot be shown now'}</h2>
      <p className="mb-4 text-ink-2">{query.error?.message}</p>
      <Button onClick={() => void query.refetch()}>Try again</Button>
    </div>
  )
}
