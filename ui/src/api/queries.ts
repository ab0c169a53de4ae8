import { QueryClient, keepPreviousData, useQuery } from '@tanstack/react-query'
import { Problem, api, type EventRef } from './client'

/** What is on screen is asked for again as the minutes pass. */
const everyMinute = 20_000

export const queries = new QueryClient({
  defaultOptions: {
    queries: {
      retry: (count, error) => error instanceof Problem && error.away && count < 3,
      retryDelay: 2000,
      refetchOnWindowFocus: true,
      networkMode: 'always', // a server on loopback answers without any network
    },
  },
})

const live = { refetchInterval: everyMinute, placeholderData: keepPreviousData }

export const useReference = () => useQuery({ queryKey: ['reference'], queryFn: api.reference, staleTime: 60_000 })
export const useRack = () => useQuery({ queryKey: ['rack'], queryFn: api.rack, ...live })
export const useInstruments = () => useQuery({ queryKey: ['instruments'], queryFn: api.instruments, ...live })

export const useInstrument = (id: string) =>
  useQuery({ queryKey: ['instrument', id], queryFn: () => api.instrument(id), refetchInterval: everyMinute })

export const useSheet = (event: EventRef | undefined) =>
  useQuery({
    queryKey: ['sheet', event?.stepId, event?.coat],
    queryFn: () => (event ? api.sheet(event) : Promise.reject(new Error('no event is chosen'))),
    enabled: event !== undefined,
    ...live,
  })
