import type { ComponentProps } from 'react'
import { Field, inputLook } from './Field'

type Props = {
  label: string
  value: string | undefined
  fault?: string
  /** The label stands beside the input, not above. */
  beside?: boolean
  /** What stands around it says what it is; its label is only read out. */
  headed?: boolean
  onChange: (value: string) => void
} & Pick<
  ComponentProps<'input'>,
  'type' | 'inputMode' | 'min' | 'max' | 'step' | 'maxLength' | 'required' | 'autoFocus' | 'placeholder'
>

/** Text is a labelled line of text or a number. */
export function Text({ label, value, fault, beside, headed, onChange, type = 'text', maxLength = 80, ...rest }: Props) {
  return (
    <Field label={label} fault={fault} beside={beside} headed={headed}>
      {(a) => (
        <input
          {...a}
          {...rest}
          type={type}
          maxLength={maxLength}
          className={inputLook}
          value={value ?? ''}
          onChange={(e) => onChange(e.target.value)}
        />
      )}
    </Field>
  )
}
