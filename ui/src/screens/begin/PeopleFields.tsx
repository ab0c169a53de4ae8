import { Button } from '../../parts/Button'
import { Text } from '../../parts/fields/Text'

interface Props {
  value: string[]
  onChange: (people: string[]) => void
  fault: (field: string) => string | undefined
}

/** PeopleFields are whose hands there are. */
export function PeopleFields({ value, onChange, fault }: Props) {
  return (
    <div className="grid gap-3">
      {value.map((name, i) => (
        <div key={i} className="flex items-end gap-3">
          <div className="min-w-0 flex-1">
            <Text
              label={i === 0 ? 'Your name' : `Person ${i + 1}`}
              value={name}
              maxLength={60}
              onChange={(next) => onChange(value.map((was, n) => (n === i ? next : was)))}
              fault={fault(`people[${i}]`)}
            />
          </div>
          {i > 0 && (
            <Button aria-label={`Remove person ${i + 1}`} onClick={() => onChange(value.filter((_, n) => n !== i))}>
              Remove
            </Button>
          )}
        </div>
      ))}
      <div>
        <Button onClick={() => onChange([...value, ''])}>Somebody else works here too</Button>
      </div>
    </div>
  )
}
