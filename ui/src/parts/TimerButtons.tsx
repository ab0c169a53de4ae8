import { Timer as TimerIcon } from 'lucide-react'
import type { EventRef, Timer } from '../api/client'
import { useTimers } from '../api/timers'
import { Button } from './Button'
import { lower } from './words'

interface Props {
  timers: readonly Timer[]
  event: EventRef
  big?: boolean
  onStart: (timer: Timer) => void
}

/** TimerButtons start the clocks of minutes that belong to a step. */
export function TimerButtons({ timers, event, big, onStart }: Props) {
  const running = useTimers()
  if (timers.length === 0) return null
  return (
    <div className="mt-3 flex flex-wrap gap-2" role="group" aria-label="Timers of this step">
      {timers.map((timer) => {
        const runs = running.some(
          (r) => r.timer.kind === timer.kind && r.event.stepId === event.stepId && r.event.coat === event.coat,
        )
        return (
          <Button
            key={timer.kind}
            data-timer={timer.kind}
            disabled={runs}
            className={`h-auto max-w-full py-1.5 text-left whitespace-normal! ${big ? 'min-h-14 text-lg' : ''}`}
            onClick={() => onStart(timer)}
          >
            <TimerIcon className="size-5 shrink-0" aria-hidden="true" />
            {runs ? 'Runs: ' : 'Timer: '}
            {lower(timer.title)},{' '}
            {timer.minutes < 90 ? `${timer.minutes} min` : `${Math.round(timer.minutes / 6) / 10} h`}
          </Button>
        )
      })}
    </div>
  )
}
