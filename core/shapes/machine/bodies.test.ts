import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import type { AnyValues } from '../../fields/index.ts'
import { acrossAxis, isoProfile, toothSizes } from '../../gears/index.ts'
import { meshFigures } from '../../mesh/index.ts'
import { cross, norm, subtract, type Vec3 } from '../../place/index.ts'
import { ringArea } from '../../plane/index.ts'
import { built, onFace, partOf, step, testKernel } from '../../testing/index.ts'
import { runs } from '../../testing/sample.ts'
import { defaults } from '../../testing/shapes.ts'
import { shapeOf } from '../index.ts'
import type { WheelBody } from './bodies.ts'
import { boreRing } from './bores.ts'

const kernel = await testKernel()
const gear = shapeOf('gear')!
const wheel = { teeth: 30, module: 1.7, height: 9.3, bore: 'round', hole: 6.1 }
const values = (change: AnyValues) => ({ ...defaults('gear'), ...wheel, ...change }) as never
const context = { cuts: false, through: 20, overlap: 0.005, up: [0, 0, 1] as Vec3 }
const root = toothSizes(
  acrossAxis({ count: 30, module: 1.7, pressure: 20, helix: 0, shift: 0, thinner: 0, ...isoProfile }),
).root

function measured(change: AnyValues, fineness = 0.004) {
  return kernel.scope((scope) => {
    const solid = gear.solid(values(change), { scope, fineness, ...context })
    const mesh = solid.mesh()
    return { volume: solid.volume(), bounds: solid.bounds()!, figures: meshFigures(mesh), mesh }
  })
}
const teethArea = ringArea(gear.prism!(values({ bore: 'none' }), { fineness: 0.004, ...context })!.rings()[0]!)
const between = (low: number, high: number) =>
  fc.integer({ min: 0, max: 700 }).map((k) => low + ((high - low) * k) / 700)

/** What a spoke of a half-width covers of a circle about its foot. */
const spokeIn = (half: number, r: number) => half * Math.sqrt(r ** 2 - half ** 2) + r ** 2 * Math.asin(half / r)

/** Its volume from closed forms; only its teeth and its bore are measured. */
function volumeOf(v: WheelBody & { height: number }): number {
  const isThin = v.web !== 'full' && v.webDepth < v.height
  const low = isThin ? v.webDepth : v.height
  const inner = root - v.rim
  const hasHub = v.hub !== 'none'
  const hub = hasHub ? v.hubWidth / 2 : 0
  const top = hasHub ? v.height + v.hubHeight : low
  const begin = hasHub ? hub : Math.max(...boreRing(v, 0.004)!.map(([x, y]) => Math.hypot(x, y))) + Math.max(0.5, v.rim)
  const ledge = Math.min(1, 0.1 * (inner - begin))
  const [from, to] = [begin + ledge, inner - ledge]
  const opening =
    v.web === 'holes'
      ? v.openings * Math.PI * (v.opening / 2) ** 2
      : v.web === 'spokes'
        ? Math.PI * (to ** 2 - from ** 2) - v.openings * (spokeIn(v.spoke / 2, to) - spokeIn(v.spoke / 2, from))
        : 0
  return (
    teethArea * v.height -
    (isThin ? Math.PI * inner ** 2 * (v.height - low) : 0) +
    Math.PI * hub ** 2 * (top - low) -
    opening * Math.min(v.webDepth, v.height) -
    ringArea(boreRing(v, 0.004)!) * top
  )
}

const anyBody = fc.record({
  bore: fc.constantFrom('round', 'keyed', 'flatted', 'square', 'hex'),
  hole: between(4, 8),
  across: between(4, 8),
  hub: fc.constantFrom('none', 'above'),
  hubWidth: between(11, 20),
  hubHeight: fc.oneof(fc.constant(0), between(0.3, 8)),
  web: fc.constantFrom('full', 'thin', 'holes', 'spokes'),
  webDepth: between(1, 9.3),
  rim: between(1, 5),
  openings: fc.integer({ min: 3, max: 9 }),
  opening: between(1, 9),
  spoke: between(0.8, 6),
})

describe('the body of a wheel', () => {
  it('is one sound solid of the volume of its closed form, for any hub, web and bore', () => {
    fc.assert(
      fc.property(anyBody, (change) => {
        const v = values({ ...change, flat: change.hole * 0.85 })
        fc.pre(!gear.impossible!(v))
        const { volume, figures, bounds } = measured({ ...change, flat: change.hole * 0.85 })
        expect(figures).toMatchObject({ closed: true, oriented: true, solids: 1, cavities: [] })
        const known = volumeOf(v)
        expect(Math.abs(volume / known - 1)).toBeLessThan(2e-3)
        const box = gear.box(v, 20)
        for (const k of [0, 1, 2] as const) {
          expect(Math.abs(box.min[k] - bounds.min[k])).toBeLessThan(0.02)
          expect(Math.abs(box.max[k] - bounds.max[k])).toBeLessThan(0.02)
        }
        expect(gear.reach!(v, [0, 0, 1])).toBeCloseTo(bounds.max[2], 5)
      }),
      { numRuns: runs(60) },
    )
  })
  it.each(['helical', 'herringbone'])('carries teeth that run as %s, too', (run) => {
    const body = { hub: 'above', web: 'spokes', screws: 'two', marks: 'sunk', rim: 4.1 }
    expect(gear.impossible!(values({ run, ...body }))).toBeUndefined()
    expect(measured({ run, ...body }, 0.03).figures).toMatchObject({
      closed: true,
      oriented: true,
      solids: 1,
      cavities: [],
    })
  })
  it('names each of its surfaces, and no other', () => {
    fc.assert(
      fc.property(
        anyBody,
        fc.constantFrom('none', 'one', 'two'),
        fc.constantFrom('none', 'sunk'),
        between(1.5, 3),
        (change, screws, marks, screw) => {
          const all = { ...change, flat: change.hole * 0.85, screws, marks, screw }
          const v = values(all)
          if (gear.impossible!(v)) return
          const { positions, triangles } = measured(all, 0.02).mesh
          const { at, all: told } = gear.surfaces(v)
          const found = new Map<string, number>()
          for (let t = 0; t < triangles.length; t += 3) {
            const [a, b, c] = [0, 1, 2].map((k) => {
              const i = 3 * triangles[t + k]!
              return [positions[i]!, positions[i + 1]!, positions[i + 2]!] as Vec3
            }) as [Vec3, Vec3, Vec3]
            const normal = cross(subtract(b, a), subtract(c, a))
            const area = norm(normal)
            if (area < 1e-4) continue
            const middle = [0, 1, 2].map((k) => (a[k]! + b[k]! + c[k]!) / 3) as unknown as Vec3
            const name = at(middle, normal.map((x) => x / area) as unknown as Vec3)
            found.set(name, (found.get(name) ?? 0) + area / 2)
          }
          expect([...found.keys()].sort()).toEqual(told.map(({ name }) => name).sort())
          const names = new Map(gear.surfaces(v).faces.map((face) => [face.name, face]))
          // Round ones are as large as they say, but for what opens into them.
          const hub = names.get('hub')
          if (hub) expect(found.get('hub')! / (hub.size[0] * hub.size[1])).toBeGreaterThan(0.6)
          if (hub) expect(found.get('hub')! / (hub.size[0] * hub.size[1])).toBeLessThan(1.001)
        },
      ),
      { numRuns: runs(40) },
    )
  })
  it('has set screws that reach its bore, in the middle of the hub or of the teeth, across the flat', () => {
    const hub = { hub: 'above', hubWidth: 13.3, hubHeight: 6.4, screw: 2.5 }
    const plain = measured(hub).volume
    const [one, two] = ['one', 'two'].map((screws) => plain - measured({ ...hub, screws }).volume) as [number, number]
    // From the bore to the outside of the hub, less the bulge of both rounds.
    const long = (13.3 - 6.1) / 2
    expect(one).toBeGreaterThan(Math.PI * 1.25 ** 2 * (long - 0.15))
    expect(one).toBeLessThan(Math.PI * 1.25 ** 2 * (long + 0.15))
    expect(two / one).toBeCloseTo(2, 2)
    const { mesh } = measured({ ...hub, screws: 'one', bore: 'flatted', flat: 5.2 })
    const mouth = Array.from({ length: mesh.positions.length / 3 }, (_, i) =>
      mesh.positions.slice(3 * i, 3 * i + 3),
    ).filter(([x, y, z]) => y! > 2 && Math.abs(x!) < 1.3 && Math.abs(z! - 12.5) < 1.3 && Math.hypot(x!, y!) < 4)
    expect(mouth.length).toBeGreaterThan(8)
    for (const [, y] of mouth) expect(y).toBeCloseTo(5.2 - 3.05, 3)
    // Where no hub stands above the teeth they go through these.
    const through = measured({}).volume - measured({ screws: 'one', screw: 2.5 }).volume
    expect(through).toBeGreaterThan(Math.PI * 1.25 ** 2 * (root - 3.05))
  })
  it('is engraved with teeth and size, as deep as is said', () => {
    const plain = measured({}).volume
    const sunk = (change: AnyValues) => plain - measured({ marks: 'sunk', ...change }).volume
    const one = sunk({ markDepth: 0.4 })
    expect(one).toBeGreaterThan(3)
    expect(sunk({ markDepth: 0.8 }) / one).toBeCloseTo(2, 3)
    // All of it lies on the face below the teeth.
    const { mesh } = measured({ marks: 'sunk' })
    for (let i = 0; i < mesh.positions.length; i += 3)
      if (Math.abs(mesh.positions[i + 2]! - 8.9) < 1e-3) {
        const r = Math.hypot(mesh.positions[i]!, mesh.positions[i + 1]!)
        expect(r > 3.05 && r < root).toBe(true)
      }
  })
  it.each([
    [{ hub: 'above', hubWidth: 6.5 }, 'hubWidth', /wall about the bore: 7\.1/],
    [{ hub: 'above', hubWidth: 80 }, 'hubWidth', /stay below the roots of the teeth: 46\.75/],
    [{ web: 'thin', webDepth: 12 }, 'webDepth', /no thicker|cannot be thicker/],
    [{ web: 'holes', rim: 22 }, 'rim', /leaves no web/],
    [{ web: 'thin', hub: 'above', rim: 20 }, 'rim', /leaves no web/],
    [{ web: 'holes', openings: 12, opening: 8 }, 'opening', /12 holes of this size have no room/],
    [{ web: 'spokes', openings: 20, spoke: 5 }, 'spoke', /20 spokes of this width/],
    [{ screws: 'one', bore: 'none' }, 'screws', /no bore/],
    [{ screws: 'one', screw: 7 }, 'screw', /6\.1 mm at most/],
    [{ marks: 'sunk', hub: 'above', hubWidth: 44.5 }, 'marks', /only 1\.13 mm wide/],
    [{ marks: 'sunk', markDepth: 9 }, 'markDepth', /come out below/],
  ] as [AnyValues, string, RegExp][])(
    'that cannot be is told at its value, with what can: %o',
    (change, field, text) => {
      const told = gear.impossible!(values(change))
      expect([told?.field, told?.detail]).toEqual([field, expect.stringMatching(text)])
      if (!told?.nearest) return
      // What is offered will do there; at so narrow a web something else may be next.
      expect(gear.impossible!(values({ ...change, [told.nearest.field]: told.nearest.value }))?.field).not.toBe(field)
    },
  )
  it('is no part of what is cut', () => {
    const cut = (change: AnyValues) =>
      kernel.scope((scope) => gear.solid(values(change), { scope, fineness: 0.02, ...context, cuts: true }).volume())
    expect(cut({ hub: 'above', web: 'spokes', marks: 'sunk', screws: 'two' })).toBeCloseTo(cut({}), 9)
  })
  it('is stood on: at the hub, and at the web', async () => {
    const part = partOf([
      step('g', 'gear', { teeth: '30', module: '1.7', hub: 'above', hubHeight: '6.4', web: 'thin', webDepth: '3.3' }),
      step('p', 'bar', { diameter: '2.1', height: '1.7' }, { place: onFace('g', 'hub top') }),
      step('q', 'bar', { diameter: '2.1', height: '1.7' }, { place: onFace('g', 'web') }),
    ])
    const { plan } = await built(kernel, part)
    expect(plan.geometry.get('p')!.frame.origin[2]).toBeCloseTo(8 + 6.4, 9)
    expect(plan.geometry.get('q')!.frame.origin[2]).toBeCloseTo(3.3, 9)
  })
})

it('of a wheel that was made before bores had their own size across flats keeps it', () => {
  const old = { ...defaults('gear'), bore: 'hex', hole: '7.3' } as unknown as Record<string, string>
  expect(gear.upgrades![0]!(old)).toMatchObject({ across: '7.3', hole: '7.3' })
  expect(gear.upgrades![0]!({ bore: 'round', hole: '7.3' })).toEqual({ bore: 'round', hole: '7.3' })
})
