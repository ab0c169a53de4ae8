import { expect, test } from 'vitest'
import { found } from './found'

test('every word is looked for, in any of the texts, whatever its accents', () => {
  expect(found('', 'Knot')).toBe(true)
  expect(found('knutt 031', 'Knütt', 'SR 26-031')).toBe(true)
  expect(found('  MAPLE   cure ', 'Dunlin', 'Maple, hard', 'Cure in full')).toBe(true)
  expect(found('maple ash', 'Dunlin', 'Maple, hard')).toBe(false)
  expect(found('浜', '浜シギ')).toBe(true)
})
