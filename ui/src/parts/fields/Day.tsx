import { lazily } from '../lazily'
import { Field, inputLook } from './Field'

export interface DayProps {
  label: string
  /** A day like 2026-03-12, with a time like 2026-03-12T16:20 where it is a moment; empty: none. */
  value: string | undefined
  /** The first day that may be chosen. */
  min?: string
  /** It is a moment, by the shop's clock. */
  moment?: boolean
  fault?: string
  onChange: (value: string) => void
}

/** Day is a labelled day, or moment, typed part by part or picked from a calendar. */
export const Day = lazily<DayProps>(
  () => import('./dates/DayPicker').then((m) => m.DayPicker),
  ({ label, fault, value }) => (
    <Field label={label} fault={fault}>
      {(a) => <input {...a} readOnly className={inputLook} value={value ?? ''} />}
    </Field>
  ),
)
