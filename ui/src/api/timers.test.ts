import { expect, it, vi } from 'vitest'
import type { TimerView } from './client'
import type { Waiting } from './store'

vi.mock('./outbox', () => ({ useOutbox: () => [], useSent: () => [] }))
vi.mock('./queries', () => ({ useTimerList: () => ({ data: [] }) }))
vi.mock('./clock', () => ({ shopNow: () => new Date() }))

const { clockOf, secondsText, timersOf } = await import('./timers')

const timer = { kind: 'wipe-off', title: 'Soaks', minutes: 8, beforeMin: 20, then: 'Wipe off.' }
const event = { stepId: 'step', coat: 1 }
const known = { id: 'a', event, name: 'Knot', piece: 'body', step: 'Coat 1', timer, startedAt: '2026-03-12T15:00:00Z' }
const waiting = (entry: Partial<Waiting['entry']>, refused?: string) =>
  ({ entry: { id: 'x', ...entry }, title: 'Coat 2, Ruff neck', at: '2026-03-12T15:05:00Z', refused }) as Waiting

it('shows what the shop knows and what waits here, without what was stopped', () => {
  const started = waiting({ id: 'b', kind: 'timed', ...event, timer })
  const list = timersOf([known as TimerView], [started])
  expect(list.map((t) => [t.id, t.of])).toEqual([
    ['a', 'Coat 1, Knot body'],
    ['b', 'Coat 2, Ruff neck'],
  ])
  expect(timersOf([known as TimerView], [waiting({ kind: 'stopped', stopsId: 'a' })])).toEqual([])
  expect(timersOf([known as TimerView], [waiting({ id: 'a', kind: 'timed', ...event, timer })])).toHaveLength(1)
  expect(timersOf([], [waiting({ id: 'b', kind: 'timed', ...event, timer }, 'refused')])).toEqual([])
})

it('runs, rings until it is too late, and is over', () => {
  const [running] = timersOf([known as TimerView], [])
  if (!running) throw new Error('none runs')
  const after = (minutes: number) => clockOf(running, running.startedAt + minutes * 60_000)
  expect(after(0)).toEqual({ phase: 'runs', seconds: 480 })
  expect(after(8)).toEqual({ phase: 'rings', seconds: 720 })
  expect(after(21)).toEqual({ phase: 'over', seconds: 60 })
  const plain = { ...running, timer: { ...timer, beforeMin: undefined } }
  expect(clockOf(plain, running.startedAt + 9 * 60_000)).toEqual({ phase: 'over', seconds: 60 })
})

it('prints minutes and hours', () => {
  expect([5, 65, 3665].map(secondsText)).toEqual(['0:05', '1:05', '1:01:05'])
})
