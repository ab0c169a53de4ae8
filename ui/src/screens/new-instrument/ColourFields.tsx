import { useId } from 'react'
import type { Layer, Paint } from '../../api/client'
import { Field, inputLook } from '../../parts/fields/Field'
import type { PieceProps } from './fields'

type Props = Pick<PieceProps, 'reference'> & { layer: Layer; paint?: Paint; put: (part: Partial<Layer>) => void }

/** ColourFields are the colours of a layer in words or figures, the lightest first: a burst has up to three. */
export function ColourFields({ reference, layer, paint, put }: Props) {
  const list = useId()
  const most = layer.as === 'burst' ? 3 : layer.as === 'fade' ? 2 : 1
  const colours = layer.colours ?? []
  const say = (i: number, said: string) => {
    const next = Array.from({ length: most }, (_, n) => (n === i ? said : (colours[n] ?? '')))
    while (next.length && !next.at(-1)) next.pop()
    put({ colours: next.length ? next : undefined })
  }
  return (
    <div>
      <div className="grid gap-3 sm:grid-cols-3">
        {Array.from({ length: most }, (_, i) => (
          <Field key={i} label={most === 1 ? 'Colour' : (labels[most === 2 ? 1 : 0]?.[i] ?? '')}>
            {(a) => (
              <input
                {...a}
                list={list}
                maxLength={60}
                className={inputLook}
                value={colours[i] ?? ''}
                placeholder="dark honey"
                onChange={(e) => say(i, e.target.value)}
              />
            )}
          </Field>
        ))}
      </div>
      <datalist id={list}>
        {reference.colours.map((c) => (
          <option key={c.name} value={c.name} />
        ))}
      </datalist>
      {paint?.guessed && (
        <p className="mt-1 text-sm text-ink-2" data-guessed>
          {colours.length > 0
            ? 'This colour is not known by that name: it is drawn as one that is often used. Figures such as #B4702A say it exactly.'
            : 'No colour is chosen yet: it is drawn as one that is often used.'}
        </p>
      )}
    </div>
  )
}

const labels = [
  ['Colour in the middle', 'Towards the edge', 'At the edge'],
  ['Colour at the top', 'Colour at the tail'],
]
