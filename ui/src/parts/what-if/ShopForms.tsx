import { useState } from 'react'
import { useReference, useShop } from '../../api/queries'
import { Ask, Choice, Entry, type Asked } from './Ask'

export const weekdays = ['Sunday', 'Monday', 'Tuesday', 'Wednesday', 'Thursday', 'Friday', 'Saturday'] as const

function usePlaces(first: readonly [string, string]) {
  const places = useReference().data?.places ?? []
  return [first, ...places.map((p) => [p.id, p.name] as const)]
}

export function WarmerForm({ ask }: Asked) {
  const places = usePlaces(['', 'every place whose air is known'])
  const [placeId, setPlace] = useState('')
  const [degrees, setDegrees] = useState('2')
  return (
    <Ask onAsk={() => ask({ kind: 'warmer', degreesC: Number(degrees), ...(placeId && { placeId }) })}>
      <Choice label="Where" value={placeId} options={places} onChange={setPlace} />
      <Entry
        label="How many °C warmer, or colder with a minus"
        type="number"
        step={0.5}
        min={-20}
        max={20}
        required
        value={degrees}
        onChange={setDegrees}
      />
    </Ask>
  )
}

export function HoursForm({ ask }: Asked) {
  const shop = useShop()
  const [weekday, setWeekday] = useState('6')
  const [typed, setTyped] = useState<string>()
  const hours = typed ?? shop.data?.shop.week[Number(weekday)] ?? ''
  return (
    <Ask onAsk={() => ask({ kind: 'week', weekday: Number(weekday), hours })}>
      <Choice
        label="On"
        value={weekday}
        options={weekdays.map((d, i) => [String(i), `${d}s`] as const)}
        onChange={(d) => {
          setWeekday(d)
          setTyped(undefined)
        }}
      />
      <Entry label="Open, such as 09:00–12:30, 13:30–17:30" value={hours} onChange={setTyped} required />
    </Ask>
  )
}

export function HandsForm({ ask }: Asked) {
  const [name, setName] = useState('')
  return (
    <Ask onAsk={() => ask({ kind: 'hands', ...(name.trim() && { name: name.trim() }) })}>
      <Entry label="Name, where you know it" value={name} onChange={setName} />
      <p className="text-ink-2">They are there whenever the shop is open.</p>
    </Ask>
  )
}

export function DayForm({ ask }: Asked) {
  const places = usePlaces(['', 'the whole shop'])
  const today = useReference().data?.today ?? ''
  const [placeId, setPlace] = useState('')
  const [open, setOpen] = useState('open')
  const [date, setDate] = useState('')
  return (
    <Ask onAsk={() => ask({ kind: 'day', date, open: open === 'open', ...(placeId && { placeId }) })} disabled={!date}>
      <Choice label="What" value={placeId} options={places} onChange={setPlace} />
      <Entry label="Day" type="date" min={today} required value={date} onChange={setDate} />
      <Choice
        label="Is"
        value={open}
        options={[
          ['open', 'open'],
          ['closed', 'closed'],
        ]}
        onChange={setOpen}
      />
    </Ask>
  )
}
