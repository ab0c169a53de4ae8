import { plain, useOwnNotation, type Notation } from '../api/notation'
import { useReference } from '../api/queries'

/** useNotation is how figures are written here: as this device has it, else as its shop. */
export function useNotation(): Notation {
  const own = useOwnNotation()
  const shops = useReference().data?.notation
  return own ?? { ...plain, ...shops }
}

/** useTemperature writes a temperature of a drawing as it is pulled; every other figure comes written from the shop. */
export function useTemperature() {
  const { inch } = useNotation()
  return (celsius: number) => (inch ? `${(celsius * 1.8 + 32).toFixed(1)} °F` : `${celsius.toFixed(1)} °C`)
}
