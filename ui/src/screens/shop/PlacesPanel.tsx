import { useState } from 'react'
import type { PlaceForm, PlaceView, ShopView } from '../../api/client'
import { Button } from '../../parts/Button'
import { AirWeek } from './AirWeek'
import { PlaceEdit } from './PlaceEdit'

const kinds: Record<PlaceForm['kind'], string> = {
  bench: 'a bench',
  booth: 'a booth',
  wheel: 'a buffing wheel',
  drying: 'a place to dry',
}

/** PlacesPanel is where work is done and pieces hang: hours, room, hooks, and the air there. */
export function PlacesPanel({ view }: { view: ShopView }) {
  const [open, setOpen] = useState<string>()
  const fresh: PlaceForm = {
    name: '',
    kind: 'bench',
    capacity: '',
    hooks: '',
    air: '',
    ownHours: false,
    week: view.shop.week,
  }
  return (
    <section className="panel p-4" aria-labelledby="places-head" data-places>
      <h2 id="places-head" className="name mb-2 text-xl">
        Places
      </h2>
      <ul>
        {view.places.map((place) => (
          <li key={place.id} className="border-t border-line py-3" data-place={place.name}>
            <div className="flex items-center gap-3">
              <p className="min-w-0">
                <b>{place.name}</b>, <span className="text-ink-2">{about(place, view.places)}</span>
              </p>
              {open !== place.id && (
                <Button className="ml-auto" aria-label={`Change ${place.name}`} onClick={() => setOpen(place.id)}>
                  Change
                </Button>
              )}
            </div>
            {open === place.id && (
              <PlaceEdit
                place={place}
                id={place.id}
                seen={place.seen}
                places={view.places}
                close={() => setOpen(undefined)}
              />
            )}
            <AirWeek place={place} />
          </li>
        ))}
        <li className="border-t border-line py-3">
          {open === 'new' ? (
            <PlaceEdit place={fresh} places={view.places} close={() => setOpen(undefined)} />
          ) : (
            <Button onClick={() => setOpen('new')}>Add a place</Button>
          )}
        </li>
      </ul>
    </section>
  )
}

function about(place: PlaceView, places: PlaceView[]) {
  const hangs = places.find((p) => p.id === place.hangsIn)
  return [
    kinds[place.kind],
    place.capacity && `${place.capacity} ${place.capacity === '1' ? 'piece' : 'pieces'} at a time`,
    place.hooks && `${place.hooks} hooks`,
    hangs && `its pieces hang in ${hangs.name}`,
    place.ownHours && 'hours of its own',
  ]
    .filter(Boolean)
    .join(', ')
}
