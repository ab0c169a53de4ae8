/** A reason that has to be given in words. */
export function Because({
  label,
  value,
  onChange,
}: {
  label: string
  value: string
  onChange: (value: string) => void
}) {
  return (
    <label className="block">
      <span className="mb-1 block font-semibold">{label}</span>
      <textarea
        required
        maxLength={2000}
        rows={3}
        value={value}
        onChange={(e) => onChange(e.target.value)}
        className="w-full rounded-sm border border-ink-3 bg-raised p-2"
      />
    </label>
  )
}
