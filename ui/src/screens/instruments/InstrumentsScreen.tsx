import { LinkButton } from '../../parts/Button'
import { Link, useSearchParams } from 'react-router'
import { Told } from '../../parts/Told'
import type { InstrumentLine } from '../../api/client'
import { useInstruments } from '../../api/queries'
import { ScreenTitle } from '../../parts/ScreenTitle'
import { Asking } from '../../parts/Asking'
import { Portrait } from '../../parts/look/Portrait'
import { Chance, LatestStart, Slack } from '../../parts/OutlookFigures'
import { inputLook } from '../../parts/fields/Field'
import { StateChip } from '../../parts/StateChip'
import { found } from './found'
import { PutAside } from './PutAside'

const states = {
  ready: 'ready',
  drying: 'drying',
  closing: 'closing',
  waiting: 'waiting',
  late: 'late',
  finished: 'finished',
} as const

/** InstrumentsScreen lists all jobs: running ones first, then the finished, then what is put aside. */
export function InstrumentsScreen() {
  const instruments = useInstruments()
  const [params, setParams] = useSearchParams()
  const looked = params.get('find') ?? ''
  return (
    <div className="px-4 pb-4">
      <header className="flex flex-wrap items-center gap-x-4 gap-y-1 py-3">
        <ScreenTitle tab="Instruments" />
        <input
          type="search"
          aria-label="Find by name, serial, wood or stage"
          placeholder="Name, serial, wood or stage"
          className={`${inputLook} max-w-80`}
          value={looked}
          onChange={(e) => setParams(e.target.value ? { find: e.target.value } : {}, { replace: true })}
        />
        <LinkButton needs="shop" look="dark" to="/instruments/new" className="ml-auto">
          New instrument
        </LinkButton>
      </header>
      <Asking query={instruments}>
        {(lines) => (
          <>
            {lines.length === 0 ? <Empty /> : <Lists lines={lines} looked={looked} />}
            <PutAside looked={looked} />
          </>
        )}
      </Asking>
    </div>
  )
}

function Lists({ lines, looked }: { lines: InstrumentLine[]; looked: string }) {
  const shown = lines.filter((l) => found(looked, l.name, l.serial, ...l.woods, l.stage, states[l.state], ...l.pieces))
  const running = shown.filter((l) => l.state !== 'finished')
  const finished = shown.filter((l) => l.state === 'finished')
  if (shown.length === 0)
    return (
      <p className="text-ink-2" role="status">
        No instrument has all of these words in its name, serial, woods or stage.
      </p>
    )
  return (
    <>
      <List lines={running} />
      {finished.length > 0 && (
        <section aria-labelledby="finished-head" data-finished>
          <h2 id="finished-head" className="name mt-5 mb-2 text-xl">
            Finished
          </h2>
          <List lines={finished} />
        </section>
      )}
    </>
  )
}

function List({ lines }: { lines: InstrumentLine[] }) {
  return (
    <ul className="grid grid-cols-[minmax(0,1fr)] gap-3 xl:grid-cols-2">
      {lines.map((line) => (
        <li key={line.id}>
          <Line line={line} />
        </li>
      ))}
    </ul>
  )
}

function Line({ line }: { line: InstrumentLine }) {
  const { outlook } = line
  return (
    <div className="panel relative flex h-full gap-4 p-4 hover:bg-raised" data-instrument={line.name}>
      <Portrait
        instrumentId={line.id}
        outline={line.outline}
        own={line.own}
        piece={line.pieces[0] ?? 'body'}
        colour={line.colour}
        frost={line.frost}
        className="h-[84px] w-14 shrink-0"
      />
      <span className="min-w-0 flex-1">
        <span className="flex flex-wrap items-baseline gap-x-3">
          <Link to={`/instruments/${line.id}`} className="name text-xl after:absolute after:inset-0">
            {line.name}
          </Link>
          <span className="text-sm text-ink-3">{[line.serial, ...line.pieces].filter(Boolean).join(', ')}</span>
          <span className="ml-auto">
            <StateChip state={line.state}>{states[line.state]}</StateChip>
          </span>
        </span>
        <span className="block font-semibold">{line.stage}</span>
        <span className="block text-sm text-ink-2">{line.waits}</span>
        <span className="mt-2 flex flex-wrap gap-x-5 text-sm">
          <span>
            promised <b>{outlook.promise.said}</b>
          </span>
          <span>
            {outlook.finished ? 'finished' : 'ready'}{' '}
            <Told more={outlook.because} className="font-bold">
              {outlook.finishDay}
            </Told>
          </span>
          {!outlook.finished && (
            <>
              <span className="relative z-10">
                {!outlook.late && 'slack '}
                <Slack outlook={outlook} />
              </span>
              <span className="relative z-10">
                <Chance outlook={outlook} />
              </span>
              <span className="relative z-10">
                <span className="text-ink-2">latest start</span> <LatestStart outlook={outlook} />
              </span>
            </>
          )}
          <span className="text-ink-2">
            {line.done} of {line.total} done
          </span>
        </span>
        <span className="mt-1.5 block h-1.5 bg-line" aria-hidden="true">
          <span
            className="block h-full bg-umber"
            style={{ width: `${(100 * line.done) / Math.max(1, line.total)}%` }}
          />
        </span>
      </span>
    </div>
  )
}

function Empty() {
  return (
    <div className="panel max-w-xl p-6">
      <h2 className="name mb-2 text-xl">No jobs yet</h2>
      <p className="text-ink-2">
        An instrument is one job with a promised day: a body, a neck, or both. Plan one, and its schedule, dates and log
        stand here.
      </p>
    </div>
  )
}
