import { describe, expect, it } from 'vitest'
import type { Part } from '../document/index.ts'
import { built, onFace, partOf, repeat, step, testKernel } from '../testing/index.ts'
import { proofOf } from './index.ts'

const kernel = await testKernel()

const textsOf = async (part: Part, check: string) =>
  (await proofOf(kernel, await built(kernel, part, 0.05), { only: [check] })).flatMap(({ rank, text }) =>
    rank === 'pass' ? [] : [text],
  )
const block = (id: string, [w, d, h]: readonly (number | string)[], place: object = {}, more: object = {}) =>
  step(id, 'plate', { width: `${w}`, depth: `${d}`, height: `${h}` }, { place, ...more } as never)
const base = (turn = '0') =>
  block('a', [61.3, 30.7, 4.1], { turn, across: { from: 'centre', to: 'centre', by: '7.7' } })

describe('where something is', () => {
  it.each(['0', '37.3', '-121.7'])('is told by its faces, and by the copies that it is true of (%s°)', async (turn) => {
    // 1.3, 0.9, 0.5 and 0.1 mm thick.
    const fins = block('f', ['1.7 - copy * 0.4', 12.7, 9.3], onFace('a', 'top'), {
      repeats: [repeat('row', { count: '4', spacing: '11.3' })],
    })
    const texts = await textsOf(partOf([base(turn), fins]), 'walls')
    expect(texts).toEqual([
      expect.stringContaining('is 0.1 mm thick at the left and right of copy 4 of Step 2 of Piece 1 (plate), less'),
      expect.stringContaining('is 0.5 mm thick at the left and right of copy 3 of Step 2 of Piece 1 (plate):'),
    ])
  })
  it('names no copy where all are meant, nor faces of which there are many', async () => {
    const fins = (width: string) =>
      block('f', [width, 12.7, 9.3], onFace('a', 'top'), { repeats: [repeat('row', { count: '3', spacing: '11.3' })] })
    const [first] = await textsOf(partOf([base(), fins('0.3')]), 'walls')
    expect(first).toContain('thick at the left and right of Step 2 of Piece 1 (plate), less')
    const prism = (id: string, size: string, more: object) =>
      step(id, 'prism', { sides: '6', size, height: '9.3' }, { place: onFace('a', 'top'), ...more } as never)
    const tube = [
      prism('t', '20.3', {}),
      prism('u', '19.7', { place: { ...onFace('a', 'top'), rest: 'on' }, operation: 'cut' }),
    ]
    const [thin] = await textsOf(partOf([base(), ...tube]), 'walls')
    expect(thin).toMatch(/ thick at Step 2 of Piece 1 \(prism\) and Step 3 of Piece 1 \(prism\), less/)
  })
  it('is told by two steps where it lies between them', async () => {
    const pocket = (id: string, by: number) =>
      block(
        id,
        [9.3, 12.1, 3.3],
        { ...onFace('a', 'top'), lift: '-3.3', across: { from: 'centre', to: 'centre', by: `${by}` } },
        { operation: 'cut' },
      )
    const [text] = await textsOf(partOf([base('15.3'), pocket('p', -4.75), pocket('q', 4.75)]), 'walls')
    expect(text).toContain('at the right of Step 2 of Piece 1 (plate) and the left of Step 3 of Piece 1 (plate), less')
  })
  it('names the copy whose neck is too thin', async () => {
    const balls = step('b', 'ball', { diameter: '7.3 + copy * 0.4' }, {
      place: { ...onFace('a', 'top'), lift: '-0.05' },
      repeats: [repeat('row', { count: '3', spacing: '14.3' })],
    } as never)
    const texts = await textsOf(partOf([base('15.3'), balls]), 'necks')
    expect(texts.length).toBe(3)
    for (const copy of [1, 2, 3])
      expect(texts.filter((text) => text.includes(`copy ${copy} of Step 2 of Piece 1 (ball)`))).toHaveLength(1)
  })
})
