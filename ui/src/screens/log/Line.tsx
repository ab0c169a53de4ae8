import { Link } from 'react-router'
import type { Entry, LogLine } from '../../api/client'
import type { What } from '../../api/outbox'
import { useLog } from '../../frame/logging'
import { tell } from '../../frame/telling'
import { Button } from '../../parts/Button'
import { Told } from '../../parts/Told'
import { useSay } from '../../parts/zone'

const flags: Record<string, string> = {
  'out-of-order': 'out of order',
  'too-soon': 'before it was dry',
  future: 'in the future',
  duplicate: 'logged twice',
  late: 'sent later',
  'on-purpose': 'on purpose',
  'too-many': 'more coats than it breathes through',
  'window-closed': 'after its window',
  'caught-up': 'caught up later',
  'stood-on': 'others stand on it',
  overran: 'too late by its timer',
  'wrong-clock': 'its clock was wrong',
  adrift: 'what it was about is gone',
  ignored: 'not all of it could be read',
}

/** Line is one entry of the log: what, when, who, what was true of it, and what can be done with it. */
export function Line({ line, shop }: { line: LogLine; shop?: boolean }) {
  const { log } = useLog()
  const say = useSay()
  const struck = line.struck ? 'text-ink-3 line-through' : ''
  return (
    <>
      <p className={`font-semibold ${struck}`}>
        {line.title}
        {shop && (
          <>
            {' · '}
            <Link className="hover:underline" to={`/instruments/${line.instrumentId}`}>
              {line.instrument} {line.piece}
            </Link>
          </>
        )}
      </p>
      {line.note && <p className={struck}>“{line.note}”</p>}
      {line.details.length > 0 && <p className={`text-sm text-ink-2 ${struck}`}>{line.details.join(', ')}</p>}
      {line.meant && <p className="text-[13px] text-ink-2">as it was planned then: {line.meant}</p>}
      <p className="flex flex-wrap items-center gap-x-2 text-[13px] text-ink-2">
        <Told more={line.happened.full}>
          {line.happened.said}, {line.by}
        </Told>
        {line.enteredBy && <span>entered on {line.enteredBy}</span>}
        {line.minutes !== undefined && <span>{line.minutes} min</span>}
        {shop && line.planned && <span>planned {say(Date.parse(line.planned.at))}</span>}
        {line.plannedGap && line.plannedGap !== 'as planned' && !line.struck && <span>{line.plannedGap}</span>}
        {line.corrected && <span>put right</span>}
        {line.flags.map((f) => (
          <span key={f} className="rounded-sm bg-closing-fill px-1.5 font-semibold text-closing">
            {flags[f] ?? f}
          </span>
        ))}
        <span className="ml-auto flex">
          {line.canCorrect && line.event && (
            <Button
              needs="bench"
              look="bare"
              className="px-2!"
              aria-label={`Correct: ${line.title}, ${line.happened.said}`}
              onClick={() => line.event && correct(line, line.event)}
            >
              correct
            </Button>
          )}
          {line.canStrike && (
            <Button
              needs="bench"
              look="bare"
              className="px-2!"
              aria-label={`Strike: ${line.title}, ${line.happened.said}`}
              onClick={() => void log({ kind: 'void', voids: line.id }, `Strike: ${line.title}`)}
            >
              strike
            </Button>
          )}
          {line.canRestore && (
            <Button
              needs="bench"
              look="bare"
              className="px-2!"
              aria-label={`Log again: ${line.title}, ${line.happened.said}`}
              onClick={() => void log(again(line), line.title)}
            >
              log again
            </Button>
          )}
        </span>
      </p>
    </>
  )
}

function correct(line: LogLine, event: NonNullable<LogLine['event']>) {
  tell({
    event,
    title: `${line.title}, ${line.instrument} ${line.piece}`,
    corrects: line.id,
    said: { happenedAt: line.happened.at, minutes: line.minutes, note: line.note, entered: line.entered },
  })
}

/** again is what a struck entry said, at its own time. */
const again = (line: LogLine): What => ({
  kind: line.kind,
  happenedAt: line.happened.at,
  ...(line.event && { stepId: line.event.stepId, coat: line.event.coat, actual: said(line) }),
  ...(line.kind === 'note' && { instrumentId: line.instrumentId }),
  ...(line.note && { note: line.note }),
  ...(line.minutes !== undefined && { minutes: line.minutes }),
})

/** said is what was true of an entry, without what nobody said. */
function said({ entered }: LogLine): Entry['actual'] {
  const list = Object.entries(entered).filter(([, v]) => (Array.isArray(v) ? v.length > 0 : Boolean(v)))
  return list.length > 0 ? Object.fromEntries(list) : undefined
}
