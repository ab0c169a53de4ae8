import { inputLook } from '../../parts/fields/Field'
import type { FormProps } from './fields'

/** Begin offers whole wishes to begin from; everything in them can be changed afterwards. */
export function Begin({ reference, draft, change }: FormProps) {
  const own = (reference.own ?? []).filter((r) => r.wish)
  const chosen = reference.archetypes.find((a) => JSON.stringify(a.wish) === JSON.stringify(draft.wish))
  const ours = own.find((r) => r.id === draft.wish.own?.id)
  return (
    <div className="flex min-w-0 grow basis-80 flex-wrap items-center gap-x-3 gap-y-1" data-archetypes>
      <label htmlFor="begin-from" className="font-semibold">
        Begin from
      </label>
      <select
        id="begin-from"
        className={`${inputLook} max-w-72`}
        value={chosen?.id ?? ours?.id ?? ''}
        onChange={(e) => {
          const a = reference.archetypes.find((known) => known.id === e.target.value)
          const r = own.find((known) => known.id === e.target.value)
          if (a) change({ wish: a.wish, materials: {} }, 'wish')
          if (r?.wish) change({ wish: { ...r.wish, own: { id: r.id, version: r.version } }, materials: {} }, 'wish')
        }}
      >
        {!chosen && !ours && <option value="">your own way</option>}
        {own.map((r) => (
          <option key={r.id} value={r.id}>
            {r.name} (ours)
          </option>
        ))}
        {reference.archetypes.map((a) => (
          <option key={a.id} value={a.id}>
            {a.title}
          </option>
        ))}
      </select>
      <p className="min-w-0 grow basis-40 text-sm text-ink-2">
        {ours && `A schedule of our own, version ${draft.wish.own?.version}, with what was changed by hand.`}
        {!ours && (chosen?.summary ?? 'Changed since: your own way. Choosing another starts the stack over.')}
      </p>
    </div>
  )
}
