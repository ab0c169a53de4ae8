import { useMutation } from '@tanstack/react-query'
import { api, type PlaceNow } from '../../api/client'
import { refresh } from '../../api/fresh'
import { useWhoKnown } from '../../api/who'
import { Button } from '../../parts/Button'
import { Told } from '../../parts/Told'
import { toast } from '../../parts/toasts'
import { movedText } from '../../parts/words'

/** Readings are the last ones of a place: one that is wrong is struck, and counts no more. */
export function Readings({ place }: { place: PlaceNow }) {
  const who = useWhoKnown()
  const strike = useMutation({
    mutationFn: async (id: string) => api.strikeReading({ id, personId: await who() }),
    networkMode: 'always',
    onSuccess: ({ moved }) => {
      toast({ text: 'Reading struck', detail: movedText(moved) })
      refresh('shop')
    },
    onError: (error) => toast({ bad: true, text: error.message }),
  })
  return (
    <details className="border-t border-line text-sm">
      <summary className="min-h-9 cursor-pointer py-2 text-ink-2">Last readings of {place.name}</summary>
      <ul>
        {place.readings.map((r) => (
          <li key={r.id} className="flex items-center gap-x-3 border-t border-line">
            <span className={r.struck ? 'text-ink-3 line-through' : ''}>
              <b>{r.text}</b>{' '}
              <span className="text-ink-2">
                <Told more={r.at.full}>{r.at.said}</Told>
                {r.by && `, ${r.by}`}
              </span>
            </span>
            {!r.struck && (
              <Button
                needs="bench"
                look="bare"
                className="ml-auto px-2!"
                aria-label={`Strike the reading ${r.text}, ${r.at.said}`}
                disabled={strike.isPending}
                onClick={() => strike.mutate(r.id)}
              >
                strike
              </Button>
            )}
          </li>
        ))}
      </ul>
    </details>
  )
}
