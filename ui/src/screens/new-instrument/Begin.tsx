import { inputLook } from '../../parts/fields/Field'
import type { FormProps } from './fields'

/** Begin offers whole wishes to begin from; everything in them can be changed afterwards. */
export function Begin({ reference, draft, change }: FormProps) {
  const chosen = reference.archetypes.find((a) => JSON.stringify(a.wish) === JSON.stringify(draft.wish))
  return (
    <div className="flex min-w-0 grow basis-80 flex-wrap items-center gap-x-3 gap-y-1" data-archetypes>
      <label htmlFor="begin-from" className="font-semibold">
        Begin from
      </label>
      <select
        id="begin-from"
        className={`${inputLook} max-w-72`}
        value={chosen?.id ?? ''}
        onChange={(e) => {
          const a = reference.archetypes.find((known) => known.id === e.target.value)
          if (a) change({ wish: a.wish, materials: {} }, 'wish')
        }}
      >
        {!chosen && <option value="">your own way</option>}
        {reference.archetypes.map((a) => (
          <option key={a.id} value={a.id}>
            {a.title}
          </option>
        ))}
      </select>
      <p className="min-w-0 grow basis-40 text-sm text-ink-2">
        {chosen?.summary ?? 'Changed since: your own way. Choosing another starts the stack over.'}
      </p>
    </div>
  )
}
