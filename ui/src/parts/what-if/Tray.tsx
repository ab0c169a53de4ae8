import { useMutation } from '@tanstack/react-query'
import { X } from 'lucide-react'
import { useState } from 'react'
import { Problem, api, type Change, type WhatIf } from '../../api/client'
import { shopNow } from '../../api/clock'
import { refresh } from '../../api/fresh'
import { useWhatIf } from '../../api/queries'
import { decisionId, dropAll, letGo, useSupposed } from '../../api/supposing'
import { toast } from '../toasts'
import { useWhoKnown } from '../../api/who'
import { Button } from '../Button'
import { Over } from '../Over'
import { PairThreads } from '../threads/PairThreads'
import { Clashes, clashesOf } from './Clashes'
import { Effects } from './Effects'
import { movedText } from '../words'

/** Tray holds what is supposed, on every screen, until it is kept or dropped: what it is, what it does. */
export function Tray() {
  const changes = useSupposed()
  const answer = useWhatIf(changes)
  const problem = answer.error instanceof Problem ? answer.error : undefined
  if (changes.length === 0) return null
  return (
    <section
      aria-label="What if"
      data-tray
      className="sticky bottom-14 z-20 border-t-3 border-umber bg-raised px-4 py-3 shadow-[0_-6px_16px_#0002] md:bottom-0"
    >
      <div className="flex flex-wrap items-center gap-x-3 gap-y-2">
        <h2 className="name text-lg">What if</h2>
        <ul className="flex min-w-0 flex-wrap gap-2">
          {changes.map((change, i) => (
            <Supposed
              key={JSON.stringify(change)}
              words={answer.data?.changes[i] ?? plain(change)}
              fault={problem?.faults.find((f) => f.location.startsWith(`body.changes[${i}]`))?.message}
              onDrop={() => letGo(change)}
            />
          ))}
        </ul>
        <div className="ml-auto flex gap-3">
          <Button onClick={dropAll}>Drop</Button>
          <Keep changes={changes} disabled={problem !== undefined || answer.data === undefined} />
        </div>
      </div>
      <div className="mt-2" role="status">
        {problem ? (
          <Trouble problem={problem} changes={changes} />
        ) : (
          answer.data && <Told answer={answer.data} changes={changes} />
        )}
      </div>
    </section>
  )
}

function Supposed({ words, fault, onDrop }: { words: string; fault?: string; onDrop: () => void }) {
  return (
    <li
      className={`flex min-h-9 items-center gap-1 rounded-sm border pl-2 text-sm ${fault ? 'border-late bg-late-fill text-late' : 'border-ink-3 bg-panel'}`}
      data-supposed
    >
      {words}
      <button className="grid size-9 place-items-center" aria-label={`Do not suppose: ${words}`} onClick={onDrop}>
        <X className="size-4" />
      </button>
    </li>
  )
}

/** plain names a change before the shop has said it in words. */
const plain = (change: Change) => `a change: ${change.kind}`

function Trouble({ problem, changes }: { problem: Problem; changes: Change[] }) {
  const clashes = clashesOf(problem)
  if (clashes.length > 0) return <Clashes clashes={clashes} changes={changes} />
  return (
    <p className="font-semibold text-late" role="alert">
      {problem.faults.length > 0 ? problem.faults.map((f) => f.message).join(' ') : problem.message}
    </p>
  )
}

function Told({ answer, changes }: { answer: WhatIf; changes: Change[] }) {
  const [open, setOpen] = useState(false)
  const pairs = useWhatIf(open ? changes : [], true)
  return (
    <div className="flex flex-wrap items-center gap-x-4">
      <p className="font-semibold" data-sum>
        {answer.stands ? 'Today’s dates stand: in the order of work as it is, nothing would be sooner.' : answer.sum}
      </p>
      {answer.effects.length > 0 && (
        <Over
          title="What it does"
          wide
          open={open}
          onOpenChange={setOpen}
          trigger={
            <Button look="bare" className="px-0!">
              Compare
            </Button>
          }
        >
          <Effects effects={answer.effects} />
          {pairs.data && pairs.data.rows.length > 0 && (
            <PairThreads pairs={pairs.data.rows} marks={pairs.data.marks} now={shopNow().getTime()} />
          )}
          <div className="mt-4 flex justify-end">
            <Button onClick={() => setOpen(false)}>Close</Button>
          </div>
        </Over>
      )}
    </div>
  )
}

function Keep({ changes, disabled }: { changes: Change[]; disabled: boolean }) {
  const who = useWhoKnown()
  const keep = useMutation({
    mutationFn: async () => api.keepChanges({ id: decisionId(), changes, personId: await who() }),
    networkMode: 'always',
    onSuccess: (kept) => {
      dropAll()
      const detail = movedText(kept.moved)
      toast({ text: `Kept: ${kept.changes.join('; ')}`, detail })
      refresh('shop', 'settings')
    },
    onError: (error) =>
      toast({
        bad: true,
        text: 'Not kept',
        detail: error instanceof Problem && error.faults[0] ? error.faults[0].message : error.message,
      }),
  })
  const moves = changes.every((c) => c.kind === 'pin' || c.kind === 'unpin')
  return (
    <Button
      needs={moves ? 'bench' : 'shop'}
      look="loud"
      disabled={disabled || keep.isPending}
      onClick={() => keep.mutate()}
    >
      Keep {changes.length === 1 ? 'it' : 'all'}
    </Button>
  )
}
