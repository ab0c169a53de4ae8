import { useState } from 'react'
import type { PlaceNow, RoomNow } from '../../api/client'
import { Button } from '../../parts/Button'
import { Told } from '../../parts/Told'
import { verdictChip } from '../../parts/verdicts'
import { AirCurve } from './AirCurve'
import { lazily } from '../../parts/lazily'

const Readings = lazily(() => import('./Readings').then((m) => m.Readings))
const TypeReading = lazily(() => import('./TypeReading').then((m) => m.TypeReading))

/** RoomPanel is the air now, and whether what is due today may be put on in it. */
export function RoomPanel({ room }: { room: RoomNow }) {
  const [typing, setTyping] = useState(false)
  const [chosen, setChosen] = useState<string>()
  const place = room.places.find((p) => p.id === chosen) ?? room.places[0]
  if (!place) return null
  return (
    <section className="panel px-4 py-3" aria-labelledby="room-head" data-room>
      <div className="flex items-center justify-between gap-3">
        <h2 id="room-head" className="name text-lg">
          Room now
        </h2>
        {!typing && (
          <Button needs="bench" look="bare" className="-my-2 px-0!" onClick={() => setTyping(true)}>
            Type a reading
          </Button>
        )}
      </div>
      {typing ? (
        <TypeReading places={room.places} start={place.id} done={() => setTyping(false)} />
      ) : (
        <PlaceAir place={place} />
      )}
      {room.places.length > 1 && !typing && (
        <div className="mt-1 flex flex-wrap gap-x-4" role="group" aria-label="Places">
          {room.places.map((p) => (
            <button
              key={p.id}
              type="button"
              aria-pressed={p.id === place.id}
              onClick={() => setChosen(p.id)}
              className={`min-h-9 text-sm ${p.id === place.id ? 'border-b-2 border-umber font-semibold' : 'text-ink-2 hover:text-ink'}`}
            >
              {p.name.replace(/^the /, '')}
            </button>
          ))}
        </div>
      )}
      <ul>
        {room.verdicts.map((v) => (
          <li key={v.product + v.place} className="border-t border-line py-1.5">
            <span className="flex items-baseline justify-between gap-3">
              <span className="min-w-0">
                <span className="font-semibold">{v.product}</span>{' '}
                <span className="text-sm text-ink-2">{v.place.replace(/^the /, '')}</span>
              </span>
              <Told
                more={v.verdict === 'go' ? v.reason : undefined}
                className={`rounded-sm px-2 py-0.5 text-sm font-bold whitespace-nowrap ${verdictChip[v.verdict]}`}
              >
                {v.text}
              </Told>
            </span>
            {v.verdict !== 'go' && <span className="block text-sm text-ink-2">{v.reason}</span>}
          </li>
        ))}
      </ul>
      {place.readings.length > 0 && !typing && <Readings key={place.id} place={place} />}
    </section>
  )
}

function PlaceAir({ place }: { place: PlaceNow }) {
  return (
    <div className="grid grid-cols-[auto_1fr] items-end gap-x-4">
      <div>
        <p className="name text-[26px] leading-8">{place.temperature}</p>
        <p className="text-sm text-ink-2">
          {place.humidity}, dew {place.dew}
        </p>
        <p className="text-sm text-ink-2">
          {place.name}, {place.source}
        </p>
      </div>
      <AirCurve past={place.past} />
    </div>
  )
}
