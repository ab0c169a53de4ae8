import { useSyncExternalStore } from 'react'
import * as z from 'zod/mini'
import { keep, readKept } from '../api/kept'

export type Theme = 'day' | 'night'

const wanted = window.matchMedia('(prefers-color-scheme: dark)').matches ? 'night' : 'day'

let theme: Theme = readKept<Theme>('theme', z.enum(['day', 'night']), wanted)
document.documentElement.dataset.theme = theme
const listeners = new Set<() => void>()

export function setTheme(next: Theme) {
  theme = next
  document.documentElement.dataset.theme = next
  keep('theme', next)
  listeners.forEach((tell) => tell())
}

export function useTheme(): Theme {
  return useSyncExternalStore(
    (tell) => {
      listeners.add(tell)
      return () => listeners.delete(tell)
    },
    () => theme,
  )
}
