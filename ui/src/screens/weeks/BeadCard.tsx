import { Popover } from 'radix-ui'
import { useRef, useState } from 'react'
import type { Bead, WeekRow } from '../../api/client'
import { useSheet } from '../../api/queries'
import { suppose } from '../../api/supposing'
import { Button, LinkButton } from '../../parts/Button'
import { Figure } from '../../parts/Figure'
import { beadKey } from '../../parts/threads/clusters'
import type { Reach } from './Beads'
import { Told } from '../../parts/Told'
import { capital } from '../../parts/words'

interface Props {
  row: WeekRow
  reach: Reach
  close: () => void
  onMove: (bead: Bead) => void
}

/** BeadCard is a sitting that was tapped: what it is, why it is then, and what can be done with it. */
export function BeadCard({ row, reach, close, onMove }: Props) {
  const [bead, setBead] = useState(reach.bead)
  const sheet = useSheet(bead.event)
  const card = useRef<HTMLDivElement>(null)
  return (
    <Popover.Root open onOpenChange={(open) => !open && close()}>
      <Popover.Anchor virtualRef={{ current: reach.element }} />
      <Popover.Portal>
        <Popover.Content
          ref={card}
          tabIndex={-1}
          onOpenAutoFocus={(e) => {
            e.preventDefault() // the card itself, so that one press of Enter does one thing
            card.current?.focus()
          }}
          sideOffset={10}
          collisionPadding={12}
          aria-label={`${bead.title}, ${row.name}`}
          className="z-30 max-h-[70dvh] w-88 max-w-[calc(100vw-1.5rem)] overflow-y-auto border-t-3 border-umber bg-raised p-4 shadow-lg"
          data-bead-card
        >
          {reach.beads.length > 1 && (
            <ul className="mb-3 border-b border-line pb-2 text-sm" aria-label="Sittings here">
              {reach.beads.map((b) => (
                <li key={beadKey(b)}>
                  <button
                    type="button"
                    aria-pressed={b === bead}
                    className={`flex min-h-9 w-full justify-between gap-3 text-left ${b === bead ? 'font-bold' : 'text-ink-2 hover:text-ink'}`}
                    onClick={() => setBead(b)}
                  >
                    <span className="truncate">{b.title}</span>
                    <span className="shrink-0">{b.when}</span>
                  </button>
                </li>
              ))}
            </ul>
          )}
          <h3 className="name text-lg leading-6">{bead.title}</h3>
          <p className="text-sm text-ink-2">
            {row.name} {reach.strand.kind}
            {bead.pinned && ', pinned'}
            {bead.floats && ', its pin has become impossible'}
          </p>
          {sheet.data && (
            <p className="mt-2" data-because>
              {!bead.done && (
                <Told more={sheet.data.start?.full} className="font-bold">
                  {capital(sheet.data.when)}.
                </Told>
              )}{' '}
              {sheet.data.because}
              {sheet.data.window && <> {sheet.data.window}</>}
              {sheet.data.wait && (
                <>
                  {' '}
                  <Figure working={sheet.data.wait}>How long</Figure>
                </>
              )}
            </p>
          )}
          <div className="mt-3 flex flex-wrap gap-2">
            {!bead.done && (
              <Button look="dark" onClick={() => onMove(bead)}>
                Move it
              </Button>
            )}
            {!bead.done && (
              <LinkButton to={`/sitting?step=${bead.event.stepId}&coat=${bead.event.coat}`}>Start sitting</LinkButton>
            )}
            {(bead.pinned || bead.floats) && (
              <Button
                onClick={() => {
                  suppose({ kind: 'unpin', ...bead.event })
                  close()
                }}
              >
                Let it go
              </Button>
            )}
            <LinkButton
              look="bare"
              to={`/instruments/${row.instrumentId}?step=${bead.event.stepId}&coat=${bead.event.coat}`}
            >
              Open the step
            </LinkButton>
          </div>
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  )
}
