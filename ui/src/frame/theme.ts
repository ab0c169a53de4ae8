import * as z from 'zod/mini'
import { held } from '../api/held'
import { keep, readKept } from '../api/kept'

export type Theme = 'day' | 'night'

const wanted = window.matchMedia('(prefers-color-scheme: dark)').matches ? 'night' : 'day'

const theme = held(readKept<Theme>('theme', z.enum(['day', 'night']), wanted))
document.documentElement.dataset.theme = theme.get()

export function setTheme(next: Theme) {
  document.documentElement.dataset.theme = next
  keep('theme', next)
  theme.set(next)
}

export const useTheme = theme.use
