import { describe, expect, it } from 'vitest'
import { type Frame, norm, pointOut, subtract, turnedAbout, type Vec3, world } from '../place/index.ts'
import { seeded } from '../testing/index.ts'
import { closes, type MovingJoint, mobilityOf, type Positions, posed, residualOf } from './index.ts'

const at = (x: number, y: number, z = 0): Frame => ({ ...world, origin: [x, y, z] })
const turning = (from = -180, to = 180) => ({ label: 'turning', unit: 'degrees', from, to, atRest: 0 }) as const

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
  freedoms: [{ label: 'sliding', unit: 'mm', from: -200, to: 200, atRest: 0 }, turning()],
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
        freedoms: [{ label: 'sliding', unit: 'mm', from: -2, to: 2, atRest: 0 }, turning()],
      } as const,
    ]
    expect(posed(['ground', 'arm', 'rod'], joints, { crank: [161] }).off).toBeGreaterThan(5)
  })
})

describe('how many moves are left', () => {
  const at0 = (joints: readonly MovingJoint[]) =>
    Object.fromEntries(joints.map(({ id, freedoms }) => [id, freedoms.map(({ atRest }) => atRest)]))
  const told = (pieces: readonly string[], joints: readonly MovingJoint[], positions: Positions = at0(joints)) => {
    const { free, locked, overHeld } = mobilityOf(pieces, joints, positions)!
    return [free, locked.map(({ joint }) => joint).join(), overHeld]
  }
  /** A quadrangle of pins: ground, two arms and what they carry. */
  const four = (x: number, y: number, z: readonly [number, number]) => [
    pin('a', ['ground', 'one'], 0, 0),
    pin('b', ['one', 'rod'], x, y),
    pin('c', ['ground', 'two'], 50, 3),
    pin('d', ['two', 'rod'], ...z),
  ]
  it('is all of them without a loop', () => {
    const joints = [pin('a', ['ground', 'one'], 0, 0), guide('b', ['one', 'two'], 15.3, 1)]
    expect(told(['ground', 'one', 'two'], joints)).toEqual([3, '', 0])
    expect(told(['ground'], [])).toEqual([0, '', 0])
  })
  it('is one for four bars and for crank and slide, wherever they stand; flat loops are held three ways more', () => {
    const bars = ['ground', 'one', 'two', 'rod']
    const joints = four(7.1, 12.7, [41.9, 31])
    expect(told(bars, joints)).toEqual([1, '', 3])
    for (const turned of [-20, 15.3, 37.3]) {
      const { positions, off } = posed(bars, joints, { a: [turned] })
      expect(off).toBeLessThan(closes)
      expect(told(bars, joints, positions)).toEqual([1, '', 3])
    }
    const crank = [
      pin('crank', ['ground', 'arm'], 0, 0),
      pin('knee', ['arm', 'rod'], 8.1, 5),
      guide('slot', ['ground', 'rod'], 50, 0),
    ]
    expect(told(['ground', 'arm', 'rod'], crank)).toEqual([1, '', 3])
  })
  it('is none for three bars, which lock, and only what hangs on them moves', () => {
    const three = [
      pin('a', ['ground', 'one'], 0, 0),
      pin('b', ['one', 'two'], 15.3, 22),
      pin('c', ['ground', 'two'], 40, -3),
    ]
    expect(told(['ground', 'one', 'two'], three)).toEqual([0, 'a,b,c', 3])
    const hung = [...three, pin('d', ['two', 'flag'], 60, 0)]
    expect(told(['ground', 'one', 'two', 'flag'], hung)).toEqual([1, 'a,b,c', 3])
  })
  it('stays one with a third arm that is parallel, and is none with one that is not', () => {
    const two = [
      pin('a', ['ground', 'one'], 0, 0),
      pin('b', ['one', 'rod'], 5, 20),
      pin('c', ['ground', 'two'], 50, 0),
      pin('d', ['two', 'rod'], 55, 20),
    ]
    const third = (x: number) => [pin('e', ['ground', 'three'], 25, 0), pin('f', ['three', 'rod'], x, 20)]
    const all = ['ground', 'one', 'two', 'three', 'rod']
    expect(told(all, [...two, ...third(30)])).toEqual([1, '', 7])
    expect(told(all, [...two, ...third(33)])).toEqual([0, 'a,b,c,d,e,f', 6])
  })
  it('is not told of wheels that turn each other', () => {
    const wheel = {
      ...pin('w', ['ground', 'one'], 0, 0),
      together: { motions: () => [world, world], positions: () => [0] },
    }
    expect(mobilityOf(['ground', 'one'], [wheel as never], { w: [0] })).toBeUndefined()
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
