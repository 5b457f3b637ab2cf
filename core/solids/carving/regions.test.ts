import { describe, expect, it } from 'vitest'
import type { Part, ShapeStep, Step } from '../../document/index.ts'
import { isNumberField } from '../../fields/index.ts'
import { meshFigures } from '../../mesh/index.ts'
import { planPart } from '../../planning/plan.ts'
import { resolvePart } from '../../planning/resolve.ts'
import { shapes } from '../../shapes/index.ts'
import { built, onFace, partOf, repeat, seeded, step, testKernel } from '../../testing/index.ts'
import { sampleOf } from '../../testing/outlines.ts'
import { Builder, renderMeshOf } from '../index.ts'
import { carvingsOf } from './index.ts'

const kernel = await testKernel()

const grid = (across: number, along: number, spacing: string) =>
  repeat('grid', { across: String(across), along: String(along), acrossSpacing: spacing, alongSpacing: spacing })
const plate = step('plate', 'plate', { width: '210', depth: '110', height: '6', corner: '4' })
const first = {
  across: { from: 'low', to: 'centre', by: '10' },
  along: { from: 'low', to: 'centre', by: '10' },
} as const
const cut = (id: string, shape: string, fields: Record<string, string>, repeats: ShapeStep['repeats'], more = {}) =>
  step(id, shape, fields, { place: { ...onFace('plate', 'top'), ...first, ...more }, repeats })
const holes = cut('holes', 'hole', { diameter: '3' }, [grid(20, 10, '10')])
const carvings = (part: Part, hot: readonly string[] = []) =>
  carvingsOf(planPart(resolvePart(part)).pieces[0]!.operands, new Set(hot), 0.03)
const named = (part: Part, hot: readonly string[] = []) =>
  carvings(part, hot).map(({ base, cuts }) => [base.step.id, ...cuts.map((each) => each.step.id)])

describe('many cuts through a prism', () => {
  it('are made in its plane, and come to the same solid as in space', async () => {
    const slots = cut('slots', 'slot', { length: '6', width: '2' }, [grid(19, 4, '10')], {
      across: { ...first.across, by: '15' },
      along: { ...first.along, by: '15' },
      turn: '45',
    })
    const blind = cut('blind', 'hole', { diameter: '2', reach: 'blind', depth: '2' }, [], {
      across: { ...first.across, by: '15' },
    })
    const boss = step(
      'boss',
      'bar',
      { diameter: '4', height: '5' },
      { place: { ...onFace('plate', 'top'), across: { ...first.across, by: '15' } } },
    )
    const part = partOf([plate, holes, slots, blind, boss])
    expect(named(part)).toEqual([['plate', 'holes', 'slots']])
    const inPlane = await built(kernel, part, 0.03)
    // Half of the copies at a time are few enough for space.
    const few = [holes, slots].flatMap((each) =>
      [0, 1].map((half): Step => {
        const count = each === holes ? 200 : 76
        const omit = Array.from({ length: count }, (_, i) => i + 1).filter((i) => i > count / 2 === (half === 0))
        return { ...each, id: `${each.id}${half}`, omit }
      }),
    )
    const solids = await Promise.all(
      [few.slice(0, 1), few.slice(1, 2), few.slice(2)].map((some) => built(kernel, partOf([plate, ...some]), 0.03)),
    )
    for (const done of solids) expect(carvings(done.resolved.part)).toEqual([])
    const volume = (done: typeof inPlane) => done.pieces[0]!.solid!.volume()
    const uncut = volume(await built(kernel, partOf([plate]), 0.03))
    const removed = solids.reduce((sum, done) => sum + uncut - volume(done), 0)
    const extra = volume(await built(kernel, partOf([plate, blind, boss]), 0.03)) - uncut
    expect(volume(inPlane)).toBeCloseTo(uncut - removed + extra, 4)
    expect(inPlane.problems).toEqual([])
    const { closed, oriented, solids: bodies } = meshFigures(inPlane.pieces[0]!.solid!.mesh())
    expect([closed, oriented, bodies]).toEqual([true, true, 1])
  })
  it('leave surfaces that know their steps, faces and copies', async () => {
    const done = await built(kernel, partOf([plate, holes]), 0.03)
    const mesh = renderMeshOf(done, done.pieces[0]!)!
    const faces = mesh.faces.map(({ owner, copy, face }) => `${owner.id} ${copy} ${face}`)
    const sides = ['back', 'bottom', 'corner', 'front', 'left', 'right', 'top'].map((side) => `plate 1 ${side}`)
    const walls = Array.from({ length: 200 }, (_, i) => `holes ${i + 1} wall`)
    expect(faces.sort()).toEqual([...sides, ...walls].sort())
    const wall = (of: number) => mesh.faces[of]!.face === 'wall'
    const area = (wanted: (of: number) => boolean) => {
      let sum = 0
      for (let t = 0; t < mesh.faceOf.length; t++) {
        if (!wanted(mesh.faceOf[t]!)) continue
        const p = mesh.positions.subarray(9 * t, 9 * t + 9)
        const u = [p[3]! - p[0]!, p[4]! - p[1]!, p[5]! - p[2]!]
        const v = [p[6]! - p[0]!, p[7]! - p[1]!, p[8]! - p[2]!]
        sum +=
          Math.hypot(u[1]! * v[2]! - u[2]! * v[1]!, u[2]! * v[0]! - u[0]! * v[2]!, u[0]! * v[1]! - u[1]! * v[0]!) / 2
      }
      return sum
    }
    // 200 walls, a little more than their circles since the flats touch these from outside.
    expect(area(wall) / (200 * Math.PI * 3 * 6)).toBeGreaterThan(1)
    expect(area(wall) / (200 * Math.PI * 3 * 6)).toBeLessThan(1.03)
  })
  it('stay in space where they are few, edited, not through, or would cut what was added before', () => {
    expect(named(partOf([plate, cut('few', 'hole', {}, [grid(5, 5, '10')])]))).toEqual([])
    const two = partOf([plate, holes, cut('more', 'hole', {}, [grid(3, 3, '10')])])
    expect(named(two, ['more'])).toEqual([['plate', 'holes']])
    expect(named(two, ['holes'])).toEqual([['plate', 'holes', 'more']])
    const deep = cut('deep', 'hole', { reach: 'blind', depth: '5' }, [grid(20, 10, '10')])
    expect(named(partOf([plate, deep]))).toEqual([])
    const slab = step('slab', 'plate', { width: '30', depth: '30', height: '4' }, { place: onFace('plate', 'top') })
    expect(named(partOf([plate, slab, holes]))).toEqual([])
    expect(named(partOf([plate, holes, slab]))).toEqual([['plate', 'holes']])
  })
  it('tell which of them took nothing', async () => {
    const beside = cut('beside', 'hole', { diameter: '3' }, [], { across: { from: 'high', to: 'centre', by: '-9' } })
    const done = await built(kernel, partOf([plate, holes, beside]), 0.03)
    expect(done.problems.map(({ code, path }) => [code, path[1]])).toContainEqual(['cut-removes-nothing', 'beside'])
  })
  it('are looked at from either side, on a mirrored copy too', async () => {
    const below = step(
      'below',
      'teardrop',
      { diameter: '3' },
      {
        place: { ...onFace('plate', 'bottom'), ...first },
        repeats: [grid(20, 10, '10')],
      },
    )
    const mirrored = cut('mirrored', 'slot', { length: '7', width: '2' }, [grid(10, 10, '10'), repeat('mirror', {})])
    const [a, b] = await Promise.all([
      built(kernel, partOf([plate, holes]), 0.03),
      built(kernel, partOf([plate, below]), 0.03),
    ])
    expect(b.pieces[0]!.solid!.volume()).toBeCloseTo(a.pieces[0]!.solid!.volume(), 5)
    expect(named(partOf([plate, mirrored]))).toEqual([['plate', 'mirrored']])
    const done = await built(kernel, partOf([plate, mirrored]), 0.03)
    expect(meshFigures(done.pieces[0]!.solid!.mesh())).toMatchObject({ closed: true, oriented: true, solids: 1 })
  })
  it('are undone, redone and released as everything else', async () => {
    const before = kernel.live
    const builder = new Builder(kernel)
    const one = await built(kernel, partOf([plate, holes]), 0.03, builder)
    const key = one.pieces[0]!.key
    await built(kernel, partOf([{ ...plate, fields: { ...plate.fields, height: '7' } }, holes]), 0.03, builder)
    expect((await built(kernel, partOf([plate, holes]), 0.03, builder)).pieces[0]!.key).toBe(key)
    builder.clear()
    expect(kernel.live).toBe(before)
  })
})

describe('every shape that is a prism', () => {
  const prismatic = shapes.filter((shape) => 'prism' in shape)
  const random = seeded(2)
  it.each(prismatic.map((shape) => [shape.kind, shape] as const))('%s is its outline extruded', (_, shape) => {
    const values = Object.fromEntries(
      Object.entries(shape.fields).map(([name, field]) => [
        name,
        field.kind === 'outline'
          ? sampleOf(shape.kind, name)
          : isNumberField(field)
            ? Number(field.default)
            : field.default,
      ]),
    )
    for (const cuts of [false, true]) {
      const context = { fineness: 0.02 + random() / 50, cuts, through: 9, up: [0, 0, 1] as const, overlap: 0.005 }
      const prism = shape.prism!(values, context)!
      kernel.scope((scope) => {
        const own = shape.solid(values, { ...context, scope })
        const flat = scope.extrude(prism.rings(), prism.high - prism.low)
        expect(flat.volume()).toBeCloseTo(own.volume(), 6)
        expect(own.bounds()!.min[2]).toBeCloseTo(prism.low, 6)
        expect(own.bounds()!.max[2]).toBeCloseTo(prism.high, 6)
      })
    }
  })
})
