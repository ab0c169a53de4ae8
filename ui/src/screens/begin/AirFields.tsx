import type { Beginning, BeginningView } from '../../api/client'
import { Text } from '../../parts/fields/Text'
import { Ways } from './Ways'

type Air = Beginning['air']

interface Props {
  ways: BeginningView['airs']
  value: Air
  onChange: (air: Air) => void
  fault: (field: string) => string | undefined
}

const same = (a: Air, b: Air) =>
  a.length === b.length && a.every((s, i) => s.temperature === b[i]?.temperature && s.humidity === b[i]?.humidity)

/** AirFields are what the air is usually like, by season: films cure by it until somebody reads a thermometer. */
export function AirFields({ ways, value, onChange, fault }: Props) {
  const way = ways.find((w) => same(w.air, value))
  const put = (at: number, next: Partial<Air[number]>) =>
    onChange(value.map((s, i) => (i === at ? { ...s, ...next } : s)))
  return (
    <>
      <Ways
        legend="Air"
        ways={[...ways, { id: 'unknown', title: 'Nobody knows' }]}
        chosen={value.length === 0 ? 'unknown' : (way?.id ?? '')}
        onChoose={(id) => onChange(ways.find((w) => w.id === id)?.air ?? [])}
      />
      {value.length === 0 ? (
        <p className="text-ink-2">
          Then dates are planned for a room of 20 °C and 50 %, and say so. Hang up a thermometer, and type what it reads
          on the Rack.
        </p>
      ) : (
        <>
          <p className="text-ink-2">
            {way ? `${way.title}: ${way.why}. ` : ''}These are estimates until readings come; each place can have its
            own under Shop.
          </p>
          <ul className="grid max-w-2xl gap-2">
            <li className="grid grid-cols-2 gap-3 text-ink-2 sm:grid-cols-[180px_1fr_1fr]" aria-hidden="true">
              <span className="hidden sm:block" />
              <span>Temperature</span>
              <span>Humidity</span>
            </li>
            {value.map((season, i) => (
              <li
                key={i}
                className="grid grid-cols-2 items-center gap-x-3 sm:grid-cols-[180px_1fr_1fr]"
                data-season={i}
              >
                <p className="col-span-2 font-semibold sm:col-span-1">{season.months}</p>
                <Text
                  headed
                  label={`Temperature, ${season.months ?? ''}`}
                  value={season.temperature}
                  onChange={(temperature) => put(i, { temperature })}
                  fault={fault(`air[${i}].temperature`)}
                />
                <Text
                  headed
                  label={`Humidity, ${season.months ?? ''}`}
                  value={season.humidity}
                  onChange={(humidity) => put(i, { humidity })}
                  fault={fault(`air[${i}].humidity`)}
                />
              </li>
            ))}
          </ul>
        </>
      )}
    </>
  )
}
