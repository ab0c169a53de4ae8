import { useState } from 'react'
import type { BeginningView } from '../../api/client'
import { WeekFields } from '../../parts/fields/WeekFields'
import { Ways } from './Ways'

interface Props {
  ways: BeginningView['hours']
  value: string[]
  onChange: (week: string[]) => void
  fault: (field: string) => string | undefined
}

/** HoursFields are when hands are there: as others have it, or day by day. */
export function HoursFields({ ways, value, onChange, fault }: Props) {
  const same = ways.find((w) => w.week.join() === value.join())
  const [byHand, setByHand] = useState(same === undefined)
  return (
    <>
      <Ways
        legend="Hours"
        ways={[...ways, { id: 'hand', title: 'By hand' }]}
        chosen={byHand ? 'hand' : (same?.id ?? 'hand')}
        onChoose={(id) => {
          const way = ways.find((w) => w.id === id)
          setByHand(way === undefined)
          if (way) onChange(way.week)
        }}
      />
      {byHand || same === undefined ? (
        <WeekFields value={value} path="week" fault={fault} onChange={onChange} />
      ) : (
        <p className="text-ink-2">
          Monday to Friday {value[1] || 'closed'}; Saturday and Sunday {value[6] || 'closed'}.
        </p>
      )}
    </>
  )
}
