import type { Waiting } from './store'

/** How much of what an entry logs in words is sent along. */
const mostTitle = 300

/** asLate is an entry as it is sent later: with when it was made, and what it logs in words, should that be gone by then. */
export const asLate = (w: Waiting): Waiting => ({
  ...w,
  tab: '',
  entry: { ...w.entry, late: true, happenedAt: w.entry.happenedAt ?? w.at, title: w.title.slice(0, mostTitle) },
})
