import { useState } from 'react'
import type { LogLine } from '../../api/client'
import { useMay } from '../../api/door'
import { forget, keep, readKept, text as textShape } from '../../api/kept'
import { useLog } from '../../frame/logging'
import { Button, LinkButton } from '../../parts/Button'
import { Line } from '../log/Line'

/** LogPanel is what happened, newest first. Nothing in it is ever changed; a mistake is struck. */
export function LogPanel({ log, more, instrumentId }: { log: LogLine[]; more: boolean; instrumentId: string }) {
  const may = useMay('bench')
  return (
    <section className="panel p-4" aria-labelledby="log-head" data-logbook>
      <h2 id="log-head" className="name mb-2 text-lg">
        Log
      </h2>
      {may && <AddNote instrumentId={instrumentId} />}
      {log.length === 0 && (
        <p className="text-ink-2">Nothing is logged yet. One tap on a step writes who did it and when.</p>
      )}
      <ol className="max-h-[34rem] xl:max-h-[calc(100vh-24rem)] overflow-y-auto" tabIndex={0} aria-label="Log entries">
        {log.map((line) => (
          <li key={line.id} className="border-t border-line py-2 text-[15px]">
            <Line line={line} />
          </li>
        ))}
      </ol>
      {more && (
        <LinkButton look="bare" className="px-0!" to={`/log?instrument=${instrumentId}`}>
          All of the log
        </LinkButton>
      )}
    </section>
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
        void log({ kind: 'note', instrumentId, note: text }, 'A note')
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
