import { useState } from 'react'
import { Choice } from '../fields/Choice'
import type { Asked } from './Ask'
import { DayForm, HandsForm, HoursForm, WarmerForm } from './ShopForms'
import { CoatsForm, MaterialForm, RedoForm, StartForm } from './WorkForms'

const kinds = [
  { id: 'warmer', text: 'the room were warmer', Form: WarmerForm },
  { id: 'hours', text: 'we kept other hours', Form: HoursForm },
  { id: 'hands', text: 'there were another pair of hands', Form: HandsForm },
  { id: 'day', text: 'a place were open, or closed, on a day', Form: DayForm },
  { id: 'coats', text: 'a step took more coats, or fewer', Form: CoatsForm },
  { id: 'material', text: 'a step took another material', Form: MaterialForm },
  { id: 'start', text: 'an instrument began later', Form: StartForm },
  { id: 'redo', text: 'a coat had to be done again', Form: RedoForm },
] as const

/** WhatIfForm is what could be otherwise, and the form that says how. */
export function WhatIfForm(asked: Asked) {
  const [kind, setKind] = useState<string>('warmer')
  const Form = kinds.find(({ id }) => id === kind)?.Form ?? WarmerForm
  return (
    <div className="grid gap-4">
      <Choice label="What if" value={kind} options={kinds} onChange={setKind} />
      <Form key={kind} {...asked} />
    </div>
  )
}
