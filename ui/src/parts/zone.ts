import { useMemo } from 'react'
import { useReference } from '../api/queries'

/**
 * useMoment takes a date and time of the shop's clock, as a field of a form has it, for
 * the moment that it is, whatever the zone of the device.
 */
export function useMoment() {
  const zone = useReference().data?.zone
  return useMemo(() => {
    const wall = new Intl.DateTimeFormat('sv-SE', { dateStyle: 'short', timeStyle: 'medium', timeZone: zone })
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
  return useMemo(() => {
    const format = new Intl.DateTimeFormat('en-GB', {
      weekday: 'short',
      day: 'numeric',
      month: 'short',
      hour: '2-digit',
      minute: '2-digit',
      timeZone: zone,
    })
    return (at: number) => format.format(at).replace(',', '')
  }, [zone])
}
