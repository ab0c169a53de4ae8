import { scaleLinear } from 'd3-scale'
import type { Rack, Tag } from '../../api/client'

export const tagWidth = 172
export const tagHeight = 92
const gap = 10
const rowGap = 14
const edge = 8

/** Hung is a tag with its place under the rail. */
export interface Hung {
  tag: Tag
  /** Where its cord leaves the rail. */
  cord: number
  left: number
  row: number
}

/** railScale compresses time: every mark of the axis is as far from the next. */
export function railScale(axis: Rack['axis'], width: number) {
  const step = (width - 2 * edge) / Math.max(1, axis.length - 1)
  return scaleLinear()
    .domain(axis.map((t) => new Date(t.at).getTime()))
    .range(axis.map((_, i) => edge + i * step))
    .clamp(true)
}

/**
 * hang places the tags in rows so that none overlap and each stays as near to
 * its cord as it can: every tag takes the row that lets it hang furthest left of
 * where it would slip past its cord, and rows that run over are pushed back.
 */
export function hang(tags: Tag[], x: (at: number) => number, width: number): { hung: Hung[]; rows: number } {
  const perRow = Math.max(1, Math.floor((width + gap) / (tagWidth + gap)))
  const rows: Hung[][] = Array.from({ length: Math.max(3, Math.ceil(tags.length / perRow)) }, () => [])
  for (const tag of tags) {
    const cord = x(new Date(tag.at).getTime())
    const wanted = Math.min(Math.max(0, cord - 24), width - tagWidth)
    const free = rows.filter((row) => row.length < perRow)
    const right = (row: Hung[]) => (row.at(-1)?.left ?? -tagWidth - gap) + tagWidth + gap
    const best = free.reduce((a, b) => (Math.max(wanted, right(b)) < Math.max(wanted, right(a)) ? b : a))
    best.push({ tag, cord, left: Math.max(wanted, right(best)), row: rows.indexOf(best) })
  }
  for (const row of rows) {
    let most = width - tagWidth
    for (const h of row.toReversed()) {
      h.left = Math.min(h.left, most)
      most = h.left - tagWidth - gap
    }
  }
  const used = rows.filter((row) => row.length > 0)
  return { hung: used.flat(), rows: used.length }
}

export const rowTop = (row: number) => 66 + row * (tagHeight + rowGap)
