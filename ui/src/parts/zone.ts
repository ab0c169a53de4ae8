import { useMemo } from 'react'
import { useReference } from '../api/queries'
import { useNotation } from './notation'

/** wallOf prints moments as the shop's clock has them, as 2026-03-12 16:20:00. */
const wallOf = (zone: string | undefined) =>
  new Intl.DateTimeFormat('sv-SE', { dateStyle: 'short', timeStyle: 'medium', timeZone: zone })

/** useWall gives a moment as a date and time of the shop's clock, as a field of a form has it. */
export function useWall() {
  const zone = useReference().data?.zone
  return (at: string) => wallOf(zone).format(Date.parse(at)).replace(' ', 'T').slice(0, 16)
}

/**
 * useMoment takes a date and time of the shop's clock, as a field of a form has it, for
 * the moment that it is, whatever the zone of the device.
 */
export function useMoment() {
  const zone = useReference().data?.zone
  return useMemo(() => {
    const wall = wallOf(zone)
    const ahead = (at: number) => Date.parse(`${wall.format(at).replace(' ', 'T')}Z`) - at
    return (local: string) => {
      const asUTC = Date.parse(`${local}Z`)
      const near = asUTC - ahead(asUTC)
      return new Date(asUTC - ahead(near)).toISOString()
    }
  }, [zone])
}

/** useSay prints a moment as the clock on the shop's wall has it. */
export function useSay() {
  const zone = useReference().data?.zone
  const { amPm, monthFirst } = useNotation()
  return useMemo(() => {
    const format = new Intl.DateTimeFormat(monthFirst ? 'en-US' : 'en-GB', {
      weekday: 'short',
      day: 'numeric',
      month: 'short',
      hour: amPm ? 'numeric' : '2-digit',
      minute: '2-digit',
      hour12: amPm,
      timeZone: zone,
    })
    return (at: number) => format.format(at).replace(',', '')
  }, [zone, amPm, monthFirst])
}
