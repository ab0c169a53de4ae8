import type { ShopForm, ShopView } from '../../api/client'
import { bind } from '../../parts/fields/bind'
import { Text } from '../../parts/fields/Text'
import { useKeptForm } from '../../parts/fields/useKeptForm'
import { KeepRow } from '../../parts/what-if/KeepRow'
import { NotationFields } from '../../parts/fields/NotationFields'
import { shopShape } from './shapes'
import { useChange } from '../../parts/what-if/useChange'
import { WeekFields } from '../../parts/fields/WeekFields'

/** HoursPanel is the shop's name, hours, caution, and how its figures are written. */
export function HoursPanel({ view }: { view: ShopView }) {
  const { form, value, touched, clear } = useKeptForm<ShopForm>('settings.shop', shopShape, view.shop)
  const change = useChange(touched ? { kind: 'shop', shop: value, seen: view.seen } : undefined, clear)
  return (
    <section className="panel p-4" aria-labelledby="hours-head" data-hours>
      <h2 id="hours-head" className="name mb-3 text-xl">
        The shop
      </h2>
      <div className="grid gap-4">
        <Text label="Name" {...bind(form, 'name')} fault={change.fault('shop.name')} />
        <WeekFields {...bind(form, 'week')} path="shop.week" fault={change.fault} />
        <div className="grid gap-4 sm:grid-cols-2">
          <div>
            <Text
              label="Caution on waits"
              inputMode="decimal"
              {...bind(form, 'margin')}
              fault={change.fault('shop.margin')}
            />
            <p className="mt-1 text-sm text-ink-2">
              1 trusts the sheets; 1.25 waits a quarter longer, and closes windows earlier.
            </p>
          </div>
          <Text label="Time zone" {...bind(form, 'timeZone')} fault={change.fault('shop.timeZone')} />
        </div>
        <NotationFields legend="How figures are written in this shop" {...bind(form, 'notation')} />
        {touched && <KeepRow change={change} undo={clear} verb="Keep the shop so" />}
      </div>
    </section>
  )
}
