import type { ReactNode } from 'react'
import type { BatchView, SittingView } from '../../api/client'
import { Figure } from '../../parts/Figure'
import { verdictChip } from '../../parts/verdicts'
import { capital } from '../../parts/words'

/** LayOut is what a sitting wants at hand: materials as they are mixed, grits, tools, and the air now. */
export function LayOut({ sitting }: { sitting: SittingView }) {
  const { materials, grits, tools } = sitting.lay
  return (
    <div className="grid gap-4" data-lay>
      {sitting.verdicts.map((v) => (
        <p key={`${v.product}/${v.place}`} className={`px-3 py-2 ${verdictChip[v.verdict]}`}>
          <b>
            {v.product}, {v.place}: {v.text}.
          </b>{' '}
          {capital(v.reason)}.
        </p>
      ))}
      {materials.map((m) => (
        <div key={m.name} className="border-t border-line pt-2">
          <h3 className="text-lg font-semibold">
            {m.name}
            <span className="font-normal text-ink-2">
              , {m.methods}: {m.volume}
              {m.potLife && `, its mix lasts ${m.potLife}`}
            </span>
          </h3>
          {m.batches.map((b) => (
            <Batch key={b.title} batch={b} />
          ))}
        </div>
      ))}
      <dl className="grid grid-cols-[5rem_1fr] gap-y-1 border-t border-line pt-2">
        {grits.length > 0 && <Row label="Grits">{grits.join(', ')}</Row>}
        {tools.length > 0 && <Row label="Tools">{tools.join(', ')}</Row>}
      </dl>
    </div>
  )
}

const Row = ({ label, children }: { label: string; children: ReactNode }) => (
  <>
    <dt className="text-ink-2">{label}</dt>
    <dd>{children}</dd>
  </>
)

/** Batch is one mix: what goes into it, for which pieces, and how long it lasts. */
export function Batch({ batch }: { batch: BatchView }) {
  return (
    <p className="mt-1" data-batch>
      <b>{batch.title}:</b> <Figure working={batch.working}>{batch.mix}</Figure>{' '}
      <span className="text-ink-2">
        = {batch.total}, for {batch.for.join(', ')}
        {batch.use && `; ${batch.use}`}
      </span>
    </p>
  )
}
