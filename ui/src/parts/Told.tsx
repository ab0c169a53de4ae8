import { Popover } from 'radix-ui'
import type { ReactNode } from 'react'

/** Told is a short word that says more when it is tapped: the exact time, or the reason. */
export function Told({ more, children, className = '' }: { more?: string; children: ReactNode; className?: string }) {
  if (!more) return <span className={className}>{children}</span>
  return (
    <Popover.Root>
      <Popover.Trigger
        className={`relative z-10 text-left after:absolute after:inset-x-0 after:-inset-y-2.5 hover:underline ${className}`}
        title={more}
        data-told
      >
        {children}
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content
          aria-label="Exactly"
          sideOffset={4}
          collisionPadding={12}
          className="z-50 max-w-[min(22rem,calc(100vw-2rem))] border-t-3 border-umber bg-raised px-4 py-3 shadow-lg"
        >
          {more}
          <Popover.Close className="sr-only">Close</Popover.Close>
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  )
}
