import type { ComponentProps } from 'react'
import { Link } from 'react-router'
import { useMay, type Role } from '../api/door'

const looks = {
  loud: 'bg-ready text-on-loud hover:brightness-110',
  plain: 'border border-ink-3 text-ink hover:bg-raised',
  dark: 'border border-line bg-band text-band-text hover:bg-band-on',
  bare: 'text-ink-2 underline decoration-ink-3 underline-offset-4 hover:text-ink',
}

interface Look {
  look?: keyof typeof looks
  /** What a device needs to be let to do it; one that may not is not shown it. */
  needs?: Role
}

const shape = ({ look = 'plain' }: Look, className = '') =>
  `inline-flex min-h-11 items-center justify-center gap-2 rounded-sm px-4 font-semibold whitespace-nowrap transition disabled:opacity-50 ${looks[look]} ${className}`

/** Button is at least 44 px high: it is pressed with gloves on. */
export function Button({ look, needs = 'look', className, type = 'button', ...rest }: ComponentProps<'button'> & Look) {
  if (!useMay(needs)) return null
  return <button type={type} className={shape({ look }, className)} {...rest} />
}

/** LinkButton leads to another screen, and looks and is pressed as a button. */
export function LinkButton({ look, needs = 'look', className, ...rest }: ComponentProps<typeof Link> & Look) {
  if (!useMay(needs)) return null
  return <Link className={shape({ look }, className)} {...rest} />
}
