import { plain, type Notation } from '../../api/notation'
import { Choice } from './Choice'

interface Props {
  legend: string
  value: Partial<Notation> | undefined
  onChange: (value: Notation) => void
}

const choices: { of: keyof Notation; label: string; usual: string; other: string }[] = [
  { of: 'inch', label: 'Units', usual: '°C, µm, mL, mm', other: '°F, mil, fl oz, in' },
  { of: 'amPm', label: 'Clock', usual: '19:40', other: '7:40 pm' },
  { of: 'monthFirst', label: 'Dates', usual: '14 May', other: 'May 14' },
  { of: 'sundayFirst', label: 'Weeks begin on', usual: 'Monday', other: 'Sunday' },
]

/** NotationFields are how figures are written; both ways are understood wherever one types. */
export function NotationFields({ legend, value, onChange }: Props) {
  const now = { ...plain, ...value }
  return (
    <fieldset className="grid gap-3 border-t border-line pt-3 sm:grid-cols-2">
      <legend className="sr-only">{legend}</legend>
      <p className="font-semibold sm:col-span-2" aria-hidden="true">
        {legend}
      </p>
      {choices.map(({ of, label, usual, other }) => (
        <Choice
          key={of}
          label={label}
          value={now[of] ? 'other' : 'usual'}
          options={[
            { id: 'usual', text: usual },
            { id: 'other', text: other },
          ]}
          onChange={(chosen) => onChange({ ...now, [of]: chosen === 'other' })}
        />
      ))}
    </fieldset>
  )
}
