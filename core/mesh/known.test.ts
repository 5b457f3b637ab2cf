import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import type { Place } from '../document/index.ts'
import { built, onFace, partOf, seeded, step, testKernel } from '../testing/index.ts'
import { real, sampled } from '../testing/sample.ts'
import { randomSolid, randomTray } from '../testing/solids.ts'
import type { TriangleMesh } from './define.ts'
import { Facing } from './facing.ts'
import { KnownSurfaces } from './known.ts'
import { sameTriangles } from './same.ts'
import { TriangleTree } from './tree.ts'

const kernel = await testKernel()

type Nine = readonly number[]
const soup = (all: readonly Nine[]): TriangleMesh => ({
  positions: Float64Array.from(all.flat()),
  triangles: Uint32Array.from({ length: 3 * all.length }, (_, i) => i),
})
const rotated = (nine: Nine): Nine => [...nine.slice(3), ...nine.slice(0, 3)]
/** Of few numbers, so that corners lie in the same places. */
const nine = fc.array(fc.constantFrom(0, -0, 1 / 3, -15.3, 85.1), { minLength: 9, maxLength: 9 })

describe('triangles of two meshes are the same', () => {
  it('where they have the very same corners in the same order, wherever they stand in the mesh', () => {
    const several = fc.array(nine, { maxLength: 30 })
    fc.assert(
      fc.property(several, several, several, fc.infiniteStream(real(0, 1)), (both, ones, others, chance) => {
        const shuffled = (all: readonly Nine[]) =>
          all
            .map((each) => [chance.next().value as number, each] as const)
            .sort(([a], [b]) => a - b)
            .map(([, each]) => each)
        const now = shuffled([...both, ...ones])
        const before = shuffled([...both, ...others, ...ones.slice(0, 3).map(rotated)])
        const isSame = (a: Nine, b: Nine) => a.every((x, i) => Object.is(x, b[i]))
        const same = sameTriangles(soup(now), soup(before))
        expect([...same].map((t, i) => (t < 0 ? t : isSame(before[t]!, now[i]!)))).toEqual(
          now.map((each) => (before.some((other) => isSame(each, other)) ? true : -1)),
        )
      }),
    )
  })
  it('but for those about it, where one hole of many has changed', async () => {
    const plate = step('b', 'plate', { width: '85.1', depth: '37.3', height: '15.3' })
    const holes = (diameter: string) =>
      Array.from({ length: 12 }, (_, i) => {
        const place: Partial<Place> = {
          ...onFace('b', 'top'),
          along: { from: 'centre', to: 'centre', by: i % 2 === 0 ? '7.7' : '-8.3' },
          across: { from: 'centre', to: 'centre', by: `${6.7 * i - 36.9}` },
        }
        return step(`h${i}`, 'hole', { diameter: i === 7 ? diameter : '3.3' }, { place })
      })
    const [mesh, before] = (await Promise.all(
      ['4.1', '4.5'].map(async (d) =>
        (await built(kernel, partOf([plate, ...holes(d)]), 0.03)).pieces[0]!.solid!.mesh(),
      ),
    )) as readonly TriangleMesh[]
    const same = sameTriangles(mesh!, before!)
    const fresh = same.filter((t) => t < 0).length / same.length
    expect(fresh).toBeGreaterThan(0.02)
    expect(fresh).toBeLessThan(0.4)
  })
})

/** Marks of some triangles. */
const marks = (count: number, random: () => number, share: number) =>
  Uint8Array.from({ length: count }, () => (random() < share ? 1 : 0))

it.each(sampled(100))('crossings are asked of what is fresh alone, and all of these are found (%i)', (i) => {
  const random = seeded(i)
  const mesh = soup(
    Array.from({ length: 5 + Math.floor(80 * random()) }, () => {
      const at = [0, 1, 2].map(() => 40 * random())
      return Array.from({ length: 9 }, (_, c) => at[c % 3]! + 15.3 * random())
    }),
  )
  const fresh = marks(mesh.triangles.length / 3, random, 0.1)
  const pairsOf = (asked?: Uint8Array) =>
    [...new TriangleTree(mesh).crossings(1e-3, { fresh: asked })].flatMap((pair) => (pair ? [pair.join(' ')] : []))
  const wanted = pairsOf().filter((pair) => pair.split(' ').some((t) => fresh[Number(t)]))
  expect(pairsOf(fresh).sort()).toEqual(wanted.sort())
})

describe('what an edit leaves alone', () => {
  const search = { below: 0.9, fine: 0.45, alike: 0.1 }

  it.each(sampled(80))('has the same near to it as if it were asked anew (%i)', async (i) => {
    const random = seeded(i)
    const steps = (i % 2 === 0 ? randomTray : randomSolid)(random)
    const changed = 1 + Math.floor(random() * (steps.length - 1))
    const states = [steps, steps.filter((_, k) => k !== changed), steps]
    const known = new KnownSurfaces()
    for (const own of states) {
      const mesh = (await built(kernel, partOf(own), 0.03)).pieces[0]!.solid?.mesh()
      if (!mesh) continue
      known.begin()
      for (const through of ['solid', 'air'] as const) {
        const facing = new Facing(new TriangleTree(mesh), through)
        const before = known.before(through, mesh)
        const found = await facing.spots({ ...search, before })
        expect(found).toEqual(await facing.spots(search))
        known.keep(through, mesh, found.alone)
      }
    }
  })
  it('is not asked, but for what is fresh', async () => {
    const mesh = (await built(kernel, partOf(randomTray(seeded(4))), 0.03)).pieces[0]!.solid!.mesh()
    const facing = new Facing(new TriangleTree(mesh), 'solid')
    const wide = { ...search, below: 15.3, fine: 5 }
    const { spots } = await facing.spots(wide)
    expect(spots.length).toBeGreaterThan(0)
    const count = mesh.triangles.length / 3
    const [none, every] = [new Uint8Array(count), new Uint8Array(count).fill(1)]
    expect((await facing.spots({ ...wide, before: { told: every, fresh: none } })).spots).toEqual([])
    expect((await facing.spots({ ...wide, before: { told: every, fresh: every } })).spots).toEqual(spots)
    // What one of them faces is found on both sides.
    const { triangle, against } = spots[0]!
    const one = new Uint8Array(count)
    one[against] = 1
    const found = (await facing.spots({ ...wide, before: { told: every, fresh: one } })).spots
    expect(found.map((spot) => spot.triangle)).toContain(triangle)
  })
})

describe('what is known of surfaces', () => {
  const box = soup([[0, 0, 0, 1, 0, 0, 0, 1, 0]])
  it('is told until nobody has asked for it in three states', () => {
    for (const quiet of [2, 3, 4]) {
      const known = new KnownSurfaces()
      known.begin()
      expect(known.before('a', box)).toBeUndefined()
      known.keep('a', box, Uint8Array.of(1))
      for (let k = 0; k < quiet; k++) known.begin()
      expect(known.before('a', box)).toEqual(
        quiet > 3 ? undefined : { told: Uint8Array.of(1), fresh: Uint8Array.of(0) },
      )
    }
  })
  it('is of the latest mesh that it was told of', () => {
    const known = new KnownSurfaces()
    known.keep('a', box, Uint8Array.of(1))
    const other = soup([[0, 0, 0, 1, 0, 0, 0, 1 / 3, 0]])
    known.keep('a', other, Uint8Array.of(1))
    expect(known.before('a', box)).toEqual({ told: Uint8Array.of(0), fresh: Uint8Array.of(1) })
    expect(known.before('b', box)).toBeUndefined()
  })
})
