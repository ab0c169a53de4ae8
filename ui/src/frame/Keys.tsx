import { Dialog } from 'radix-ui'
import { useEffect, useState } from 'react'
import { useNavigate } from 'react-router'
import { Button } from '../parts/Button'

const list = [
  ['1', 'Rack'],
  ['2', 'Instruments'],
  ['3', 'Weeks'],
  ['9', 'Shop'],
  ['n', 'New instrument'],
  ['l', 'Log the focused or chosen work'],
  ['w', 'Show the next working on the screen'],
  ['← →', 'On Weeks: pan; along the sittings; to the next free start of one that is moved, with shift a day'],
  ['+ −', 'On Weeks: zoom'],
  ['?', 'These keys'],
  ['Esc', 'Close what is on top'],
] as const

/** Keys does by keyboard what the band and the buttons do, and lists how. */
export function Keys() {
  const [open, setOpen] = useState(false)
  const navigate = useNavigate()
  useEffect(() => {
    const press = (e: KeyboardEvent) => {
      if (e.ctrlKey || e.metaKey || e.altKey || typing(e.target)) return
      const goTo = { '1': '/rack', '2': '/instruments', '3': '/weeks', '9': '/shop', n: '/instruments/new' }[e.key]
      if (goTo) void navigate(goTo)
      else if (e.key === '?') setOpen(true)
      else if (e.key === 'l') logButton()?.click()
      else if (e.key === 'w') openWorking()
      else return
      e.preventDefault()
    }
    window.addEventListener('keydown', press)
    return () => window.removeEventListener('keydown', press)
  }, [navigate])
  return (
    <Dialog.Root open={open} onOpenChange={setOpen}>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 z-40 bg-band/60" />
        <Dialog.Content
          aria-describedby={undefined}
          className="fixed top-1/2 left-1/2 z-50 w-96 max-w-[calc(100vw-2rem)] -translate-1/2 border-t-3 border-umber bg-panel p-6"
        >
          <Dialog.Title className="name mb-3 text-xl">Keys</Dialog.Title>
          <dl className="mb-4 grid grid-cols-[4rem_1fr] gap-y-2">
            {list.map(([key, does]) => (
              <div key={key} className="contents">
                <dt className="font-bold">{key}</dt>
                <dd>{does}</dd>
              </div>
            ))}
          </dl>
          <Dialog.Close asChild>
            <Button>Close</Button>
          </Dialog.Close>
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  )
}

function typing(target: EventTarget | null) {
  return target instanceof HTMLElement && (target.isContentEditable || /^(INPUT|TEXTAREA|SELECT)$/.test(target.tagName))
}

/** logButton is the log button of the focused piece, else the first of the screen. */
function logButton() {
  const near = document.activeElement?.closest('[data-event]')?.getAttribute('data-event')
  const ofFocus = near ? document.querySelector<HTMLButtonElement>(`button[data-log="${near}"]`) : null
  return ofFocus ?? (near ? null : document.querySelector<HTMLButtonElement>('button[data-log]'))
}

/** openWorking opens the working after the open or focused one, in reading order. */
function openWorking() {
  const all = [...document.querySelectorAll<HTMLButtonElement>('[data-working]')]
  const at = all.findIndex((b) => b === document.activeElement || b.dataset.state === 'open')
  const next = all[(at + 1) % all.length]
  next?.focus()
  next?.click()
}
