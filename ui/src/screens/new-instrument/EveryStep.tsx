import { useState } from 'react'
import type { PieceView } from '../../api/client'
import { Button } from '../../parts/Button'
import { KindMark } from '../../parts/BeadMark'
import { Told } from '../../parts/Told'
import { Fold } from './Fold'

/** EveryStep is the schedule before it is kept: grit or product, minutes, wait and mask of each step; it prints. */
export function EveryStep({ pieces }: { pieces: PieceView[] }) {
  const [open, setOpen] = useState(false)
  const count = pieces.reduce((n, p) => n + p.steps.length, 0)
  return (
    <Fold title="Every step" about={`${count} steps, in the order of each piece`} open={open} onOpen={setOpen} paper>
      {open && (
        <div className="grid gap-x-6 gap-y-4 lg:grid-cols-2 print:grid-cols-2" data-every-step>
          {pieces.map((piece) => (
            <Steps key={piece.id} piece={piece} />
          ))}
        </div>
      )}
      <Button onClick={() => window.print()}>Print</Button>
    </Fold>
  )
}

function Steps({ piece }: { piece: PieceView }) {
  return (
    <div>
      <h3 className="name text-lg">{piece.kind}</h3>
      <ol>
        {piece.steps.map((step) => (
          <li
            key={step.stepId}
            className="grid grid-cols-[20px_1fr_auto] items-start gap-x-2 border-t border-line py-1.5"
            data-step={step.title}
          >
            <KindMark kind={step.kind} method={step.method} className="mt-0.5 size-5 text-umber" />
            <span className="min-w-0">
              {step.title}
              {step.coats > 1 && <span className="text-ink-2"> × {step.coats}</span>}
              {[step.about, step.where, step.wait].filter(Boolean).map((text) => (
                <span key={text} className="block text-sm text-ink-2">
                  {text}
                </span>
              ))}
            </span>
            <span className="text-right text-sm text-ink-2">
              <Told more={step.start?.full}>{step.when}</Told>
              <span className="block">{step.minutes}</span>
            </span>
          </li>
        ))}
      </ol>
    </div>
  )
}
