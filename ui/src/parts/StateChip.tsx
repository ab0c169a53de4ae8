import type { State } from '../api/client'

export const chips: Record<State, string> = {
  ready: 'bg-ready-fill text-ready',
  drying: 'bg-drying-fill text-drying',
  closing: 'bg-closing-fill text-closing',
  waiting: 'bg-waiting-fill text-waiting',
  late: 'bg-late-fill text-late',
  finished: 'bg-waiting-fill text-waiting',
}

/** What stands in the colour of its state, without a fill. */
export const stateText: Record<State, string> = {
  ready: 'text-ready',
  drying: 'text-drying',
  closing: 'text-closing',
  waiting: 'text-waiting',
  late: 'text-late',
  finished: 'text-ink-3',
}

/** StateChip says how something stands, in a word and its colour. */
export function StateChip({ state, children }: { state: State; children: React.ReactNode }) {
  return <span className={`inline-block rounded-sm px-2 py-0.5 text-sm font-bold ${chips[state]}`}>{children}</span>
}
