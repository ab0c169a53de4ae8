import { held } from './held'
import { keep, readKept, text } from './kept'

const person = held(readKept('person', text, ''))

/** usePerson is who stands at this device, for the log; empty until somebody said. */
export const usePerson = person.use

export function setPerson(id: string) {
  keep('person', id)
  person.set(id)
}
