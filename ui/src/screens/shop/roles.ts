import type { Role } from '../../api/door'

/** What each role lets a device do, in words. */
export const roleWords: Record<Role, string> = {
  look: 'may look, but change nothing',
  bench: 'may log and move work',
  shop: 'may change everything',
}

export const roleOptions = [
  { id: 'look', text: 'look, but change nothing' },
  { id: 'bench', text: 'log and move work' },
  { id: 'shop', text: 'everything: also what this page has' },
]
