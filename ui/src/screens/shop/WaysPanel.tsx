import { Link } from 'react-router'
import type { ShopForm, ShopView } from '../../api/client'
import { useKeptForm } from '../../parts/fields/useKeptForm'
import { useValues } from '../../parts/fields/bind'
import { Choice } from '../../parts/fields/Choice'
import { capital } from '../../parts/words'
import { KeepRow } from '../../parts/what-if/KeepRow'
import { shopShape } from './shapes'
import { useChange } from '../../parts/what-if/useChange'

/** WaysPanel is the schools that the shop follows where nobody chooses, and the way to its own recipes. */
export function WaysPanel({ view }: { view: ShopView }) {
  const { form, value, touched, clear } = useKeptForm<ShopForm>('settings.ways', shopShape, view.shop)
  const change = useChange(touched ? { kind: 'shop', shop: value, seen: view.seen } : undefined, clear)
  const ways = useValues(form).ways ?? {}
  const choose = (topic: string, option: string) => {
    const others = Object.fromEntries(Object.entries(ways).filter(([t]) => t !== topic))
    form.setValue('ways', option ? { ...others, [topic]: option } : others, { shouldDirty: true })
  }
  return (
    <section className="panel p-4" aria-labelledby="ways-head" data-ways>
      <h2 id="ways-head" className="name mb-1 text-xl">
        Our ways
      </h2>
      <p className="mb-3 text-ink-2">
        What is done where nobody chooses. Instruments that are planned already stay as they are.{' '}
        <Link to="/recipes" className="underline underline-offset-4">
          Recipes of our own
        </Link>
      </p>
      <div className="grid items-end gap-3 sm:grid-cols-2">
        {(view.topics ?? []).map((t) => (
          <Choice
            key={t.id}
            label={capital(t.question)}
            value={ways[t.id] ?? ''}
            options={[{ id: '', text: 'as the rules choose' }, ...t.ways]}
            fault={change.fault(`shop.ways.${t.id}`)}
            onChange={(option) => choose(t.id, option)}
          />
        ))}
      </div>
      {touched && (
        <div className="mt-3">
          <KeepRow change={change} undo={clear} verb="Keep these ways" />
        </div>
      )}
    </section>
  )
}
