import { describe, expect, it } from 'vitest'
import type { PieceWish, Reference } from '../../api/client'
import {
  endingOf,
  has,
  isPlain,
  regionsOf,
  withEffect,
  withEnding,
  withLayer,
  withMoved,
  withNew,
  withPlain,
  withPreset,
  withReach,
  withRegion,
  withRegionNamed,
  withSplit,
  withTwin,
  withWays,
  without,
  withoutRegion,
} from './stack'

const reference = {
  presets: [
    {
      id: 'natural',
      text: 'Natural',
      layers: [{ id: 'clear', effect: 'clear', family: 'water-clear', sheen: 'satin' }],
    },
    {
      id: 'one-colour',
      text: 'One colour',
      layers: [
        { id: 'colour', effect: 'colour', as: 'even' },
        { id: 'clear', effect: 'clear', family: 'nitro', sheen: 'gloss' },
      ],
    },
    { id: 'bare', text: 'Bare', layers: [] },
  ],
  effects: ['texture', 'colour', 'fill', 'flake', 'clear', 'wax'].map((effect) => ({
    effect,
    new: effect === 'flake' ? { of: 'flake-100' } : {},
  })),
} as unknown as Reference
const all = ['top', 'back', 'sides']
const piece: PieceWish = { kind: 'body', wood: 'alder-red', length: '480 mm', width: '330 mm' }
const natural = withPreset(reference, piece, 'natural')

describe('the stack of a piece', () => {
  it('keeps clear, texture and wax when another preset is chosen', () => {
    const worked = withEffect(withEffect(withEnding(natural, { sheen: 'matte' }), 'texture', true), 'wax', true)
    const dyed = withPreset(reference, worked, 'one-colour')
    expect(dyed.layers?.map((l) => l.id)).toEqual(['texture', 'colour', 'clear', 'wax'])
    expect(endingOf(dyed)?.layer).toMatchObject({ family: 'water-clear', sheen: 'matte' })
    expect(dyed.preset).toBe('one-colour')
  })
  it('may end in nothing', () => {
    expect(endingOf(withPreset(reference, natural, 'bare'))).toBeUndefined()
    expect(withPreset(reference, natural, 'no such')).toBe(natural)
  })
  it('takes schools to the layers whose choice they are', () => {
    const dyed = withWays(withPreset(reference, natural, 'one-colour'), {
      method: 'spray',
      shine: 'papers',
      'colour-as': 'bound',
      'colour-on': 'washcoat',
    })
    expect(dyed.layers).toMatchObject([
      { id: 'colour', carrier: 'bound', ways: { 'colour-on': 'washcoat' } },
      { id: 'clear', method: 'spray', ways: { shine: 'papers' } },
    ])
  })
  it('takes an effect away again', () => {
    expect(has(withEffect(natural, 'wax', true), 'wax')).toBe(true)
    expect(has(withEffect(withEffect(natural, 'wax', true), 'wax', false), 'wax')).toBe(false)
  })
  it('keeps colour off a region and lets it back', () => {
    const dyed = withPreset(reference, natural, 'one-colour')
    expect(isPlain(natural, 'back')).toBe(false)
    const plain = withPlain(dyed, 'back', true)
    expect(plain.layers?.[0]?.regions).toEqual(['top', 'sides'])
    expect([isPlain(plain, 'back'), isPlain(plain, 'top')]).toEqual([true, false])
    expect(withPlain(plain, 'back', false).layers?.[0]?.regions).toBeUndefined()
    const none = all.reduce((p, region) => withPlain(p, region, true), dyed)
    expect(none.layers?.[0]?.off).toBe(true)
  })
})

describe('layers', () => {
  const dyed = withPreset(reference, natural, 'one-colour')
  const ids = (p: PieceWish) => p.layers?.map((l) => l.id)
  it('come where they usually lie, each with an id of its own', () => {
    const [flaked, id] = withNew(reference, dyed, 'flake')
    expect(ids(flaked)).toEqual(['colour', 'flake', 'clear'])
    expect(flaked.layers?.[1]).toMatchObject({ id, effect: 'flake', of: 'flake-100' })
    const [again, second] = withNew(reference, flaked, 'colour')
    expect(ids(again)).toEqual(['colour', 'colour-2', 'flake', 'clear'])
    expect(second).toBe('colour-2')
    expect(ids(withNew(reference, dyed, 'wax')[0])).toEqual(['colour', 'clear', 'wax'])
  })
  it('are moved, doubled, changed and taken away', () => {
    expect(ids(withMoved(dyed, 'colour', 1))).toEqual(['clear', 'colour'])
    expect(withMoved(dyed, 'colour', -1)).toBe(dyed)
    expect(ids(withTwin(dyed, 'colour')[0])).toEqual(['colour', 'colour-2', 'clear'])
    expect(ids(withTwin(withTwin(dyed, 'colour')[0], 'colour-2')[0])).toEqual([
      'colour',
      'colour-2',
      'colour-3',
      'clear',
    ])
    expect(withLayer(dyed, 'clear', { coats: 7 }).layers?.[1]).toMatchObject({
      id: 'clear',
      coats: 7,
      family: 'water-clear',
    })
    expect(ids(without(dyed, 'colour'))).toEqual(['clear'])
    expect(without(dyed, 'colour').preset).toBeUndefined()
    expect(without(natural, 'clear')).toMatchObject({ layers: [], preset: 'bare' })
  })
  it('lie on some regions, or on all', () => {
    const top = withReach(withReach(dyed, 'colour', 'back'), 'colour', 'sides')
    expect(top.layers?.[0]?.regions).toEqual(['top'])
    const off = withReach(top, 'colour', 'top')
    expect(off.layers?.[0]).toMatchObject({ off: true })
    expect(withReach(off, 'colour', 'sides').layers?.[0]).toMatchObject({ off: undefined, regions: ['sides'] })
    const all = withReach(withReach(top, 'colour', 'back'), 'colour', 'sides')
    expect(all.layers?.[0]?.regions).toBeUndefined()
  })
})

describe('regions', () => {
  const dyed = withReach(withReach(withPreset(reference, natural, 'one-colour'), 'colour', 'back'), 'colour', 'sides')
  const split = withSplit(dyed, { name: 'strips', kind: 'strips', count: 3 })
  it('are split, and what was wished of the whole is wished of both', () => {
    expect(regionsOf(split)).toEqual(['top', 'back', 'sides', 'strips'])
    expect(split.layers?.[0]?.regions).toEqual(['top', 'strips'])
    expect(split.layers?.[1]?.regions).toBeUndefined()
  })
  it('are renamed wherever they are spoken of', () => {
    const named = withRegionNamed(split, 'strips', 'dünne Streifen')
    expect(regionsOf(named).at(-1)).toBe('dünne Streifen')
    expect(named.layers?.[0]?.regions).toEqual(['top', 'dünne Streifen'])
  })
  it('are given back, and what was wished there only is switched off', () => {
    const only = withReach(split, 'colour', 'top')
    expect(only.layers?.[0]?.regions).toEqual(['strips'])
    const back = withoutRegion(only, 'strips')
    expect(regionsOf(back)).toEqual(['top', 'back', 'sides'])
    expect(back.layers?.[0]).toMatchObject({ off: true, regions: undefined })
  })
  it('that differ in nothing are left out', () => {
    const oak = withRegion(natural, { name: 'top', wood: 'oak' })
    expect(oak.regions).toEqual([{ name: 'top', wood: 'oak' }])
    expect(withRegion(oak, { name: 'top' }).regions).toEqual([])
  })
})
