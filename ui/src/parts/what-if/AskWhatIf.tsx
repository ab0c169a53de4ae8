import { useState } from 'react'
import { suppose } from '../../api/supposing'
import { Button } from '../Button'
import { Field, inputLook } from '../Field'
import { Over } from '../Over'
import { CoatsForm, MaterialForm, RedoForm, StartForm } from './WorkForms'
import { DayForm, HandsForm, HoursForm, WarmerForm } from './ShopForms'

const kinds = [
  ['warmer', 'the room were warmer', WarmerForm],
  ['hours', 'we kept other hours', HoursForm],
  ['hands', 'there were another pair of hands', HandsForm],
  ['day', 'a place were open, or closed, on a day', DayForm],
  ['coats', 'a step took more coats, or fewer', CoatsForm],
  ['material', 'a step took another material', MaterialForm],
  ['start', 'an instrument began later', StartForm],
  ['redo', 'a coat had to be done again', RedoForm],
] as const

/** AskWhatIf asks what would be otherwise; the answer stands in the tray at the foot of every screen. */
export function AskWhatIf({ instrumentId, look = 'plain' }: { instrumentId?: string; look?: 'plain' | 'dark' }) {
  const [open, setOpen] = useState(false)
  const [kind, setKind] = useState<(typeof kinds)[number][0]>('warmer')
  const Form = kinds.find(([id]) => id === kind)?.[2] ?? WarmerForm
  return (
    <Over title="What if" open={open} onOpenChange={setOpen} trigger={<Button look={look}>What if…</Button>}>
      <Field label="What if">
        {(wiring) => (
          <select
            {...wiring}
            className={inputLook}
            value={kind}
            onChange={(e) => setKind(kinds.find(([id]) => id === e.target.value)?.[0] ?? 'warmer')}
          >
            {kinds.map(([id, words]) => (
              <option key={id} value={id}>
                {words}
              </option>
            ))}
          </select>
        )}
      </Field>
      <div className="mt-4">
        <Form
          key={kind}
          instrumentId={instrumentId}
          ask={(change) => {
            suppose(change)
            setOpen(false)
          }}
        />
      </div>
      <p className="mt-4 text-sm text-ink-2">
        Nothing is changed by asking. What it does to every instrument stands at the foot of the screen, beside what
        else you suppose, until you keep it or drop it.
      </p>
    </Over>
  )
}
