import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { pointOut, turnedAbout, unit, type Vec3 } from '../place/index.ts'
import { boxMesh, insideOut, joinedMesh, movedMesh, strips } from '../testing/meshes.ts'
import { real, runs } from '../testing/sample.ts'
import { itInTurn } from '../testing/turns.ts'
import type { TriangleMesh } from './define.ts'
import { Facing, type FacingSpot } from './facing.ts'
import { TriangleTree } from './tree.ts'

/** Anywhere, turned about any axis, mirrored or not. */
const frames = fc
  .record({
    axis: fc.tuple(real(-1, 1), real(-1, 1), real(0.1, 1)),
    turn: real(0, 360),
    at: real(-85.1, 85.1),
    mirrored: fc.boolean(),
  })
  .map(({ axis, turn, at, mirrored }) => ({ frame: turnedAbout([at, at / 3, -at], unit(axis), turn), mirrored }))
type Lying = { readonly frame: ReturnType<typeof turnedAbout>; readonly mirrored: boolean }

function placed({ frame, mirrored }: Lying, p: Vec3): Vec3 {
  return pointOut(frame, mirrored ? [-p[0], p[1], p[2]] : p)
}

function lying(mesh: TriangleMesh, how: Lying): TriangleMesh {
  const positions = new Float64Array(mesh.positions.length)
  for (let i = 0; i < positions.length; i += 3)
    positions.set(placed(how, [mesh.positions[i]!, mesh.positions[i + 1]!, mesh.positions[i + 2]!]), i)
  const turned = { positions, triangles: mesh.triangles }
  return how.mirrored ? insideOut(turned) : turned
}

/** How far from a middle a round of `n` flats is at an angle, where its corners lie on the round. */
const circle = (radius: number, n: number, middle: number, z: number) =>
  Array.from({ length: n }, (_, i): Vec3 => {
    const angle = (2 * Math.PI * i) / n
    return [middle + radius * Math.cos(angle), radius * Math.sin(angle), z]
  })

/** A tube whose bore is off its middle by `off`. */
const eccentric = (outside: number, bore: number, off: number, height: number, n: number) =>
  strips([
    circle(outside, n, 0, 0),
    circle(outside, n, 0, height),
    circle(bore, n, off, height),
    circle(bore, n, off, 0),
  ])

/** A wall that tapers from a sharp edge at x = 0: its sides lean by `half` degrees each, and it is cut off at x = `from`. */
function tapered(half: number, from: number, to: number, long: number): TriangleMesh {
  const slope = Math.tan((half * Math.PI) / 180)
  const at = (x: number, y: number, side: number): Vec3 => [x, y, side * x * slope]
  const ring = (y: number) => [at(from, y, -1), at(from, y, 1), at(to, y, 1), at(to, y, -1)]
  // Closed at both ends by a point in their middle.
  const middle = (y: number) => Array.from({ length: 4 }, (): Vec3 => [(from + to) / 2, y, 0])
  return strips([ring(0), ring(long), middle(long), middle(0)])
}

const facing = (mesh: TriangleMesh, through: 'solid' | 'air' = 'solid') => new Facing(new TriangleTree(mesh), through)
const spotsOf = async (mesh: TriangleMesh, below: number, fine: number, through: 'solid' | 'air' = 'solid') => {
  const { spots, isWhole } = await facing(mesh, through).spots({ below, fine })
  expect(isWhole).toBe(true)
  return spots
}
const areaOf = (spots: readonly FacingSpot[]) => spots.reduce((sum, { area }) => sum + area, 0)

/** The share of the area, of spots that `isAsked`, where what is told is within 2 % and 0.01 mm of the truth. */
function shareTrue(spots: readonly FacingSpot[], truth: (spot: FacingSpot) => number | undefined): number {
  let [good, all] = [0, 0]
  for (const spot of spots) {
    const true_ = truth(spot)
    if (true_ === undefined) continue
    all += spot.area
    if (Math.abs(spot.across - true_) <= 0.02 * true_ + 0.01) good += spot.area
  }
  return all > 0 ? good / all : 0
}

describe('how thick a solid is', () => {
  it('is told of all of a plate, wherever it lies, in a few parts', async () => {
    await fc.assert(
      fc.asyncProperty(frames, real(0.2, 1.1), async (how, thick) => {
        const spots = await spotsOf(lying(boxMesh(37.3, 15.3, thick), how), 1.2, 0.2)
        expect(areaOf(spots)).toBeCloseTo(2 * 37.3 * 15.3, 3)
        for (const { across } of spots) expect(across).toBeCloseTo(thick, 4)
        expect(spots.length).toBeLessThan(200)
      }),
      { numRuns: runs(60) },
    )
  })
  itInTurn(2, 'is told of a tube whose bore is off its middle, on both of its walls', async () => {
    const tubes = fc.record({
      outside: real(4.3, 12.1),
      wall: real(0.5, 1.1),
      share: real(0, 0.6),
      n: fc.integer({ min: 60, max: 120 }),
    })
    await fc.assert(
      fc.asyncProperty(tubes, frames, async ({ outside: R, wall, share, n }, how) => {
        const [r, e, below] = [R - wall, share * wall, 2]
        const mesh = eccentric(R, r, e, 9.1, n)
        const truth = (t: number, p: Vec3) => {
          // Its ball touches one round from inside, and the other one from outside.
          if (Math.floor(t / (2 * n)) === 0) {
            const cos = Math.cos(Math.atan2(p[1], p[0]))
            return (R * R - 2 * e * R * cos + e * e - r * r) / (R + r - e * cos)
          }
          const cos = Math.cos(Math.atan2(p[1], p[0] - e))
          return (R * R - r * r - e * e - 2 * e * r * cos) / (R + r + e * cos)
        }
        const plain = new Map((await spotsOf(mesh, below, 0.25)).map((spot, i) => [i, spot]))
        // The ends are rims: what faces them is the other end.
        const isWall = ({ triangle }: FacingSpot) => Math.floor(triangle / (2 * n)) % 2 === 0
        expect([...plain.values()].every(isWall)).toBe(true)
        expect(shareTrue([...plain.values()], ({ triangle, middle }) => truth(triangle, middle))).toBeGreaterThan(0.99)
        expect(areaOf([...plain.values()])).toBeGreaterThan(0.999 * 2 * Math.PI * (R + r) * 9.1 * Math.cos(Math.PI / n))
        // It is the same where it lies otherwise.
        const other = await spotsOf(lying(mesh, how), below, 0.25)
        const least = (spots: Iterable<FacingSpot>) => Math.min(...[...spots].map(({ across }) => across))
        expect(least(other)).toBeCloseTo(least(plain.values()), 2)
        expect(areaOf(other)).toBeCloseTo(areaOf([...plain.values()]), 3)
      }),
      { numRuns: runs(40) },
    )
  })
  it('is told of a wall that tapers, at every place of it', async () => {
    await fc.assert(
      fc.asyncProperty(frames, real(1, 29), real(0.1, 0.4), async (how, half, least) => {
        const angle = (half * Math.PI) / 180
        const [from, to, below] = [least / 2 / Math.tan(angle), 1.5 / Math.tan(angle), 1]
        const mesh = tapered(half, from, to, 15.3)
        // A ball touches both of its sides as far from where they would meet: that is so far along them.
        const along = ({ middle }: FacingSpot) => middle[0] / Math.cos(angle)
        const isSide = ({ middle }: FacingSpot) =>
          Math.abs(Math.abs(middle[2]) - middle[0] * Math.tan(angle)) < 1e-6 &&
          along({ middle } as FacingSpot) * Math.cos(angle) > from
        const sides = (await spotsOf(mesh, below, 0.1)).filter(isSide)
        expect(shareTrue(sides, (spot) => 2 * along(spot) * Math.tan(angle))).toBeGreaterThan(0.99)
        const whole = (2 * 15.3 * (below / 2 / Math.tan(angle) - from / Math.cos(angle))) as number
        expect(areaOf(sides) / whole).toBeGreaterThan(0.9)
        expect(areaOf(sides) / whole).toBeLessThan(1.1)
        const other = await spotsOf(lying(mesh, how), below, 0.1)
        expect(Math.min(...other.map(({ across }) => across))).toBeCloseTo(
          Math.min(...sides.map(({ across }) => across)),
          2,
        )
      }),
      { numRuns: runs(40) },
    )
  })
  it('says so where it was not looked at all over', async () => {
    const wedge = facing(tapered(12.1, 1, 3, 15.3))
    const whole = await wedge.spots({ below: 1, fine: 0.2 })
    expect(whole.isWhole).toBe(true)
    const part = await wedge.spots({ below: 1, fine: 0.2, most: 30 })
    expect(part.isWhole).toBe(false)
    expect(part.spots.length).toBeLessThan(31)
    expect(whole.spots.length).toBeGreaterThan(100)
    // Triangles that nothing faces do not count.
    expect((await facing(boxMesh(37.3, 15.3, 8.1)).spots({ below: 1, fine: 0.2, most: 1 })).isWhole).toBe(true)
  })
  it('jumps where a pocket from behind leaves little of it', async () => {
    // A plate with a pocket that leaves a floor of 0.31: told all over the floor, and nowhere beside it.
    const pocket = insideOut(movedMesh(boxMesh(3.1, 2.3, 4), [15.3, 8.5, 0.31]))
    const spots = await spotsOf(joinedMesh([boxMesh(37.3, 21.7, 4.31), pocket]), 0.9, 0.1)
    const under = spots.filter(({ middle }) => middle[2] < 0.01)
    expect(areaOf(under)).toBeGreaterThan(3.1 * 2.3)
    expect(areaOf(under)).toBeLessThan(5.2 * 4.4)
    expect(areaOf(under.filter(({ across }) => across < 0.4))).toBeGreaterThan(0.97 * 3.1 * 2.3)
    for (const { across } of spots) expect(across).toBeGreaterThan(0.3099)
  })
})

describe('how wide a gap is', () => {
  it('is told in a slot, not of what is solid', async () => {
    const slot = insideOut(movedMesh(boxMesh(0.41, 8.1, 4), [15.3, 5.5, 0.31]))
    const spots = await spotsOf(joinedMesh([boxMesh(37.3, 21.7, 4.31), slot]), 0.6, 0.1, 'air')
    for (const { across } of spots) expect(across).toBeCloseTo(0.41, 3)
    expect(areaOf(spots)).toBeCloseTo(2 * 8.1 * 4, 2)
  })
})

it('finds what is near to a long narrow triangle wherever along it that is', async () => {
  await fc.assert(
    fc.asyncProperty(
      fc.record({
        long: real(40, 120),
        wide: real(1.5, 6),
        tip: real(0, 1),
        along: real(0.03, 0.97),
        side: real(0.2, 0.8),
      }),
      real(0.3, 1.3),
      async ({ long, wide, tip, along, side }, high) => {
        // How wide it is there, of which the small one that lies over it takes the middle.
        const x = along * long
        const there = wide * Math.min(along / Math.max(tip, 1e-9), (1 - along) / Math.max(1 - tip, 1e-9))
        fc.pre(there > 0.2)
        const foot: Vec3 = [x, side * there, 0]
        const [w, z] = [0.1, high]
        const corners = [
          ...[0, 0, 0, tip * long, wide, 0, long, 0, 0],
          ...[x - w, foot[1] - w, z, x + w, foot[1] - w, z, x, foot[1] + w, z],
        ]
        const mesh = { positions: Float64Array.from(corners), triangles: Uint32Array.from([0, 1, 2, 3, 4, 5]) }
        const spots = (await spotsOf(mesh, 1.5, 0.4)).filter(({ triangle }) => triangle === 0)
        const over = spots.filter(({ corners: c }) =>
          [0, 3, 6].every((i) => {
            const k = (i + 3) % 9
            return (c[k]! - c[i]!) * (foot[1] - c[i + 1]!) - (c[k + 1]! - c[i + 1]!) * (foot[0] - c[i]!) <= 1e-9
          }),
        )
        expect(over.length).toBeGreaterThan(0)
      },
    ),
    { numRuns: runs(600) },
  )
})
