import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import type { Step } from '../document/index.ts'
import { Surface } from '../edges/index.ts'
import { copiesOf, namedSolid } from '../solids/index.ts'
import { built, onFace, partOf, step, testKernel } from '../testing/index.ts'
import { runs } from '../testing/sample.ts'
import { movedBy } from './moved.ts'

const kernel = await testKernel()

/** The volume of a solid whose faces have moved in by so much (its own at `open` none, or out, below 0); undefined where that is not all. */
async function movedVolume(
  steps: readonly Step[],
  by: number,
  { way = 1, open = '', fineness = 0.03 }: { way?: 1 | -1; open?: string; fineness?: number } = {},
): Promise<number | undefined> {
  const { pieces, plan } = await built(kernel, partOf([...steps]), fineness)
  const { solid, ownerOf } = pieces[0]!
  const named = namedSolid(solid!, copiesOf(plan), ownerOf)
  const size = (face: number) => (named.faces[face]!.key === open ? 0 : by)
  return kernel.scope((scope) => {
    const moved = movedBy(scope, new Surface(named, solid!.corners()), size, way)
    if (!moved) return undefined
    const made = scope.surface(moved.points, moved.triangles)
    // What is nearest to the middle of a triangle comes from the face that it is parallel to.
    const [a, b, c] = moved.triangles[0]!.map((k) => moved.points[k]!)
    const middle = [0, 1, 2].map((i) => (a![i]! + b![i]! + c![i]!) / 3) as [number, number, number]
    expect(named.faceOf[moved.cameFrom(middle)]).toBeDefined()
    return made.volume()
  })
}

const [w, d, h] = [40.3, 30.1, 20.7]
const block = step('b', 'plate', { width: `${w}`, depth: `${d}`, height: `${h}` })
const across = (by: number) => ({ from: 'centre', to: 'centre', by: `${by}` }) as const
const onTop = (x: number) => ({ place: { ...onFace('b', 'top'), across: across(x) } })
const bore = (id: string, x: number, diameter: number) => step(id, 'hole', { diameter: `${diameter}` }, onTop(x))

describe('faces that move inwards', () => {
  it('of a block leave a smaller one, whatever its sizes and wherever it stands, as long as it is thicker than twice the way', async () => {
    const size = fc.integer({ min: 40, max: 900 }).map((tenths) => tenths / 10)
    const by = fc.integer({ min: 10, max: 300 }).map((hundredths) => hundredths / 100)
    await fc.assert(
      fc.asyncProperty(size, size, size, by, size, async (x, y, z, in_, turn) => {
        const plate = step(
          'b',
          'plate',
          { width: `${x}`, depth: `${y}`, height: `${z}` },
          { place: { turn: `${turn}`, lift: `${y / 7}` } },
        )
        const rest = [x, y, z].map((all) => all - 2 * in_)
        const volume = await movedVolume([plate], in_)
        if (Math.min(...rest) <= 1e-3) expect(volume).toBeUndefined()
        else expect(volume! / rest.reduce((product, each) => product * each)).toBeCloseTo(1, 9)
      }),
      { numRuns: runs(40) },
    )
  })
  it('that come to lie in one plane enclose nothing', async () => {
    const plate = step('b', 'plate', { width: '30.3', depth: '20', height: '4' })
    expect(await movedVolume([plate], 2)).toBeUndefined()
    expect(await movedVolume([plate], 1.99)).toBeCloseTo(26.32 * 16.02 * 0.02, 6)
    expect(await movedVolume([block, bore('o', 0, 5)], d / 2 - 2.5)).toBeUndefined()
  })
  it('stay where they are open, and go out on the other side of everything', async () => {
    expect(await movedVolume([block], 2.3, { open: 'step/b/1/top' })).toBeCloseTo((w - 4.6) * (d - 4.6) * (h - 2.3), 8)
    // Outwards the edges of a block would be rounded; those of a ball are not there.
    expect(await movedVolume([block], 2.3, { way: -1 })).toBeUndefined()
    const ball = await movedVolume([step('b', 'ball', { diameter: '18.4' })], 2.1, { way: -1, fineness: 0.002 })
    expect(ball! / ((4 / 3) * Math.PI * 11.3 ** 3)).toBeCloseTo(1, 2)
  })
  it('grow round bores, past the far corners of the triangles that they border', async () => {
    const three = [block, bore('o', -11.3, 4.3), bore('p', 0.7, 5.3), bore('q', 12.2, 6.3)]
    const volume = (await movedVolume(three, 1.9, { fineness: 0.003 }))!
    const bored = [4.3, 5.3, 6.3].reduce((sum, diameter) => sum + Math.PI * (diameter / 2 + 1.9) ** 2, 0)
    expect(volume / (((w - 3.8) * (d - 3.8) - bored) * (h - 3.8))).toBeCloseTo(1, 3)
  })
  it.each<[string, Step[], number]>([
    ['an inner edge has a tube', [block, step('c', 'plate', { width: '9', depth: '8', height: '7' }, onTop(0))], 1.4],
    ['bores grow into each other', [block, bore('o', -4, 5), bore('p', 4.2, 5)], 1.9],
    ['a bore grows into the side', [block, bore('o', -16.4, 4.4)], 1.9],
    [
      'bores pass each other across, far from any corner',
      [
        block,
        bore('o', 0, 5.1),
        step(
          'p',
          'bar',
          { diameter: '5', height: '120' },
          { operation: 'cut', place: { tilt: '90', lift: '7', across: across(6.6), along: across(60) } },
        ),
      ],
      1.4,
    ],
    ['a round folds up', [step('b', 'plate', { width: '30', depth: '20', height: '10', corner: '1.1' })], 1.4],
  ])('are not all of it where %s', async (_, steps, by) => {
    expect(await movedVolume(steps, by)).toBeUndefined()
    // Less would be.
    if (_ !== 'an inner edge has a tube') expect(await movedVolume(steps, 0.21)).toBeGreaterThan(0)
  })
})
