import type { Schemas } from '../api/client'

export const weekdays = ['Sunday', 'Monday', 'Tuesday', 'Wednesday', 'Thursday', 'Friday', 'Saturday'] as const

/** capital begins a text with a capital letter, lower with a small one, whatever the script. */
export const capital = (text: string) => change(text, (letter) => letter.toUpperCase())
export const lower = (text: string) => change(text, (letter) => letter.toLowerCase())

function change(text: string, how: (letter: string) => string) {
  const [letter = ''] = text
  return how(letter) + text.slice(letter.length)
}

/** movedText says which instruments a change moved to another day, or out of the plan. */
export function movedText(moved: Schemas['MovedForecast'][]) {
  return moved
    .filter((m) => m.days !== 0 || m.text !== 'the same day')
    .map((m) => (m.days === 0 ? `${m.name} ${m.text}.` : `${m.name} is now ready ${m.after}, ${m.text}.`))
    .join(' ')
}
