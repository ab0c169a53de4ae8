import { useState } from 'react'

/** useLast is a value, or the last that there was while there is none: what was worked out stands until it is worked out anew. */
export function useLast<T>(value: T | undefined): T | undefined {
  const [last, setLast] = useState(value)
  if (value !== undefined && value !== last) setLast(value)
  return value ?? last
}
