import { AlertDialog } from 'radix-ui'
import { useState } from 'react'
import type { Entry } from '../api/client'
import type { Waiting } from '../api/store'
import { Because } from '../parts/Because'
import { Button } from '../parts/Button'
import { Day } from '../parts/fields/Day'
import { useMoment } from '../parts/zone'
import type { Outcome } from './logging'

/** Asked is a doubtful entry, and whom to tell that it was answered. */
export interface Asked {
  waiting: Waiting
  doubts: { code: string; message: string }[]
  answered: (outcome: Outcome) => void
}

type Answer = (asked: Asked, with_?: Partial<Entry>) => void

/** Question asks whether something doubtful happened, and when. */
export function Question({ asked, onAnswer }: { asked?: Asked; onAnswer: Answer }) {
  return (
    <AlertDialog.Root open={asked !== undefined} onOpenChange={(open) => !open && asked && onAnswer(asked)}>
      <AlertDialog.Portal>
        <AlertDialog.Overlay className="fixed inset-0 z-40 bg-band/60" />
        <AlertDialog.Content className="fixed top-1/2 left-1/2 z-50 max-h-[calc(100vh-2rem)] w-[34rem] max-w-[calc(100vw-2rem)] -translate-1/2 overflow-y-auto border-t-3 border-closing bg-panel p-6">
          <AlertDialog.Title className="name mb-2 text-xl">Is that right?</AlertDialog.Title>
          <AlertDialog.Description asChild>
            <div className="mb-5 space-y-2">
              {asked?.doubts.map((d) => (
                <p key={d.code}>{d.message}</p>
              ))}
              <p className="text-ink-2">
                Nothing has been {asked?.waiting.entry.kind === 'void' ? 'struck' : 'logged'} yet.
              </p>
            </div>
          </AlertDialog.Description>
          {asked && <Answers key={asked.waiting.entry.id} asked={asked} onAnswer={onAnswer} />}
        </AlertDialog.Content>
      </AlertDialog.Portal>
    </AlertDialog.Root>
  )
}

/**
 * Answers keeps it all the same: at another time, with all that comes before it, or,
 * over what it does not go over, with a reason.
 */
function Answers({ asked, onAnswer }: { asked: Asked; onAnswer: Answer }) {
  const [because, setBecause] = useState('')
  const [since, setSince] = useState('')
  const moment = useMoment()
  const { entry } = asked.waiting
  const { kind } = entry
  const doubted = (code: string) => asked.doubts.some((d) => d.code === code)
  const purpose = doubted('on-purpose')
  const behind = kind === 'done' && doubted('out-of-order')
  const answer = (more?: Partial<Entry>) =>
    onAnswer(asked, {
      note: because.trim() || entry.note,
      happenedAt: since ? moment(since) : entry.happenedAt,
      confirm: asked.doubts.map((d) => d.code),
      ...more,
    })
  return (
    <form
      className="space-y-4"
      onSubmit={(e) => {
        e.preventDefault()
        answer()
      }}
    >
      {purpose && <Because label="On purpose, because" value={because} onChange={setBecause} />}
      {kind === 'done' && <Day moment label="Done since (empty: just now)" value={since} onChange={setSince} />}
      <div className="flex flex-col-reverse gap-3 sm:flex-row sm:flex-wrap sm:justify-end">
        <AlertDialog.Cancel asChild>
          <Button>{kind === 'void' ? 'Leave it' : 'Do not log it'}</Button>
        </AlertDialog.Cancel>
        <Button look={behind ? 'plain' : 'loud'} type="submit" disabled={purpose && because.trim() === ''}>
          {behind ? 'Log only this' : loud(kind, purpose)}
        </Button>
        {behind && (
          <Button look="loud" disabled={purpose && because.trim() === ''} onClick={() => answer({ caughtUp: true })}>
            All of it is done, log all
          </Button>
        )}
      </div>
    </form>
  )
}

function loud(kind: Entry['kind'], purpose: boolean) {
  if (kind === 'void') return 'Strike it'
  if (kind === 'skipped') return 'Leave it out'
  return purpose ? 'Log it on purpose' : 'It happened, log it'
}
