import { expect, it } from 'vitest'
import type { Compensation } from '../compensation/index.ts'
import { built, builtTwice, onFace, partOf, seeded, step, testKernel } from '../testing/index.ts'
import { figures, objFacets, type Point, stlFacets, threeMfFacets } from '../testing/reader.ts'
import { sampled } from '../testing/sample.ts'
import { formatOf, handOff, withCompensation } from './index.ts'

const kernel = await testKernel()

type P2 = readonly [number, number]

/** A plate that is turned, with holes and posts where they have room; all that a file of it must come to is arithmetic. */
function randomPlate(random: () => number) {
  const between = (low: number, high: number) => Number((low + (high - low) * random()).toFixed(3))
  const [width, depth, high] = [between(18, 70), between(18, 50), between(2.4, 9)]
  const turn = between(-80, 80)
  const rounds: { readonly at: P2; readonly radius: number; readonly isHole: boolean; readonly high: number }[] = []
  for (let tries = 0; tries < 30 && rounds.length < 5; tries++) {
    const isHole = random() < 0.7
    const radius = between(1, isHole ? 9 : 5)
    const at: P2 = [between(-width / 2, width / 2), between(-depth / 2, depth / 2)]
    // So far apart that none of the walls between them is a thin one.
    const room = radius + 2.5
    if (Math.abs(at[0]) > width / 2 - room || Math.abs(at[1]) > depth / 2 - room) continue
    if (rounds.some((other) => Math.hypot(other.at[0] - at[0], other.at[1] - at[1]) < other.radius + room)) continue
    rounds.push({ at, radius, isHole, high: between(3, 8) })
  }
  const beside = ([x, y]: P2) => ({
    ...onFace('plate', 'top'),
    across: { from: 'centre', to: 'centre', by: `${x}` } as const,
    along: { from: 'centre', to: 'centre', by: `${y}` } as const,
  })
  const steps = [
    step('plate', 'plate', { width: `${width}`, depth: `${depth}`, height: `${high}` }, { place: { turn: `${turn}` } }),
    ...rounds.map(({ at, radius, isHole, high: length }, i) =>
      isHole
        ? step(`r${i}`, 'hole', { diameter: `${2 * radius}` }, { place: beside(at), operation: 'cut' })
        : step(`r${i}`, 'bar', { diameter: `${2 * radius}`, height: `${length}` }, { place: beside(at) }),
    ),
  ]
  const compensation: Compensation = {
    ...{
      walls: between(-0.06, 0.09),
      rounds: between(0, 0.16),
      flare: between(0, 0.25),
      shrinkage: between(-0.2, 1.4),
    },
    ...{ firstLayer: 0.24, lineWidth: 0.44, printer: 'Tern 220', material: 'PLA', origins: [] },
  }
  return { steps, width, depth, high, turn, rounds, compensation }
}

/** The outlines of a solid at a height that no corner has: stretches through its facets, put end to end. */
function outlinesAt(facets: readonly Point[][], z: number): P2[][] {
  const next = new Map<string, { readonly at: P2; readonly to: string }>()
  const key = ([a, b]: readonly [Point, Point]) => (`${a}` < `${b}` ? `${a}|${b}` : `${b}|${a}`)
  const on = ([a, b]: readonly [Point, Point]): P2 => {
    const share = (z - a[2]) / (b[2] - a[2])
    return [a[0] + share * (b[0] - a[0]), a[1] + share * (b[1] - a[1])]
  }
  for (const [a, b, c] of facets as readonly [Point, Point, Point][]) {
    const sides = [
      [a, b],
      [b, c],
      [c, a],
    ] as const
    const up = sides.find(([p, q]) => p[2] < z && q[2] > z)
    const down = sides.find(([p, q]) => p[2] > z && q[2] < z)
    if (up && down) next.set(key(down), { at: on(down), to: key(up) })
  }
  const rings: P2[][] = []
  while (next.size > 0) {
    const ring: P2[] = []
    let [at] = next.keys()
    for (let found = next.get(at!); found; found = next.get(at)) {
      ring.push(found.at)
      next.delete(at!)
      at = found.to
    }
    rings.push(ring)
  }
  return rings
}

/** How far the nearest and the farthest place of an outline are from a point. */
function reachOf(ring: readonly P2[], [x, y]: P2): readonly [number, number] {
  let [least, most] = [Infinity, 0]
  for (const [i, a] of ring.entries()) {
    const b = ring[(i + 1) % ring.length]!
    const [u, v] = [b[0] - a[0], b[1] - a[1]]
    const share = Math.min(1, Math.max(0, ((x - a[0]) * u + (y - a[1]) * v) / (u * u + v * v)))
    least = Math.min(least, Math.hypot(a[0] + share * u - x, a[1] + share * v - y))
    most = Math.max(most, Math.hypot(a[0] - x, a[1] - y))
  }
  return [least, most]
}

const middleOf = (ring: readonly P2[]): P2 =>
  [0, 1].map((k) => {
    const all = ring.map((p) => p[k as 0 | 1])
    return (Math.min(...all) + Math.max(...all)) / 2
  }) as unknown as P2

const read = {
  stl: stlFacets,
  obj: objFacets,
  '3mf': (bytes: Buffer) => threeMfFacets(bytes).facets,
} as const

/** Walls are where they were asked to be to so much, mm. */
const near = 0.005

it('a file that makes up for a printer holds what it was asked to, to a reader of its own', async () => {
  for (const number of sampled(300, 1, 30)) {
    const { steps, width, depth, high, turn, rounds, compensation } = randomPlate(seeded(number))
    const fineness = [0.05, 0.02, 0.01][number % 3]!
    const format = (['stl', 'obj', '3mf'] as const)[Math.floor(number / 3) % 3]!
    const part = partOf(steps)
    const drawn = await built(kernel, part, fineness)
    const twice = await builtTwice(kernel, part)
    const { receipt, bytes } = await withCompensation(kernel, drawn, { compensation }, async (compensated) =>
      handOff(drawn, formatOf(format)!, { twice, fineness, compensated }),
    )
    const at = `file ${number}, ${format}, ${fineness}`
    const facets = read[format](Buffer.from(bytes))
    const own = figures(facets)
    expect([own.closed, own.triangles], at).toEqual([true, receipt.triangles])
    expect(own.volume / receipt.volume, at).toBeCloseTo(1, 6)
    expect(receipt.compensation!.stayed, at).toEqual([])

    const { walls, rounds: small, flare, shrinkage, firstLayer } = compensation
    const grown = 100 / (100 - shrinkage)
    const tall = Math.max(high, ...rounds.filter(({ isHole }) => !isHole).map((post) => high + post.high))
    expect(own.size[2] / grown, at).toBeCloseTo(tall, 4)
    const [c, s] = [Math.cos((turn * Math.PI) / 180), Math.sin((turn * Math.PI) / 180)]
    // Above the first layer, within it, and through the posts.
    for (const [z, pressed] of [
      [firstLayer + 0.37 * (high - firstLayer), 0],
      [firstLayer * 0.61, flare],
      [high + 1.37, 0],
    ] as const) {
      const inPlate = z < high
      const rings = outlinesAt(facets, z * grown).map((ring) => ring.map(([x, y]): P2 => [x / grown, y / grown]))
      const expected = inPlate ? rounds.filter(({ isHole }) => isHole) : rounds.filter(({ isHole }) => !isHole)
      expect(rings.length, `${at}, z ${z}`).toBe(expected.length + (inPlate ? 1 : 0))
      const [outer, ...within] = rings.toSorted((a, b) => reachOf(b, [0, 0])[1] - reachOf(a, [0, 0])[1])
      const inner = inPlate ? within : rings
      for (const {
        at: [x, y],
        radius,
        isHole,
      } of expected) {
        const middle: P2 = [c * x - s * y, s * x + c * y]
        const ring = inner.find((each) => Math.hypot(middleOf(each)[0] - middle[0], middleOf(each)[1] - middle[1]) < 1)!
        const by = isHole ? walls + (small - walls) * Math.min(1, 10 / (2 * radius)) + pressed : -walls
        const [least, most] = reachOf(ring, middle)
        // Flats of a bore touch its round, corners of a post lie on it.
        const off = isHole ? least - (radius + by) : most - (radius + by)
        expect(Math.abs(off), `${at}, z ${z}, round ${radius}: ${off}`).toBeLessThan(near)
        expect(most - least, `${at}, z ${z}, round ${radius}`).toBeLessThan(fineness + 2 * near)
      }
      if (!inPlate) continue
      for (const [half, u, v] of [
        [width / 2, c, s],
        [depth / 2, -s, c],
      ] as const)
        for (const side of [1, -1]) {
          const far = Math.max(...outer!.map((p) => side * (p[0] * u + p[1] * v)))
          const off = far - (half - walls - pressed)
          expect(Math.abs(off), `${at}, z ${z}, side: ${off}`).toBeLessThan(near)
        }
    }
  }
})
