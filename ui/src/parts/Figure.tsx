import { Popover } from 'radix-ui'
import type { ReactNode } from 'react'
import type { Working } from '../api/client'

/** Figure is a computed figure that opens its working, by click, touch or w. */
export function Figure({ working, children }: { working: Working; children: ReactNode }) {
  return (
    <Popover.Root>
      <Popover.Trigger data-working className="figure font-semibold">
        {children}
        <span className="sr-only">, show working: {working.title}</span>
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content
          aria-label={`Working: ${working.title}`}
          sideOffset={6}
          collisionPadding={12}
          className="z-50 w-80 max-w-[calc(100vw-2rem)] border-t-3 border-umber bg-raised p-4 text-sm shadow-lg"
        >
          <h3 className="name mb-1 text-base">{working.title}</h3>
          <p className="mb-2 text-ink-2">{working.formula}</p>
          <dl className="mb-2">
            {working.inputs.map((input) => (
              <div key={input.name} className="grid grid-cols-[1fr_auto] gap-x-3 border-t border-line py-1">
                <dt>{input.name}</dt>
                <dd className="text-right font-semibold">{input.value}</dd>
                <dd className="col-span-2 text-xs text-ink-3">{input.source}</dd>
              </div>
            ))}
          </dl>
          <p className="border-t-2 border-ink-3 pt-2 font-bold">{working.result}</p>
          {working.estimate && <p className="mt-1 text-xs text-ink-3">An estimate: some of it was assumed.</p>}
          <Popover.Close className="sr-only">Close</Popover.Close>
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  )
}
