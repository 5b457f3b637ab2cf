import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { type Mass, noMass } from '../mesh/index.ts'
import {
  add,
  compose,
  cross,
  dot,
  type Frame,
  frame,
  norm,
  pointOut,
  scaled,
  sineCosine,
  subtract,
  type Vec3,
  world,
} from '../place/index.ts'
import { noReadings, readRow, workOut } from '../planning/index.ts'
import { partOf, step } from '../testing/index.ts'
import { axisOf } from './define.ts'
import { type ReadoutDefinition, type ReadPlace, type ReadResult, type ReadSolid, readouts } from './index.ts'

const named = (kind: string) => readouts.find((each) => each.kind === kind)!
const ofFaces = (kind: string) => named(kind) as Extract<ReadoutDefinition, { from: 'faces' }>
const ofSolid = (kind: string) => named(kind) as Extract<ReadoutDefinition, { from: 'solid' }>

const coordinate = fc.integer({ min: -4000, max: 4000 }).map((steps) => steps / 61)
const point = fc.tuple(coordinate, coordinate, coordinate)
const turn = fc.integer({ min: -1793, max: 1797 }).map((tenths) => tenths / 10)
/** A frame anywhere, turned by three angles. */
const frames = fc.tuple(point, turn, turn, turn).map(([origin, a, b, c]): Frame => {
  const about = (degrees: number, u: Vec3, v: Vec3): Frame => {
    const [s, k] = sineCosine(degrees)
    return frame([0, 0, 0], add(scaled(u, k), scaled(v, s)), add(scaled(v, k), scaled(u, -s)))
  }
  const turned = compose(about(a, [1, 0, 0], [0, 1, 0]), about(b, [1, 0, 0], [0, 0.6, 0.8]))
  return { ...compose(turned, about(c, [1, 0, 0], [0, 1, 0])), origin }
})
const radius = fc.integer({ min: 10, max: 3000 }).chain((r) => fc.constantFrom(r / 97, -r / 97))
const places = fc.oneof(
  frames.map((at): ReadPlace => ({ kind: 'flat', frame: at })),
  fc.tuple(frames, radius).map(([at, round]): ReadPlace => ({ kind: 'round', frame: at, round })),
  frames.map((at): ReadPlace => ({ kind: 'axis', frame: at })),
)
const movedBy = (motion: Frame, place: ReadPlace): ReadPlace => ({ ...place, frame: compose(motion, place.frame) })

function valueIn(result: ReadResult): number {
  if ('detail' in result) throw new Error(result.detail)
  return result.value
}
function endsIn(result: ReadResult): readonly [Vec3, Vec3] {
  if ('detail' in result || !result.between) throw new Error('nothing is drawn for it')
  return result.between
}

describe.each(['distance', 'angle'])('a read-out of %s', (kind) => {
  const { read } = ofFaces(kind)
  it('is the same from both sides, and wherever the part stands', () => {
    fc.assert(
      fc.property(places, places, frames, (a, b, motion) => {
        const value = valueIn(read([a, b]))
        expect(valueIn(read([b, a]))).toBeCloseTo(value, 6)
        expect(valueIn(read([movedBy(motion, a), movedBy(motion, b)]))).toBeCloseTo(value, 6)
      }),
    )
  })
})

describe('a distance', () => {
  const { read } = ofFaces('distance')
  const lineOf = ({ kind, frame: f, round }: ReadPlace): readonly [Vec3, Vec3] =>
    kind === 'axis' ? [f.origin, f.n] : [subtract(f.origin, scaled(f.n, round!)), f.v]
  it('is as long as what is drawn for it', () => {
    fc.assert(
      fc.property(places, places, (a, b) => {
        const result = read([a, b])
        expect(norm(subtract(...endsIn(result)))).toBeCloseTo(valueIn(result), 6)
      }),
    )
  })
  it('between axes is the least of all between their points', () => {
    const axes = places.filter(({ kind }) => kind !== 'flat')
    fc.assert(
      fc.property(axes, axes, coordinate, coordinate, (a, b, s, t) => {
        const [[p, d], [q, e]] = [lineOf(a), lineOf(b)]
        const value = valueIn(read([a, b]))
        const apart = norm(subtract(add(p, scaled(d, s)), add(q, scaled(e, t))))
        expect(value).toBeLessThan(apart + 1e-6)
        // Its ends lie on both, square to them.
        const [from, to] = endsIn(read([a, b]))
        expect(norm(cross(subtract(from, p), d))).toBeLessThan(1e-5)
        expect(norm(cross(subtract(to, q), e))).toBeLessThan(1e-5)
        expect(Math.abs(dot(subtract(to, from), d))).toBeLessThan(1e-5)
      }),
    )
  })
  it('between parallel faces is square to them, wherever their middles are; from a face to an axis likewise', () => {
    fc.assert(
      fc.property(frames, coordinate, coordinate, coordinate, radius, (at, x, y, z, round) => {
        const a: ReadPlace = { kind: 'flat', frame: at }
        const beside = pointOut(at, [x, y, z])
        const back = { ...at, origin: beside, v: scaled(at.v, -1), n: scaled(at.n, -1) }
        expect(read([a, { kind: 'flat', frame: back }])).toMatchObject({ how: 'square between the faces' })
        expect(valueIn(read([a, { kind: 'flat', frame: back }]))).toBeCloseTo(Math.abs(z), 7)
        // A round whose top is there and whose axis runs along the face.
        const bore: ReadPlace = { kind: 'round', frame: { ...at, origin: beside }, round }
        expect(read([bore, a])).toMatchObject({ how: 'from the face to the axis' })
        expect(valueIn(read([bore, a]))).toBeCloseTo(Math.abs(z - round), 7)
        // An axis that stands on the face: there is only its middle.
        expect(read([a, { kind: 'axis', frame: back }])).toMatchObject({ how: 'from the face to the middle' })
      }),
    )
  })
})

describe('an angle', () => {
  const { read } = ofFaces('angle')
  it('is what one was turned by: between faces to 180°, with axes to 90°', () => {
    fc.assert(
      fc.property(frames, turn, (at, by) => {
        const [s, c] = sineCosine(by)
        const tilted = { ...at, n: add(scaled(at.n, c), scaled(at.u, s)), u: add(scaled(at.u, c), scaled(at.n, -s)) }
        const acute = Math.min(Math.abs(by), 180 - Math.abs(by))
        const of = (a: ReadPlace['kind'], b: ReadPlace['kind']) =>
          valueIn(
            read([
              { kind: a, frame: at },
              { kind: b, frame: tilted },
            ]),
          )
        expect(of('flat', 'flat')).toBeCloseTo(Math.abs(by), 6)
        expect(of('axis', 'axis')).toBeCloseTo(acute, 6)
        expect(of('flat', 'axis')).toBeCloseTo(90 - acute, 6)
        expect(of('axis', 'flat')).toBeCloseTo(90 - acute, 6)
      }),
    )
  })
})

it('a diameter is that of bars and bores, and of nothing flat', () => {
  const { read } = ofFaces('diameter')
  expect(read([{ kind: 'round', frame: world, round: 85.1 / 2 }])).toMatchObject({ value: 85.1 })
  expect(read([{ kind: 'round', frame: world, round: -15.3 / 2 }])).toMatchObject({ value: 15.3 })
  expect(read([{ kind: 'flat', frame: world }])).toHaveProperty('detail')
})

/** Material between heights, endless aside. */
function slabs(...heights: readonly number[]): ReadSolid {
  return {
    mass: () => noMass,
    crossings: (from, direction) =>
      heights
        .map((z) => (z - from[2]) / direction[2])
        .filter((t) => t > 0)
        .sort((a, b) => a - b),
    edge: (key) => (key === 'rim' ? { length: 53.4, radius: 8.5, angle: 270 } : key === 'line' ? line : undefined),
  }
}
const line = { length: 1 / 3, radius: undefined, angle: 37.3 }

describe('a thickness', () => {
  const { read } = ofSolid('thickness')
  const face = (z: number): ReadPlace => ({ kind: 'flat', frame: { ...world, origin: [7.1, -3.3, z] } })
  it('goes straight in from the face, to where the material ends', () => {
    expect(valueIn(read([face(15.3)], slabs(0, 4.1, 9.2, 15.3)))).toBeCloseTo(6.1, 9)
    expect(valueIn(read([face(4.1)], slabs(0, 4.1, 9.2, 15.3)))).toBeCloseTo(4.1, 9)
  })
  it('is none where the middle of the face is open, or at an axis', () => {
    expect(read([face(12)], slabs(0, 4.1))).toHaveProperty('detail')
    expect(read([face(-1)], slabs(0, 4.1))).toHaveProperty('detail')
    expect(read([{ kind: 'axis', frame: world }], slabs(0, 4.1))).toHaveProperty('detail')
  })
})

describe('a centre of mass', () => {
  const { read } = ofSolid('centre-of-mass')
  const heavy = (volume: number, at: Vec3): ReadSolid => {
    const mass: Mass = { ...noMass, volume, first: [at[0] * volume, at[1] * volume, at[2] * volume] }
    return { ...slabs(), mass: () => mass }
  }
  it('lies so far behind a face, or beside an axis, and is drawn there', () => {
    fc.assert(
      fc.property(frames, coordinate, coordinate, coordinate, radius, (at, x, y, z, round) => {
        const solid = heavy(417.3, pointOut(at, [x, y, z]))
        expect(valueIn(read([{ kind: 'flat', frame: at }], solid))).toBeCloseTo(-z, 6)
        expect(valueIn(read([{ kind: 'axis', frame: at }], solid))).toBeCloseTo(Math.hypot(x, y), 6)
        const result = read([{ kind: 'round', frame: at, round }], solid)
        expect(valueIn(result)).toBeCloseTo(Math.hypot(x, z + round), 6)
        const [from, to] = endsIn(result)
        expect(norm(subtract(from, pointOut(at, [0, y, -round])))).toBeLessThan(1e-6)
        expect(norm(subtract(to, pointOut(at, [x, y, z])))).toBeLessThan(1e-6)
      }),
    )
  })
  it('is none of nothing; and a volume is that of the whole piece', () => {
    expect(read([{ kind: 'flat', frame: world }], slabs())).toHaveProperty('detail')
    expect(valueIn(ofSolid('volume').read([], heavy(15.3, [1, 2, 3])))).toBe(15.3)
  })
})

describe('read-outs of edges', () => {
  const at = (edge?: string): ReadPlace => ({ kind: 'edge', frame: world, edge })
  it.each([
    ['edge-length', 53.4, 1 / 3],
    ['edge-radius', 8.5, undefined],
    ['edge-angle', 270, 37.3],
  ])('%s', (kind, ofRim, ofLine) => {
    const { read } = ofSolid(kind)
    expect(read([at('rim')], slabs())).toMatchObject({ value: ofRim })
    expect(read([at('line')], slabs())).toEqual(
      ofLine === undefined ? { detail: expect.stringContaining('circle') } : expect.objectContaining({ value: ofLine }),
    )
    for (const gone of ['other', undefined])
      expect(read([at(gone)], slabs())).toEqual({ detail: expect.stringContaining('not there any more') })
  })
})

it('the axis of what is flat goes through its middle, square to it; that of a round lies in its middle', () => {
  const at = { ...world, origin: [3, 15.3, 7] } as const
  expect(axisOf({ kind: 'flat', frame: at, edge: undefined } as ReadPlace)).toEqual({
    point: [3, 15.3, 7],
    direction: [0, 0, 1],
  })
  expect(axisOf({ kind: 'round', frame: at, round: 4 } as ReadPlace)).toEqual({
    point: [3, 15.3, 3],
    direction: [0, 1, 0],
  })
})

describe('gears', () => {
  const { resolved, plan } = workOut(
    partOf([
      step('a', 'gear', { teeth: '24', module: '1.5', play: '0' }),
      step('b', 'gear', { teeth: '17', module: '1.27', run: 'helical', helix: '15.3', play: '0.13' }),
      step('c', 'gear', { teeth: '60', module: '3', height: '5', run: 'helical', helix: '40' }),
      step('d', 'bar', {}),
    ]),
  )
  const read = (kind: string, of: string) =>
    readRow({ id: 'r', name: 'r', kind, of: [{ step: of, face: '' }], note: '' }, plan, noReadings)
  it('are read by what a calliper can check', () => {
    expect(resolved.problems).toEqual([])
    expect(read('gear-pitch', 'a').value).toBeCloseTo(36, 12)
    expect(read('gear-base', 'a').value).toBeCloseTo(36 * Math.cos((20 * Math.PI) / 180), 12)
    expect(read('gear-tip', 'a').value).toBeCloseTo(39, 12)
    expect(read('gear-root', 'a').value).toBeCloseTo(32.25, 12)
    // Of the tables: W3 of 24 teeth of module 1 is 7.7165.
    expect(read('gear-span', 'a')).toMatchObject({ value: expect.closeTo(1.5 * 7.7165, 3), how: 'over 3 teeth' })
    expect(read('gear-pins', 'a').how).toBe('over two pins ⌀ 2.592')
    // A pin in the middle of a space lies so far out that the nearest point of the flank is its radius away.
    const base = 18 * Math.cos((20 * Math.PI) / 180)
    const flank = (i: number) => {
      const roll = i / 20_000
      const turn =
        Math.PI / 24 - (Math.PI / 48 + Math.tan((20 * Math.PI) / 180) - (20 * Math.PI) / 180) + roll - Math.atan(roll)
      return [base * Math.hypot(1, roll) * Math.cos(turn), base * Math.hypot(1, roll) * Math.sin(turn)] as const
    }
    const flanks = Array.from({ length: 14_000 }, (_, i) => flank(i))
    const middle = (read('gear-pins', 'a').value! - 2.592) / 2
    const near = flanks.reduce((least, [x, y]) => Math.min(least, Math.hypot(x - middle, y)), Number.POSITIVE_INFINITY)
    expect(near).toBeCloseTo(2.592 / 2, 5)
  })
  it('whose teeth lean are spanned across them', () => {
    const lean = Math.atan(
      Math.tan((15.3 * Math.PI) / 180) *
        Math.cos(Math.atan(Math.tan((20 * Math.PI) / 180) / Math.cos((15.3 * Math.PI) / 180))),
    )
    // Normal to the teeth: (k − ½) pitches of the normal section and 17 times its involute, less the play (ISO 21771, 4.5.4).
    const across = Math.atan(Math.tan((20 * Math.PI) / 180) / Math.cos((15.3 * Math.PI) / 180))
    const { value, how } = read('gear-span', 'b')
    const k = Number.parseInt(how.split(' ')[1]!, 10)
    const cosine = Math.cos((20 * Math.PI) / 180)
    const normal =
      1.27 * cosine * (Math.PI * (k - 0.5) + 17 * (Math.tan(across) - across)) -
      0.13 * Math.cos(across) * Math.cos(lean)
    expect(value).toBeCloseTo(normal, 9)
  })
  it('say where they cannot be read', () => {
    const detail = (kind: string, of: string) => read(kind, of).problem?.text
    expect(detail('gear-pins', 'b')).toMatch(/straight teeth only/)
    expect(detail('gear-span', 'c')).toMatch(/too narrow to be spanned/)
    expect(detail('gear-tip', 'd')).toMatch(/axis of a gear/)
  })
})
