import { expect, it } from 'vitest'
import { onBed, type Step } from '../document/index.ts'
import { Surface } from '../edges/index.ts'
import { TriangleTree } from '../mesh/index.ts'
import { add, scaled, type Vec3 } from '../place/index.ts'
import { asPrinted, copiesOf, namedSolid } from '../solids/index.ts'
import { built, onFace, partOf, step, testKernel } from '../testing/index.ts'
import { askedOf } from './asked.ts'
import { type Compensation, roundsBy } from './index.ts'
import { isTooThin } from './thin.ts'

/** Numbers that decide how a wall is taken, each tried a little below and a little above. */

const kernel = await testKernel()

const compensation: Compensation = {
  ...{ walls: 0.02, rounds: 0.09, flare: 0, shrinkage: 0, firstLayer: 0.24, lineWidth: 0.44 },
  ...{ printer: 'Tern 220', material: 'PLA', origins: [] },
}
const centred = (by: number) => ({ from: 'centre', to: 'centre', by: `${by}` }) as const
const [width, depth, high] = [42.7, 31.3, 12.4]
const plate = step('p', 'plate', { width: `${width}`, depth: `${depth}`, height: `${high}` })

/** Corners of flats lie as far beyond the round that these touch as the part is fine, mm. */
const atCorner = 0.012

/** How far the surface of a part as printed is from a place, straight on in a direction, mm. */
async function farIn(hole: ReturnType<typeof step>, from: Vec3, way: Vec3): Promise<number> {
  const before = await built(kernel, partOf([plate, hole]), 0.01)
  const after = asPrinted(kernel, before, compensation)
  const solid = after.built.pieces[0]!.solid!
  const tree = new TriangleTree({ positions: solid.corners(), triangles: solid.mesh().triangles })
  const { far } = tree.first(from, add(from, scaled(way, 40)), 0)!
  after.release()
  return far
}

it.each([
  [266, false],
  [274, true],
])('a bore that goes round %i° is a round hole: %s', async (degrees, isHole) => {
  const radius = 4.37
  // It breaks out of the right side where its axis is so far from that.
  const inside = radius * Math.cos(((360 - degrees) * Math.PI) / 360)
  const x = width / 2 - inside
  const hole = step(
    'h',
    'hole',
    { diameter: `${2 * radius}` },
    { operation: 'cut', place: { ...onFace('p', 'top'), across: centred(x), along: centred(2.3) } },
  )
  const far = await farIn(hole, [x, 2.3, high / 2], [-1, 0, 0])
  const by = isHole ? roundsBy(compensation, 2 * radius) : compensation.walls
  expect(Math.abs(far - radius - by)).toBeLessThan(atCorner)
})

it.each([
  [43, true],
  [47, false],
])('a bore that leans by %i° lies in its layers as a round: %s', async (degrees, isHole) => {
  const radius = 2.19
  const hole = step(
    'h',
    'hole',
    { diameter: `${2 * radius}` },
    { operation: 'cut', place: { ...onFace('p', 'top'), across: centred(0), along: centred(0), tilt: `${degrees}` } },
  )
  const before = await built(kernel, partOf([plate, hole]), 0.01)
  const frame = before.plan.geometry.get('h')!.frame!
  // On its axis, half way down; square to it and level.
  const share = (high / 2 - frame.origin[2]) / frame.n[2]
  const from = add(frame.origin, scaled(frame.n, share))
  const way: Vec3 = Math.abs(frame.u[2]) < 1e-9 ? frame.u : frame.v
  expect(Math.abs(way[2])).toBeLessThan(1e-9)
  expect((Math.acos(Math.abs(frame.n[2])) * 180) / Math.PI).toBeCloseTo(degrees, 6)
  const far = await farIn(hole, from, way)
  const by = isHole ? roundsBy(compensation, 2 * radius) : compensation.walls
  expect(Math.abs(far - radius - by)).toBeLessThan(atCorner)
})

it('a wall of up to four lines loses none, and what is a line but for two hundredths of it is one', () => {
  const line = 0.44
  for (const lines of [1, 2, 3, 4]) {
    expect([lines, isTooThin(lines * line, 0.03, line)]).toEqual([lines, true])
    // Two hundredths of a line are not worth a line.
    expect([lines, isTooThin(lines * line, 0.019 * line, line)]).toEqual([lines, false])
    expect([lines, isTooThin(lines * line, 0.021 * line, line)]).toEqual([lines, true])
    expect([lines, isTooThin((lines + 0.4) * line, 0.03, line)]).toEqual([lines, false])
  }
  // Drawn as three but for 0.015 of one, it has three to lose one of; but for 0.025 of one, it has two.
  expect(isTooThin(2.985 * line, 0.03, line)).toBe(true)
  expect(isTooThin(2.975 * line, 0.03, line)).toBe(false)
  expect(isTooThin(5 * line, 0.03, line)).toBe(false)
})

/** The walls of a part, and why those that stay do. */
async function wallsOf(...steps: readonly Step[]) {
  const { pieces, plan } = await built(kernel, partOf(steps), 0.01)
  const { solid, ownerOf } = pieces[0]!
  const surface = new Surface(namedSolid(solid!, copiesOf(plan), ownerOf), solid!.corners())
  const { walls } = askedOf({ surface, solid: solid!, keeps: () => false, others: [], compensation })
  return { count: walls.length, kept: [...new Set(walls.flatMap(({ kept }) => kept ?? []))] }
}

it.each([
  [19, 1],
  [17, 17],
])('sides of %i that meet at more or less than 20° are walls: %i', async (sides, count) => {
  const prism = step(
    'b',
    'prism',
    { sides: `${sides}`, size: '23.7', height: '9.1' },
    { place: { ...onBed, turn: '37.3' } },
  )
  expect(await wallsOf(prism)).toEqual({ count, kept: [] })
})

it.each([
  [9.6, ['thin']],
  [10.4, []],
])('what runs out to an edge at %s° has walls that are thin: %j', async (degrees, kept) => {
  const [c, s] = [Math.cos((degrees * Math.PI) / 180), Math.sin((degrees * Math.PI) / 180)]
  const place = { ...onBed, turn: `${degrees}`, across: centred(-20 * s), along: centred(0.25 + 20 * c) }
  const cut = step('c', 'plate', { width: '90', depth: '40', height: '60' }, { operation: 'cut', place })
  const blade = step(
    'b',
    'plate',
    { width: '31.3', depth: '9.1', height: '12.7' },
    { place: { ...onBed, along: centred(4.05) } },
  )
  expect((await wallsOf(blade, cut)).kept).toEqual(kept)
})

it.each([
  [0.046, []],
  [0.054, ['thin']],
])('a wall of %s mm is one that has a line to lose: %j', async (thick, kept) => {
  const wall = step(
    'b',
    'plate',
    { width: '31.3', depth: `${thick}`, height: '12.7' },
    { place: { ...onBed, turn: '37.3' } },
  )
  expect((await wallsOf(wall)).kept).toEqual(kept)
})
