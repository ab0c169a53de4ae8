import { Field, inputLook } from './Field'

export interface Option {
  id: string
  text: string
}

interface Props {
  label: string
  value: string | undefined
  options: readonly Option[]
  fault?: string
  onChange: (value: string) => void
}

/** Choice is a labelled choice of one. */
export function Choice({ label, value, options, fault, onChange }: Props) {
  return (
    <Field label={label} fault={fault}>
      {(a) => (
        <select {...a} className={inputLook} value={value ?? ''} onChange={(e) => onChange(e.target.value)}>
          {options.map((o) => (
            <option key={o.id} value={o.id}>
              {o.text}
            </option>
          ))}
        </select>
      )}
    </Field>
  )
}
