import { Link } from 'react-router'
import { Told } from '../../parts/Told'
import type { Rack, Sitting } from '../../api/client'
import { useWaiting } from '../../api/outbox'
import { useLog } from '../../frame/logging'
import { KindMark } from '../../parts/BeadMark'
import { Button } from '../../parts/Button'
import { stateText } from '../../parts/StateChip'
import { NotSent } from '../../parts/NotSent'

/** NextForHands is today's work in order, each with its one tap. */
export function NextForHands({ rack }: { rack: Rack }) {
  const loud = rack.next.findIndex((s) => s.canLog)
  return (
    <section className="panel px-4 py-3" aria-labelledby="next-head">
      <h2 id="next-head" className="name text-lg">
        Next for your hands
      </h2>
      <ol>
        {rack.next.map((sitting, i) => (
          <Row key={`${sitting.event.stepId}/${sitting.event.coat}`} sitting={sitting} loud={i === loud} />
        ))}
      </ol>
      {rack.next.length === 0 && (
        <p className="border-t border-line py-3 text-ink-2">
          {rack.open.startsWith('closed') ? `The shop is ${rack.open}.` : 'Nothing more today: everything is drying.'}
        </p>
      )}
      {rack.then && (
        <p className="border-t border-line pt-2 text-sm text-ink-2">
          After today first: {rack.then.title}, {rack.then.name} {rack.then.piece}, {rack.then.when}.
        </p>
      )}
    </section>
  )
}

function Row({ sitting, loud }: { sitting: Sitting; loud: boolean }) {
  const { log } = useLog()
  const waiting = useWaiting(sitting.event.stepId, sitting.event.coat)
  const key = `${sitting.event.stepId}/${sitting.event.coat}`
  const label = `${sitting.logLabel}: ${sitting.title}, ${sitting.name} ${sitting.piece}`
  return (
    <li
      data-event={key}
      className="grid grid-cols-[24px_1fr_auto] items-center gap-x-3 border-t border-line py-1.5 md:grid-cols-[24px_108px_1fr_auto] lg:grid-cols-[24px_108px_1fr_auto_auto]"
    >
      <KindMark kind={sitting.kind} method={sitting.method} className={`size-6 ${stateText[sitting.state]}`} />
      <Told more={sitting.start.full} className={`text-[15px] font-bold ${stateText[sitting.state]}`}>
        {sitting.when}
      </Told>
      <div className="order-last col-span-3 min-w-0 md:order-none md:col-span-1">
        <Link
          to={`/instruments/${sitting.instrumentId}?step=${sitting.event.stepId}&coat=${sitting.event.coat}`}
          className="font-semibold hover:underline"
        >
          {sitting.title} · {sitting.name} {sitting.piece}
        </Link>
        <p className="text-sm text-ink-2">{sitting.because}</p>
      </div>
      <span className="hidden px-2 text-right text-sm text-ink-2 lg:inline">
        {sitting.minutes}
        <br />
        {sitting.place}
      </span>
      <span className="text-right md:min-w-[124px]">
        {waiting && <NotSent />}
        {sitting.canLog && !waiting && (
          <Button
            look={loud ? 'loud' : 'plain'}
            className="w-full"
            data-log={key}
            aria-label={label}
            onClick={() =>
              log(
                { kind: 'done', stepId: sitting.event.stepId, coat: sitting.event.coat },
                `${sitting.title}, ${sitting.name} ${sitting.piece}`,
              )
            }
          >
            {sitting.logLabel}
          </Button>
        )}
      </span>
    </li>
  )
}
