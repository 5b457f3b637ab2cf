import { describe, expect, it } from 'vitest'
import type { Step } from '../document/index.ts'
import { meshFigures, shellsOf, skinEdges, type TriangleMesh, TriangleTree } from '../mesh/index.ts'
import { boxOf, type Vec3 } from '../place/index.ts'
import { built, onFace, partOf, step, testKernel, treatment } from '../testing/index.ts'
import { randomFrom } from '../testing/outlines.ts'
import { among } from '../testing/parts.ts'
import { inTurn, sampled } from '../testing/sample.ts'
import { randomSolid, randomTray } from '../testing/solids.ts'

const kernel = await testKernel()
const fineness = 0.03

const off = (by: number) => ({ from: 'centre', to: 'centre', by: `${by}` }) as const
const round = (edges: string, radius: number, id = 'r') => treatment('round', { edges, radius: `${radius}` }, id)

async function meshOf(steps: readonly Step[]) {
  const { pieces, buildProblems } = await built(kernel, partOf(steps), fineness)
  const solid = pieces[0]!.solid!
  const mesh = { positions: solid.corners(), triangles: solid.mesh().triangles }
  return { mesh, figures: meshFigures(solid.mesh()), told: buildProblems.map(({ code }) => code) }
}

/** Whether a point lies in a closed mesh: how often a ray that runs askew to everything leaves it. */
function isIn({ positions, triangles }: TriangleMesh, [px, py, pz]: Vec3): boolean {
  const [wx, wy, wz] = [0.5773, 0.3371, 0.7438]
  let crossed = 0
  for (let t = 0; t < triangles.length; t += 3) {
    const [a, b, c] = [3 * triangles[t]!, 3 * triangles[t + 1]!, 3 * triangles[t + 2]!]
    const [x, y, z] = [positions[a]!, positions[a + 1]!, positions[a + 2]!]
    const [ux, uy, uz] = [positions[b]! - x, positions[b + 1]! - y, positions[b + 2]! - z]
    const [vx, vy, vz] = [positions[c]! - x, positions[c + 1]! - y, positions[c + 2]! - z]
    const [bx, by, bz] = [wy * vz - wz * vy, wz * vx - wx * vz, wx * vy - wy * vx]
    const size = ux * bx + uy * by + uz * bz
    if (Math.abs(size) < 1e-14) continue
    const [tx, ty, tz] = [px - x, py - y, pz - z]
    const r = (tx * bx + ty * by + tz * bz) / size
    if (r < 0 || r > 1) continue
    const [sx, sy, sz] = [ty * uz - tz * uy, tz * ux - tx * uz, tx * uy - ty * ux]
    const s = (wx * sx + wy * sy + wz * sz) / size
    if (s >= 0 && r + s <= 1 && vx * sx + vy * sy + vz * sz > 0 === size > 0) crossed++
  }
  return crossed % 2 === 1
}

/** Places in a solid that are hollow but nearer to its surface than its wall, and such as lie deeper and are full. */
async function wrongPlaces(steps: readonly Step[], thick: number, seed: number, count = 250) {
  const before = await meshOf(steps)
  const after = await meshOf([...steps, treatment('hollow', { thick: `${thick}` }, 'h')])
  const tree = new TriangleTree(before.mesh)
  const random = randomFrom(seed)
  const { min, max } = before.figures
  let [thin, full, hollow] = [0, 0, 0]
  for (let i = 0; i < count; i++) {
    const p = min.map((low, k) => low + (max[k]! - low) * random()) as unknown as Vec3
    const deeper = tree.nearest(p)!.distance - thick
    // Flats of walls lie off what they stand for.
    if (Math.abs(deeper) < 0.04 || !isIn(before.mesh, p)) continue
    const isHollow = !isIn(after.mesh, p)
    if (isHollow) hollow++
    if (isHollow && deeper < 0) thin++
    if (!isHollow && deeper > 0) full++
  }
  const { closed, oriented } = after.figures
  return { thin, full, hollow, closed, oriented, skins: skinEdges(after.mesh), told: after.told }
}

const sound = { thin: 0, full: 0, closed: true, oriented: true, skins: 0, told: [] }

const plate = step('b', 'plate', { width: '60.3', depth: '40.7', height: '20.3' }, { place: { turn: '37.3' } })
const onTop = { ...onFace('b', 'top'), across: off(5.3), along: off(-3.1) }
const bar = step('s', 'bar', { diameter: '17.3', height: '15.1' }, { place: onTop })
const block = step(
  's',
  'plate',
  { width: '17.3', depth: '11.9', height: '15.1' },
  { place: { ...onTop, turn: '15.3' } },
)

describe('what is hollow', () => {
  it.each<[string, Step[], number]>([
    ['a gear', [step('b', 'gear', { height: '12.3', module: '2.5', teeth: '19' }, { place: { tilt: '37.3' } })], 1.13],
    ['a star', [step('b', 'star', { height: '12.3', size: '40' }, { place: { turn: '15.3' } })], 1.6],
    ['a heart', [step('b', 'heart', { height: '9.1', size: '37.3' })], 1.85],
    ['large letters', [step('b', 'text', { depth: '8.3', size: '85.1' })], 1.31],
    [
      'a plate with bores',
      [
        plate,
        step('o', 'hole', { diameter: '7.7' }, { place: onTop }),
        step('q', 'hole', { diameter: '4.1' }, { place: { ...onTop, across: off(-11.7) } }),
      ],
      2.15,
    ],
    ['a bar on a plate, with outer edges rounder than the wall', [plate, bar, round('outer', 3.1)], 1.6],
    ['a bar on a plate, with all edges less round', [plate, bar, round('all', 1.1)], 1.6],
    [
      'a block on a plate, with all edges less round',
      [plate, block, round('inner', 1.1), round('outer', 0.9, 'q')],
      1.6,
    ],
    ['a block on a plate, its foot filled', [plate, block, round('inner', 2.3)], 1.27],
  ])('of %s lies deeper than its wall, and all that does is hollow', async (_, steps, thick) => {
    const { hollow, ...found } = await wrongPlaces(steps, thick, 7)
    expect(found).toEqual(sound)
    expect(hollow).toBeGreaterThan(10)
  })
  // Those that came out wrong once are among them every third day.
  it.each([...new Set([...inTurn(3, [3, 12, 19, 38, 46, 49, 63, 64, 93]), ...sampled(100, 1, 20)])])(
    'of random solids lies deeper than their wall, and all that does is hollow: %d',
    async (seed) => {
      const random = randomFrom(seed)
      const steps = randomSolid(random)
      const { hollow, told, ...found } = await wrongPlaces(steps, Number((0.4 + 2 * random()).toFixed(2)), seed)
      expect(found).toMatchObject({ thin: 0, full: 0, closed: true, oriented: true, skins: 0 })
      expect(told).not.toContain('wall-thin')
    },
  )
  const trays = [1, 5, 13, 38]
  it.each([...new Set([...inTurn(2, trays), ...sampled(40, 1, 20)])])(
    'of a tray whose rims are rounder than it lies deeper than its wall, and all that does is hollow, or it is told: %d',
    async (seed) => {
      const random = randomFrom(seed)
      const tray = randomTray(random)
      const radius = 0.6 + 2 * random()
      const rims = round(among(random, 'outer', 'of b/top', 'outer of b/top'), Number(radius.toFixed(2)))
      const thick = Number((radius * (0.4 + 0.55 * random())).toFixed(2))
      const { hollow, told, ...found } = await wrongPlaces([...tray, rims], thick, seed)
      expect(found).toMatchObject({ closed: true, oriented: true, skins: 0 })
      const isTold = told.some((code) => code.startsWith('wall') || code.startsWith('hollow'))
      if (isTold) expect(trays).not.toContain(seed)
      else expect(found).toMatchObject({ thin: 0, full: 0 })
    },
  )
  it('begins just as deep under every flat face, however round the edges between them are', async () => {
    for (const [radius, thick] of [
      [0.7, 1.7],
      [2.9, 1.7],
      [4.3, 1.1],
    ] as const) {
      const upright = step('b', 'plate', { width: '60.3', depth: '40.7', height: '20.3' })
      const { solid } = (
        await built(
          kernel,
          partOf([upright, bar, round('outer', radius), treatment('hollow', { thick: `${thick}` }, 'h')]),
          fineness,
        )
      ).pieces[0]!
      const mesh = { positions: solid!.corners(), triangles: solid!.mesh().triangles }
      const { shellOf, shells } = shellsOf(mesh)
      const boxes = shells.map((_, shell) =>
        boxOf(
          [...mesh.triangles]
            .filter((_, h) => shellOf[(h / 3) | 0] === shell)
            .map((v): Vec3 => [mesh.positions[3 * v]!, mesh.positions[3 * v + 1]!, mesh.positions[3 * v + 2]!]),
        ),
      )
      expect(boxes).toHaveLength(2)
      const [outer, inner] = shells[0]!.volume > 0 ? boxes : [boxes[1], boxes[0]]
      for (let k = 0; k < 3; k++) {
        expect(inner!.min[k]! - outer!.min[k]!).toBeCloseTo(thick, 6)
        expect(outer!.max[k]! - inner!.max[k]!).toBeCloseTo(thick, 6)
      }
    }
  })
})
