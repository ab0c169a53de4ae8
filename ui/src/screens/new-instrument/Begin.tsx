import type { Reference } from '../../api/client'
import type { FormProps } from './fields'

/** Begin offers whole wishes to begin from; everything in them can be changed afterwards. */
export function Begin({ reference, draft, change }: Pick<FormProps, 'reference' | 'draft' | 'change'>) {
  const chosen = reference.archetypes.find((a) => same(a.wish, draft.wish))
  const pick = (a: Reference['archetypes'][number]) => change({ wish: a.wish, materials: {} }, 'wish')
  return (
    <fieldset data-archetypes>
      <legend className="mb-1 font-semibold">Begin from</legend>
      <div className="grid gap-x-2 gap-y-1 sm:grid-cols-2">
        {reference.archetypes.map((a) => (
          <label
            key={a.id}
            className="flex min-h-11 cursor-pointer items-center rounded-sm border border-line bg-raised px-3 py-1 text-sm leading-5 has-checked:border-2 has-checked:border-ink has-focus-visible:outline-3 has-focus-visible:outline-drying"
          >
            <input type="radio" name="archetype" className="sr-only" checked={a === chosen} onChange={() => pick(a)} />
            {a.title}
          </label>
        ))}
      </div>
      <p className="mt-1 text-sm text-ink-2">
        {chosen?.summary ?? 'Changed since: your own way. Choosing one of these starts the choices below over.'}
      </p>
    </fieldset>
  )
}

const same = (a: unknown, b: unknown) => JSON.stringify(a) === JSON.stringify(b)
