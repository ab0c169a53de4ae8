import { QueryClient, keepPreviousData, useInfiniteQuery, useQuery } from '@tanstack/react-query'
import { Problem, api, type Change, type EventRef, type InstrumentLook, type LogAsked } from './client'
import { keepLarge } from './store'

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

/** useRackNow is the rack as it was last known, without asking for it. */
export const useRackNow = () => useQuery({ queryKey: ['rack'], queryFn: api.rack, enabled: false }).data
const byInstrument = (list: InstrumentLook[]) => new Map(list.map((i) => [i.instrumentId, i.looks ?? []]))

/** useLooks is how the instruments look by now, by id. */
export const useLooks = () =>
  useQuery({
    queryKey: ['looks'],
    queryFn: api.looks,
    select: byInstrument,
    staleTime: Infinity, // it changes with the log and the wishes, which the shop tells of
  })
export const useInstruments = () => useQuery({ queryKey: ['instruments'], queryFn: api.instruments, ...live })

export const useArchive = (enabled: boolean) => useQuery({ queryKey: ['archive'], queryFn: api.archive, enabled })

/** useHaving is what fits into the time that somebody has. */
export const useHaving = (time: Parameters<typeof api.having>[0] | undefined, person: string) =>
  useQuery({
    queryKey: ['having', time, person],
    queryFn: () => (time ? api.having(time, person) : Promise.reject(new Error('no time is chosen'))),
    enabled: time !== undefined && person !== '',
    ...live,
  })

export const useInstrument = (id: string, enabled = true) =>
  useQuery({ queryKey: ['instrument', id], queryFn: () => api.instrument(id), refetchInterval: everyMinute, enabled })

export const useShop = () => useQuery({ queryKey: ['shop'], queryFn: api.shop })
export const useProposal = (open: boolean) => useQuery({ queryKey: ['proposal'], queryFn: api.proposal, enabled: open })

export const useStarts = (event: EventRef | undefined, until: string) =>
  useQuery({
    queryKey: ['starts', event?.stepId, event?.coat, until],
    queryFn: () => (event ? api.starts(event, until) : Promise.reject(new Error('no event is chosen'))),
    enabled: event !== undefined,
  })

/** useWhatIf plans changes beside today's plan; what was last known stays while the next is worked out. */
export const useWhatIf = (changes: Change[], threads = false) =>
  useQuery({
    queryKey: ['what-if', changes, threads],
    queryFn: ({ signal }) => api.whatIf({ changes, threads }, signal), // a superseded one is given up
    enabled: changes.length > 0,
    placeholderData: keepPreviousData,
    retry: false,
    gcTime: 10_000, // a hand on the move asks many
  })

export const useRecipes = () => useQuery({ queryKey: ['recipes'], queryFn: api.recipes })
export const useRecipe = (id: string) => useQuery({ queryKey: ['recipe', id], queryFn: () => api.recipe(id) })

/** useCompared is two versions of recipes line by line. */
export const useCompared = (pair: Parameters<typeof api.compareRecipes>[0] | undefined) =>
  useQuery({
    queryKey: ['recipes-compared', pair],
    queryFn: () => (pair ? api.compareRecipes(pair) : Promise.reject(new Error('nothing is compared'))),
    enabled: pair !== undefined,
  })

/** useRepairs is the ways of putting some damage right. */
export const useRepairs = (body: Parameters<typeof api.repairs>[0]) =>
  useQuery({
    queryKey: ['repairs', body],
    queryFn: ({ signal }) => api.repairs(body, signal),
    placeholderData: keepPreviousData,
    retry: false,
    gcTime: 10_000,
  })

export const useSheet = (event: EventRef | undefined) =>
  useQuery({
    queryKey: ['sheet', event?.stepId, event?.coat],
    queryFn: () => (event ? api.sheet(event) : Promise.reject(new Error('no event is chosen'))),
    enabled: event !== undefined,
    ...live,
  })

export const useSittings = () => useQuery({ queryKey: ['sittings'], queryFn: api.sittings, ...live })
export const useSitting = (id: string) =>
  useQuery({
    queryKey: ['sitting', id],
    queryFn: () => keeping('sitting', api.sitting(id)),
    refetchInterval: everyMinute,
  })

/** usePlannedSitting is the sitting that an event is planned in, as it could be begun. */
export const usePlannedSitting = (event: EventRef | undefined) =>
  useQuery({
    queryKey: ['sitting', event?.stepId, event?.coat],
    queryFn: () => (event ? api.plannedSitting(event) : Promise.reject(new Error('no event is chosen'))),
    enabled: event !== undefined,
    placeholderData: keepPreviousData,
  })

/** useTimerList is the timers that the shop knows of. */
export const useTimerList = () =>
  useQuery({ queryKey: ['timers'], queryFn: () => keeping('timers', api.timers()), refetchInterval: everyMinute })

/** keeping keeps an answer on this device, for a reload without the shop. */
async function keeping<T>(name: string, asked: Promise<T>): Promise<T> {
  const answer = await asked
  void keepLarge(name, answer)
  return answer
}

export const useHours = (days: number) =>
  useQuery({ queryKey: ['hours', days], queryFn: () => api.hours(days), placeholderData: keepPreviousData })

/** useLogPages is the log page by page, the newest first. */
export const useLogPages = (asked: LogAsked) =>
  useInfiniteQuery({
    queryKey: ['log', asked],
    queryFn: ({ pageParam }) => api.logPage({ ...asked, after: pageParam }),
    initialPageParam: undefined as string | undefined,
    getNextPageParam: (page) => (page.more ? page.lines.at(-1)?.place : undefined),
    placeholderData: keepPreviousData,
  })
