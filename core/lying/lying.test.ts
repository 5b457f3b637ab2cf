import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import type { Laid } from '../document/index.ts'
import { norm, pointOut, scaled, type Vec3 } from '../place/index.ts'
import { motionsIn, movedBy, turnFor } from '../solids/index.ts'
import { built, onFace, partOf, runs, step, testKernel } from '../testing/index.ts'
import { real } from '../testing/sample.ts'
import { lyingOf, waysToLie } from './index.ts'

const kernel = await testKernel()
const plate = (id: string, [w, d, h]: readonly number[], place: object = {}) =>
  step(id, 'plate', { width: `${w}`, depth: `${d}`, height: `${h}` }, { place } as never)
const ways = async (...steps: Parameters<typeof partOf>[0]) =>
  (await lyingOf(kernel, await built(kernel, partOf(steps), 0.02)))[0]!.ways
const way = (found: Awaited<ReturnType<typeof ways>>, down: Laid['down']) => found.find((each) => each.down === down)!

describe('ways to lie', () => {
  it('are the six sides of a block', async () => {
    const found = await ways(plate('a', [31.3, 17.9, 6.1]))
    expect(found.length).toBe(6)
    for (const { hangs, begins, contact, size, tips } of found) {
      expect([hangs, begins]).toEqual([0, 0])
      expect(contact).toBeCloseTo(size[0] * size[1], 3)
      expect(tips).toBeCloseTo((Math.atan2(Math.min(size[0], size[1]), size[2]) * 180) / Math.PI, 0)
    }
    // Nothing hangs in any: the lowest is the best, and it lies so as it is drawn.
    expect(found[0]!.isDrawn).toBe(true)
    expect(found[0]!.size[2]).toBeCloseTo(6.1, 9)
  })
  it('bring down the way that they are told by, and are told once', () =>
    fc.assert(
      fc.property(
        fc.array(fc.tuple(real(-30, 30), real(-30, 30), real(-30, 30)), { minLength: 5, maxLength: 14 }),
        (points) => {
          const found = waysToLie(kernel, points)
          for (const down of found) {
            const turn = turnFor(down, () => [0, 0, -1])
            if (typeof down === 'string') continue
            const turned = pointOut(turn, scaled(down, 1 / norm(down)))
            expect(turned[2]).toBeCloseTo(-1, 6)
            // A flat of the hull: three corners of it lie on the bed.
            const heights = points.map((p) => pointOut(turn, p)[2]).sort((a, b) => a - b)
            expect(heights[2]! - heights[0]!).toBeLessThan(1e-3)
          }
          expect(new Set(found.map((down) => JSON.stringify(down))).size).toBe(found.length)
        },
      ),
      { numRuns: runs(60), endOnFailure: true },
    ))
  it('tell what hangs of a table: all of its top but its legs, or nothing upside down', async () => {
    const top: readonly number[] = [40.7, 31.3, 4.1]
    const leg = (id: string, x: number, y: number) =>
      plate(id, [5.3, 5.3, 12.7], {
        across: { from: 'centre', to: 'centre', by: `${x}` },
        along: { from: 'centre', to: 'centre', by: `${y}` },
      })
    const legs = [leg('a', -15.3, -11), leg('b', 15.3, -11), leg('c', -15.3, 11), leg('d', 15.3, 11)]
    const found = await ways(...legs, plate('top', top, { lift: '12.7' }))
    expect(found[0]!.down).toBe('top')
    expect(found[0]!.hangs).toBe(0)
    const drawn = way(found, 'bottom')
    const under = top[0]! * top[1]! - 4 * 5.3 ** 2
    expect(drawn.hangs).toBeGreaterThan(0.9 * under - 300)
    expect(drawn.hangs).toBeLessThan(under * 1.01)
    expect(drawn.contact).toBeCloseTo(4 * 5.3 ** 2, 1)
  })
  it('tell how long the lines are that each is laid in, and what takes less comes first', async () => {
    const size = [41.3, 13.7, 9.1]
    const found = await ways(plate('a', size))
    const { lineWidth, firstLayer, layerHeight } = partOf([]).printer
    for (const [down, k] of [
      ['bottom', 2],
      ['front', 1],
      ['left', 0],
    ] as const) {
      const [w, d] = size.filter((_, i) => i !== k) as [number, number]
      // A layer is there where its middle is.
      const layers = 1 + Math.ceil((size[k]! - firstLayer - layerHeight / 2) / layerHeight)
      const round = 2 * 2 * (w + d)
      const each = round + (0.2 * (w * d - round * lineWidth)) / lineWidth + 30
      expect(way(found, down).lines / (layers * each)).toBeCloseTo(1, 4)
    }
    const lines = found.map((each) => each.lines)
    expect(lines).toEqual([...lines].sort((a, b) => a - b))
    expect(lines.at(-1)! / lines[0]!).toBeGreaterThan(1.3)
  })
  it('count the rounds that come out upright', async () => {
    const found = await ways(
      plate('a', [31.3, 17.9, 15.1]),
      step('up', 'hole', { diameter: '5.3' }, { place: onFace('a', 'top') }),
      step('level', 'hole', { diameter: '4.1' }, { place: onFace('a', 'front') }),
    )
    expect(way(found, 'bottom')).toMatchObject({ upright: 1, rounds: 2 })
    expect(way(found, 'front')).toMatchObject({ upright: 1, rounds: 2 })
  })
  it('put a leaning wedge on its flat, which then lies as it is told', async () => {
    const part = partOf([plate('a', [31.3, 17.9, 6.1], { tilt: '37.3', lift: '20' })])
    const drawn = await built(kernel, part, 0.02)
    const [best] = (await lyingOf(kernel, drawn))[0]!.ways
    expect(best!.size[2]).toBeCloseTo(6.1, 2)
    const laid = { piece: part.pieces[0]!.id, down: best!.down, turn: 15.3, at: [3, 4] as const }
    const pose = { id: 'p', name: 'P', set: [], laid: [laid] }
    const posed = movedBy(kernel, drawn, motionsIn(kernel, drawn, pose))
    const { min, max } = posed.built.pieces[0]!.solid!.bounds()!
    expect(min[2]).toBeCloseTo(0, 5)
    expect(max[2]).toBeCloseTo(6.1, 2)
    const middle = [0, 1].map((k) => (min[k]! + max[k]!) / 2)
    expect(middle[0]).toBeCloseTo(3, 4)
    expect(middle[1]).toBeCloseTo(4, 4)
    posed.release()
  })
  it('are told of what does not fit the bed, last', async () => {
    const found = await ways(plate('a', [11.3, 12.7, 236]))
    // It is longer than the bed is wide, and just not too high.
    expect(found.map(({ fitsBed, size }) => [fitsBed, Math.round(size[2])]).slice(0, 3)).toEqual([
      [true, 236],
      [true, 236],
      [false, 11],
    ])
    expect(found.every(({ fitsBed }, i) => i === 0 || Number(fitsBed) <= Number(found[i - 1]!.fitsBed))).toBe(true)
  })
  it('of a direction of no length are as drawn', () => {
    const none: Vec3 = [0, 0, 0]
    expect(turnFor(none, () => [0, 0, -1])).toMatchObject({ u: [1, 0, 0] })
  })
})
