import { expect, it } from 'vitest'
import type { Bead } from '../../api/client'
import { clusterLabel, clusters } from './clusters'

const bead = (minute: number, done = false) =>
  ({
    event: { stepId: `s${minute}`, coat: 1 },
    start: new Date(minute * 60_000).toISOString(),
    title: `Coat ${minute}`,
    when: 'now',
    done,
  }) as Bead
const aPixelAMinute = (at: number) => at / 60_000

it('gathers what cannot be told apart, and never what is done with what is planned', () => {
  const list = clusters([bead(0, true), bead(5, true), bead(8), bead(12), bead(40)], aPixelAMinute, 0, 100)
  expect(list.map((c) => c.beads.length)).toEqual([2, 2, 1])
  expect(clusterLabel(list[1] ?? { key: '', beads: [], x: 0 })).toBe(
    '2 sittings: Coat 8, planned now; Coat 12, planned now',
  )
})

it('leaves out what is not in sight', () => {
  expect(clusters([bead(0), bead(50), bead(500)], aPixelAMinute, 40, 100).map((c) => c.x)).toEqual([50])
})
