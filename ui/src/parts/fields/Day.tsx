import { Suspense, lazy } from 'react'
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

const DayPicker = lazy(() => import('./dates/DayPicker').then((m) => ({ default: m.DayPicker })))

/** Day is a labelled day, or moment, typed part by part or picked from a calendar. It comes when it is first needed. */
export function Day(props: DayProps) {
  return (
    <Suspense
      fallback={
        <Field label={props.label} fault={props.fault}>
          {(a) => <input {...a} readOnly className={inputLook} value={props.value ?? ''} />}
        </Field>
      }
    >
      <DayPicker {...props} />
    </Suspense>
  )
}
