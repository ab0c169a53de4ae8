import { useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import { api, type ChoiceView, type NewInstrument, type Wish } from '../../api/client'
import { Asking } from '../../parts/Asking'
import { Button } from '../../parts/Button'
import { WayColumn } from './WayColumn'
import { capital } from '../../parts/words'

interface Props {
  choices: ChoiceView[]
  request: NewInstrument
  now: string
  onChoose: (wish: Wish) => void
}

/** Schools are the choices on which practice differs: which way is followed, and what each would come to here. */
export function Schools({ choices, request, now, onChoose }: Props) {
  const [open, setOpen] = useState<string>()
  return (
    <ul data-schools>
      {choices.map((c) => {
        const id = `${c.topic} ${c.piece ?? ''}`
        return (
          <li key={id} className="border-b border-line" data-topic={c.topic}>
            <div className="flex min-h-11 flex-wrap items-center gap-x-3 py-1">
              <span className="min-w-0 flex-1">
                <span className="text-ink-2">
                  {capital(c.question)}
                  {c.piece && `, ${c.piece}`}:
                </span>{' '}
                <b>{c.ways.find((w) => w.option === c.chosen)?.way ?? c.chosen}</b>
                {!c.usual && <span className="text-ink-2"> (your choice)</span>}
              </span>
              <Button
                aria-expanded={open === id}
                aria-label={`${open === id ? 'Close' : 'Compare'}: ${c.question}${c.piece ? `, ${c.piece}` : ''}`}
                onClick={() => setOpen(open === id ? undefined : id)}
              >
                {open === id ? 'Close' : 'Compare'}
              </Button>
            </div>
            {open === id && <Compare choice={c} request={request} now={now} onChoose={onChoose} />}
          </li>
        )
      })}
    </ul>
  )
}

function Compare({ choice, request, now, onChoose }: Omit<Props, 'choices'> & { choice: ChoiceView }) {
  const asked = { instrument: request, topic: choice.topic, piece: choice.piece }
  const ways = useQuery({ queryKey: ['schools', JSON.stringify(asked)], queryFn: () => api.schools(asked) })
  return (
    <Asking query={ways}>
      {(data) => (
        <div className="grid gap-3 pb-3 sm:grid-cols-2 xl:grid-cols-3" data-ways>
          {data.ways.map((way) => (
            <WayColumn key={way.option} way={way} marks={data.marks} now={now} onChoose={() => onChoose(way.wish)} />
          ))}
        </div>
      )}
    </Asking>
  )
}
