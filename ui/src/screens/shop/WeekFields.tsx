import { Field, inputLook } from '../../parts/Field'
import { weekdays } from '../../parts/what-if/ShopForms'

interface Props {
  week: string[]
  path: string
  fault: (field: string) => string | undefined
  onChange: (week: string[]) => void
}

const order = [1, 2, 3, 4, 5, 6, 0]

/** WeekFields are the hours of each day, Monday first. */
export function WeekFields({ week, path, fault, onChange }: Props) {
  return (
    <div className="grid gap-2">
      {order.map((d) => (
        <Field key={d} label={weekdays[d] ?? ''} beside fault={fault(`${path}[${d}]`)}>
          {(wiring) => (
            <input
              {...wiring}
              className={inputLook}
              value={week[d] ?? ''}
              onChange={(e) => onChange(week.map((text, i) => (i === d ? e.target.value : text)))}
            />
          )}
        </Field>
      ))}
      <p className="text-sm text-ink-2">Write hours like 09:00–12:30, 13:30–17:30; or closed.</p>
    </div>
  )
}
