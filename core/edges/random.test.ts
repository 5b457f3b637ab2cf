import { describe, expect, it } from 'vitest'
import { meshFigures, skinEdges } from '../mesh/index.ts'
import { built, partOf, testKernel, treatment } from '../testing/index.ts'
import { randomFrom } from '../testing/outlines.ts'
import { sampled } from '../testing/sample.ts'
import { randomSolid } from '../testing/solids.ts'

const kernel = await testKernel()

const from = Number(process.env.MAKREL_FROM ?? 1)
const fineness = 0.05
const rules = [
  'outer',
  'inner',
  'all',
  'of b/top',
  'upright',
  'outer level',
  'rims s0',
  'of s0',
  'bed',
  'where s0 meets b',
]

describe('random solids', () => {
  it.each(sampled(200, from, 20))(
    '%i: with random edges rounded or bevelled are sound, and no more is added or taken away than may be',
    async (seed) => {
      const random = randomFrom(seed)
      const steps = randomSolid(random)
      const edges = rules[Math.floor(random() * rules.length)]!
      const by = (0.2 + 2 * random()).toFixed(2)
      const last = random() < 0.6 ? treatment('round', { edges, radius: by }) : treatment('bevel', { edges, size: by })
      const before = await built(kernel, partOf(steps), fineness)
      const after = await built(kernel, partOf([...steps, last]), fineness)
      const told = after.buildProblems.filter(({ path }) => path[1] === 't').map(({ code }) => code)
      for (const code of told) expect(['round-no-room', 'edges-none', 'edges-smooth', 'edges-part']).toContain(code)
      const [p, q] = [before.pieces[0]!.solid!, after.pieces[0]!.solid!]
      const what = JSON.stringify(last.fields)
      const figures = meshFigures(q.mesh())
      expect(figures, what).toMatchObject({ closed: true, oriented: true })
      // What hung together by a hair may not do so any more, and is told.
      const bodies = meshFigures(p.mesh()).solids
      if (told.includes('edges-part')) expect(figures.solids, what).toBeGreaterThan(bodies)
      else expect(figures.solids, what).toBe(bodies)
      const skins = [p, q].map((solid) => skinEdges({ positions: solid.corners(), triangles: solid.mesh().triangles }))
      expect(skins[1], what).toBeLessThanOrEqual(skins[0]!)
      const common = kernel.scope((scope) => scope.intersection([p, q]).volume())
      const [more, less] = [q.volume() - common, p.volume() - common]
      if (edges.startsWith('outer')) expect(more, what).toBeLessThan(1e-4)
      if (edges === 'inner' || edges === 'where s0 meets b') expect(Math.min(more, less), what).toBeLessThan(1e-4)
      if (edges === 'inner') expect(less, what).toBeLessThan(1e-4)
    },
  )
  it.each(sampled(150, from, 20))(
    '%i: hollow have their outside as it was, and a cavity that lies in them',
    async (seed) => {
      const { told, least, thick } = await hollowed(seed)
      if (told.length > 0) expect(told).toEqual(['hollow-none'])
      // What is thinner by more is told.
      expect(least).toBeGreaterThan(thick - 0.02 - fineness)
    },
  )
  it('keep their wall where half of the mouth of a hole lies under a body whose side runs nearly along the bore', async () => {
    const { told, least, thick } = await hollowed(160)
    expect(told).toEqual([])
    expect(least).toBeGreaterThan(thick - 0.01)
  })
})

/** What is told of a random solid that is hollowed, and how near its cavity lies to its surface, mm. */
async function hollowed(seed: number): Promise<{ told: string[]; least: number; thick: number }> {
  const random = randomFrom(seed)
  const steps = randomSolid(random)
  const thick = (0.4 + 2 * random()).toFixed(2)
  const before = (await built(kernel, partOf(steps), fineness)).pieces[0]!.solid!
  const done = await built(kernel, partOf([...steps, treatment('hollow', { thick })]), fineness)
  const solid = done.pieces[0]!.solid!
  const told = done.buildProblems.filter(({ path }) => path[1] === 't').map(({ code }) => code)
  const figures = meshFigures(solid.mesh())
  expect(figures).toMatchObject({ closed: true, oriented: true, solids: meshFigures(before.mesh()).solids })
  expect(solid.bounds()).toEqual(before.bounds())
  const least = kernel.scope((scope) => {
    const cavity = scope.difference(before, [solid])
    const outside = scope.difference(scope.placed(boxRound(scope, before), at(before)), [before])
    return cavity.isEmpty() ? Number(thick) : outside.gapTo(cavity, 10)
  })
  return { told, least, thick: Number(thick) }
}

type Scope = Parameters<Parameters<typeof kernel.scope>[0]>[0]
type Solid = ReturnType<Scope['union']>

/** A block that a solid lies in, with room round it, its lowest corner at the origin. */
function boxRound(scope: Scope, solid: Solid): Solid {
  const { min, max } = solid.bounds()!
  const [x, y, z] = [0, 1, 2].map((i) => max[i]! - min[i]! + 6) as [number, number, number]
  return scope.extrude(
    [
      [
        [0, 0],
        [x, 0],
        [x, y],
        [0, y],
      ],
    ],
    z,
  )
}
function at(solid: Solid) {
  const { min } = solid.bounds()!
  return { origin: [min[0] - 3, min[1] - 3, min[2] - 3], u: [1, 0, 0], v: [0, 1, 0], n: [0, 0, 1] } as const
}
