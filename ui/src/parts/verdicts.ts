/** How a verdict on the air looks: its colour says the state, its words say it too. */
export const verdictText = { go: 'text-ready', 'go with care': 'text-closing', wait: 'text-waiting' } as const

export const verdictChip = {
  go: 'bg-ready-fill text-ready',
  'go with care': 'bg-closing-fill text-closing',
  wait: 'bg-waiting-fill text-waiting',
} as const
