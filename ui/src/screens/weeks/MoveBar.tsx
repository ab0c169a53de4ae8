import { useEffect, useRef } from 'react'
import { toast } from '../../parts/toasts'
import { Button } from '../../parts/Button'
import { useSay } from '../../parts/zone'
import type { Moving } from './moving'
import { day } from './view'

const quarter = 15 * 60_000

/** MoveBar says where the sitting in hand would go and what that does; arrow keys and buttons move it. */
export function MoveBar({ moving }: { moving: Moving }) {
  const say = useSay()
  const bar = useRef<HTMLDivElement>(null)
  const key = moving.event && `${moving.event.stepId}/${moving.event.coat}`
  useEffect(() => {
    if (key && document.activeElement?.closest('[data-bead]') === null) bar.current?.focus()
  }, [key])
  if (!moving.bead || moving.at === undefined) return null
  const put = () => {
    const refusal = moving.put()
    if (refusal) toast({ bad: true, text: 'It stays where it was', detail: refusal })
  }
  return (
    <div
      ref={bar}
      tabIndex={-1}
      role="group"
      aria-label={`Moving ${moving.bead.title}. Left and right arrows go to the next free quarter of an hour, with shift a day; Enter puts it there, Escape leaves it.`}
      data-move-bar
      className="fixed inset-x-0 bottom-14 z-30 flex flex-wrap items-center gap-x-4 gap-y-2 border-t-3 border-umber bg-raised px-4 py-3 shadow-[0_-6px_16px_#0002] md:bottom-0 md:left-[84px]"
      onKeyDown={(e) => {
        const back = e.key === 'ArrowLeft'
        if (back || e.key === 'ArrowRight') moving.step((back ? -1 : 1) * (e.shiftKey ? day : quarter))
        else if (e.key === 'Escape') moving.leave()
        else if (e.key === 'Enter' && e.target === e.currentTarget) put()
        else return
        e.preventDefault()
      }}
    >
      <p>
        <b>
          {moving.bead.title}, {moving.of}
        </b>{' '}
        to <b data-move-to>{say(moving.at)}</b>
      </p>
      <p className={moving.why ? 'font-semibold text-late' : 'text-ink-2'} role="status" data-move-says>
        {moving.why || (moving.answer ? moving.answer.sum : 'Where the thread glows it may be put.')}
      </p>
      <div className="ml-auto flex flex-wrap gap-2">
        <Button onClick={() => moving.step(-day)}>A day back</Button>
        <Button onClick={() => moving.step(-quarter)}>Earlier</Button>
        <Button onClick={() => moving.step(quarter)}>Later</Button>
        <Button onClick={() => moving.step(day)}>A day on</Button>
        <Button look="loud" disabled={moving.why !== ''} onClick={put}>
          Put it there
        </Button>
        <Button onClick={moving.leave}>Leave it</Button>
      </div>
    </div>
  )
}
