import { useReference } from '../api/queries'
import { usePerson } from './person'

/** useWho is the person at this device as the shop knows them, for the log and for what is decided. */
export function useWho(): string {
  const people = useReference().data?.people ?? []
  const chosen = usePerson()
  return people.some((p) => p.id === chosen) ? chosen : (people[0]?.id ?? chosen)
}
