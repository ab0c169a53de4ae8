import { describe, expect, it } from 'vitest'
import type { PieceWish, Reference } from '../../api/client'
import { endingOf, has, isPlain, withEffect, withEnding, withPlain, withPreset, withWays } from './stack'

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
    const plain = withPlain(dyed, 'back', true, all)
    expect(plain.layers?.[0]?.regions).toEqual(['top', 'sides'])
    expect([isPlain(plain, 'back'), isPlain(plain, 'top')]).toEqual([true, false])
    expect(withPlain(plain, 'back', false, all).layers?.[0]?.regions).toBeUndefined()
    const none = all.reduce((p, region) => withPlain(p, region, true, all), dyed)
    expect(none.layers?.[0]?.off).toBe(true)
  })
})
