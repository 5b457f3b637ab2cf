import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { newPiece } from '../document/index.ts'
import { proofOf } from '../proof/index.ts'
import { built, onFace, partOf, step, testKernel } from '../testing/index.ts'
import { real, runs } from '../testing/sample.ts'
import { apart, TriangleTree, wallAt } from './index.ts'

const kernel = await testKernel()
const number = (low: number, high: number) => real(low, high).map((x) => Number(x.toFixed(3)))
const at = (mm: number) => ({ from: 'centre', to: 'centre', by: `${mm}` }) as const

async function gapOf(one: Parameters<typeof partOf>[0], two: Parameters<typeof partOf>[0]) {
  const part = partOf(one)
  const both = { ...part, pieces: [part.pieces[0]!, { ...newPiece('p2', 'Other', 'sand'), steps: two }] }
  const findings = await proofOf(kernel, await built(kernel, both, 0.03), { only: ['gap'] })
  const { text } = findings.find(({ check }) => check === 'gap')!
  return Number(/(?:stay|are) ([\d.]+) mm apart/.exec(text)![1])
}

describe('the gap between walls is that of what their flats stand for', () => {
  it('of two bars beside each other, however each is turned', async () => {
    await fc.assert(
      fc.asyncProperty(
        number(3, 30),
        number(3, 30),
        number(0.05, 1.5),
        number(0, 90),
        number(0, 90),
        async (a, b, gap, s, t) => {
          const bar = (id: string, d: number, x: number, turn: number) =>
            step(id, 'bar', { diameter: `${d}`, height: '9.1' }, { place: { across: at(x), turn: `${turn}` } })
          const told = await gapOf([bar('a', a, 0, s)], [bar('b', b, (a + b) / 2 + gap, t)])
          expect(Math.abs(told - gap)).toBeLessThan(1.1e-3)
        },
      ),
      { numRuns: runs(60) },
    )
  })
  it('of a pin in its bore, in the middle and beside it, and of a bar beside a wall', async () => {
    await fc.assert(
      fc.asyncProperty(
        number(3, 20),
        number(0.1, 1.2),
        number(0, 0.8),
        number(0, 90),
        number(0, 90),
        async (d, gap, aside, s, t) => {
          const block = step('p', 'plate', { width: '40', depth: '40', height: '9.1' }, { place: { turn: `${s}` } })
          const hole = step('h', 'hole', { diameter: `${d + 2 * gap}` }, { place: onFace('p', 'top') })
          const pin = step(
            'a',
            'bar',
            { diameter: `${d}`, height: '20.3' },
            { place: { across: at(aside * gap), turn: `${t}` } },
          )
          expect(Math.abs((await gapOf([block, hole], [pin])) - (1 - aside) * gap)).toBeLessThan(1.1e-3)
          const beside = step(
            'a',
            'bar',
            { diameter: `${d}`, height: '20.3' },
            { place: { across: at(20 + d / 2 + gap), turn: `${t}` } },
          )
          const flat = step('p', 'plate', { width: '40', depth: '40', height: '9.1' })
          expect(Math.abs((await gapOf([flat], [beside])) - gap)).toBeLessThan(1.1e-3)
        },
      ),
      { numRuns: runs(60) },
    )
  })
  it('of a pin in the material of a block is none', async () => {
    const block = step('p', 'plate', { width: '40', depth: '40', height: '20' })
    const pin = step('a', 'bar', { diameter: '7.3', height: '19.1' }, { place: { lift: '0.4', across: at(15.9) } })
    const part = partOf([block])
    const both = { ...part, pieces: [part.pieces[0]!, { ...newPiece('p2', 'Other', 'sand'), steps: [pin] }] }
    const findings = await proofOf(kernel, await built(kernel, both, 0.03), { only: ['gap'] })
    const found = findings.find(({ check }) => check === 'gap')
    expect(found).toMatchObject({ rank: 'fault', text: expect.stringContaining('overlap') })
  })
  it('a triangle of a ball or a cone is of neither', async () => {
    for (const fields of [{ diameter: '15.3', height: '12.7', form: 'tapered', end: '4.1' }, undefined]) {
      const one = fields ? step('a', 'bar', fields) : step('a', 'ball', { diameter: '15.3' })
      const mesh = (await built(kernel, partOf([one]), 0.03)).pieces[0]!.solid!.mesh()
      const side = {
        positions: Float64Array.from([9, 1, 5, 9.1, 1, 5, 9, 1.1, 5.1, 9, 1, 5.2]),
        triangles: Uint32Array.from([0, 1, 2, 0, 2, 3, 0, 3, 1, 1, 3, 2]),
      }
      const near = apart(new TriangleTree(mesh), new TriangleTree(side))!
      expect(wallAt(mesh, near.triangles[0])).toBeUndefined()
    }
  })
})
