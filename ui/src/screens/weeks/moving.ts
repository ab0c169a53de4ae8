import { useMemo, useRef, useState } from 'react'
import type { Bead, Change, EventRef, Starts, WhatIf } from '../../api/client'
import { useStarts, useWhatIf } from '../../api/queries'
import { pinTo, suppose, useSupposed, withChange } from '../../api/supposing'
import { time } from '../../parts/threads/scale'

const quarter = 15 * 60_000

/** Moving is a sitting in somebody's hand: where it would go, whether it may, and what that would do. */
export interface Moving {
  event?: EventRef
  instrumentId?: string
  pieceId?: string
  bead?: Bead
  /** Whose it is: Knot body. */
  of: string
  at?: number
  starts?: Starts
  /** Why it may not be there; empty where it may. */
  why: string
  answer?: WhatIf
  take: (bead: Bead, instrumentId: string, pieceId: string) => void
  /** Moves it to a moment, or near it: within reach of it to where it may be. */
  moveTo: (at: number, reach: number) => void
  /** Moves it on to the next free start, or back to the one before. */
  step: (by: number) => void
  /** Supposes it there; where it may not be, it goes back, and this says why. */
  put: () => string
  leave: () => void
}

interface Held {
  bead: Bead
  instrumentId: string
  pieceId: string
  at: number
}

/** useMoving holds one sitting that is being moved by hand, with what is supposed already. */
export function useMoving(until: number): Moving {
  const [held, setHeld] = useState<Held>()
  const latest = useRef<Held>(undefined) // what a handler sees before the next drawing
  const hold = (next: Held | undefined) => {
    latest.current = next
    setHeld(next)
  }
  const untilText = useMemo(() => new Date(until).toISOString(), [until])
  const starts = useStarts(held?.bead.event, untilText)
  const supposed = useSupposed()
  const [asked, setAsked] = useState<number>()
  const why = held ? whyNot(starts.data, held.at) : ''
  const moved =
    held !== undefined && asked !== undefined && asked !== time(held.bead.start) && whyNot(starts.data, asked) === ''
  const changes: Change[] = moved ? withChange(supposed, pinTo(held.bead.event, new Date(asked))) : supposed
  const answer = useWhatIf(changes)
  // One question at a time: the next is where the hand is by then.
  if (!answer.isFetching && asked !== held?.at) setAsked(held?.at)
  return {
    event: held?.bead.event,
    instrumentId: held?.instrumentId,
    pieceId: held?.pieceId,
    bead: held?.bead,
    of: starts.data ? `${starts.data.name} ${starts.data.piece}` : '',
    at: held?.at,
    starts: starts.data,
    why,
    answer: changes.length > 0 ? answer.data : undefined,
    take: (bead, instrumentId, pieceId) => hold({ bead, instrumentId, pieceId, at: time(bead.start) }),
    moveTo: (to, reach) => latest.current && hold({ ...latest.current, at: snap(starts.data, to, reach) }),
    step: (by) => latest.current && hold({ ...latest.current, at: nextFree(starts.data, latest.current.at, by) }),
    put: () => {
      const now = latest.current
      hold(undefined)
      if (!now || now.at === time(now.bead.start)) return ''
      const refusal = starts.data
        ? whyNot(starts.data, now.at)
        : 'The shop has not said yet where it may be; try again.'
      if (refusal === '') suppose(pinTo(now.bead.event, new Date(now.at)))
      return refusal
    },
    leave: () => hold(undefined),
  }
}

/** whyNot says why a sitting may not begin at a moment; empty where it may. */
function whyNot(starts: Starts | undefined, at: number): string {
  if (!starts) return ''
  const stretch = starts.stretches.find((s) => time(s.from) <= at && at < time(s.to))
  if (!stretch)
    return at < time(starts.stretches[0]?.from ?? starts.start?.at ?? '') ? 'That is past.' : 'That is too far ahead.'
  return stretch.free ? '' : (stretch.why ?? 'It cannot be there.')
}

/** snap is a quarter of an hour at which it may begin, where there is one within reach; else the moment itself. */
function snap(starts: Starts | undefined, to: number, reach: number): number {
  const at = Math.round(to / quarter) * quarter
  if (!starts) return at
  let best = at
  let distance = reach
  for (const s of starts.stretches) {
    if (!s.free) continue
    const from = Math.ceil(time(s.from) / quarter) * quarter
    const near = Math.min(Math.max(at, from), time(s.to) - quarter)
    const candidate = near < time(s.from) ? time(s.from) : near
    if (Math.abs(candidate - at) < distance) {
      best = candidate
      distance = Math.abs(candidate - at)
    }
  }
  return best
}

/** nextFree is the first free start that lies at least so far on, or back. */
function nextFree(starts: Starts | undefined, at: number, by: number): number {
  const free = (starts?.stretches ?? []).filter((s) => s.free)
  const wanted = at + by
  if (by > 0) {
    const s = free.find((f) => time(f.to) > wanted)
    return s ? Math.max(wanted, time(s.from)) : at
  }
  const s = free.findLast((f) => time(f.from) <= wanted)
  return s ? Math.min(wanted, time(s.to) - quarter) : free[0] ? time(free[0].from) : at
}
