import { levelSides } from '@makrel/core/place'
import { expect, it } from 'vitest'
import { edgeMeasuredFrom } from './pointed.ts'

const seating = {
  frame: { origin: [10, 20, 5.3], u: [0, 1, 0], v: [-1, 0, 0], n: [0, 0, 1] },
  size: [61.3, 37.7],
  sides: levelSides,
} as const
const offset = (from: 'low' | 'high' | 'centre', of?: string) => ({ from, to: 'centre', by: '3', of }) as const

it('is the edge that the sentence says, wherever the face lies and however it is turned', () => {
  // Across is to the back here, along to the left.
  expect(edgeMeasuredFrom(seating, 'across', offset('low'))).toEqual({
    kind: 'edge',
    ends: [
      [10 + 37.7 / 2, 20 - 61.3 / 2, 5.3],
      [10 - 37.7 / 2, 20 - 61.3 / 2, 5.3],
    ],
  })
  expect(edgeMeasuredFrom(seating, 'along', offset('high'))).toEqual({
    kind: 'edge',
    ends: [
      [10 - 37.7 / 2, 20 - 61.3 / 2, 5.3],
      [10 - 37.7 / 2, 20 + 61.3 / 2, 5.3],
    ],
  })
})

it('is none of a middle, of another step, of a round or of the bed', () => {
  expect(edgeMeasuredFrom(seating, 'across', offset('centre'))).toBeUndefined()
  expect(edgeMeasuredFrom(seating, 'across', offset('low', 'other'))).toBeUndefined()
  expect(edgeMeasuredFrom({ ...seating, round: 8 }, 'across', offset('low'))).toBeUndefined()
  expect(edgeMeasuredFrom({ ...seating, size: [0, 0] }, 'across', offset('low'))).toBeUndefined()
})
