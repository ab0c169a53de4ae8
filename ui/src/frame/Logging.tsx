import { useCallback, useEffect, useMemo, useRef, useState, type ReactNode } from 'react'
import { Problem, type Entry, type Logged } from '../api/client'
import { drop, put, putBack, send, type What } from '../api/outbox'
import type { Waiting } from '../api/store'
import { useShopId, useWhoKnown } from '../api/who'
import { toast } from '../parts/toasts'
import { movedText } from '../parts/words'
import { keepPlace } from './focus'
import { instrumentOf } from './instrumentOf'
import { LoggingContext, type Log, type Outcome } from './logging'
import { tell, tellingOf } from './telling'
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
  const logAgain = useRef<Log>(() => Promise.resolve('let go'))
  const last = useRef({ key: '', at: 0 })

  const announce = useCallback((w: Waiting, logged: Logged) => {
    const asked = logged.asked && `Comes now, before it is looked at again: ${logged.asked.join(', ')}.`
    const detail = [asked, movedText(logged.moved)].filter(Boolean).join(' ')
    const struck = w.entry.voids === undefined ? undefined : made.current.get(w.entry.voids)
    if (quiet.includes(w.entry.kind)) return // the timer itself says it
    if (w.entry.kind === 'void') {
      toast({
        text: 'Struck. It is as if it had not been logged.',
        detail,
        takeBack: struck && (() => void logAgain.current(asItWas(struck), struck.title)),
      })
      return
    }
    made.current.set(w.entry.id, w)
    const telling = w.entry.kind === 'done' && !w.entry.along?.length ? tellingOf(w) : undefined
    toast({
      text: `Logged: ${logged.title}`,
      detail,
      undoes: w.entry.id,
      timer: timerOf(logged, w, logAgain.current),
      adds: telling && (() => tell(telling)),
    })
  }, [])

  const deliver = useCallback(
    async (w: Waiting, held = false): Promise<Outcome> => {
      try {
        const sent = await send(w, await person(), shop.current, held)
        if ('kept' in sent)
          toast({
            text: 'Kept on this device',
            detail: 'The shop cannot take it now. It will be sent by itself, in order.',
          })
        else announce(w, sent.logged)
      } catch (error) {
        if (error instanceof Problem && error.kind === '/problems/doubtful')
          return new Promise<Outcome>((answered) =>
            setQuestion({
              waiting: w,
              doubts: error.faults.map((f) => ({ code: String(f.value), message: f.message })),
              answered,
            }),
          )
        if (held && error instanceof Problem) return error // the form says it
        toast({ bad: true, text: 'Not logged', detail: faultText(error, w.seq >= 0) })
        return error instanceof Problem ? error : 'let go'
      }
      return 'logged'
    },
    [announce, person, shop],
  )

  const log = useCallback<Log>(
    (what, title, held) => {
      const key = keyOf(what)
      const now = Date.now()
      const again = last.current.key === key && now - last.current.at < doubleTap
      last.current = { key, at: now }
      if (again) return Promise.resolve('let go')
      keepPlace()
      const made = put({ ...what, instrumentId: what.instrumentId ?? instrumentOf(what) }, title) // kept at once, whatever is under way
      const told = line.current.then(async () => deliver(await made, held))
      const over = told.catch((error: unknown): Outcome => {
        toast({ bad: true, text: 'Not logged', detail: String(error) })
        return 'let go'
      })
      line.current = over.then(() => undefined)
      return over
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
    const outcome = with_ ? putBack(w).then((kept) => deliver(kept)) : drop(w.seq).then((): Outcome => 'let go')
    void outcome.then(asked.answered)
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

/** Kinds of entry of which no word stands at the foot of the page. */
const quiet: readonly Entry['kind'][] = ['timed', 'stopped']

/** timerOf is the clock of minutes that begins with what was logged. */
function timerOf({ timers }: Logged, { entry, title }: Waiting, log: Log) {
  const timer = timers?.[0]
  if (!timer) return undefined
  const { stepId, coat, sittingId } = entry
  return {
    text: `Timer ${timer.minutes} min`,
    start: () => void log({ kind: 'timed', stepId, coat, timer, sittingId }, title),
  }
}

/** keyOf tells one tap from another. */
const keyOf = (w: What) =>
  [
    w.kind,
    w.stepId,
    w.kind === 'done' ? '' : w.coat,
    w.voids,
    w.note,
    w.pieceId,
    w.placeId,
    w.timer?.kind,
    w.passed,
    w.stopsId,
  ].join('/')

/** asItWas is what an entry said, at its own time. */
function asItWas({ entry, at }: Waiting): What {
  const own = ['id', 'personId', 'deviceId', 'deviceSeq', 'late', 'correctsId', 'title']
  const said = Object.fromEntries(Object.entries(entry).filter(([name]) => !own.includes(name))) as What
  return { ...said, happenedAt: entry.happenedAt ?? at }
}

function faultText(error: unknown, kept: boolean) {
  if (!(error instanceof Problem)) return String(error)
  const why = error.faults.length > 0 ? error.faults.map((f) => f.message).join(' ') : error.message
  return kept ? `${why} It stays on this device until you try again or let it go.` : why
}
