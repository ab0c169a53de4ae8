import type { Beginning, BeginningView } from '../../api/client'
import { Button } from '../../parts/Button'
import { Choice } from '../../parts/fields/Choice'
import { Text } from '../../parts/fields/Text'
import { Ways } from './Ways'

type Places = Beginning['places']

interface Props {
  ways: BeginningView['rooms']
  kinds: BeginningView['kinds']
  value: Places
  onChange: (places: Places) => void
  fault: (field: string) => string | undefined
}

const same = (a: Places, b: Places) => JSON.stringify(a) === JSON.stringify(b)

/** PlacesFields are the places of a shop: as others have them, each with its name and what it is for. */
export function PlacesFields({ ways, kinds, value, onChange, fault }: Props) {
  const put = (at: number, next: Partial<Places[number]>) =>
    onChange(value.map((p, i) => (i === at ? { ...p, ...next } : p)))
  return (
    <>
      <Ways
        legend="Places"
        ways={ways}
        chosen={ways.find((w) => same(w.places, value))?.id ?? ''}
        onChoose={(id) => onChange(ways.find((w) => w.id === id)?.places ?? value)}
      />
      <ul className="grid gap-3">
        {value.map((place, i) => (
          <li key={i} className="grid items-end gap-3 sm:grid-cols-[1fr_1fr_auto]">
            <Text
              label={`Place ${i + 1}`}
              value={place.name}
              maxLength={60}
              onChange={(name) => put(i, { name })}
              fault={fault(`places[${i}].name`)}
            />
            <Choice
              label={`What place ${i + 1} is for`}
              value={place.kind}
              options={kinds.map((k) => ({ id: k.kind, text: k.title }))}
              onChange={(kind) => put(i, { kind: kind as Places[number]['kind'] })}
              fault={fault(`places[${i}].kind`)}
            />
            {value.length > 1 && (
              <Button aria-label={`Remove place ${i + 1}`} onClick={() => onChange(value.filter((_, n) => n !== i))}>
                Remove
              </Button>
            )}
          </li>
        ))}
      </ul>
      <div>
        <Button onClick={() => onChange([...value, { name: '', kind: 'bench' }])}>Another place</Button>
      </div>
    </>
  )
}
