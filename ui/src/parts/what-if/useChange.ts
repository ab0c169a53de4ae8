import { useMutation } from '@tanstack/react-query'
import { useDeferredValue, useMemo } from 'react'
import { v7 as uuid } from 'uuid'
import { Problem, api, type Change } from '../../api/client'
import { refresh } from '../../api/fresh'
import { useWhatIf } from '../../api/queries'
import { toast } from '../toasts'
import { useWhoKnown } from '../../api/who'
import { movedText } from '../words'

/** useChange shows what a setting that was edited would do, what is wrong with it, and keeps it. */
export function useChange(change: Change | undefined, onKept: () => void) {
  const who = useWhoKnown()
  const text = JSON.stringify(change)
  const { id } = useMemo(() => ({ of: text, id: uuid() }), [text]) // a double tap is one decision, another text another
  const deferred = useDeferredValue(change)
  const answer = useWhatIf(deferred ? [deferred] : [])
  const keep = useMutation({
    mutationFn: async (c: Change) => api.keepChanges({ id, changes: [c], personId: await who() }),
    networkMode: 'always',
    onSuccess: (kept) => {
      const detail = movedText(kept.moved)
      toast({ text: `Kept: ${kept.changes.join('; ')}`, detail })
      refresh('shop', 'settings')
      onKept()
    },
  })
  const refused = keep.error ?? (change ? answer.error : null)
  const problem = refused instanceof Problem ? refused : undefined
  const fault = (field: string) =>
    problem?.faults.find((f) => f.location === `body.changes[0].${field}` || f.location === `body.changes.${field}`)
      ?.message
  const general = problem && !problem.faults.some((f) => /changes(\[0\])?\..+\./.test(f.location)) ? problem : undefined
  return {
    fault,
    sum: change && !problem ? answer.data?.sum : undefined,
    trouble: general && (general.faults[0]?.message ?? general.message),
    keep: () => change && keep.mutate(change),
    busy: keep.isPending,
    wrong: problem !== undefined && keep.error === null,
  }
}
