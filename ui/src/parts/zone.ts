import { useMemo } from 'react'
import { useReference } from '../api/queries'

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
