import { keep, readKept } from '../api/kept'

export type Theme = 'day' | 'night'

const wanted = window.matchMedia('(prefers-color-scheme: dark)').matches ? 'night' : 'day'

export let theme: Theme = readKept<Theme>('theme', wanted)
document.documentElement.dataset.theme = theme

export function setTheme(next: Theme) {
  theme = next
  document.documentElement.dataset.theme = next
  keep('theme', next)
}
