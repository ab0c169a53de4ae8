import { Link, useParams } from 'react-router'
import { Problem, type Change, type InstrumentView, type Reference, type Wish } from '../../api/client'
import { useInstrument, useReference, useWhatIf } from '../../api/queries'
import { suppose, takeBack, useSupposed } from '../../api/supposing'
import { ScreenTitle } from '../../parts/ScreenTitle'
import { Asking } from '../../parts/Asking'
import { PairThreads } from '../../parts/threads/PairThreads'
import { time } from '../../parts/threads/scale'
import { Effects } from '../../parts/what-if/Effects'
import { Arrivals } from '../new-instrument/Arrivals'
import { PieceFields } from '../new-instrument/PieceFields'
import { WholeFields } from '../new-instrument/WholeFields'
import { clean, type Draft } from '../new-instrument/draft'

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
  const answer = useWhatIf(at < 0 ? [] : supposed, true)
  const change: Change = { kind: 'wish', instrumentId: view.id }
  const choose = (next: Wish) => {
    const cleaned = clean(next)
    if (JSON.stringify(cleaned) === JSON.stringify(clean(wish))) takeBack(change)
    else suppose({ ...change, wish: cleaned, version: view.version })
  }
  const draft: Draft = { id: view.id, name: view.name, outline: view.outline, promise: '', wish: now, touched: [] }
  const problem = answer.error instanceof Problem ? ofWish(answer.error, at) : undefined
  const props = { reference, draft, own: view.own, change: () => undefined, wish: choose, problem, tried: true }
  return (
    <div className="grid grid-cols-[minmax(0,1fr)] items-start gap-4 lg:grid-cols-[420px_minmax(0,1fr)]">
      <form className="panel space-y-4 p-4" onSubmit={(e) => e.preventDefault()} data-choices>
        <PieceFields {...props} kind="body" />
        <PieceFields {...props} kind="neck" />
        <WholeFields {...props} />
        <Arrivals {...props} />
      </form>
      <section className="panel p-4" aria-live="polite">
        <h2 className="name mb-2 text-xl">What it would do</h2>
        {at < 0 || problem || !answer.data ? (
          <p className="max-w-prose text-ink-2">
            {problem
              ? 'What is wrong stands beside its field.'
              : 'Change a choice, and the schedule is composed again beside the one of today. What is logged and what was changed by hand stays as it is. Nothing is saved until you keep it below.'}
          </p>
        ) : (
          <>
            <p className="mb-2 font-semibold">{answer.data.sum}</p>
            <Effects effects={answer.data.effects} />
            <PairThreads pairs={answer.data.rows} marks={answer.data.marks} now={time(view.now.at)} />
          </>
        )}
      </section>
    </div>
  )
}

/** ofWish is a problem with its faults where they stand in the wish. */
const ofWish = (problem: Problem, at: number) =>
  new Problem(
    problem.status,
    problem.kind,
    problem.message,
    problem.faults.map((f) => ({ ...f, location: f.location.replace(`changes[${at}].`, '') })),
  )
