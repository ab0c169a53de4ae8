import { useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import { api, type ChoiceView } from '../../api/client'
import { Asking } from '../../parts/Asking'
import { Button } from '../../parts/Button'
import { capital } from '../../parts/words'
import type { PieceProps, StackProps } from './fields'
import { WayColumn } from './WayColumn'

/** LayerSchools are the choices between schools that belong to a layer of a piece. */
export function LayerSchools(props: PieceProps & { layer: string }) {
  const { composed, piece, layer } = props
  return (
    <Schools {...props} choices={composed?.choices.filter((c) => c.piece === piece.kind && c.layer === layer) ?? []} />
  )
}

/** PieceSchools are those that concern the whole piece. */
export function PieceSchools(props: PieceProps) {
  const { composed, piece } = props
  return <Schools {...props} choices={composed?.choices.filter((c) => c.piece === piece.kind && !c.layer) ?? []} />
}

/** WholeSchools are those that concern the whole instrument. */
export function WholeSchools(props: StackProps) {
  return <Schools {...props} choices={props.composed?.choices.filter((c) => !c.piece) ?? []} />
}

const atOnce = 3

/** Schools are the choices on which practice differs: those that stand open first, a few at a time. */
function Schools({ choices, ...props }: StackProps & { choices: ChoiceView[] }) {
  const [open, setOpen] = useState<string>()
  const [all, setAll] = useState(false)
  if (choices.length === 0) return null
  const ordered = [...choices.filter((c) => c.usual), ...choices.filter((c) => !c.usual)]
  const few = all ? ordered : ordered.slice(0, atOnce)
  return (
    <div data-schools>
      <p className="font-semibold">Where schools differ</p>
      <ul>
        {few.map((c) => (
          <li key={c.topic} className="border-b border-line last:border-0" data-topic={c.topic}>
            <div className="flex min-h-11 flex-wrap items-center gap-x-3 py-1">
              <span className="min-w-0 flex-1">
                <span className="text-sm text-ink-2">{capital(c.question)}:</span>{' '}
                <b>{c.ways.find((w) => w.option === c.chosen)?.way ?? c.chosen}</b>
                {!c.usual && <span className="text-ink-2"> (your choice)</span>}
              </span>
              <Button
                aria-expanded={open === c.topic}
                aria-label={`${open === c.topic ? 'Close' : 'Compare'}: ${c.question}${c.piece ? `, ${c.piece}` : ''}`}
                onClick={() => setOpen(open === c.topic ? undefined : c.topic)}
              >
                {open === c.topic ? 'Close' : 'Compare'}
              </Button>
            </div>
            {open === c.topic && <Compare {...props} choice={c} />}
          </li>
        ))}
      </ul>
      {ordered.length > atOnce && (
        <Button look="bare" aria-expanded={all} onClick={() => setAll(!all)}>
          {all ? 'Fewer choices' : `${ordered.length - atOnce} more choices`}
        </Button>
      )}
    </div>
  )
}

/** Compare plans every way of a choice beside the others. */
function Compare({ choice, request, running, now, wish }: StackProps & { choice: ChoiceView }) {
  const asked = { instrument: request, topic: choice.topic, piece: choice.piece, running }
  const ways = useQuery({ queryKey: ['schools', JSON.stringify(asked)], queryFn: () => api.schools(asked) })
  return (
    <Asking query={ways}>
      {(data) => (
        <div className="grid grid-cols-[repeat(auto-fit,minmax(13rem,1fr))] gap-3 pb-3" data-ways>
          {data.ways.map((way) => (
            <WayColumn
              key={way.option}
              way={way}
              marks={data.marks}
              now={now}
              onChoose={() => wish(way.wish, 'wish')}
            />
          ))}
        </div>
      )}
    </Asking>
  )
}
