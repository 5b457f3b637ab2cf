import fc from 'fast-check'
import { expect, it } from 'vitest'
import { newPiece, onBed, type Part, type Place } from '../document/index.ts'
import { defaultFields } from '../fields/index.ts'
import { pointOut, turnedX, type Vec3 } from '../place/index.ts'
import { poseOf, workOut } from '../planning/index.ts'
import { partOf, step } from '../testing/index.ts'
import { real } from '../testing/sample.ts'
import { beltLength } from './belt.ts'
import { jointOf } from './index.ts'

const definition = jointOf('belt')!
const pulley = (id: string, diameter: string, place: Partial<Place> = {}) =>
  step(id, 'bar', { diameter, height: '8' }, { place: { ...onBed, ...place } })
const withBelt = (fields: Record<string, string>, place: Partial<Place> = {}): Part => {
  const part = partOf([pulley('a', '15.3')])
  return {
    ...part,
    pieces: [
      part.pieces[0]!,
      {
        ...newPiece('p2', 'Wheel', 'sand'),
        steps: [pulley('b', '37.3', { across: { from: 'centre', to: 'centre', by: '61.9' }, ...place })],
      },
    ],
    joints: [
      {
        ...{ id: 'j', name: '', kind: 'belt', pieces: ['p1', 'p2'], place: onBed },
        fields: {
          ...defaultFields(definition.fields),
          ...{ first: 'a', second: 'b', firstDiameter: '16', secondDiameter: '38', ...fields },
        },
      },
    ],
  }
}
function turned(part: Part, at: number): readonly [first: number, second: number] {
  const worked = workOut(part)
  const joints = part.joints.map((joint) => ({ joint, ...worked.plan.joints.get(joint.id)! }))
  const { motions } = poseOf({ ...worked, joints }, { j: [at] })
  const angle = (piece: string, middle: Vec3) => {
    const [x, y] = pointOut(motions.get(piece)!, [middle[0] + 1, middle[1], 0])
    return (Math.atan2(y - middle[1], x - middle[0]) * 180) / Math.PI
  }
  return [angle('p1', [0, 0, 0]), angle('p2', [61.9, 0, 0])]
}

it('turns the second as far as their diameters have it, one way, or the other where it is crossed', () => {
  const [first, second] = turned(withBelt({}), 37.3)
  expect(first).toBeCloseTo(37.3, 9)
  expect(second).toBeCloseTo((37.3 * 16) / 38, 9)
  expect(turned(withBelt({ run: 'crossed' }), 37.3)[1]).toBeCloseTo((-37.3 * 16) / 38, 9)
})
it('is as long as what lies round both, open', () => {
  const size = real(3, 40)
  fc.assert(
    fc.property(size, size, real(1, 90), (d1, d2, more) => {
      const distance = (d1 + d2) / 2 + more
      // The outline of both circles, by how far they reach each way: its length is the mean of its widths, times pi.
      const reach = (at: number) => Math.max(d1 / 2, distance * Math.cos(at) + d2 / 2)
      const count = 3600
      const long = Array.from({ length: count }, (_, i) => reach((2 * Math.PI * i) / count)).reduce((a, b) => a + b)
      expect(beltLength(distance, [d1, d2], 'open')).toBeCloseTo((long * 2 * Math.PI) / count, 3)
    }),
  )
})
it('is as long as two arcs and what touches both, crossed', () => {
  const [d1, d2, distance] = [16, 38, 61.9]
  // Where a line through the point between both touches each.
  const half = Math.acos((d1 + d2) / 2 / distance)
  const straight = Math.sqrt(distance ** 2 - ((d1 + d2) / 2) ** 2)
  const arcs = (Math.PI - half) * (d1 + d2)
  expect(beltLength(distance, [d1, d2], 'crossed')).toBeCloseTo(2 * straight + arcs, 9)
})
it('tells what keeps it from running, and puts the second right', () => {
  const faults = (part: Part) => workOut(part).problems.map(({ text }) => text)
  expect(faults(withBelt({}))).toEqual([])
  expect(faults(withBelt({ firstDiameter: '90' })).join()).toMatch(/apart/)
  expect(faults(withBelt({}, { tilt: '37.3' })).join()).toMatch(/parallel/)
  const { judged, settled } = definition.between!
  const values = { firstDiameter: 16, secondDiameter: 38, run: 'open' } as never
  const leaning = { ...turnedX(37.3), origin: [61.9, 0, 3] as Vec3 }
  const right = settled(values, leaning)!
  expect(judged(values, right, []).faults).toEqual([])
  expect(right.origin).toEqual([61.9, 0, 0])
  expect(judged(values, { ...right, origin: [61.9, 0, 2] }, []).faults).toMatchObject([{ rank: 'advice' }])
})
