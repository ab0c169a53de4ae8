import { Field, inputLook } from '../../parts/Field'

interface Props {
  label: string
  value: string | undefined
  options: { id: string; text: string }[]
  fault?: string
  onChange: (value: string) => void
}

/** Select is a labelled choice of one. */
export function Select({ label, value, options, fault, onChange }: Props) {
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

/** Text is a labelled line of text. */
export function Text({
  label,
  value,
  fault,
  type = 'text',
  min,
  maxLength = 80,
  onChange,
}: {
  label: string
  value: string | undefined
  fault?: string
  type?: 'text' | 'date'
  min?: string
  maxLength?: number
  onChange: (value: string) => void
}) {
  return (
    <Field label={label} fault={fault}>
      {(a) => (
        <input
          {...a}
          type={type}
          min={min}
          maxLength={maxLength}
          className={inputLook}
          value={value ?? ''}
          onChange={(e) => onChange(e.target.value)}
        />
      )}
    </Field>
  )
}

/** Tick is something that is so or not. */
export function Tick({ label, on, onChange }: { label: string; on: boolean; onChange: (on: boolean) => void }) {
  return (
    <label className="flex min-h-11 cursor-pointer items-center gap-3">
      <input
        type="checkbox"
        className="size-5 shrink-0 accent-ready"
        checked={on}
        onChange={(e) => onChange(e.target.checked)}
      />
      <span>{label}</span>
    </label>
  )
}
