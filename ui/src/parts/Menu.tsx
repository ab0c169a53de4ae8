import { DropdownMenu } from 'radix-ui'
import { useRef, type ReactNode } from 'react'

interface Item {
  id: string
  text: string
  hint?: string
}

interface Props {
  /** The words on the button that opens it. */
  children: ReactNode
  className?: string
  items: readonly Item[]
  onChoose: (id: string) => void
  /** Where the focus goes once something was chosen; else back to the button. */
  focus?: string
}

/** Menu is a button that opens a list of things to do. */
export function Menu({ children, className = '', items, onChoose, focus }: Props) {
  const chosen = useRef(false)
  return (
    <DropdownMenu.Root>
      <DropdownMenu.Trigger
        className={`min-h-11 rounded-sm border border-dashed border-ink-3 px-3 font-semibold hover:bg-raised ${className}`}
      >
        {children}
      </DropdownMenu.Trigger>
      <DropdownMenu.Portal>
        <DropdownMenu.Content
          align="start"
          collisionPadding={8}
          className="z-40 max-h-[min(32rem,var(--radix-dropdown-menu-content-available-height))] w-[min(26rem,94vw)] overflow-y-auto rounded-sm border border-ink-3 bg-raised p-1"
          onCloseAutoFocus={(e) => {
            if (chosen.current && focus) {
              e.preventDefault() // the eyes are on what came, not on the button
              document.querySelector<HTMLElement>(focus)?.focus()
            }
            chosen.current = false
          }}
        >
          {items.map((item) => (
            <DropdownMenu.Item
              key={item.id}
              className="flex min-h-11 cursor-pointer flex-col justify-center rounded-sm px-3 py-1 data-highlighted:bg-drying-fill data-highlighted:outline-none"
              onSelect={() => {
                chosen.current = true
                onChoose(item.id)
              }}
            >
              <b>{item.text}</b>
              {item.hint && <span className="text-sm text-ink-2">{item.hint}</span>}
            </DropdownMenu.Item>
          ))}
        </DropdownMenu.Content>
      </DropdownMenu.Portal>
    </DropdownMenu.Root>
  )
}
