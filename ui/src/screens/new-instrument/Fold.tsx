import type { ReactNode } from 'react'

interface Props {
  title: string
  about?: string
  open?: boolean
  onOpen?: (open: boolean) => void
  /** It is what the page prints. */
  paper?: boolean
  children: ReactNode
}

/** Fold is a part of the page that opens where it stands; its line says what is in it. */
export function Fold({ title, about, open, onOpen, paper, children }: Props) {
  return (
    <details
      className={`panel group ${paper ? '' : 'print:hidden'}`}
      open={open}
      onToggle={(e) => onOpen?.(e.currentTarget.open)}
    >
      <summary className="flex min-h-11 cursor-pointer flex-wrap items-baseline gap-x-3 px-4 py-2 [&::-webkit-details-marker]:hidden">
        <span aria-hidden="true" className="text-ink-3 transition group-open:rotate-90 print:hidden">
          ▸
        </span>
        <span className="name text-lg">{title}</span>
        {about && <span className="min-w-0 flex-1 truncate text-sm text-ink-2">{about}</span>}
      </summary>
      <div className="space-y-4 px-4 pb-4">{children}</div>
    </details>
  )
}
