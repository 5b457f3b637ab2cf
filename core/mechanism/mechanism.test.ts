import { describe, expect, it } from 'vitest'
import { type Frame, norm, pointOut, subtract, turnedAbout, type Vec3, world } from '../place/index.ts'
import { seeded } from '../testing/index.ts'
import { closes, type MovingJoint, posed, residualOf } from './index.ts'

const at = (x: number, y: number, z = 0): Frame => ({ ...world, origin: [x, y, z] })
const turning = (from = -180, to = 180) => ({ label: 'turning', unit: 'degrees', from, to, printed: 0 }) as const

/** A pin along z. */
const pin = (id: string, pieces: readonly [string, string], x: number, y: number, range = turning()): MovingJoint => ({
  id,
  pieces,
  frame: at(x, y),
  freedoms: [range],
  motion: ([angle = 0]) => turnedAbout([0, 0, 0], [0, 0, 1], angle),
})
/** It slides along x and turns about z. */
const guide = (id: string, pieces: readonly [string, string], x: number, y: number): MovingJoint => ({
  id,
  pieces,
  frame: at(x, y),
  freedoms: [{ label: 'sliding', unit: 'mm', from: -200, to: 200, printed: 0 }, turning()],
  motion: ([slid = 0, angle = 0]) => {
    const turned = turnedAbout([0, 0, 0], [0, 0, 1], angle)
    return { ...turned, origin: [slid, 0, 0] }
  },
})
const place = (motions: ReadonlyMap<string, Frame>, piece: string, p: Vec3) => pointOut(motions.get(piece)!, p)
const near = (a: Vec3, b: Vec3, within = 1e-5) => expect(norm(subtract(a, b))).toBeLessThan(within)

describe('pieces that hang on one another', () => {
  const arm = [
    pin('a', ['ground', 'upper'], 0, 0),
    pin('b', ['upper', 'fore'], 10, 0),
    guide('c', ['fore', 'hand'], 15, 0),
  ]
  const pieces = ['ground', 'upper', 'fore', 'hand', 'apart']
  it('go along with what carries them, each by its own joint', () => {
    const { motions, off } = posed(pieces, arm, { a: [90], b: [-37.3], c: [2, 15.3] })
    expect(off).toBe(0)
    near(place(motions, 'upper', [10, 0, 0]), [0, 10, 0])
    const [cos, sin] = [Math.cos((52.7 * Math.PI) / 180), Math.sin((52.7 * Math.PI) / 180)]
    near(place(motions, 'fore', [15, 0, 0]), [5 * cos, 10 + 5 * sin, 0])
    near(place(motions, 'hand', [15, 0, 0]), [7 * cos, 10 + 7 * sin, 0])
    expect(motions.get('apart')).toEqual(world)
    expect(motions.get('ground')).toEqual(world)
  })
  it('move the other way round where their joint has them first', () => {
    const turned = posed(['ground', 'upper'], [pin('a', ['upper', 'ground'], 3, 0)], { a: [90] })
    near(place(turned.motions, 'upper', [4, 0, 0]), [3, -1, 0])
  })
  it('stay within their travel, and as printed where nothing is said', () => {
    const [limited] = [pin('a', ['ground', 'upper'], 0, 0, turning(0, 30))]
    expect(posed(pieces, [limited!], { a: [90] }).positions).toEqual({ a: [30] })
    expect(posed(pieces, [limited!], {}).motions.get('upper')).toEqual(world)
  })
})

describe('loops', () => {
  /** Crank a, coupler b, rocker c on a ground of d; as printed with the crank at `printed` degrees. */
  function fourBar(a: number, b: number, c: number, d: number, printed: number) {
    const crank = (printed * Math.PI) / 180
    const [ax, ay] = [a * Math.cos(crank), a * Math.sin(crank)]
    const end = rockerEnd(ax, ay, b, c, d)
    return {
      joints: [
        pin('crank', ['ground', 'arm'], 0, 0),
        pin('knee', ['arm', 'coupler'], ax, ay),
        pin('rocker', ['ground', 'swing'], d, 0),
        pin('wrist', ['swing', 'coupler'], end[0], end[1]),
      ],
      wrist: [end[0], end[1], 0] as Vec3,
    }
  }
  /** Where two circles meet, on the side of the printed one. */
  function rockerEnd(ax: number, ay: number, b: number, c: number, d: number): [number, number] {
    const [dx, dy] = [d - ax, -ay]
    const far = Math.hypot(dx, dy)
    const along = (b * b - c * c + far * far) / (2 * far)
    const up = Math.sqrt(b * b - along * along)
    return [ax + (along * dx - up * dy) / far, ay + (along * dy + up * dx) / far]
  }
  it('close: a four-bar linkage stands where its circles meet, over a whole turn of the crank', () => {
    const random = seeded(3)
    for (let i = 0; i < 12; i++) {
      // A crank that goes round: the shortest and the longest are together shorter than the others (Grashof 1883).
      const [a, d] = [10 + 5 * random(), 40 + 10 * random()]
      const [b, c] = [35 + 10 * random(), 30 + 8 * random()]
      if (a + d >= b + c) continue
      const { joints, wrist } = fourBar(a, b, c, d, 85.1)
      const pieces = ['ground', 'arm', 'coupler', 'swing']
      for (let turned = 0; turned <= 90; turned += 15.3) {
        let asked = 0
        const counted = joints.map((joint) => ({
          ...joint,
          motion(positions: readonly number[]) {
            asked++
            return joint.motion(positions)
          },
        }))
        const { motions, off } = posed(pieces, counted, { crank: [turned] })
        expect(off).toBeLessThan(closes)
        // A few steps for each stride: each asks twice for every freedom.
        expect(asked).toBeLessThan(60 + 120 * Math.ceil(turned / 10))
        const angle = ((85.1 + turned) * Math.PI) / 180
        const [x, y] = rockerEnd(a * Math.cos(angle), a * Math.sin(angle), b, c, d)
        near(place(motions, 'swing', wrist), [x, y, 0], 1e-4)
        near(place(motions, 'coupler', wrist), [x, y, 0], 1e-4)
      }
    }
  })
  it('close with a slide: a crank pushes a rod', () => {
    const joints = [
      pin('crank', ['ground', 'arm'], 0, 0),
      pin('knee', ['arm', 'rod'], 10, 0),
      guide('slot', ['ground', 'rod'], 50, 0),
    ]
    for (const turned of [37.3, 90, 161]) {
      const { positions, off } = posed(['ground', 'arm', 'rod'], joints, { crank: [turned] })
      const angle = (turned * Math.PI) / 180
      expect(off).toBeLessThan(closes)
      const slid = 10 * Math.cos(angle) + Math.sqrt(40 ** 2 - (10 * Math.sin(angle)) ** 2) - 50
      expect(positions.slot![0]).toBeCloseTo(slid, 5)
    }
  })
  it('that cannot close tell by how much', () => {
    const joints = [
      pin('crank', ['ground', 'arm'], 0, 0),
      pin('knee', ['arm', 'rod'], 10, 0),
      {
        ...guide('slot', ['ground', 'rod'], 50, 0),
        freedoms: [{ label: 'sliding', unit: 'mm', from: -2, to: 2, printed: 0 }, turning()],
      } as const,
    ]
    expect(posed(['ground', 'arm', 'rod'], joints, { crank: [161] }).off).toBeGreaterThan(5)
  })
})

describe('how a joint fails to hold', () => {
  it('is told in its own frame: ways along its axes, turns about them as mm at 10 mm', () => {
    const stands = turnedAbout([3.1, -7.2, 15.3], [0.6, 0, 0.8], 37.3)
    const still: MovingJoint = { id: 'j', pieces: ['a', 'b'], frame: stands, freedoms: [], motion: () => world }
    const axes = [stands.u, stands.v, stands.n] as const
    for (const [i, axis] of axes.entries()) {
      const off = [0, 0, 0, 0, 0, 0]
      const slid = { ...world, origin: axis.map((x) => 0.31 * x) as unknown as Vec3 }
      off[i] = 0.31
      residualOf(still, new Map([['b', slid]]), { j: [] }).forEach((x, k) => void expect(x).toBeCloseTo(off[k]!, 9))
      // Whichever of its pieces has turned.
      for (const [piece, way] of [
        ['b', 1],
        ['a', -1],
      ] as const) {
        const turned = turnedAbout(stands.origin, axis, 0.2)
        const expected = [0, 0, 0, 0, 0, 0]
        expected[3 + i] = way * 10 * Math.sin((0.2 * Math.PI) / 180)
        const told = residualOf(still, new Map([[piece, turned]]), { j: [] })
        told.forEach((x, k) => void expect(Math.abs(x)).toBeCloseTo(Math.abs(expected[k]!), 6))
        expect(Math.sign(told[3 + i]!)).toBe(
          way * Math.sign(residualOf(still, new Map([['b', turned]]), { j: [] })[3 + i]!),
        )
      }
    }
  })
})
