import createClient from 'openapi-fetch'
import type { components, paths } from './schema'
import { setConnection } from './connection'
import { notationWords, type Notation } from './notation'
import { Problem } from './problem'
import { reachable } from './reach'

export type Schemas = components['schemas']
export type Bench = Schemas['Bench']
export type Rack = Schemas['Rack']
export type Tag = Schemas['Tag']
export type Due = Schemas['Due']
export type State = Tag['state'] | 'finished'
export type Outlook = Schemas['Outlook']
export type InstrumentLine = Schemas['InstrumentLine']
export type InstrumentView = Schemas['InstrumentView']
export type PieceView = Schemas['PieceView']
export type Bead = Schemas['Bead']
export type DayMark = Schemas['DayMark']
export type StepRow = Schemas['StepRow']
export type LogPage = Schemas['LogPage']
export type LogAsked = Schemas['LogAsked']
export type Timer = Schemas['Timer']
export type TimerView = Schemas['TimerView']
export type SittingHead = Schemas['SittingHead']
export type SittingView = Schemas['SittingView']
export type SittingStep = Schemas['SittingStep']
export type BatchView = Schemas['BatchView']
export type HoursLine = Schemas['HoursLine']
export type LogLine = Schemas['LogLine']
export type Sheet = Schemas['Sheet']
export type Working = Schemas['Working']
export type Caution = Schemas['Caution']
export type Reference = Schemas['Reference']
export type NewInstrument = Schemas['NewInstrument']
export type Wish = Schemas['Wish']
export type PieceWish = Schemas['PieceWish']
export type PartWish = Schemas['PartWish']
export type RegionWish = Schemas['RegionWish']
export type OwnOutline = Schemas['OwnOutline']
export type Layer = Schemas['Layer']
export type Arrival = Schemas['Arrival']
export type ChoiceView = Schemas['ChoiceView']
export type Ways = Schemas['Ways']
export type WayView = Schemas['WayView']
export type SchoolsAsked = Schemas['SchoolsAsked']
export type Objection = Schemas['ObjectionView']
export type Look = Schemas['Look']
export type InstrumentLook = Schemas['InstrumentLook']
export type RegionLook = Schemas['RegionLook']
export type Paint = Schemas['Paint']
export type Offer = Schemas['Offer']
export type StackRow = Schemas['StackRow']
export type Role = Schemas['RoleView']
export type Wished = Schemas['Wished']
export type Forecast = Schemas['Forecast']
export type Entry = Schemas['Entry']
export type Logged = Schemas['Logged']
export type EventRef = Schemas['EventRef']
export type RoomNow = Schemas['RoomNow']
export type PlaceNow = Schemas['PlaceNow']
export type Change = Schemas['Change']
export type Changes = Schemas['Changes']
export type Edit = Schemas['Edit']
export type EditFields = Schemas['Fields']
export type Edited = Schemas['Edited']
export type EditView = Schemas['EditView']
export type StrataChange = Schemas['StrataChange']
export type Extra = Schemas['Extra']
export type Repair = Schemas['Asked']
export type RepairWay = Schemas['RepairWay']
export type RecipeLine = Schemas['RecipeLine']
export type RecipeView = Schemas['RecipeView']
export type RecipeUse = Schemas['RecipeUse']
export type RecipeSaved = Schemas['RecipeSaved']
export type WhatIf = Schemas['WhatIf']
export type Effect = Schemas['Effect']
export type Pair = Schemas['Pair']
export type Weeks = Schemas['Weeks']
export type WeekRow = Schemas['WeekRow']
export type WeekDay = Schemas['WeekDay']
export type Strand = Schemas['Strand']
export type CriticalWait = Schemas['CriticalView']
export type Starts = Schemas['StartsView']
export type Proposal = Schemas['Proposal']
export type ProposalLine = Schemas['ProposalLine']
export type ShopView = Schemas['ShopView']
export type PlaceView = Schemas['PlaceView']
export type PlaceForm = Schemas['PlaceForm']
export type PersonForm = Schemas['PersonForm']
export type ShopForm = Schemas['ShopForm']
export type Beginning = Schemas['Beginning']
export type BeginningView = Schemas['BeginningView']
export type BackupsView = Schemas['BackupsView']
export type JobForm = Schemas['JobForm']
export type ArchivedLine = Schemas['ArchivedLine']
export type Having = Schemas['Having']
export type PromiseMove = Schemas['PromiseMove']
export type TypedReading = Schemas['TypedReading']
export type DoorView = Schemas['DoorView']
export type PairingView = Schemas['PairingView']
export type About = Schemas['About']

export { Problem }

const client = createClient<paths>({ baseUrl: window.location.origin })
client.use(reachable)

interface Answer<T> {
  data?: T
  error?: Schemas['ErrorModel']
  response: Response
}

/** shown is a rack; where the server knows it from memory only, its database is away. */
function shown(rack: Rack): Rack {
  if (rack.remembered) setConnection('database')
  return rack
}

/** unwrap returns the data of an answer or throws its problem. */
async function unwrap<T>(answer: Promise<Answer<T>>): Promise<T> {
  const { data, error, response } = await answer
  if (data !== undefined && response.ok) return data
  const faults = (error?.errors ?? []).map((e) => ({
    location: e.location ?? '',
    message: e.message ?? '',
    value: e.value,
  }))
  throw new Problem(response.status, error?.type ?? 'about:blank', error?.detail ?? response.statusText, faults)
}

/** send gives the shop a file. */
async function send<T>(path: string, type: string, body: BodyInit): Promise<T> {
  const response = await fetch(path, { method: 'POST', headers: { 'Content-Type': type }, body }).catch(() => {
    throw new Problem(0, 'network', 'The server cannot be reached.', [])
  })
  const answer = (await response.json()) as T & Schemas['ErrorModel']
  return unwrap(Promise.resolve(response.ok ? { data: answer, response } : { error: answer, response }))
}

export const api = {
  reference: () => unwrap(client.GET('/api/reference')),
  rack: () => unwrap(client.GET('/api/rack')).then(shown),
  about: () => unwrap(client.GET('/api/about')),
  health: () => unwrap(client.GET('/api/health')),
  bench: () => unwrap(client.GET('/api/bench')),
  instruments: () => unwrap(client.GET('/api/instruments')),
  archive: () => unwrap(client.GET('/api/archive')),
  deleteInstrument: (body: Schemas['Deletion']) => unwrap(client.POST('/api/instruments/delete', { body })),
  having: (time: 'half-hour' | 'two-hours' | 'evening', person: string) =>
    unwrap(client.GET('/api/having', { params: { query: { for: time, person } } })),
  looks: () => unwrap(client.GET('/api/looks')),
  instrument: (id: string) => unwrap(client.GET('/api/instruments/{id}', { params: { path: { id } } })),
  sheet: (event: EventRef) =>
    unwrap(client.GET('/api/steps/{id}/coats/{coat}', { params: { path: { id: event.stepId, coat: event.coat } } })),
  forecast: (body: NewInstrument, signal: AbortSignal) => unwrap(client.POST('/api/forecasts', { body, signal })),
  schools: (body: SchoolsAsked) => unwrap(client.POST('/api/schools', { body })),
  keep: (body: NewInstrument) => unwrap(client.POST('/api/instruments', { body })),
  timers: () => unwrap(client.GET('/api/timers')),
  sittings: () => unwrap(client.GET('/api/sittings')),
  sitting: (id: string) => unwrap(client.GET('/api/sittings/{id}', { params: { path: { id } } })),
  plannedSitting: (event: EventRef) =>
    unwrap(
      client.GET('/api/steps/{id}/coats/{coat}/sitting', { params: { path: { id: event.stepId, coat: event.coat } } }),
    ),
  beginSitting: (body: Schemas['SittingBegun']) => unwrap(client.POST('/api/sittings', { body })),
  changeSitting: (body: Schemas['SittingChanged']) => unwrap(client.POST('/api/sittings/change', { body })),
  hours: (days: number) => unwrap(client.GET('/api/hours', { params: { query: { days } } })),
  logPage: (body: LogAsked) => unwrap(client.POST('/api/log-pages', { body })),
  log: (body: Entry) => unwrap(client.POST('/api/log', { body })),
  weeks: (query: { from?: string; weeks: number; first: number; count: number }) =>
    unwrap(client.GET('/api/weeks', { params: { query } })),
  starts: (event: EventRef, until: string) =>
    unwrap(
      client.GET('/api/steps/{id}/coats/{coat}/starts', {
        params: { path: { id: event.stepId, coat: event.coat }, query: { until } },
      }),
    ),
  whatIf: (body: Changes, signal?: AbortSignal) => unwrap(client.POST('/api/what-ifs', { body, signal })),
  repairs: (body: Schemas['RepairAsked'], signal?: AbortSignal) =>
    unwrap(client.POST('/api/repairs', { body, signal })),
  recipes: () => unwrap(client.GET('/api/recipes')),
  recipe: (id: string) => unwrap(client.GET('/api/recipes/{id}', { params: { path: { id } } })),
  saveRecipe: (body: RecipeSaved) => unwrap(client.POST('/api/recipes', { body })),
  nameRecipe: (body: Schemas['RecipeNamed']) => unwrap(client.POST('/api/recipes/name', { body })),
  compareRecipes: (body: Schemas['RecipePair']) => unwrap(client.POST('/api/recipes/compare', { body })),
  /** Files have formats of their own, beside the typed operations. */
  readRecipe: (text: string) => send<RecipeView>('/api/recipe-file', 'application/json', text),
  restore: (file: File) => send<BackupsView>('/api/backup-file', 'application/octet-stream', file),
  backups: () => unwrap(client.GET('/api/backups')),
  beginning: (as: Notation) => unwrap(client.GET('/api/beginning', { headers: { Notation: notationWords(as) } })),
  begin: (body: Beginning) => unwrap(client.POST('/api/beginning', { body })),
  undo: (body: Schemas['TakenBack']) => unwrap(client.POST('/api/undo', { body })),
  redo: (body: Schemas['TakenBack']) => unwrap(client.POST('/api/redo', { body })),
  keepChanges: (body: Changes) => unwrap(client.POST('/api/changes', { body })),
  proposal: () => unwrap(client.GET('/api/proposal')),
  acceptProposal: (body: Schemas['Decision']) => unwrap(client.POST('/api/proposal/accept', { body })),
  dismissProposal: (body: Schemas['Decision']) => unwrap(client.POST('/api/proposal/dismiss', { body })),
  shop: () => unwrap(client.GET('/api/shop')),
  door: () => unwrap(client.GET('/api/door')),
  pair: (body: Schemas['PairAsked']) => unwrap(client.POST('/api/pair', { body })),
  beOnDevice: (body: Schemas['OnDevice']) => unwrap(client.POST('/api/door/person', { body })),
  pairings: () => unwrap(client.GET('/api/pairings')),
  makeCode: (body: Schemas['CodeAsked']) => unwrap(client.POST('/api/pairing-codes', { body })),
  changePairing: (body: Schemas['PairingChanged']) => unwrap(client.POST('/api/pairings/change', { body })),
  setPin: (body: Schemas['PinSet']) => unwrap(client.POST('/api/people/pin', { body })),
  strikeReading: (body: Schemas['ReadingStruck']) => unwrap(client.POST('/api/readings/strike', { body })),
  typeReading: (body: TypedReading) => unwrap(client.POST('/api/readings/typed', { body })),
}
