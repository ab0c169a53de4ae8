import type { ReactNode } from 'react'
import type { Change } from '../../api/client'
import { Button } from '../Button'
import { Field, inputLook } from '../Field'

/** Asking is what every form of a what-if is given. */
export interface Asked {
  instrumentId?: string
  ask: (change: Change) => void
}

/** Ask is a form that supposes one change. */
export function Ask({ onAsk, disabled, children }: { onAsk: () => void; disabled?: boolean; children: ReactNode }) {
  return (
    <form
      className="grid gap-4"
      onSubmit={(e) => {
        e.preventDefault()
        onAsk()
      }}
    >
      {children}
      <div className="flex justify-end">
        <Button type="submit" look="loud" disabled={disabled}>
          Suppose it
        </Button>
      </div>
    </form>
  )
}

/** Choice is a labelled list of options. */
export function Choice({
  label,
  value,
  options,
  onChange,
}: {
  label: string
  value: string
  options: readonly (readonly [string, string])[]
  onChange: (value: string) => void
}) {
  return (
    <Field label={label}>
      {(wiring) => (
        <select {...wiring} className={inputLook} value={value} onChange={(e) => onChange(e.target.value)}>
          {options.map(([id, words]) => (
            <option key={id} value={id}>
              {words}
            </option>
          ))}
        </select>
      )}
    </Field>
  )
}

/** Entry is a labelled input of text, a number or a day. */
export function Entry({
  label,
  value,
  type = 'text',
  onChange,
  required,
  ...rest
}: {
  label: string
  value: string
  type?: 'text' | 'number' | 'date'
  onChange: (value: string) => void
  required?: boolean
  min?: string | number
  max?: string | number
  step?: number
}) {
  return (
    <Field label={label}>
      {(wiring) => (
        <input
          {...wiring}
          {...rest}
          type={type}
          required={required}
          className={inputLook}
          value={value}
          onChange={(e) => onChange(e.target.value)}
        />
      )}
    </Field>
  )
}
