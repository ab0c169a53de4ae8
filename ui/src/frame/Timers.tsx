import { useEffect } from 'react'
import { clockOf, secondsText, useSecond, useTimers, type Clock, type Running } from '../api/timers'
import { Button } from '../parts/Button'
import { useLog } from './logging'
import { ring } from './ring'

/** A timer that has rung rings again so often, in seconds, and for so long. */
const ringsEvery = 20
const ringsFor = 120

/** Timers stand on every screen while any runs, and ring. */
export function Timers() {
  const timers = useTimers()
  const now = useSecond(timers.length > 0)
  const clocks = timers.map((timer) => ({ timer, clock: clockOf(timer, now) }))
  const ringing = clocks.filter(({ clock }) => clock.phase !== 'runs').map(({ timer, clock }) => timer.id + clock.phase)
  useRinging(ringing.join(' '))
  if (timers.length === 0) return null
  return (
    <section aria-label="Timers" className="sticky top-0 z-20 print:hidden" data-timers>
      <ul>
        {clocks.map(({ timer, clock }) => (
          <Row key={timer.id} timer={timer} clock={clock} />
        ))}
      </ul>
    </section>
  )
}

/** useRinging rings when another timer ends or gets late, and again for a while. */
function useRinging(which: string) {
  useEffect(() => {
    if (which === '') return
    let left = ringsFor / ringsEvery
    ring()
    const again = window.setInterval(() => {
      if (--left <= 0) window.clearInterval(again)
      ring()
    }, ringsEvery * 1000)
    return () => window.clearInterval(again)
  }, [which])
}

const looks = {
  runs: 'bg-drying-fill text-drying border-drying',
  rings: 'bg-closing-fill text-closing border-closing border-dashed',
  over: 'bg-late-fill text-late border-late border-double',
} as const

function Row({ timer: { id, of, timer }, clock }: { timer: Running; clock: Clock }) {
  const { log } = useLog()
  const rung = clock.phase !== 'runs'
  return (
    <li
      className={`flex flex-wrap items-center gap-x-4 border-b-2 px-4 py-1.5 ${looks[clock.phase]}`}
      data-running={clock.phase}
    >
      <span className="name min-w-20 text-2xl leading-8" role="timer" aria-label={timer.title}>
        {saidClock(clock, timer.beforeMin !== undefined && timer.beforeMin > timer.minutes)}
      </span>
      <span className="min-w-0 flex-1 basis-32">
        <b role={rung ? 'alert' : undefined}>{rung ? timer.then : timer.title}</b>{' '}
        <span className="block truncate text-sm">{of}</span>
      </span>
      <Button
        look={rung ? 'loud' : 'plain'}
        className={rung ? '' : 'border-current text-current'}
        data-timer-stop
        aria-label={`${rung ? 'Done' : 'Stop'}: ${timer.title}, ${of}`}
        onClick={() => void log({ kind: 'stopped', stopsId: id }, `Timer stopped: ${timer.title}`)}
      >
        {rung ? 'Done' : 'Stop'}
      </Button>
    </li>
  )
}

/** saidClock says how long it runs, how long is left for what follows, or by how much it is over. */
function saidClock({ phase, seconds }: Clock, hurry: boolean) {
  if (phase === 'runs') return secondsText(seconds)
  if (phase === 'rings') return `${secondsText(seconds)} left`
  return hurry ? `${secondsText(seconds)} too late` : `+${secondsText(seconds)}`
}
