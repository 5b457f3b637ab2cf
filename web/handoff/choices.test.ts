import { expect, it } from 'vitest'
import { chosenOf, finenessOf, sizeOf, withChosen } from './choices.ts'

const none = { maker: {}, parts: [] } as const
const ofPart = { fineness: 0.01, for: 'volume', off: 0.0015 } as const

it('keeps what was chosen of each part, and of it what any next part is likely to leave with', () => {
  const first = withChosen(none, 'hinge', { format: 'stl', unit: 'in', piece: 'leaf', sizing: 'height', size: '4 3/4' })
  expect(chosenOf(first, 'hinge')).toMatchObject({ format: 'stl', unit: 'in', piece: 'leaf', sizing: 'height' })
  expect(chosenOf(first, 'tray')).toMatchObject({ format: 'stl', unit: 'in', piece: 'all', sizing: 'drawn' })
  const second = withChosen(first, 'tray', { format: 'obj' })
  expect([chosenOf(second, 'hinge').format, chosenOf(second, 'clip').format]).toEqual(['stl', 'obj'])
  // The part that was left first is forgotten first.
  const many = Array.from({ length: 200 }, (_, i) => `p${i}`).reduce(
    (kept, id) => withChosen(kept, id, { fineness: '0.05' }),
    withChosen(second, 'hinge', { sizes: 'all' }),
  )
  expect(many.parts).toHaveLength(200)
  expect(chosenOf(many, 'hinge').piece).toBe('all')
  expect(chosenOf(many, 'p0').fineness).toBe('0.05')
})

it('reads what was typed for the fineness and the size, and says what cannot be', () => {
  const choices = chosenOf(none, 'a')
  expect(finenessOf(choices, ofPart)).toBe(0.01)
  expect(finenessOf({ ...choices, fineness: '0.05' }, ofPart)).toBe(0.05)
  expect(finenessOf({ ...choices, fineness: 'own', own: '1/1000 in' }, ofPart)).toBeCloseTo(0.0254, 9)
  expect(() => finenessOf({ ...choices, fineness: 'own', own: '0' }, ofPart)).toThrow(/0\.001 mm or more/)
  expect(sizeOf(choices, 'mm')).toBeUndefined()
  expect(sizeOf({ ...choices, sizing: 'factor', size: '37.3' }, 'in')).toEqual({ by: 'factor', factor: 0.373 })
  expect(sizeOf({ ...choices, sizing: 'height', size: '4 3/4' }, 'in')).toEqual({
    by: 'height',
    mm: expect.closeTo(120.65, 9),
  })
  expect(sizeOf({ ...choices, sizing: 'width', size: '85.1' }, 'mm')).toEqual({ by: 'width', mm: 85.1 })
  for (const size of ['', '-3', '0', 'wide', '15°'])
    expect(() => sizeOf({ ...choices, sizing: 'depth', size }, 'mm'), size).toThrow()
})
