import { useQuery } from '@tanstack/react-query'
import { api } from './client'
import { held } from './held'
import { setPerson } from './person'
import { queries } from './queries'
import { dropLarge } from './store'

/** What a device may do; each may do what those before it may. */
const roles = ['look', 'bench', 'shop'] as const
export type Role = (typeof roles)[number]

/** useDoor is what this device is to the shop. */
export const useDoor = () =>
  useQuery({
    queryKey: ['door'],
    queryFn: async () => {
      const door = await api.door()
      if (door.role !== '') role.set(door.role as Role)
      if (door.paired) setPerson(door.personId) // who is on a paired device the shop knows
      return door
    },
    staleTime: Infinity,
    retry: false,
  })

/** Role is what this device may do; until that is known, it is shown everything. */
const role = held<Role>('shop')

/** useMay is whether this device may do what needs a role. */
export function useMay(need: Role): boolean {
  return roles.indexOf(role.use()) >= roles.indexOf(need)
}

/** forgetViews clears what this device has been shown. What was logged on it and not sent yet stays. */
export async function forgetViews() {
  queries.removeQueries({ predicate: (q) => q.queryKey[0] !== 'door' })
  await Promise.all(['bench', 'sitting', 'timers'].map(dropLarge))
}

/** Trusted is whether the device trusts the shop's certificate; undefined until it has tried to keep the pages. */
const trusted = held<boolean | undefined>(undefined)
export const useTrusted = trusted.use

/**
 * keepPages lets the pages open while the shop cannot be reached. A certificate that was only clicked through does not
 * do for that: browsers keep pages of an authority that the device trusts.
 */
export function keepPages() {
  navigator.serviceWorker?.register('/sw.js').then(
    () => trusted.set(true),
    (error: unknown) => trusted.set(!(error instanceof DOMException && error.name === 'SecurityError')),
  )
}
