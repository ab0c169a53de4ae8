import { useSyncExternalStore } from 'react'
import type { EventRef, Timer, TimerView } from './client'
import { shopNow } from './clock'
import { useOutbox, useSent } from './outbox'
import { useTimerList } from './queries'
import type { Waiting } from './store'

/** Running is a timer that runs, or has rung and that nobody has stopped. */
export interface Running {
  /** Of the entry that started it. */
  id: string
  event: EventRef
  /** What it belongs to, in words. */
  of: string
  timer: Timer
  startedAt: number
}

/** useTimers is the timers of the shop with what was started and stopped here and is not sent yet. */
export function useTimers(): Running[] {
  const { data = [], dataUpdatedAt } = useTimerList()
  const lately = useSent().filter((w) => w.sentAt > dataUpdatedAt) // the shop may be lost before it has told of them
  return timersOf(data, [...lately, ...useOutbox()])
}

/** timersOf puts together what the shop knows and what waits on this device. */
export function timersOf(known: readonly TimerView[], outbox: readonly Waiting[]): Running[] {
  const kept = outbox.filter((w) => w.refused === undefined)
  const stopped = new Set(kept.map((w) => w.entry.stopsId))
  const list: Running[] = known.map(({ id, event, name, piece, step, timer, startedAt }) => ({
    id,
    event,
    of: `${step}, ${name} ${piece}`,
    timer,
    startedAt: Date.parse(startedAt),
  }))
  for (const { entry, title, at } of kept) {
    const { id, stepId, coat, timer } = entry
    if (!timer || !stepId || !coat || list.some((t) => t.id === id)) continue
    list.push({ id, event: { stepId, coat }, of: title, timer, startedAt: Date.parse(entry.happenedAt ?? at) })
  }
  return list.filter((t) => !stopped.has(t.id))
}

/** Clock is how a timer stands. */
export interface Clock {
  phase: 'runs' | 'rings' | 'over'
  /** Seconds that are left, or by which it is over. */
  seconds: number
}

/** clockOf reads a timer: it runs; it rings, and what follows may still be done in time; it is over. */
export function clockOf({ timer, startedAt }: Running, now: number): Clock {
  const gone = Math.floor((now - startedAt) / 1000)
  const ends = timer.minutes * 60
  const before = (timer.beforeMin ?? 0) * 60
  if (gone < ends) return { phase: 'runs', seconds: ends - gone }
  if (gone < before) return { phase: 'rings', seconds: before - gone }
  return { phase: 'over', seconds: gone - Math.max(ends, before) }
}

/** secondsText is 8:05, or 1:08:05. */
export function secondsText(seconds: number) {
  const two = (n: number) => String(n).padStart(2, '0')
  const [h, m, s] = [Math.floor(seconds / 3600), Math.floor((seconds % 3600) / 60), seconds % 60]
  return h > 0 ? `${h}:${two(m)}:${two(s)}` : `${m}:${two(s)}`
}

/** useSecond is the present by the shop's clock, second by second while anything runs. */
export const useSecond = (runs: boolean) => useSyncExternalStore(runs ? everySecond : never, second)

function everySecond(tell: () => void) {
  const next = window.setInterval(tell, 1000)
  return () => window.clearInterval(next)
}

const never = () => () => undefined
const second = () => Math.floor(shopNow().getTime() / 1000) * 1000
