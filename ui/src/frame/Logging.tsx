import { useCallback, useEffect, useMemo, useRef, useState, type ReactNode } from 'react'
import { Problem, type Entry, type Logged } from '../api/client'
import { drop, put, putBack, send, type What } from '../api/outbox'
import type { Waiting } from '../api/store'
import { useShopId, useWhoKnown } from '../api/who'
import { toast } from '../parts/toasts'
import { movedText } from '../parts/words'
import { keepPlace } from './focus'
import { LoggingContext, type Log } from './logging'
import { Question, type Asked } from './Question'

/** A second tap on the same button within so many milliseconds is the same tap. */
const doubleTap = 700

/**
 * Logging sends log entries one after the other, asks about doubtful ones, and offers
 * to undo. No tap is lost: one that comes while another is under way takes its turn, and
 * one that comes before it is known who is at the device waits for that.
 */
export function Logging({ children }: { children: ReactNode }) {
  const person = useWhoKnown()
  const shop = useLatest(useShopId())
  const [question, setQuestion] = useState<Asked>()
  const line = useRef(Promise.resolve())
  const made = useRef(new Map<string, Waiting>()) // what was logged from this page, by id
  const logAgain = useRef<Log>(() => undefined)
  const last = useRef({ key: '', at: 0 })

  const announce = useCallback((w: Waiting, logged: Logged) => {
    const asked = logged.asked && `Comes now, before it is looked at again: ${logged.asked.join(', ')}.`
    const detail = [asked, movedText(logged.moved)].filter(Boolean).join(' ')
    const struck = w.entry.voids === undefined ? undefined : made.current.get(w.entry.voids)
    if (w.entry.kind !== 'void') {
      made.current.set(w.entry.id, w)
      toast({ text: `Logged: ${logged.title}`, detail, undoes: w.entry.id })
    } else
      toast({
        text: 'Struck. It is as if it had not been logged.',
        detail,
        takeBack: struck && (() => logAgain.current(asItWas(struck), struck.title)),
      })
  }, [])

  const deliver = useCallback(
    async (w: Waiting) => {
      try {
        const sent = await send(w, await person(), shop.current)
        if ('kept' in sent)
          toast({
            text: 'Kept on this device',
            detail: 'The shop cannot take it now. It will be sent by itself, in order.',
          })
        else announce(w, sent.logged)
      } catch (error) {
        if (error instanceof Problem && error.kind === '/problems/doubtful')
          await new Promise<void>((answered) =>
            setQuestion({
              waiting: w,
              doubts: error.faults.map((f) => ({ code: String(f.value), message: f.message })),
              answered,
            }),
          )
        else toast({ bad: true, text: 'Not logged', detail: faultText(error, w.entry.note !== undefined) })
      }
    },
    [announce, person, shop],
  )

  const log = useCallback(
    (what: What, title: string) => {
      const key = [what.kind, what.stepId, what.kind === 'done' ? '' : what.coat, what.voids, what.note].join('/')
      const now = Date.now()
      const again = last.current.key === key && now - last.current.at < doubleTap
      last.current = { key, at: now }
      if (again) return
      keepPlace()
      const made = put(what, title) // kept at once, whatever is under way
      line.current = line.current
        .then(async () => deliver(await made))
        .catch((error: unknown) => toast({ bad: true, text: 'Not logged', detail: String(error) }))
    },
    [deliver],
  )
  useEffect(() => {
    logAgain.current = log
  }, [log])
  const value = useMemo(() => ({ log }), [log])

  const answer = (asked: Asked, with_?: Partial<Entry>) => {
    setQuestion(undefined)
    last.current = { key: '', at: 0 } // a tap after a question is another tap
    const w = { ...asked.waiting, entry: { ...asked.waiting.entry, ...with_ } }
    const done = with_ ? putBack(w).then(deliver) : drop(w.seq)
    void done.then(asked.answered)
  }

  return (
    <LoggingContext value={value}>
      {children}
      <Question asked={question} onAnswer={answer} />
    </LoggingContext>
  )
}

/** useLatest is a value as it is now, for what runs later. */
function useLatest<T>(value: T) {
  const latest = useRef(value)
  useEffect(() => {
    latest.current = value
  }, [value])
  return latest
}

/** asItWas is what an entry said, at its own time. */
function asItWas({ entry, at }: Waiting): What {
  const { kind, stepId, coat, instrumentId, note, minutes, confirm, caughtUp } = entry
  return { kind, stepId, coat, instrumentId, note, minutes, confirm, caughtUp, happenedAt: entry.happenedAt ?? at }
}

function faultText(error: unknown, written: boolean) {
  if (!(error instanceof Problem)) return String(error)
  const why = error.faults.length > 0 ? error.faults.map((f) => f.message).join(' ') : error.message
  return written ? `${why} What you wrote stays on this device until you let it go.` : why
}
