import { Text } from './Text'
import { useNotation } from '../notation'
import { weekdays } from '../words'

interface Props {
  value: string[]
  path: string
  fault: (field: string) => string | undefined
  onChange: (week: string[]) => void
}

/** WeekFields are the hours of each day. */
export function WeekFields({ value, path, fault, onChange }: Props) {
  const { amPm, sundayFirst } = useNotation()
  const order = sundayFirst ? [0, 1, 2, 3, 4, 5, 6] : [1, 2, 3, 4, 5, 6, 0]
  return (
    <div className="grid gap-2">
      {order.map((d) => (
        <Text
          key={d}
          beside
          label={weekdays[d] ?? ''}
          value={value[d]}
          fault={fault(`${path}[${d}]`)}
          onChange={(hours) => onChange(value.map((text, i) => (i === d ? hours : text)))}
        />
      ))}
      <p className="text-sm text-ink-2">
        Write hours like {amPm ? '9am–12:30pm, 1:30pm–5:30pm' : '09:00–12:30, 13:30–17:30'}; or closed.
      </p>
    </div>
  )
}
