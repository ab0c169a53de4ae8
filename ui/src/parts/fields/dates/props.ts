/** DayProps are what a day, or a moment, is shown and changed by. */
export interface DayProps {
  label: string
  /** A day like 2026-03-12, with a time like 2026-03-12T16:20 where it is a moment; empty: none. */
  value: string | undefined
  /** The first day that may be chosen. */
  min?: string
  /** It is a moment, by the shop's clock. */
  moment?: boolean
  fault?: string
  onChange: (value: string) => void
}
