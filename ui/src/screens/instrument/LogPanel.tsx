import { useState } from 'react'
import { Told } from '../../parts/Told'
import type { LogLine } from '../../api/client'
import { forget, keep, readKept, text as textShape } from '../../api/kept'
import type { What } from '../../api/outbox'
import { useLog } from '../../frame/logging'
import { Button } from '../../parts/Button'

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
}

/** LogPanel is what happened, newest first. Nothing in it is ever changed; a mistake is struck. */
export function LogPanel({ log, entries, instrumentId }: { log: LogLine[]; entries: number; instrumentId: string }) {
  return (
    <section className="panel p-4" aria-labelledby="log-head" data-logbook>
      <h2 id="log-head" className="name mb-2 text-lg">
        Log
      </h2>
      <AddNote instrumentId={instrumentId} />
      {log.length === 0 && (
        <p className="text-ink-2">Nothing is logged yet. One tap on a step writes who did it and when.</p>
      )}
      <ol className="max-h-[34rem] xl:max-h-[calc(100vh-24rem)] overflow-y-auto" tabIndex={0} aria-label="Log entries">
        {log.map((line) => (
          <Line key={line.id} line={line} instrumentId={instrumentId} />
        ))}
      </ol>
      {entries > log.length && (
        <p className="mt-2 text-sm text-ink-2">
          The newest {log.length} of {entries} entries. All of them are in the schedule file.
        </p>
      )}
    </section>
  )
}

/** again is what a struck entry said, at its own time. */
const again = (line: LogLine, instrumentId: string): What => ({
  kind: line.kind,
  happenedAt: line.happened.at,
  ...(line.event && { stepId: line.event.stepId, coat: line.event.coat }),
  ...(line.kind === 'note' && { instrumentId }),
  ...(line.note && { note: line.note }),
  ...(line.minutes !== undefined && { minutes: line.minutes }),
})

function Line({ line, instrumentId }: { line: LogLine; instrumentId: string }) {
  const { log } = useLog()
  return (
    <li className="border-t border-line py-2 text-[15px]">
      <p className={`font-semibold ${line.struck ? 'text-ink-3 line-through' : ''}`}>{line.title}</p>
      {line.note && <p className={line.struck ? 'text-ink-3 line-through' : ''}>“{line.note}”</p>}
      {line.meant && <p className="text-[13px] text-ink-2">as it was planned then: {line.meant}</p>}
      <p className="flex flex-wrap items-center gap-x-2 text-[13px] text-ink-2">
        <Told more={line.happened.full}>
          {line.happened.said}, {line.by}
        </Told>
        {line.plannedGap && line.plannedGap !== 'as planned' && !line.struck && <span>{line.plannedGap}</span>}
        {line.flags.map((f) => (
          <span key={f} className="rounded-sm bg-closing-fill px-1.5 font-semibold text-closing">
            {flags[f] ?? f}
          </span>
        ))}
        {line.canStrike && (
          <Button
            look="bare"
            className="ml-auto"
            aria-label={`Strike: ${line.title}, ${line.happened.said}`}
            onClick={() => log({ kind: 'void', voids: line.id }, `Strike: ${line.title}`)}
          >
            strike
          </Button>
        )}
        {line.canRestore && (
          <Button
            look="bare"
            className="ml-auto"
            aria-label={`Log again: ${line.title}, ${line.happened.said}`}
            onClick={() => log(again(line, instrumentId), line.title)}
          >
            log again
          </Button>
        )}
      </p>
    </li>
  )
}

function AddNote({ instrumentId }: { instrumentId: string }) {
  const { log } = useLog()
  const key = `note.${instrumentId}`
  const [text, setText] = useState(() => readKept(key, textShape, ''))
  return (
    <form
      className="mb-3 flex gap-2"
      onSubmit={(e) => {
        e.preventDefault()
        log({ kind: 'note', instrumentId, note: text }, 'A note')
        setText('')
        forget(key)
      }}
    >
      <input
        aria-label="Note"
        placeholder="A note for this job"
        maxLength={2000}
        value={text}
        onChange={(e) => {
          setText(e.target.value)
          keep(key, e.target.value)
        }}
        className="min-h-11 min-w-0 flex-1 rounded-sm border border-ink-3 bg-raised px-2"
      />
      <Button type="submit" disabled={text.trim() === ''}>
        Add
      </Button>
    </form>
  )
}
