import { useState } from 'react'
import type { InstrumentView } from '../../api/client'
import { Button } from '../../parts/Button'
import { Told } from '../../parts/Told'
import { KeepRow } from '../../parts/what-if/KeepRow'
import { useChange } from '../../parts/what-if/useChange'

/** Aside says that an instrument is put aside, and brings it back; what that does to the others is said first. */
export function Aside({ view }: { view: InstrumentView }) {
  const [asked, setAsked] = useState(false)
  const change = useChange(asked ? { kind: 'back', instrumentId: view.id } : undefined, () => setAsked(false))
  if (!view.archived) return null
  return (
    <section className="panel mb-3 grid gap-2 p-4" aria-label="Put aside" data-aside>
      <p>
        Put aside <Told more={view.archived.full}>{view.archived.said}</Told>: nothing of it is planned. The dates below
        are those it would have now.
      </p>
      {asked ? (
        <KeepRow change={change} undo={() => setAsked(false)} verb={`Bring ${view.name} back`} />
      ) : (
        <div>
          <Button needs="shop" look="loud" onClick={() => setAsked(true)}>
            Bring back
          </Button>
        </div>
      )}
    </section>
  )
}
