import { Dialog } from 'radix-ui'
import type { ReactNode } from 'react'

interface Props {
  title: string
  open: boolean
  onOpenChange: (open: boolean) => void
  trigger?: ReactNode
  wide?: boolean
  children: ReactNode
}

/** Over is a panel over the screen, closed by Escape or a tap beside it. */
export function Over({ title, open, onOpenChange, trigger, wide, children }: Props) {
  return (
    <Dialog.Root open={open} onOpenChange={onOpenChange}>
      {trigger && <Dialog.Trigger asChild>{trigger}</Dialog.Trigger>}
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 z-40 bg-band/60" />
        <Dialog.Content
          aria-describedby={undefined}
          className={`fixed top-1/2 left-1/2 z-50 max-h-[calc(100dvh-2rem)] w-full max-w-[calc(100vw-1.5rem)] -translate-1/2 overflow-y-auto border-t-3 border-umber bg-panel p-6 ${wide ? 'sm:w-[56rem]' : 'sm:w-[30rem]'}`}
        >
          <Dialog.Title className="name mb-3 text-xl">{title}</Dialog.Title>
          {children}
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  )
}
