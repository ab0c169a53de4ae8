import { useState } from 'react'
import { forget, keep, readKept } from '../../api/kept'

/** useDraft is a form that survives a reload until it is kept or undone; what nobody touched follows the shop. */
export function useDraft<T extends object>(key: string, stored: T) {
  const [typed, setTyped] = useState<Partial<T>>(() => readKept<Partial<T>>(`settings.${key}`, {}))
  return {
    value: { ...stored, ...typed },
    touched: Object.keys(typed).length > 0,
    change: (part: Partial<T>) => {
      const next = { ...typed, ...part }
      setTyped(next)
      keep(`settings.${key}`, next)
    },
    clear: () => {
      setTyped({})
      forget(`settings.${key}`)
    },
  }
}
