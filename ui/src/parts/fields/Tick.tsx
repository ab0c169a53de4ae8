/** Tick is something that is so or not. */
export function Tick({
  label,
  on,
  loud,
  onChange,
}: {
  label: string
  on: boolean
  /** It heads a part of a form. */
  loud?: boolean
  onChange: (on: boolean) => void
}) {
  return (
    <label className="flex min-h-11 cursor-pointer items-center gap-3">
      <input
        type="checkbox"
        className="size-5 shrink-0 accent-ready"
        checked={on}
        onChange={(e) => onChange(e.target.checked)}
      />
      <span className={loud ? 'name text-lg' : ''}>{label}</span>
    </label>
  )
}
