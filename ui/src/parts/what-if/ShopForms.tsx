import { useForm } from 'react-hook-form'
import { useReference, useShop } from '../../api/queries'
import { bind, useValues } from '../fields/bind'
import { Choice } from '../fields/Choice'
import { Day } from '../fields/Day'
import { Text } from '../fields/Text'
import { weekdays } from '../words'
import { Ask, type Asked } from './Ask'

function usePlaces(first: string) {
  const places = useReference().data?.places ?? []
  return [{ id: '', text: first }, ...places.map((p) => ({ id: p.id, text: p.name }))]
}

export function WarmerForm({ ask }: Asked) {
  const places = usePlaces('every place whose air is known')
  const form = useForm({ defaultValues: { placeId: '', warmer: '2 °C' } })
  const { placeId, warmer } = useValues(form)
  return (
    <Ask onAsk={() => ask({ kind: 'warmer', warmer, ...(placeId && { placeId }) })} disabled={!warmer.trim()}>
      <Choice label="Where" options={places} {...bind(form, 'placeId')} />
      <Text
        label="How much warmer, or colder with a minus: 2 °C, 5 °F"
        required
        maxLength={20}
        {...bind(form, 'warmer')}
      />
    </Ask>
  )
}

export function HoursForm({ ask }: Asked) {
  const shop = useShop()
  const form = useForm<{ weekday: string; typed?: string }>({ defaultValues: { weekday: '6' } })
  const { weekday, typed } = useValues(form)
  const hours = typed ?? shop.data?.shop.week[Number(weekday)] ?? ''
  return (
    <Ask onAsk={() => ask({ kind: 'week', weekday: Number(weekday), hours })}>
      <Choice
        label="On"
        value={weekday}
        options={weekdays.map((d, i) => ({ id: String(i), text: `${d}s` }))}
        onChange={(chosen) => form.reset({ weekday: chosen })}
      />
      <Text
        label="Open, such as 09:00–12:30, 1:30–5:30pm"
        required
        value={hours}
        onChange={(text) => form.setValue('typed', text)}
      />
    </Ask>
  )
}

export function HandsForm({ ask }: Asked) {
  const form = useForm({ defaultValues: { name: '' } })
  const name = useValues(form).name.trim()
  return (
    <Ask onAsk={() => ask({ kind: 'hands', ...(name && { name }) })}>
      <Text label="Name, where you know it" {...bind(form, 'name')} />
      <p className="text-ink-2">They are there whenever the shop is open.</p>
    </Ask>
  )
}

export function DayForm({ ask }: Asked) {
  const places = usePlaces('the whole shop')
  const today = useReference().data?.today
  const form = useForm({ defaultValues: { placeId: '', date: '', is: 'open' } })
  const { placeId, date, is } = useValues(form)
  return (
    <Ask onAsk={() => ask({ kind: 'day', date, open: is === 'open', ...(placeId && { placeId }) })} disabled={!date}>
      <Choice label="What" options={places} {...bind(form, 'placeId')} />
      <Day label="Day" min={today} {...bind(form, 'date')} />
      <Choice
        label="Is"
        options={[
          { id: 'open', text: 'open' },
          { id: 'closed', text: 'closed' },
        ]}
        {...bind(form, 'is')}
      />
    </Ask>
  )
}
