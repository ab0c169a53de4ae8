import { useEffect, useState } from 'react'
import { useNavigate } from 'react-router'
import { Over } from '../parts/Over'
import { lazily } from '../parts/lazily'
import { Tick } from '../parts/fields/Tick'
import { keysAct, modal, setKeysAct, typing, useKeysAct } from './keys'

const Find = lazily(() => import('./Find').then((m) => m.Find))

const list = [
  ['1', 'Rack'],
  ['2', 'Instruments'],
  ['3', 'Weeks'],
  ['9', 'Shop'],
  ['n', 'New instrument'],
  ['s', 'Start sitting'],
  ['/', 'Find an instrument, a step or a product, or do something'],
  ['l', 'Log the focused or chosen work'],
  ['t', 'Stop the timer that has rung, else start the next timer on the screen'],
  ['u', 'Undo what was logged last, while its word stands'],
  ['w', 'Show the next working on the screen'],
  ['← →', 'On Weeks: pan; along the sittings; to the next free start of one that is moved, with shift a day'],
  ['+ −', 'On Weeks: zoom'],
  ['?', 'These keys'],
  ['Esc', 'Close what is on top'],
] as const

const screens: Record<string, string> = {
  '1': '/rack',
  '2': '/instruments',
  '3': '/weeks',
  '9': '/shop',
  n: '/instruments/new',
  s: '/sitting',
}

/** Keys does by keyboard what the band and the buttons do, and lists how. No key acts below an open dialog. */
export function Keys() {
  const [open, setOpen] = useState<'keys' | 'find'>()
  const navigate = useNavigate()
  useEffect(() => {
    const press = (e: KeyboardEvent) => {
      if (e.ctrlKey || e.metaKey || e.altKey || typing(e.target) || modal()) return
      const goTo = screens[e.key]
      if (e.key === '?') setOpen('keys')
      else if (!keysAct()) return
      else if (goTo) void navigate(goTo)
      else if (e.key === '/') setOpen('find')
      else if (e.key === 'l') logButton()?.click()
      else if (e.key === 't') timerButton()?.click()
      else if (e.key === 'u') [...document.querySelectorAll<HTMLElement>('[data-undo]')].at(-1)?.click()
      else if (e.key === 'w') openWorking()
      else return
      e.preventDefault()
    }
    window.addEventListener('keydown', press)
    return () => window.removeEventListener('keydown', press)
  }, [navigate])
  const close = () => setOpen(undefined)
  return (
    <>
      <Over title="Keys" open={open === 'keys'} onOpenChange={close}>
        <KeyList />
      </Over>
      <Over title="Find or do" open={open === 'find'} onOpenChange={close}>
        <Find done={close} />
      </Over>
    </>
  )
}

function KeyList() {
  const acting = useKeysAct()
  return (
    <>
      <dl className="mb-4 grid grid-cols-[4rem_1fr] gap-y-2">
        {list.map(([key, does]) => (
          <div key={key} className="contents">
            <dt className="font-bold">{key}</dt>
            <dd>{does}</dd>
          </div>
        ))}
      </dl>
      <Tick label="Single keys act on this device" on={acting} onChange={setKeysAct} />
    </>
  )
}

/** logButton is the log button of the focused piece, else the first of the screen. */
function logButton() {
  const near = document.activeElement?.closest('[data-event]')?.getAttribute('data-event')
  const ofFocus = near ? document.querySelector<HTMLButtonElement>(`button[data-log="${near}"]`) : null
  return ofFocus ?? (near ? null : document.querySelector<HTMLButtonElement>('button[data-log]'))
}

/** timerButton stops the timer that has rung, or starts the next. */
const timerButton = () =>
  document.querySelector<HTMLButtonElement>('[data-running]:not([data-running="runs"]) button') ??
  document.querySelector<HTMLButtonElement>('button[data-timer]:enabled')

/** openWorking opens the working after the open or focused one, in reading order. */
function openWorking() {
  const all = [...document.querySelectorAll<HTMLButtonElement>('[data-working]')]
  const at = all.findIndex((b) => b === document.activeElement || b.dataset.state === 'open')
  const next = all[(at + 1) % all.length]
  next?.focus()
  next?.click()
}
