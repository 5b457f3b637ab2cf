import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { newPiece } from '../document/index.ts'
import { unit, type Vec3 } from '../place/index.ts'
import { proofOf } from '../proof/index.ts'
import { built, onFace, partOf, step, testKernel } from '../testing/index.ts'
import { real, runs } from '../testing/sample.ts'
import { apart, betweenWalls, TriangleTree, wallAt } from './index.ts'

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

describe('walls by their formulas', () => {
  const round = (more: object) => ({
    ...({ kind: 'round', centre: [0, 0, 0], axis: [0, 0, 1], radius: 3, convex: true, sagitta: 0 } as const),
    ...more,
  })
  /** A unit direction, and one square to it. */
  const ways = fc.tuple(real(0, 2 * Math.PI), real(-1.2, 1.2)).map(([a, b]) => ({
    way: [Math.cos(a) * Math.cos(b), Math.sin(a) * Math.cos(b), Math.sin(b)] as const,
    across: [-Math.sin(a), Math.cos(a), 0] as const,
  }))
  it('tell how far a pin is from a flat beside it, and nothing of a bore or of one that leans to it', () =>
    fc.assert(
      fc.property(
        ways,
        number(0.5, 9),
        number(0.01, 2),
        number(-40, 40),
        number(0.01, 0.5),
        ({ way, across }, r, gap, off, lean) => {
          const flat = { kind: 'flat', normal: way, offset: off } as const
          const centre = [0, 1, 2].map((k) => way[k]! * (off + r + gap) + 17.3 * across[k]!) as unknown as Vec3
          const pin = round({ centre, axis: across, radius: r })
          expect(betweenWalls(pin, flat)).toBeCloseTo(gap, 9)
          expect(betweenWalls(flat, pin)).toBeCloseTo(gap, 9)
          expect(betweenWalls({ ...pin, convex: false }, flat)).toBeUndefined()
          const leaning = unit([0, 1, 2].map((k) => across[k]! + lean * way[k]!) as unknown as Vec3)
          expect(betweenWalls({ ...pin, axis: leaning }, flat)).toBeUndefined()
          expect(betweenWalls(flat, flat)).toBeUndefined()
        },
      ),
    ))
  it('tell how far rounds are apart whose axes are parallel: side by side, or one in the other', () =>
    fc.assert(
      fc.property(
        ways,
        number(0.5, 9),
        number(0.5, 9),
        number(0.01, 2),
        real(0, 1),
        ({ way, across }, a, b, gap, aside) => {
          const moved = (by: number) => [0, 1, 2].map((k) => across[k]! * by + 5.1 * way[k]!) as unknown as Vec3
          const pin = round({ axis: way, radius: a })
          expect(betweenWalls(pin, round({ axis: way, radius: b, centre: moved(a + b + gap) }))).toBeCloseTo(gap, 9)
          const bore = round({ axis: way, radius: a + gap, convex: false, centre: moved(aside * gap) })
          expect(betweenWalls(pin, bore)).toBeCloseTo((1 - aside) * gap, 9)
          expect(betweenWalls(bore, pin)).toBeCloseTo((1 - aside) * gap, 9)
          expect(betweenWalls(bore, bore)).toBeUndefined()
          expect(betweenWalls(pin, round({ axis: across, radius: b }))).toBeUndefined()
        },
      ),
    ))
})
