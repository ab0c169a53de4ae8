import { lazily } from '../lazily'
import { Field, inputLook } from './Field'
import type { DayProps } from './dates/props'

/** Day is a labelled day, or moment, typed part by part or picked from a calendar. */
export const Day = lazily<DayProps>(
  () => import('./dates/DayPicker').then((m) => m.DayPicker),
  ({ label, fault, value }) => (
    <Field label={label} fault={fault}>
      {(a) => <input {...a} readOnly className={inputLook} value={value ?? ''} />}
    </Field>
  ),
)
