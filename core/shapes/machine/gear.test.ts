import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import type { AnyValues } from '../../fields/index.ts'
import { acrossAxis, closeDistance, isoProfile, toothSizes } from '../../gears/index.ts'
import { meshFigures } from '../../mesh/index.ts'
import { dot, type Vec3 } from '../../place/index.ts'
import { ringArea } from '../../plane/index.ts'
import { built, onFace, partOf, step, testKernel } from '../../testing/index.ts'
import { runs } from '../../testing/sample.ts'
import { defaults } from '../../testing/shapes.ts'
import { shapeOf } from '../index.ts'
import { type Bore, boreReach, boreRing } from './bores.ts'

const kernel = await testKernel()
const gear = shapeOf('gear')!
const up: Vec3 = [0, 0, 1]
const values = (change: AnyValues) => ({ ...defaults('gear'), ...change }) as never
const context = { cuts: false, through: 20, overlap: 0.005, up }

function measured(change: AnyValues, fineness = 0.01) {
  return kernel.scope((scope) => {
    const solid = gear.solid(values(change), { scope, fineness, ...context })
    const mesh = solid.mesh()
    return { volume: solid.volume(), bounds: solid.bounds()!, figures: meshFigures(mesh), positions: mesh.positions }
  })
}
const between = (low: number, high: number) =>
  fc.integer({ min: 0, max: 500 }).map((k) => low + ((high - low) * k) / 500)

describe('a gear', () => {
  it.each(['straight', 'helical', 'herringbone'])(
    'whose teeth run %s is one sound body, as large as its outline says',
    (run) => {
      for (const bore of ['none', 'round', 'keyed', 'flatted', 'square', 'hex']) {
        const { volume, figures } = measured({ run, bore, teeth: 17, module: 1.27, helix: 23.7, height: 7.3 })
        expect(figures, bore).toMatchObject({ closed: true, oriented: true, solids: 1, cavities: [] })
        const straight = gear.prism!(values({ run: 'straight', bore, teeth: 17, module: 1.27 }), {
          fineness: 0.01,
          ...context,
        })!
        if (run === 'straight') {
          const area = straight.rings().reduce((sum, ring) => sum + ringArea(ring), 0)
          expect(volume).toBeCloseTo(area * 7.3, 6)
        }
      }
    },
  )
  it('aslant has the volume of its section all along, whichever way and back', () => {
    const area = (module: number) =>
      gear.prism!(values({ bore: 'none', module, pressure: 20 }), { fineness: 0.002, ...context })!
        .rings()
        .reduce((sum, ring) => sum + ringArea(ring), 0)
    const helical = measured({ run: 'helical', bore: 'none', helix: 15.3, height: 6 }, 0.002).volume
    const other = measured({ run: 'helical', bore: 'none', helix: 15.3, height: 6, hand: 'left' }, 0.002).volume
    const both = measured({ run: 'herringbone', bore: 'none', helix: 15.3, height: 6 }, 0.002).volume
    expect(Math.abs(other / helical - 1)).toBeLessThan(1e-4)
    expect(Math.abs(both / helical - 1)).toBeLessThan(1e-4)
    // Its teeth are as large across themselves, so it is larger than a straight one.
    const wider = helical / 6 / area(1.5)
    expect(wider).toBeGreaterThan(1.02)
    expect(wider).toBeLessThan(1.08)
  })
  it.each([
    ['right', 1],
    ['left', -1],
  ])('of the %s hand turns that way as it rises', (hand, sign) => {
    const change = { run: 'helical', hand, helix: 18, height: 5, bore: 'none', teeth: 11 }
    const { positions } = measured(change)
    const pitch = (11 * 1.5) / Math.cos((18 * Math.PI) / 180) / 2
    const turn = (sign * 5 * Math.tan((18 * Math.PI) / 180)) / pitch
    const ring = (z: number) =>
      Array.from({ length: positions.length / 3 }, (_, i) => [...positions.slice(3 * i, 3 * i + 3)] as number[])
        .filter((p) => Math.abs(p[2]! - z) < 1e-4)
        .map((p) => [p[0]!, p[1]!] as const)
    const low = ring(0)
    for (const [x, y] of ring(5)) {
      const [c, s] = [Math.cos(-turn), Math.sin(-turn)]
      const back = [c * x - s * y, s * x + c * y] as const
      expect(Math.min(...low.map((p) => Math.hypot(p[0] - back[0], p[1] - back[1])))).toBeLessThan(1e-3)
    }
  })
  it('reaches as far as its solid does, whichever way its teeth run', () => {
    const any = fc.record({
      run: fc.constantFrom('straight', 'helical', 'herringbone'),
      hand: fc.constantFrom('right', 'left'),
      teeth: fc.integer({ min: 7, max: 20 }),
      helix: between(3, 40),
      height: between(1, 20),
      shift: between(0.2, 0.5),
      direction: fc.tuple(between(-1, 1), between(-1, 1), between(-1, 1)).filter((d) => Math.hypot(...d) > 0.2),
    })
    fc.assert(
      fc.property(any, ({ direction, ...change }) => {
        const d = direction.map((x) => x / Math.hypot(...direction)) as unknown as Vec3
        const { positions, bounds } = measured({ ...change, bore: 'none' }, 0.002)
        let far = -Infinity
        for (let i = 0; i < positions.length; i += 3)
          far = Math.max(far, dot(d, [positions[i]!, positions[i + 1]!, positions[i + 2]!]))
        expect(Math.abs(gear.reach!(values({ ...change, bore: 'none' }), d) - far)).toBeLessThan(0.01)
        const box = gear.box(values(change), 20)
        for (const k of [0, 1, 2] as const) {
          expect(Math.abs(box.min[k] - bounds.min[k])).toBeLessThan(0.01)
          expect(Math.abs(box.max[k] - bounds.max[k])).toBeLessThan(0.01)
        }
      }),
      { numRuns: runs(25) },
    )
  })
  it('is the same by module, teeth per inch and pitch', () => {
    const volume = (change: AnyValues) => measured({ teeth: 19, ...change }).volume
    const module = volume({ module: 25.4 / 16 })
    expect(volume({ sized: 'diametral', perInch: 16 })).toBeCloseTo(module, 6)
    expect(volume({ sized: 'circular', pitch: (Math.PI * 25.4) / 16 })).toBeCloseTo(module, 6)
  })
  it.each([
    [{ teeth: 5, shift: -1 }, 'teeth', /Use more, or a profile shift of 0\.71 or more/],
    [{ hole: 33 }, 'hole', /whose roots are at ⌀ 32\.25 mm/],
    [{ bore: 'hex', across: 28 }, 'across', /leave a wall/],
    [{ play: 2.1 }, 'play', /next to nothing/],
    [{ bore: 'flatted', flat: 2.4 }, 'flat', /between 2\.5 mm and 5 mm/],
    [{ bore: 'keyed', keyWidth: 5 }, 'keyWidth', /narrower than the bore \(5 mm\)/],
    [{ teeth: 8, shift: 1.5 }, 'shift', /come to a point/],
  ] as [AnyValues, string, RegExp][])('that cannot be is told at its value: %o', (change, field, text) => {
    const told = gear.impossible!(values(change))
    expect([told?.field, told?.detail]).toEqual([field, expect.stringMatching(text)])
    // What is offered will do, and is near to what was asked for.
    const { nearest } = told!
    if (!nearest) return
    const then = gear.impossible!(values({ ...change, [nearest.field]: nearest.value }))
    expect(then?.field).not.toBe(field)
    if (nearest.field !== field) return
    const asked = (change[nearest.field] ?? defaults('gear')[nearest.field]) as number
    const farther = nearest.value + Math.sign(asked - nearest.value) * 0.02
    expect(gear.impossible!(values({ ...change, [nearest.field]: farther }))).toBeDefined()
  })
  it('that is cut out of a disc leaves a ring with teeth inside', async () => {
    const disc = step('d', 'bar', { diameter: '60', height: '8' })
    const ring = await built(
      kernel,
      partOf([
        disc,
        step(
          'g',
          'gear',
          { teeth: '30', bore: 'none', cutReach: 'through' },
          { operation: 'cut', place: onFace('d', 'end') },
        ),
      ]),
    )
    const { root, tip } = toothSizes(
      acrossAxis({ count: 30, module: 1.5, pressure: 20, helix: 0, shift: 0, thinner: 0.1, ...isoProfile }),
    )
    const solid = ring.pieces[0]!.solid!
    expect(meshFigures(solid.mesh())).toMatchObject({ closed: true, solids: 1 })
    expect(solid.volume()).toBeLessThan(8 * Math.PI * (30 ** 2 - root ** 2))
    expect(solid.volume()).toBeGreaterThan(8 * Math.PI * (30 ** 2 - tip ** 2))
  })
  it('and its fellow stand on their centre distance without touching, and with it no farther apart than their play', async () => {
    const teeth = (count: number) =>
      acrossAxis({ count, module: 1.5, pressure: 20, helix: 0, shift: 0, thinner: 0.1, ...isoProfile })
    const distance = closeDistance(teeth(24), teeth(17))
    expect(distance).toBeCloseTo(30.75, 9)
    const gap = kernel.scope((scope) => {
      const one = gear.solid(values({ teeth: 24 }), { scope, fineness: 0.005, ...context })
      const two = gear.solid(values({ teeth: 17 }), { scope, fineness: 0.005, ...context })
      // A space of the other to the left, where the first has a tooth to the right.
      const placed = scope.placed(two, { origin: [distance, 0, 0], u: [1, 0, 0], v: [0, 1, 0], n: [0, 0, 1] })
      return one.gapTo(placed, 2)
    })
    expect(gap).toBeGreaterThan(0.05)
    expect(gap).toBeLessThan(0.1)
  })
})

describe('bores', () => {
  const bore = (change: Partial<Bore>): Bore => ({
    bore: 'round',
    hole: 8.2,
    across: 8.2,
    flat: 7.3,
    keyWidth: 3.1,
    keyDepth: 1.4,
    ...change,
  })
  const area = (change: Partial<Bore>) => ringArea(boreRing(bore(change), 1e-5)!)
  const r = 4.1
  it('have the areas of their closed forms', () => {
    expect(area({})).toBeCloseTo(Math.PI * r ** 2, 2)
    expect(area({ bore: 'square' })).toBeCloseTo(8.2 ** 2, 9)
    expect(area({ bore: 'hex' })).toBeCloseTo((Math.sqrt(3) / 2) * 8.2 ** 2, 9)
    const h = 7.3 - r
    const segment = r ** 2 * Math.acos(h / r) - h * Math.sqrt(r ** 2 - h ** 2)
    expect(area({ bore: 'flatted' })).toBeCloseTo(Math.PI * r ** 2 - segment, 2)
    const side = 3.1 / 2
    const under = side * Math.sqrt(r ** 2 - side ** 2) + r ** 2 * Math.asin(side / r)
    expect(area({ bore: 'keyed' })).toBeCloseTo(Math.PI * r ** 2 + 3.1 * (r + 1.4) - under, 2)
  })
  it.each(['round', 'keyed', 'flatted', 'square', 'hex'] as const)(
    'that are %s reach as far as they say, and take their shaft',
    (form) => {
      for (const fineness of [0.05, 0.003]) {
        const ring = boreRing(bore({ bore: form }), fineness)!
        const far = Math.max(...ring.map(([x, y]) => Math.hypot(x, y)))
        expect(far).toBeGreaterThan(boreReach(bore({ bore: form })) - 1e-9)
        expect(far).toBeLessThan(boreReach(bore({ bore: form })) + 2 * fineness)
        expect(ringArea(ring)).toBeGreaterThan(0)
        // No flat of a round comes nearer to the axis than the shaft is thick.
        ring.forEach(([x, y], i) => {
          const [x2, y2] = ring[(i + 1) % ring.length]!
          const near = Math.abs(x * y2 - x2 * y) / Math.hypot(x2 - x, y2 - y)
          if (form !== 'keyed' && form !== 'flatted') expect(near).toBeGreaterThan(r - 1e-9)
          else expect(near).toBeGreaterThan(1.5)
        })
      }
    },
  )
})
