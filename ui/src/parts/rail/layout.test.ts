import { describe, expect, it } from 'vitest'
import type { Tag } from '../../api/client'
import { hang, railScale, tagWidth } from './layout'

const from = Date.parse('2026-03-12T09:00:00Z')
const hour = 3_600_000
const tagAt = (hours: number) => ({ at: new Date(from + hours * hour).toISOString() }) as Tag
const axis = [0, 1, 3, 8, 24, 72].map((h) => ({ at: new Date(from + h * hour).toISOString(), label: `${h} h` }))

describe('railScale', () => {
  it('gives every mark as much room, whatever time lies between, and keeps what is past at its end', () => {
    const x = railScale(axis, 1016)
    expect(axis.map((a) => x(Date.parse(a.at)))).toEqual([8, 208, 408, 608, 808, 1008])
    expect(x(from - 99 * hour)).toBe(8)
  })
})

describe('hang', () => {
  it.each([
    ['all at once', Array.from({ length: 14 }, () => 0)],
    ['one after another', Array.from({ length: 14 }, (_, i) => i * 5)],
    ['all at the far end', Array.from({ length: 14 }, () => 72)],
  ])('hangs no tag over another, nor over an end: %s', (_, hours) => {
    const width = 1164
    const { hung } = hang(hours.map(tagAt), railScale(axis, width), width)
    expect(hung).toHaveLength(14)
    for (const a of hung) {
      expect(a.left).toBeGreaterThanOrEqual(0)
      expect(a.left + tagWidth).toBeLessThanOrEqual(width)
      for (const b of hung)
        if (a !== b && a.row === b.row) expect(Math.abs(a.left - b.left)).toBeGreaterThanOrEqual(tagWidth)
    }
  })

  it('hangs a tag under its cord where there is room', () => {
    const { hung } = hang([tagAt(3)], railScale(axis, 1016), 1016)
    expect(hung[0]).toMatchObject({ cord: 408, left: 384, row: 0 })
  })
})
