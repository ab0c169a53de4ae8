import { AlertDialog } from 'radix-ui'
import { useCallback, useMemo, useRef, useState, type ReactNode } from 'react'
import { Problem, type Entry, type Logged } from '../api/client'
import { newEntry, send, type What } from '../api/outbox'
import { Button } from '../parts/Button'
import { LoggingContext } from './logging'
import { toast } from './toasts'
import { useWho } from './who'

interface Question {
  entry: Entry
  doubts: { code: string; message: string }[]
}

/** Logging sends log entries, asks about doubtful ones, and offers to undo. */
export function Logging({ children }: { children: ReactNode }) {
  const personId = useWho()
  const [question, setQuestion] = useState<Question>()
  const [busy, setBusy] = useState(false)
  const sending = useRef(false)

  const deliver = useCallback(async (entry: Entry) => {
    if (sending.current) return // a double tap is one tap
    sending.current = true
    setBusy(true)
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
        setQuestion({ entry, doubts: error.faults.map((f) => ({ code: String(f.value), message: f.message })) })
      else toast({ bad: true, text: 'Not logged', detail: error instanceof Problem ? faultText(error) : String(error) })
    } finally {
      sending.current = false
      setBusy(false)
    }
  }, [])

  const log = useCallback((what: What) => void deliver(newEntry(what, personId)), [deliver, personId])
  const value = useMemo(() => ({ log, busy }), [log, busy])

  const answer = (q: Question, because: string) => {
    setQuestion(undefined)
    void deliver({ ...q.entry, note: because || q.entry.note, confirm: q.doubts.map((d) => d.code) })
  }

  return (
    <LoggingContext value={value}>
      {children}
      <AlertDialog.Root open={question !== undefined} onOpenChange={(open) => !open && setQuestion(undefined)}>
        <AlertDialog.Portal>
          <AlertDialog.Overlay className="fixed inset-0 z-40 bg-band/60" />
          <AlertDialog.Content className="fixed top-1/2 left-1/2 z-50 w-[28rem] max-w-[calc(100vw-2rem)] -translate-1/2 border-t-3 border-closing bg-panel p-6">
            <AlertDialog.Title className="name mb-2 text-xl">Is that right?</AlertDialog.Title>
            <AlertDialog.Description asChild>
              <div className="mb-5 space-y-2">
                {question?.doubts.map((d) => (
                  <p key={d.code}>{d.message}</p>
                ))}
                <p className="text-ink-2">Nothing has been logged yet.</p>
              </div>
            </AlertDialog.Description>
            {question && <Answers key={question.entry.id} question={question} onAnswer={answer} />}
          </AlertDialog.Content>
        </AlertDialog.Portal>
      </AlertDialog.Root>
    </LoggingContext>
  )
}

/** Answers logs it all the same; over what it does not go over only with a reason. */
function Answers({ question, onAnswer }: { question: Question; onAnswer: (q: Question, because: string) => void }) {
  const [because, setBecause] = useState('')
  const purpose = question.doubts.some((d) => d.code === 'on-purpose')
  return (
    <form
      onSubmit={(e) => {
        e.preventDefault()
        onAnswer(question, because.trim())
      }}
    >
      {purpose && (
        <label className="mb-4 block">
          <span className="mb-1 block font-semibold">On purpose, because</span>
          <textarea
            required
            maxLength={2000}
            rows={2}
            value={because}
            onChange={(e) => setBecause(e.target.value)}
            className="w-full rounded-sm border border-ink-3 bg-raised p-2"
          />
        </label>
      )}
      <div className="flex flex-wrap justify-end gap-3">
        <AlertDialog.Cancel asChild>
          <Button>Do not log it</Button>
        </AlertDialog.Cancel>
        <Button look="loud" type="submit" disabled={purpose && because.trim() === ''}>
          {purpose ? 'Log it on purpose' : 'It happened, log it'}
        </Button>
      </div>
    </form>
  )
}

function announce(entry: Entry, logged: Logged) {
  const detail = logged.moved
    .map((m) => {
      if (m.days === 0) return ''
      const count = Math.abs(m.days)
      return `${m.name} is now ready ${m.after}, ${count} ${count === 1 ? 'day' : 'days'} ${m.days > 0 ? 'later' : 'earlier'}.`
    })
    .join(' ')
  if (entry.kind === 'void') return toast({ text: 'Struck. It is as if it had not been logged.', detail })
  toast({ text: `Logged: ${logged.title}`, detail, undoes: entry.id })
}

function faultText(problem: Problem) {
  return problem.faults.length > 0 ? problem.faults.map((f) => f.message).join(' ') : problem.message
}
