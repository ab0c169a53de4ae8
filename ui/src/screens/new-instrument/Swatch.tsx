import type { Paint } from '../../api/client'

interface Props {
  paint?: Paint
  colour?: string
  wood?: boolean
  /** What the rules add, or what is switched off. */
  faint?: boolean
}

/** Swatch is a stratum at the left of its line: its real colour, wood with its pores, or clear. */
export function Swatch({ paint, colour, wood, faint }: Props) {
  const colours = paint?.colours ?? (colour ? [colour] : [])
  return (
    <svg viewBox="0 0 28 40" preserveAspectRatio="none" className="w-7 shrink-0 self-stretch" aria-hidden="true">
      {colours.length === 0 ? (
        <rect width="28" height="40" className={faint ? 'fill-ground' : 'fill-raised'} />
      ) : (
        colours.map((c, i) => (
          <rect
            key={i}
            x={(28 / colours.length) * i}
            width={28 / colours.length}
            height="40"
            fill={c}
            opacity={faint ? 0.4 : 1}
          />
        ))
      )}
      {wood && (
        <path d="M5 0V10M13 0V16M22 0V8M9 20V34M18 24V36" stroke="#2a1c14" strokeOpacity="0.6" strokeWidth="2.4" />
      )}
      {colours.length === 0 && !faint && <path d="M4 40L16 0M12 40L24 0" className="stroke-line" strokeWidth="2" />}
      <path d="M27.5 0V40" className="stroke-line" />
    </svg>
  )
}
