/** How long after an action the focus is looked after, in milliseconds: the page has changed by then. */
const looked = 2500

/**
 * keepPlace looks after the focus through an action that takes away what had it: it goes to the same work where that
 * stands elsewhere, else to the work that took its place, else to the head of the screen.
 */
export function keepPlace() {
  const button = document.activeElement
  if (!(button instanceof HTMLElement) || button === document.body) return
  const work = button.closest('[data-event]')?.getAttribute('data-event')
  const at = logButtons().findIndex((b) => b === button || b.closest('[data-event]')?.contains(button))
  const until = Date.now() + looked
  const look = () => {
    const lost = document.activeElement === document.body || document.activeElement === null
    if (lost && document.getElementById('root')?.getAttribute('aria-hidden') !== 'true') {
      const all = logButtons()
      const next = all.find((b) => b.dataset.log === work) ?? all[Math.min(Math.max(at, 0), all.length - 1)]
      ;(next ?? document.querySelector<HTMLElement>('main h1') ?? document.getElementById('screen'))?.focus()
    } else if (Date.now() < until) window.requestAnimationFrame(look)
  }
  window.requestAnimationFrame(look)
}

const logButtons = () => [...document.querySelectorAll<HTMLElement>('button[data-log]')]
