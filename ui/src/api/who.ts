import { useCallback, useEffect, useRef } from 'react'
import { keep, readKept, text } from './kept'
import { useReference } from './queries'
import { usePerson } from './person'

/** useWho is the person at this device as the shop knows them, for the log and for what is decided. */
export function useWho(): string {
  const people = useReference().data?.people ?? []
  const chosen = usePerson()
  const who = people.some((p) => p.id === chosen) ? chosen : (people[0]?.id ?? chosen)
  useEffect(() => {
    if (who !== '') keep('who', who) // for entries that a reload finds without one
  }, [who])
  return who
}

/** useShopId is the shop that answers here, as far as it is known. */
export function useShopId(): string {
  const id = useReference().data?.shopId ?? ''
  useEffect(() => {
    if (id !== '') keep('shopId', id)
  }, [id])
  return id || readKept('shopId', text, '')
}

/** useWhoKnown gives that person's id as soon as it is known: what is done before the people have come waits for them. */
export function useWhoKnown(): () => Promise<string> {
  const id = useWho()
  const known = useRef(id)
  const waiting = useRef<((id: string) => void)[]>([])
  useEffect(() => {
    known.current = id
    if (id === '') return
    waiting.current.forEach((tell) => tell(id))
    waiting.current = []
  }, [id])
  return useCallback(
    () =>
      new Promise<string>((tell) => {
        if (known.current === '') waiting.current.push(tell)
        else tell(known.current)
      }),
    [],
  )
}
