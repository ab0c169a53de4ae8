interface Props {
  legend: string
  ways: { id: string; title: string }[]
  chosen: string
  onChoose: (id: string) => void
}

/** Ways are usual answers of which one is chosen, or none where it was put right by hand. */
export function Ways({ legend, ways, chosen, onChoose }: Props) {
  return (
    <fieldset>
      <legend className="sr-only">{legend}</legend>
      <div className="flex flex-wrap gap-2">
        {ways.map(({ id, title }) => (
          <label
            key={id}
            className="flex min-h-11 cursor-pointer items-center gap-2 rounded-sm border border-ink-3 px-3 has-checked:border-2 has-checked:border-ink has-checked:bg-drying-fill has-checked:font-semibold"
          >
            <input
              type="radio"
              name={legend}
              value={id}
              checked={chosen === id}
              onChange={() => onChoose(id)}
              className="size-4 accent-umber"
            />
            {title}
          </label>
        ))}
      </div>
    </fieldset>
  )
}
