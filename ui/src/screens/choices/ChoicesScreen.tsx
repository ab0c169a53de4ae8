import { Link, useParams } from 'react-router'
import { Problem, type Change, type InstrumentView, type Reference, type WhatIf, type Wish } from '../../api/client'
import { useInstrument, useReference, useWhatIf } from '../../api/queries'
import { suppose, takeBack, useSupposed, withChange } from '../../api/supposing'
import { Asking } from '../../parts/Asking'
import { ScreenTitle } from '../../parts/ScreenTitle'
import { Threads } from '../../parts/threads/Threads'
import { useLast, useProblem } from '../../parts/useLast'
import { Effects } from '../../parts/what-if/Effects'
import { clean, type Draft } from '../new-instrument/draft'
import { EveryStep } from '../new-instrument/EveryStep'
import { Faults } from '../new-instrument/Faults'
import type { StackProps } from '../new-instrument/fields'
import { Objections } from '../new-instrument/Objections'
import { Outcome } from '../new-instrument/Outcome'
import { WholePanel } from '../new-instrument/WholePanel'
import { Workbench } from '../new-instrument/Workbench'

/** ChoicesScreen changes what is wished of an instrument that is under way: composed again, what is logged or changed by hand stays. */
export function ChoicesScreen() {
  const { id = '' } = useParams()
  const instrument = useInstrument(id)
  const reference = useReference()
  return (
    <Asking query={reference}>
      {(known) => <Asking query={instrument}>{(view) => <Full key={view.id} view={view} reference={known} />}</Asking>}
    </Asking>
  )
}

function Full({ view, reference }: { view: InstrumentView; reference: Reference }) {
  return (
    <div className="px-4 pb-4">
      <header className="flex flex-wrap items-baseline gap-x-4 py-3">
        <ScreenTitle tab={`Choices for ${view.name}`} />
        <Link
          to={`/instruments/${view.id}`}
          className="text-ink-2 underline decoration-ink-3 underline-offset-4 hover:text-ink"
        >
          Back to its schedule
        </Link>
      </header>
      {view.wish ? (
        <Wished view={view} wish={view.wish} reference={reference} />
      ) : (
        <p className="panel max-w-prose p-4">
          This instrument came with its schedule from elsewhere, and what was wished of it is not known here. Its steps
          can be changed one by one, by a what-if.
        </p>
      )}
    </div>
  )
}

function Wished({ view, wish, reference }: { view: InstrumentView; wish: Wish; reference: Reference }) {
  const supposed = useSupposed()
  const at = supposed.findIndex((c) => c.kind === 'wish' && c.instrumentId === view.id)
  const now = supposed[at]?.wish ?? wish
  const change: Change = { kind: 'wish', instrumentId: view.id }
  const asked = at < 0 ? withChange(supposed, { ...change, wish, version: view.version }) : supposed
  const answer = useWhatIf(asked, true)
  const choose = (next: Wish) => {
    const cleaned = clean(next)
    if (JSON.stringify(cleaned) === JSON.stringify(clean(wish))) takeBack(change)
    else suppose({ ...change, wish: cleaned, version: view.version })
  }
  const draft: Draft = { id: view.id, name: view.name, outline: view.outline, promise: '', wish: now, touched: [] }
  const refused = useProblem(answer)
  const problem = refused && ofWish(refused, at < 0 ? asked.length - 1 : at)
  const data = useLast(answer.data)
  const made = data?.wished
  const props: StackProps = {
    reference,
    draft,
    own: view.own,
    change: () => undefined,
    wish: choose,
    problem,
    tried: true,
    composed: made,
    request: { id: view.id, name: view.name, outline: view.outline, promise: '', wish: clean(now) },
    running: true,
    now: view.now.at,
  }
  return (
    <>
      <section className="panel space-y-2 p-4" aria-busy={answer.isFetching} data-difference>
        <div aria-live="polite">
          {made && <Outcome {...made} promised stale={problem !== undefined} />}
          <p className="font-semibold">{said(at >= 0, data)}</p>
          {at >= 0 && data && <Effects effects={data.effects} />}
          {problem && <Faults problem={problem} />}
          {at >= 0 && <p className="text-sm text-ink-2">Nothing is saved until you keep it below.</p>}
        </div>
        {made && <Threads days={made.days} pieces={made.pieces} outlook={made.outlook} now={view.now.at} />}
      </section>
      <div
        className="mt-4 grid grid-cols-[minmax(0,1fr)] items-start gap-4 lg:grid-cols-[minmax(0,1fr)_300px] print:hidden"
        data-choices
      >
        <Workbench {...props} />
        <div className="min-w-0 space-y-4 lg:mt-[52px]">
          {made && <Objections objections={made.objections} notes={[]} />}
          <WholePanel {...props} open />
        </div>
      </div>
      {made && (
        <div className="mt-4">
          <EveryStep pieces={made.pieces} />
        </div>
      )}
    </>
  )
}

/** said is the difference to today's schedule in words. */
function said(changed: boolean, data?: WhatIf) {
  if (changed && data) return `Against today’s schedule: ${data.sum}`
  const otherwise =
    data && data.effects.length > 0 ? ` Composed again by today’s rules it would differ: ${data.sum}` : ''
  return `Nothing is changed yet. What is logged, and what was changed by hand, stays as it is.${otherwise}`
}

/** ofWish is a problem with its faults where they stand in the wish. */
const ofWish = (problem: Problem, at: number) =>
  new Problem(
    problem.status,
    problem.kind,
    problem.message,
    problem.faults.map((f) => ({ ...f, location: f.location.replace(`changes[${at}].`, '') })),
  )
