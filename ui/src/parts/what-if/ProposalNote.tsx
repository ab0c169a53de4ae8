import { useMutation } from '@tanstack/react-query'
import { useState } from 'react'
import { Problem, api, type Proposal, type ProposalLine } from '../../api/client'
import { shopNow } from '../../api/clock'
import { refresh } from '../../api/fresh'
import { useProposal } from '../../api/queries'
import { toast } from '../toasts'
import { useWhoKnown } from '../../api/who'
import { Button } from '../Button'
import { Over } from '../Over'
import { PairThreads } from '../threads/PairThreads'
import { Effects } from './Effects'

/** ProposalNote is one quiet line where a promise slips and a better order of work would help. */
export function ProposalNote({ line }: { line?: ProposalLine }) {
  if (!line) return null
  return (
    <div className="mb-3 flex flex-wrap items-center gap-x-4 border-l-4 border-closing bg-panel px-3" data-better>
      <p className="py-2">
        A better order of work <b>{line.gain}</b>.
      </p>
      <BetterOrder word="Look at it" />
    </div>
  )
}

/** BetterOrder opens the best order that was found, before and after as threads. */
export function BetterOrder({ word }: { word: string }) {
  const [open, setOpen] = useState(false)
  const proposal = useProposal(open)
  return (
    <Over
      title="A better order of work"
      wide
      open={open}
      onOpenChange={setOpen}
      trigger={<Button look="bare">{word}</Button>}
    >
      {proposal.data?.found ? (
        <Found found={proposal.data.found} close={() => setOpen(false)} />
      ) : (
        <>
          <p className="text-ink-2" role="status">
            {proposal.data?.looked
              ? 'None was found: today’s order is as good as any that was tried.'
              : 'Still looking. This takes a few seconds after something has changed.'}
          </p>
          <div className="mt-4 flex justify-end">
            <Button onClick={() => setOpen(false)}>Close</Button>
          </div>
        </>
      )}
    </Over>
  )
}

function Found({ found, close }: { found: Proposal; close: () => void }) {
  const who = useWhoKnown()
  const decide = (text: string) => ({
    networkMode: 'always' as const,
    onSuccess: () => {
      toast({ text })
      refresh('shop')
      close()
    },
    onError: (error: Error) =>
      toast({
        bad: true,
        text: 'Nothing was changed',
        detail: error instanceof Problem ? error.message : String(error),
      }),
  })
  const decision = async () => ({ id: found.id, personId: await who() })
  const accept = useMutation({
    mutationFn: async () => api.acceptProposal(await decision()),
    ...decide('The new order of work holds.'),
  })
  const dismiss = useMutation({
    mutationFn: async () => api.dismissProposal(await decision()),
    ...decide('Left as it is. The same gain is not offered again for a week.'),
  })
  return (
    <>
      <p className="mb-3">
        It <b>{found.gain}</b>. Dates move only when you accept it.
      </p>
      <Effects effects={found.effects} />
      <PairThreads pairs={found.rows} marks={found.marks} now={shopNow().getTime()} />
      <div className="mt-4 flex flex-wrap justify-end gap-3">
        <Button onClick={() => dismiss.mutate()} disabled={dismiss.isPending}>
          Leave it as it is
        </Button>
        <Button needs="shop" look="loud" onClick={() => accept.mutate()} disabled={accept.isPending}>
          Accept this order
        </Button>
      </div>
    </>
  )
}
