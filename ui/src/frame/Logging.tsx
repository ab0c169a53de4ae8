import { useCallback, useMemo, useRef, useState, type ReactNode } from 'react'
import { Problem, type Entry, type Logged } from '../api/client'
import { newEntry, send, setAside, type What } from '../api/outbox'
import { movedText } from '../parts/words'
import { LoggingContext } from './logging'
import { Question, type Asked } from './Question'
import { toast } from '../parts/toasts'
import { useWhoKnown } from '../api/who'

/** A second tap on the same button within so many milliseconds is the same tap. */
const doubleTap = 700

/**
 * Logging sends log entries one after the other, asks about doubtful ones, and offers
 * to undo. No tap is lost: one that comes while another is under way takes its turn, and
 * one that comes before it is known who is at the device waits for that.
 */
export function Logging({ children }: { children: ReactNode }) {
  const person = useWhoKnown()
  const [question, setQuestion] = useState<Asked>()
  const line = useRef(Promise.resolve())
  const last = useRef({ key: '', at: 0 })

  const deliver = useCallback(async (entry: Entry) => {
    try {
      const sent = await send(entry)
      if ('kept' in sent)
        toast({
          text: 'Kept on this device',
          detail: 'The shop cannot be reached. It will be sent by itself, in order.',
        })
      else announce(entry, sent.logged)
    } catch (error) {
      if (error instanceof Problem && error.kind === '/problems/doubtful')
        await new Promise<void>((answered) =>
          setQuestion({
            entry,
            doubts: error.faults.map((f) => ({ code: String(f.value), message: f.message })),
            answered,
          }),
        )
      else toast({ bad: true, text: 'Not logged', detail: error instanceof Problem ? faultText(error) : String(error) })
    }
  }, [])

  const log = useCallback(
    (what: What) => {
      const key = [what.kind, what.stepId, what.kind === 'done' ? '' : what.coat, what.voids, what.note].join('/')
      const now = Date.now()
      const again = last.current.key === key && now - last.current.at < doubleTap
      last.current = { key, at: now }
      if (again) return
      const entry = newEntry(what, '')
      setAside(entry)
      line.current = line.current.then(async () => deliver({ ...entry, personId: await person() }))
    },
    [deliver, person],
  )
  const value = useMemo(() => ({ log }), [log])

  const answer = (asked: Asked, with_?: Partial<Entry>) => {
    setQuestion(undefined)
    last.current = { key: '', at: 0 } // a tap after a question is another tap
    const done = with_ ? deliver({ ...asked.entry, ...with_ }) : Promise.resolve()
    void done.then(asked.answered)
  }

  return (
    <LoggingContext value={value}>
      {children}
      <Question asked={question} onAnswer={answer} />
    </LoggingContext>
  )
}

function announce(entry: Entry, logged: Logged) {
  const detail = movedText(logged.moved)
  if (entry.kind === 'void') return toast({ text: 'Struck. It is as if it had not been logged.', detail })
  toast({ text: `Logged: ${logged.title}`, detail, undoes: entry.id })
}

function faultText(problem: Problem) {
  return problem.faults.length > 0 ? problem.faults.map((f) => f.message).join(' ') : problem.message
}
