import type { Arrival } from '../../api/client'
import { Button } from '../../parts/Button'
import { shown, type FormProps } from './fields'
import { Day } from '../../parts/fields/Day'
import { Text } from '../../parts/fields/Text'

/** Arrivals are what is on order: the fit waits for them. */
export function Arrivals(props: FormProps) {
  const { reference, draft, wish } = props
  const list = draft.wish.arrivals ?? []
  const fault = shown(props)
  const set = (arrivals: Arrival[]) => wish({ ...draft.wish, arrivals }, 'wish.arrivals')
  const edit = (i: number, part: Partial<Arrival>) => set(list.map((a, n) => (n === i ? { ...a, ...part } : a)))
  return (
    <fieldset className="space-y-3 border-t border-line pt-3">
      <legend className="sr-only">On order</legend>
      {list.map((a, i) => (
        <div key={i} className="grid items-end gap-3 sm:grid-cols-[1fr_13rem_auto]">
          <Text
            label="On order"
            value={a.what}
            fault={fault(`wish.arrivals[${i}]`)}
            onChange={(what) => edit(i, { what })}
          />
          <Day
            label="Expected"
            min={reference.today}
            value={a.expected}
            onChange={(expected) => edit(i, { expected })}
          />
          <Button
            look="bare"
            aria-label={`Remove ${a.what || 'this'}`}
            onClick={() => set(list.filter((_, n) => n !== i))}
          >
            Remove
          </Button>
        </div>
      ))}
      <Button
        disabled={list.length >= 8}
        onClick={() => set([...list, { what: '', expected: reference.today, spreadDays: 7 }])}
      >
        Something is on order
      </Button>
    </fieldset>
  )
}
