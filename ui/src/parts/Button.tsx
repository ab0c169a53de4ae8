import type { ComponentProps } from 'react'

const looks = {
  loud: 'bg-ready text-on-loud hover:brightness-110',
  plain: 'border border-ink-3 text-ink hover:bg-raised',
  dark: 'bg-band text-band-text hover:bg-band-on',
  bare: 'text-ink-2 underline decoration-ink-3 underline-offset-4 hover:text-ink',
}

type Props = ComponentProps<'button'> & { look?: keyof typeof looks }

/** Button is at least 44 px high: it is pressed with gloves on. */
export function Button({ look = 'plain', className = '', type = 'button', ...rest }: Props) {
  return (
    <button
      type={type}
      className={`inline-flex min-h-11 items-center justify-center gap-2 rounded-sm px-4 font-semibold whitespace-nowrap transition disabled:opacity-50 ${looks[look]} ${className}`}
      {...rest}
    />
  )
}
