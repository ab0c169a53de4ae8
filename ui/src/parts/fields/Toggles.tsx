interface Props {
  legend: string
  options: readonly { id: string; text: string }[]
  on: readonly string[]
  /** The last one that is on stays on. */
  some?: boolean
  fault?: string
  className?: string
  onChange: (on: string[]) => void
}

/** Toggles are several things of which any may be on, each a button that one hits with gloves. */
export function Toggles({ legend, options, on, some, fault, className = '', onChange }: Props) {
  const turn = (id: string) => onChange(on.includes(id) ? on.filter((o) => o !== id) : [...on, id])
  return (
    <fieldset className={className} data-toggles={legend}>
      <legend className="mb-1 font-semibold">{legend}</legend>
      <div className="flex flex-wrap gap-2">
        {options.map(({ id, text }) => (
          <button
            key={id}
            type="button"
            aria-pressed={on.includes(id)}
            disabled={some && on.length === 1 && on.includes(id)}
            className="min-h-11 rounded-sm border border-ink-3 px-3 aria-pressed:border-2 aria-pressed:border-ink aria-pressed:bg-drying-fill aria-pressed:font-semibold"
            onClick={() => turn(id)}
          >
            {text}
          </button>
        ))}
      </div>
      {fault && <p className="mt-1 text-sm text-late">{fault}</p>}
    </fieldset>
  )
}
