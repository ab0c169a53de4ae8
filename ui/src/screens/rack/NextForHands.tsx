import { Link } from 'react-router'
import { Told } from '../../parts/Told'
import type { Rack, Due } from '../../api/client'
import type { useHaving } from '../../api/queries'
import { useWaiting } from '../../api/outbox'
import { useLog } from '../../frame/logging'
import { KindMark } from '../../parts/BeadMark'
import { Button, LinkButton } from '../../parts/Button'
import { capital, lower } from '../../parts/words'
import { stateText } from '../../parts/StateChip'
import { NotSent } from '../../parts/NotSent'

export type Time = Parameters<typeof useHaving>[0] & string

const times: { id: Time; text: string }[] = [
  { id: 'half-hour', text: 'half an hour' },
  { id: 'two-hours', text: 'two hours' },
  { id: 'evening', text: 'this evening' },
]

interface Props {
  rack: Rack
  /** The time that somebody has; none: all of today. */
  time: Time | undefined
  onTime: (time: Time | undefined) => void
  having: ReturnType<typeof useHaving>
}

/** NextForHands is today's work in order, each with its one tap, or only what fits into the time one has. */
export function NextForHands({ rack, time, onTime, having }: Props) {
  const fits = time ? having.data : undefined
  const list = fits?.fits ?? rack.next
  const loud = list.findIndex((s) => s.canLog)
  return (
    <section className="panel px-4 py-3" aria-labelledby="next-head">
      <div className="mb-1 flex flex-wrap items-center gap-x-4 gap-y-2">
        <h2 id="next-head" className="name text-lg">
          Next for your hands
        </h2>
        <TimeIHave time={time} onTime={onTime} />
        <LinkButton needs="bench" className="ml-auto" to="/sitting">
          Start sitting
        </LinkButton>
      </div>
      {time && (
        <p className="pb-1 text-sm text-ink-2" role="status">
          {fits ? `${capital(fits.said)}: ${lower(fits.sum)}` : (having.error?.message ?? 'Looking for what fits…')}
        </p>
      )}
      <ol>
        {list.map((due, i) => (
          <Row key={`${due.event.stepId}/${due.event.coat}`} due={due} loud={i === loud} />
        ))}
      </ol>
      {!time && rack.next.length === 0 && (
        <p className="border-t border-line py-3 text-ink-2">
          {rack.open.startsWith('closed') ? `The shop is ${rack.open}.` : 'Nothing more today: everything is drying.'}
        </p>
      )}
      {!time && rack.then && (
        <p className="border-t border-line pt-2 text-sm text-ink-2">
          After today first: {rack.then.title}, {rack.then.name} {rack.then.piece}, {rack.then.when}.
        </p>
      )}
    </section>
  )
}

/** TimeIHave is the time that somebody has: only what fits into it is left. */
function TimeIHave({ time, onTime }: Pick<Props, 'time' | 'onTime'>) {
  return (
    <div
      className="order-last flex basis-full flex-wrap items-center gap-2 xl:order-none xl:basis-auto"
      role="group"
      aria-labelledby="have-head"
      data-have
    >
      <span id="have-head" className="basis-full text-ink-2 sm:basis-auto">
        I have …
      </span>
      {times.map(({ id, text }) => (
        <button
          key={id}
          type="button"
          aria-pressed={time === id}
          className="min-h-11 rounded-sm border border-ink-3 px-2 aria-pressed:border-2 aria-pressed:border-ink aria-pressed:bg-raised aria-pressed:font-semibold"
          onClick={() => onTime(time === id ? undefined : id)}
        >
          {text}
        </button>
      ))}
    </div>
  )
}

function Row({ due, loud }: { due: Due; loud: boolean }) {
  const { log } = useLog()
  const waiting = useWaiting(due.event.stepId, due.event.coat)
  const key = `${due.event.stepId}/${due.event.coat}`
  const label = `${due.logLabel}: ${due.title}, ${due.name} ${due.piece}`
  return (
    <li
      data-event={key}
      className="grid grid-cols-[24px_1fr_auto] items-center gap-x-3 border-t border-line py-1.5 md:grid-cols-[24px_108px_1fr_auto] lg:grid-cols-[24px_108px_1fr_auto_auto]"
    >
      <KindMark kind={due.kind} method={due.method} className={`size-6 ${stateText[due.state]}`} />
      <Told more={due.start.full} className={`text-[15px] font-bold ${stateText[due.state]}`}>
        {due.when}
      </Told>
      <div className="order-last col-span-3 min-w-0 md:order-none md:col-span-1">
        <Link
          to={`/instruments/${due.instrumentId}?step=${due.event.stepId}&coat=${due.event.coat}`}
          className="font-semibold hover:underline"
        >
          {due.title} · {due.name} {due.piece}
        </Link>
        <p className="text-sm text-ink-2">{due.because}</p>
      </div>
      <span className="hidden px-2 text-right text-sm text-ink-2 lg:inline">
        {due.minutes}
        <br />
        {due.place}
      </span>
      <span className="text-right md:min-w-[124px]">
        {waiting && <NotSent />}
        {due.canLog && !waiting && (
          <Button
            needs="bench"
            look={loud ? 'loud' : 'plain'}
            className="w-full"
            data-log={key}
            aria-label={label}
            onClick={() =>
              log(
                { kind: 'done', stepId: due.event.stepId, coat: due.event.coat },
                `${due.title}, ${due.name} ${due.piece}`,
              )
            }
          >
            {due.logLabel}
          </Button>
        )}
      </span>
    </li>
  )
}
