import type { ShopView } from '../../api/client'
import { Field, inputLook } from '../../parts/Field'
import { KeepRow } from './KeepRow'
import { useChange } from './useChange'
import { useDraft } from './useDraft'
import { WeekFields } from './WeekFields'

/** HoursPanel is the shop's name, hours and caution. */
export function HoursPanel({ view }: { view: ShopView }) {
  const draft = useDraft('shop', view.shop)
  const shop = draft.value
  const change = useChange(draft.touched ? { kind: 'shop', shop, seen: view.seen } : undefined, draft.clear)
  const text = (label: string, key: 'name' | 'timeZone' | 'margin', note?: string) => (
    <div>
      <Field label={label} fault={change.fault(`shop.${key}`)}>
        {(wiring) => (
          <input
            {...wiring}
            className={inputLook}
            value={shop[key]}
            inputMode={key === 'margin' ? 'decimal' : undefined}
            onChange={(e) => draft.change({ [key]: e.target.value })}
          />
        )}
      </Field>
      {note && <p className="mt-1 text-sm text-ink-2">{note}</p>}
    </div>
  )
  return (
    <section className="panel p-4" aria-labelledby="hours-head" data-hours>
      <h2 id="hours-head" className="name mb-3 text-xl">
        The shop
      </h2>
      <div className="grid gap-4">
        {text('Name', 'name')}
        <WeekFields
          week={shop.week}
          path="shop.week"
          fault={change.fault}
          onChange={(week) => draft.change({ week })}
        />
        <div className="grid gap-4 sm:grid-cols-2">
          {text(
            'Caution on waits',
            'margin',
            '1 trusts the sheets; 1.25 waits a quarter longer, and closes windows earlier.',
          )}
          {text('Time zone', 'timeZone')}
        </div>
        {draft.touched && <KeepRow change={change} undo={draft.clear} verb="Keep the shop so" />}
      </div>
    </section>
  )
}
