import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import type { AnyValues } from '../../fields/index.ts'
import { type Item, itemOf, itemsFor } from '../../hardware/index.ts'
import type { Scope, Solid } from '../../kernel/index.ts'
import type { Frame } from '../../place/index.ts'
import { testKernel } from '../../testing/index.ts'
import { inTurn, real, runs } from '../../testing/sample.ts'
import { defaults } from '../../testing/shapes.ts'
import { shapeOf } from '../index.ts'

const kernel = await testKernel()

/** The values of something that is cut into a round of a signed radius, negative in a bore. */
function onRound(kind: string, radius: number, values: AnyValues): AnyValues {
  const shape = shapeOf(kind)!
  return shape.fitted!({ ...defaults(kind), ...values }, radius)
}
function cutter(scope: Scope, kind: string, values: AnyValues): Solid {
  const shape = shapeOf(kind)!
  expect(shape.impossible?.(values), JSON.stringify(values)).toBeUndefined()
  expect(shape.unfit?.(values), JSON.stringify(values)).toBeUndefined()
  return shape.solid(values, { scope, fineness: 0.01, cuts: true, through: 100, overlap: 0.005, up: [0, 0, 1] })
}
/** A round along y about an axis so high, with many flats. */
function lying(scope: Scope, diameter: number, axis: number, length: number, y = 0): Solid {
  const frame: Frame = { origin: [0, y - length / 2, axis], u: [1, 0, 0], v: [0, 0, -1], n: [0, 1, 0] }
  return scope.placed(scope.cylinder(length, diameter / 2, diameter / 2, 720), frame)
}
const close = (scope: Scope, a: Solid, b: Solid) => scope.difference(a, [b]).volume()

/** What a round loses, as sections: across its axis in the middle of the groove, and beside it. */
function sections(scope: Scope, kind: string, values: AnyValues, diameter: number, inside: boolean) {
  const axis = inside ? diameter / 2 : -diameter / 2
  const body = inside
    ? scope.difference(lying(scope, 3 * diameter, axis, 60), [lying(scope, diameter, axis, 61)])
    : lying(scope, diameter, axis, 60)
  const left = scope.difference(body, [cutter(scope, kind, values)])
  const lost = body.volume() - left.volume()
  return { body, left, lost, axis }
}

/** Diameter of a groove's floor by the area of its section across the axis. */
const floorOf = (across: number, inside: boolean, area: number) =>
  Math.sqrt(Math.max(0, across ** 2 + (inside ? 4 : -4) * (area / Math.PI)))

describe.each(inTurn(6, itemsFor(['shaft ring', 'bore ring'])).map((item) => [item.id, item] as const))(
  'the groove for a %s',
  (_, item) => {
    const { diameter, groove, grooveWidth, height } = item.sizes as Record<string, number>
    const inside = item.family.kind === 'bore ring'
    it('is as deep and wide as its standard says, and takes the ring', () => {
      for (const gap of [0, 0.13])
        kernel.scope((scope) => {
          const values = onRound('ring-groove', (inside ? -1 : 1) * (diameter! / 2), { item, gap })
          const { left, lost, axis } = sections(scope, 'ring-groove', values, diameter!, inside)
          const wide = grooveWidth! + 2 * gap
          // Its floor is as deep to the fineness.
          expect(floorOf(diameter!, inside, lost / wide)).toBeGreaterThan(groove! - 0.02)
          expect(floorOf(diameter!, inside, lost / wide)).toBeLessThan(groove! + 0.02)
          // The ring itself: from the floor of the groove as far as it stands out.
          const [small, large] = inside ? [0.8 * diameter!, groove!] : [groove!, 1.3 * diameter!]
          const own = scope.difference(lying(scope, large - 0.02, axis, height!), [
            lying(scope, small + 0.02, axis, height! + 1),
          ])
          expect(close(scope, own, left) - own.volume()).toBeGreaterThan(-1e-6)
          const thick = scope.difference(lying(scope, large - 0.02, axis, wide + 0.1), [
            lying(scope, small + 0.02, axis, wide + 1),
          ])
          expect(close(scope, thick, left) - thick.volume()).toBeLessThan(-1e-3)
        })
    })
    it('is refused on another diameter, with the ring for that', () => {
      const shape = shapeOf('ring-groove')!
      const values = onRound('ring-groove', (inside ? -1 : 1) * (diameter! / 2 + 2.7), { item })
      const told = shape.unfit!(values)
      expect(told?.field).toBe('item')
      const nearest = itemOf(told!.instead?.text ?? item.id)!
      const off = ({ sizes }: Item) => Math.abs(sizes.diameter! - diameter! - 5.4)
      for (const other of itemsFor([item.family.kind])) expect(off(nearest)).toBeLessThanOrEqual(off(other) + 1e-9)
    })
    it('is refused where a bar is taken for a bore', () => {
      const told = shapeOf('ring-groove')!.unfit!(onRound('ring-groove', (inside ? 1 : -1) * (diameter! / 2), { item }))
      expect(itemOf(told!.instead!.text)!.family.kind).toBe(inside ? 'shaft ring' : 'bore ring')
    })
  },
)

describe('the groove for an O-ring', () => {
  const shape = shapeOf('seal-groove')!
  it('squeezes the cord of what is proposed on any round by what was asked for, and has room for it', () => {
    fc.assert(
      fc.property(real(6, 60), fc.boolean(), real(0, 0.3), real(0.1, 0.3), (across, inside, gap, squeeze) => {
        const text = shape.onRound!('', { across, inside, chosen: false })
        const item = itemOf(text.item!)!
        const values = onRound('seal-groove', (inside ? -1 : 1) * (across / 2), { item, gap, squeeze })
        if (shape.unfit!(values)) return
        const { min, max } = shape.box(values, 0)
        const cord = item.sizes.cord!
        const floor = kernel.scope((scope) =>
          floorOf(across, inside, sections(scope, 'seal-groove', values, across, inside).lost / (max[1] - min[1])),
        )
        // Between floor and the mate, which is a gap away from the round.
        const between = inside ? (floor - across) / 2 + gap : (across - floor) / 2 + gap
        expect(Math.abs(between - cord * (1 - squeeze))).toBeLessThan(0.01)
        // The cord's section, squeezed, fills less than the groove, or it could not give way.
        expect((Math.PI * cord ** 2) / 4).toBeLessThan(between * (max[1] - min[1]))
        // It is not stretched by more than 8 %, and not pressed together by more than 3 %.
        const long = inside ? floor / (item.sizes.inside! + 2 * cord) : floor / item.sizes.inside!
        expect(long).toBeGreaterThan(0.969)
        expect(long).toBeLessThan(1.081)
      }),
      { numRuns: runs(60) },
    )
  })
  it('is proposed with one that fits wherever there is one, as on three rounds out of four', () => {
    const none = [false, true].flatMap((inside) =>
      Array.from({ length: 60 }, (_, i) => 9 + 0.73 * i).flatMap((across) => {
        const values = (id: string) =>
          onRound('seal-groove', (inside ? -1 : 1) * (across / 2), { item: itemOf(id)!, gap: 0.2, squeeze: 0.2 })
        const proposed = values(shape.onRound!('', { across, inside, chosen: false }).item!)
        if (!shape.unfit!(proposed)) return []
        for (const { id } of itemsFor(['o-ring'])) expect(shape.unfit!(values(id)), `${across} ${id}`).toBeDefined()
        expect(shape.unfit!(proposed)!.detail).toContain('No O-ring in the tables')
        return [across]
      }),
    )
    expect(none.length).toBeLessThan(30)
  })
  it('says by how much another one would be stretched, and which one would do', () => {
    const told = shape.unfit!(onRound('seal-groove', 18.65, { item: itemOf('usual-o-ring 16 × 2')! }))
    expect(told?.detail).toMatch(/stretched by \d/)
    const good = onRound('seal-groove', 18.65, { item: itemOf(told!.instead!.text)! })
    expect(shape.unfit!(good)).toBeUndefined()
  })
})

describe.each(inTurn(4, itemsFor(['key'])).map((item) => [item.id, item] as const))('the way for a %s', (_, item) => {
  const { width, height, shaftFrom, shaftTo, inShaft, inHub } = item.sizes as Record<string, number>
  it('takes the key in shaft and hub, which then keep a play above it', () => {
    fc.assert(
      fc.property(real(0.01, 1), real(0, 0.2), fc.constantFrom('round', 'square'), (share, gap, ends) =>
        kernel.scope((scope) => {
          const diameter = shaftFrom! + share * (shaftTo! - shaftFrom!)
          const length = 2 * width! + 7.3
          const shaft = onRound('key-way', diameter / 2, { item, gap, ends, length })
          const hub = onRound('key-way', -diameter / 2, { item, gap, ends, length })
          const inShaftCut = sections(scope, 'key-way', shaft, diameter, false)
          const inHubCut = sections(scope, 'key-way', hub, diameter, true)
          // A key on the floor of the shaft's way, seen from its surface: as high as it is, it leaves a play in the hub.
          const box = (w: number, l: number, low: number, high: number) => {
            const frame: Frame = { origin: [0, 0, low], u: [1, 0, 0], v: [0, 1, 0], n: [0, 0, 1] }
            const [x, y] = [w / 2, l / 2]
            return scope.placed(
              scope.extrude(
                [
                  [
                    [-x, -y],
                    [x, -y],
                    [x, y],
                    [-x, y],
                  ],
                ],
                high - low,
              ),
              frame,
            )
          }
          const straight = length - (ends === 'round' ? width! + 2 * gap : 0)
          const key = box(width!, straight, -inShaft!, height! - inShaft!)
          expect(scope.intersection([key, inShaftCut.left]).volume()).toBeLessThan(1e-6)
          // In the hub all is seen from the other side: what stands out of the shaft goes into it.
          const out = box(width!, straight, -(height! - inShaft!), diameter / 4)
          expect(scope.intersection([out, inHubCut.left]).volume()).toBeLessThan(1e-6)
          expect(inShaft! + inHub!).toBeGreaterThan(height!)
          const wide = box(width! + 2 * gap + 0.05, straight, -inShaft!, 0)
          expect(scope.intersection([wide, inShaftCut.left]).volume()).toBeGreaterThan(1e-3)
          const deep = box(width!, straight, -inShaft! - 0.05, 0)
          expect(scope.intersection([deep, inShaftCut.left]).volume()).toBeGreaterThan(1e-3)
        }),
      ),
      { numRuns: runs(6) },
    )
  })
  it('is refused on a shaft that is for another key, with that', () => {
    const shape = shapeOf('key-way')!
    for (const diameter of [shaftFrom! - 0.1, shaftTo! + 0.1].filter((d) => d > 6 && d <= 44)) {
      const told = shape.unfit!(onRound('key-way', diameter / 2, { item }))
      const other = itemOf(told!.instead!.text)!.sizes
      expect(diameter > other.shaftFrom! && diameter <= other.shaftTo!).toBe(true)
    }
  })
})

describe('a knurl', () => {
  const shape = shapeOf('knurl')!
  it('takes the same from every groove, as many as fit, to the depth that 90° gives, and never closes on itself', () => {
    fc.assert(
      fc.property(
        real(11, 47.3),
        real(0.9, 3.3),
        real(3, 17.1),
        fc.constantFrom('straight', 'diamond'),
        (across, pitch, length, pattern) =>
          kernel.scope((scope) => {
            const values = onRound('knurl', across / 2, { pitch, length, pattern })
            const { left, lost, axis } = sections(scope, 'knurl', values, across, false)
            const slant = pattern === 'diamond' ? Math.cos(Math.PI / 6) : 1
            const count = Math.round((Math.PI * across * slant) / pitch)
            const own = (Math.PI * across * slant) / count
            expect(Math.abs(own / pitch - 1)).toBeLessThan(1 / (2 * count - 1) + 1e-9)
            const deep = 0.425 * own
            // The core below the grooves is whole, and no deeper one is.
            const core = lying(scope, across - 2 * deep - 0.06, axis, length)
            expect(close(scope, core, left)).toBeLessThan(1e-6)
            const fat = lying(scope, across - 2 * deep + 0.1, axis, length)
            expect(close(scope, fat, left)).toBeGreaterThan(0)
            // The bar is as thick as it was: its ridges are left.
            const { min, max } = left.bounds()!
            expect(max[0] - min[0]).toBeGreaterThan(across - 0.05)
            if (pattern === 'straight') {
              const each = lost / count / length
              // A triangle of 90°, less what the round of the bar takes off its upper side.
              expect(each / deep ** 2).toBeGreaterThan(0.9)
              expect(each / deep ** 2).toBeLessThan(1.02)
            }
            expect(scope.parts(left).length).toBe(1)
          }),
      ),
      { numRuns: runs(8) },
    )
  })
  it('is refused in a bore, and with a pitch too large for its round, which it names', () => {
    expect(shape.unfit!(onRound('knurl', -12, {}))?.field).toBe('pattern')
    const values = onRound('knurl', 4, { pitch: 7 })
    const told = shape.impossible!(values)
    expect(told?.field).toBe('pitch')
    expect(shape.impossible!({ ...values, pitch: told!.nearest!.value })).toBeUndefined()
  })
})
