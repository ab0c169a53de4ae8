import type { ReactNode } from 'react'
import type { Change } from '../../api/client'
import { Button } from '../Button'

/** Asking is what every form of a what-if is given. */
export interface Asked {
  instrumentId?: string
  ask: (change: Change) => void
}

/** Ask is a form that supposes one change. */
export function Ask({ onAsk, disabled, children }: { onAsk: () => void; disabled?: boolean; children: ReactNode }) {
  return (
    <form
      className="grid gap-4"
      onSubmit={(e) => {
        e.preventDefault()
        onAsk()
      }}
    >
      {children}
      <div className="flex justify-end">
        <Button type="submit" look="loud" disabled={disabled}>
          Suppose it
        </Button>
      </div>
    </form>
  )
}
