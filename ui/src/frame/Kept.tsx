import { useState } from 'react'
import { drop, tryAgain } from '../api/outbox'
import type { Waiting } from '../api/store'
import { Button } from '../parts/Button'
import { lazily } from '../parts/lazily'

const Correct = lazily(() => import('./Correct').then((m) => m.Correct))

/** Kept is one entry that the shop does not have: it may be put right, dropped, and tried again where the shop refused it. */
export function Kept({ waiting }: { waiting: Waiting }) {
  const [correcting, setCorrecting] = useState(false)
  return (
    <div data-kept={waiting.seq}>
      <p className="flex flex-wrap items-center gap-x-3">
        <span>
          {waiting.title || 'An entry made here'}
          {waiting.entry.note && <> “{waiting.entry.note}”</>}
          {waiting.refused && <>. The shop refused it: {waiting.refused}</>}
        </span>
        {waiting.refused && (
          <Button look="bare" onClick={() => void tryAgain(waiting)}>
            Try again
          </Button>
        )}
        {!correcting && (
          <Button look="bare" onClick={() => setCorrecting(true)}>
            Correct it
          </Button>
        )}
        <Button look="bare" onClick={() => void drop(waiting.seq)}>
          Let it go
        </Button>
      </p>
      {correcting && <Correct waiting={waiting} close={() => setCorrecting(false)} />}
    </div>
  )
}
