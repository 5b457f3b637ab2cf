import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { newPiece, onBed, type Part, type Place, type ShapeStep } from '../document/index.ts'
import { defaultFields } from '../fields/index.ts'
import { dot, type Frame, norm, pointOut, subtract, type Vec3, world } from '../place/index.ts'
import { poseOf, workOut } from '../planning/index.ts'
import { partOf, step } from '../testing/index.ts'
import { runs } from '../testing/sample.ts'
import { beside } from '../testing/wheels/index.ts'
import { jointOf } from './index.ts'

const post = (id: string, place: Partial<Place> = {}): ShapeStep =>
  step(id, 'bar', { diameter: '5', height: '8' }, { place: { ...onBed, ...place } }) as ShapeStep
const joint = (id: string, pieces: readonly [string, string], about: string, fields = {}) => ({
  ...{ id, name: '', kind: 'on-axis', pieces, place: onBed },
  fields: { ...defaultFields(jointOf('on-axis')!.fields), about, ...fields },
})
/** A piece for each list of steps, `p1` and on. */
function partWith(pieces: readonly (readonly ShapeStep[])[], joints: readonly ReturnType<typeof joint>[]): Part {
  const part = partOf([...pieces[0]!])
  const further = pieces
    .slice(1)
    .map((steps, i) => ({ ...newPiece(`p${i + 2}`, `${i + 2}`, 'sand'), steps: [...steps] }))
  return { ...part, pieces: [part.pieces[0]!, ...further], joints: [...joints] }
}
function posedAt(part: Part, positions: Readonly<Record<string, readonly number[]>>) {
  const { resolved, plan, problems } = workOut(part)
  const joints = [...plan.joints].map(([id, { frame }]) => ({
    joint: part.joints.find((each) => each.id === id)!,
    frame,
  }))
  return { ...poseOf({ resolved, joints }, positions), plan, problems }
}

describe('a joint on an axis of a step', () => {
  const angle = () => fc.integer({ min: -1800, max: 1800 }).map((x) => `${x / 10}`)
  const any = fc.record({
    ...{ turn: angle(), tilt: angle(), lean: angle(), x: fc.integer({ min: -300, max: 300 }) },
    line: fc.constantFrom('normal', 'across', 'along'),
    by: fc.integer({ min: -900, max: 900 }),
    slid: fc.integer({ min: -60, max: 90 }),
  })
  it('turns a piece about that line, or along it, or both, however the step stands', () => {
    fc.assert(
      fc.property(any, ({ turn, tilt, lean, x, line, by, slid }) => {
        const about = post('pin', { ...beside(x / 10, 3.7), turn, tilt, lean })
        for (const moves of ['turns', 'slides', 'both']) {
          const part = partWith(
            [[about], [post('arm')]],
            [joint('j', ['p1', 'p2'], 'pin', { moves, line, back: '-6' })],
          )
          const at = moves === 'turns' ? [by / 10] : moves === 'slides' ? [slid / 10] : [by / 10, slid / 10]
          const { motions, plan, problems } = posedAt(part, { j: at })
          expect(problems).toEqual([])
          const own = plan.geometry.get('pin')!.frame
          const way = { normal: own.n, across: own.u, along: own.v }[line]!
          const p: Vec3 = [11.3, -7.9, 4.1]
          const q = pointOut(motions.get('p2')!, p)
          const off = (point: Vec3) => {
            const away = subtract(point, own.origin)
            const along = dot(away, way)
            return {
              along,
              radius: Math.sqrt(norm(away) ** 2 - along ** 2),
              flat: away.map((c, k) => c - along * way[k]!),
            }
          }
          const [from, to] = [off(p), off(q)]
          expect(to.along - from.along).toBeCloseTo(moves === 'turns' ? 0 : slid / 10, 9)
          expect(to.radius).toBeCloseTo(from.radius, 9)
          const [a, b] = [from.flat, to.flat] as [number[], number[]]
          const cross = [a[1]! * b[2]! - a[2]! * b[1]!, a[2]! * b[0]! - a[0]! * b[2]!, a[0]! * b[1]! - a[1]! * b[0]!]
          const turned = Math.atan2(
            cross.reduce((sum, c, k) => sum + c * way[k]!, 0),
            a.reduce((sum, c, k) => sum + c * b[k]!, 0),
          )
          const degrees = moves === 'slides' ? 0 : by / 10
          expect(Math.sin(turned - (degrees * Math.PI) / 180)).toBeCloseTo(0, 9)
          expect(Math.cos(turned - (degrees * Math.PI) / 180)).toBeCloseTo(1, 9)
          expect(motions.get('p1')).toEqual(world)
        }
      }),
      { numRuns: runs(40) },
    )
  })
  it('screws along it: a turn takes it its lead further, to one side or the other', () => {
    for (const [lead, by] of [
      ['2', 37.3],
      ['-1/3 in', 1000],
    ] as const) {
      const about = post('pin', { ...beside(3.1, -7), tilt: '37.3' })
      const fields = { moves: 'screws', lead, to: '3600' }
      const part = partWith([[about], [post('arm')]], [joint('j', ['p1', 'p2'], 'pin', fields)])
      const { motions, plan, problems } = posedAt(part, { j: [by] })
      expect(problems).toEqual([])
      const { origin, n } = plan.geometry.get('pin')!.frame
      const gone = subtract(pointOut(motions.get('p2')!, origin), origin)
      const far = ((lead === '2' ? 2 : -25.4 / 3) * by) / 360
      expect(dot(gone, n)).toBeCloseTo(far, 9)
      expect(norm(gone)).toBeCloseTo(Math.abs(far), 9)
    }
    const none = partWith(
      [[post('pin')], [post('arm')]],
      [joint('j', ['p1', 'p2'], 'pin', { moves: 'screws', lead: '0' })],
    )
    expect(posedAt(none, {}).problems.map(({ path }) => path.at(-1))).toEqual(['lead'])
  })
  it('closes a four-bar linkage built of plain steps, whose pins keep their distances all the way round', () => {
    const at = [
      [0, 0],
      [3.1, 12.4],
      [51.3, 28.7],
      [47.9, -2.3],
    ] as const
    const pin = (i: 0 | 1 | 2 | 3) => post(`pin${i}`, beside(at[i][0], at[i][1]))
    // Ground, crank, coupler and rocker.
    const part = partWith(
      [[pin(0), pin(3)], [pin(1)], [pin(2)], [post('last', beside(50, 10))]],
      [
        joint('crank', ['p1', 'p2'], 'pin0', { from: '-360', to: '360' }),
        joint('knee', ['p2', 'p3'], 'pin1', { from: '-360', to: '360' }),
        joint('wrist', ['p3', 'p4'], 'pin2', { from: '-360', to: '360' }),
        joint('rocker', ['p1', 'p4'], 'pin3', { from: '-360', to: '360' }),
      ],
    )
    const far = (i: number, k: number) => Math.hypot(at[i]![0] - at[k]![0], at[i]![1] - at[k]![1])
    for (const turned of [0, 37.3, 85.1, -153, 200]) {
      const { motions, off, plan } = posedAt(part, { crank: [turned] })
      expect(off).toBeLessThan(1e-5)
      const place = (id: string, piece: string) => pointOut(motions.get(piece)!, plan.geometry.get(id)!.frame.origin)
      const [a, b, c, d] = [place('pin0', 'p1'), place('pin1', 'p2'), place('pin2', 'p3'), place('pin3', 'p1')]
      expect(norm(subtract(a, b))).toBeCloseTo(far(0, 1), 5)
      expect(norm(subtract(b, c))).toBeCloseTo(far(1, 2), 5)
      expect(norm(subtract(c, d))).toBeCloseTo(far(2, 3), 5)
      const moved: Frame = motions.get('p4')!
      expect(norm(subtract(pointOut(moved, plan.geometry.get('pin2')!.frame.origin), c))).toBeLessThan(1e-5)
    }
  })
  it('tells what it has no use for, at its place', () => {
    const told = (fields: object) =>
      workOut(partWith([[post('pin')], [post('arm')]], [joint('j', ['p1', 'p2'], 'pin', fields)])).problems.map(
        ({ path, text }) => [path.at(-1), text],
      )
    expect(told({})).toEqual([])
    expect(told({ from: '0', to: '0' })).toEqual([
      ['to', 'A travel of 0 moves nothing: let it turn to one side at least.'],
    ])
    expect(told({ moves: 'slides', forth: '0' })).toEqual([
      ['forth', 'A travel of 0 moves nothing: let it slide one way at least.'],
    ])
    expect(told({ from: '15' })[0]![0]).toBe('from')
    expect(told({ about: '' })[0]![0]).toBe('about')
    expect(told({ about: 'gone' })[0]![0]).toBe('about')
  })
})
