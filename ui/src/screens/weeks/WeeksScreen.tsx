import { ChevronLeft, ChevronRight } from 'lucide-react'
import { useState } from 'react'
import { useReference } from '../../api/queries'
import { ScreenTitle } from '../../parts/ScreenTitle'
import { Asking } from '../../parts/Asking'
import { Button, LinkButton } from '../../parts/Button'
import { time } from '../../parts/threads/scale'
import { AskWhatIf } from '../../parts/what-if/AskWhatIf'
import { BetterOrder, ProposalNote } from '../../parts/what-if/ProposalNote'
import { Chart } from './Chart'
import { MoveBar } from './MoveBar'
import { useMoving } from './moving'
import { pageSize, usePages } from './pages'
import { blockOf, useTimeView, week, type TimeView } from './view'

/** WeeksScreen is all threads over the coming weeks, to be seen, questioned and bent. */
export function WeeksScreen() {
  const reference = useReference()
  return <Asking query={reference}>{({ today }) => <FromToday now={time(`${today}T12:00:00Z`)} />}</Asking>
}

function FromToday({ now }: { now: number }) {
  const view = useTimeView(now)
  const [seen, setSeen] = useState({ first: 0, last: pageSize - 1 })
  const pages = usePages(blockOf(view.start), seen.first, seen.last)
  const horizon = Math.ceil((view.start + view.span) / week) * week
  const moving = useMoving(horizon)
  return (
    <div className="px-4 pb-4">
      <Head view={view} />
      <ProposalNote line={pages.head?.better} />
      <MoveBar moving={moving} />
      {pages.error && !pages.head ? (
        <div className="panel max-w-xl p-6" role="alert">
          <p className="mb-4 text-ink-2">{pages.error.message}</p>
          <Button onClick={pages.retry}>Try again</Button>
        </div>
      ) : !pages.head ? (
        <p className="p-6 text-ink-2" role="status">
          Asking the shop…
        </p>
      ) : pages.head.total === 0 ? (
        <Empty />
      ) : (
        <Chart
          head={pages.head}
          row={pages.row}
          view={view}
          moving={moving}
          onSeen={(first, last) => setSeen((s) => (s.first === first && s.last === last ? s : { first, last }))}
        />
      )}
    </div>
  )
}

function Head({ view }: { view: TimeView }) {
  return (
    <header className="flex flex-wrap items-center gap-x-4 gap-y-2 py-3">
      <ScreenTitle tab="Weeks" />
      <div className="flex items-center gap-1" role="group" aria-label="How many weeks">
        {[2, 6, 12].map((weeks) => (
          <button
            key={weeks}
            type="button"
            aria-pressed={Math.abs(view.span - weeks * week) < 1000}
            onClick={() => view.show(weeks)}
            className={`min-h-11 px-3 ${Math.abs(view.span - weeks * week) < 1000 ? 'border-b-3 border-umber font-bold' : 'text-ink-2 hover:text-ink'}`}
          >
            {weeks} weeks
          </button>
        ))}
      </div>
      <div className="flex items-center gap-2">
        <Button className="px-2.5" aria-label="Earlier" onClick={() => view.pan(-view.span / 3)}>
          <ChevronLeft className="size-5" />
        </Button>
        <Button onClick={view.today}>Today</Button>
        <Button className="px-2.5" aria-label="Later" onClick={() => view.pan(view.span / 3)}>
          <ChevronRight className="size-5" />
        </Button>
      </div>
      <div className="ml-auto flex flex-wrap items-center gap-3">
        <BetterOrder word="Look for a better order" />
        <AskWhatIf look="dark" />
      </div>
    </header>
  )
}

function Empty() {
  return (
    <div className="panel max-w-xl p-6">
      <h2 className="name mb-2 text-xl">No threads yet</h2>
      <p className="mb-4 text-ink-2">
        Every piece of a running instrument is a thread here: beads are sittings, plain thread is drying, a ring is the
        promise. Plan an instrument and its threads appear.
      </p>
      <LinkButton look="dark" to="/instruments/new">
        New instrument
      </LinkButton>
    </div>
  )
}
