import { describe, expect, it } from 'vitest'
import { pointOut } from '../place/index.ts'
import { testKernel } from '../testing/index.ts'
import { jointOf, joints } from './index.ts'

const kernel = await testKernel()
const up = [0, 0, 1] as const

const hinge = jointOf('pin-hinge')!
const values = {
  length: 50,
  count: 5,
  knuckle: 9,
  pin: 4,
  leaf: 4,
  gap: 0.35,
  travel: 180,
  made: 'printed',
  seat: 0.05,
}

describe('the pin hinge', () => {
  it('keeps its gap everywhere between its two sides, at every angle', () => {
    kernel.scope((scope) => {
      const { adds } = hinge.solids(values, { scope, fineness: 0.02, up })
      const [[fixed], [moving]] = adds as unknown as [[(typeof adds)[0][0]], [(typeof adds)[0][0]]]
      for (const angle of [0, 30, 90, 150, 180]) {
        const moved = scope.placed(moving!, hinge.motion(values, [angle]))
        expect(fixed!.gapTo(moved, 5)).toBeGreaterThanOrEqual(0.35 - 1e-6)
        expect(fixed!.gapTo(moved, 5)).toBeLessThan(0.36)
      }
    })
  })
  it('calls round what looks away from its axis or to it, and an arm what is flat, as near as that lies', () => {
    const { at } = hinge.surfaces(values, 0)
    const up = (z: number) => 4.5 + z
    expect(at([0, 10, up(4.5)], [0, 0, 1])).toBe('knuckle')
    expect(at([0, 10, up(2)], [0, 0, 1])).toBe('pin')
    expect(at([-2.35, 10, up(0)], [1, 0, 0])).toBe('bore')
    // The flat of a leaf, which lies as far from the axis as the knuckle is round, but looks straight up.
    expect(at([3, 10, up(3.354)], [0, 0, 1])).toBe('arm')
    expect(at([3, 10, up(-3.354)], [0, 0, 1])).toBe('arm')
    expect(at([1, 25, up(1)], [0, 1, 0])).toBe('knuckle end')
  })
  it('is one solid on each side: the pin holds the outer knuckles, the leaf is to hold the others', () => {
    kernel.scope((scope) => {
      const { adds } = hinge.solids(values, { scope, fineness: 0.02, up })
      expect(adds[0][0]!.bodies()).toBe(1)
      expect(adds[1][0]!.bodies()).toBe(2)
    })
  })
  it('has a hole all through it for a pin of its own, which the outer knuckles hold', () => {
    kernel.scope((scope) => {
      const { adds } = hinge.solids({ ...values, made: 'separate' } as never, { scope, fineness: 0.02, up })
      const held = (radius: number) => {
        const bar = scope.cylinder(60, radius, radius, 48)
        const pin = scope.placed(bar, { origin: [0, -30, 4.5], u: [0, 0, 1], v: [1, 0, 0], n: [0, 1, 0] })
        return adds.map(([side]) => scope.intersection([pin, side!]).volume() > 1e-6)
      }
      expect([held(2.04), held(2.1), held(2.4)]).toEqual([
        [false, false],
        [true, false],
        [true, true],
      ])
    })
  })
  it('stops where it is to: a little farther its heels lie on the leaf, at any angle of the travel', () => {
    for (const travel of [61.9, 90, 137.3, 180])
      for (const leaf of [2.1, 4.3]) {
        const v = { ...values, travel, leaf, stop: 'end' }
        expect(hinge.impossible!(v as never)).toBeUndefined()
        kernel.scope((scope) => {
          const { adds } = hinge.solids(v as never, { scope, fineness: 0.02, up })
          const shared = (angle: number) =>
            scope.intersection([adds[0][0]!, scope.placed(adds[1][0]!, hinge.motion(v as never, [angle]))]).volume()
          expect([0, travel / 2, travel].map(shared).every((volume) => volume < 1e-6)).toBe(true)
          expect(shared(travel + 15)).toBeGreaterThan(0.5)
          // It stands on the bed as it is printed, and what leans is filled up below.
          expect(adds[1][0]!.bounds()!.min[2]).toBeGreaterThan(-1e-9)
        })
      }
  })
  it('snaps over its pin through mouths that are narrower', () => {
    const v = { ...values, made: 'snapped', mouth: 3.3 }
    kernel.scope((scope) => {
      const { adds } = hinge.solids(v as never, { scope, fineness: 0.02, up })
      const pulled = (x: number) => {
        const out = scope.placed(adds[1][0]!, { origin: [x, 0, 0], u: [1, 0, 0], v: [0, 1, 0], n: [0, 0, 1] })
        return scope.intersection([adds[0][0]!, out]).volume()
      }
      // In, half way out where its lips are in the way, and free of it.
      expect(pulled(0)).toBeLessThan(1e-6)
      expect(pulled(1.5)).toBeGreaterThan(0.3)
      expect(pulled(20)).toBeLessThan(1e-6)
      const lips = scope.placed(adds[1][0]!, { origin: [2.35, 0, 0], u: [1, 0, 0], v: [0, 1, 0], n: [0, 0, 1] })
      const needle = scope.placed(scope.cylinder(60, 1.6, 1.6, 48), {
        ...{ origin: [0, -30, 4.5], u: [0, 0, 1], v: [1, 0, 0], n: [0, 1, 0] },
      } as const)
      expect(scope.intersection([needle, lips]).volume()).toBeLessThan(1e-6)
    })
  })
  it('clicks: its ridge lies in a groove at each click, and is in the way between them', () => {
    const v = { ...values, feel: 'clicks', clicks: 61.9, ridge: 0.2 }
    kernel.scope((scope) => {
      const { adds } = hinge.solids(v as never, { scope, fineness: 0.02, up })
      const shared = (angle: number) =>
        scope.intersection([adds[0][0]!, scope.placed(adds[1][0]!, hinge.motion(v as never, [angle]))]).volume()
      expect([0, 61.9, 123.8].map(shared).every((volume) => volume < 1e-6)).toBe(true)
      expect(shared(31)).toBeGreaterThan(0.1)
      const bends = hinge.bends!(v as never, { scope, fineness: 0.02, up })[0]
      const stiff = scope.difference(adds[0][0]!, bends)
      const turned = scope.placed(adds[1][0]!, hinge.motion(v as never, [31]))
      expect(stiff.gapTo(turned, 5)).toBeGreaterThan(0.35 - 1e-3)
    })
  })
  it('is a piano hinge with as many knuckles as its length takes, an odd number', () => {
    const piano = jointOf('piano-hinge')!
    const count = (length: number, each: number) =>
      piano.judged!({ ...values, length, each } as never, up).facts[0]!.text.split(',')[0]
    expect([count(120, 12), count(50, 12), count(15.3, 37.3), count(85.1, 1 / 0.3)]).toEqual(['9', '5', '3', '23'])
    kernel.scope((scope) => {
      const { adds } = piano.solids({ ...values, length: 85.1, each: 9.7 } as never, { scope, fineness: 0.05, up })
      expect([adds[0][0]!.bodies(), adds[1][0]!.bodies()]).toEqual([1, 4])
      expect(adds[0][0]!.gapTo(adds[1][0]!, 5)).toBeCloseTo(0.35, 2)
    })
  })
  it('makes room of one gap round the other side', () => {
    kernel.scope((scope) => {
      const { cuts, adds } = hinge.solids(values, { scope, fineness: 0.02, up })
      const block = scope.placed(
        scope.extrude(
          [
            [
              [-20, -30],
              [0, -30],
              [0, 30],
              [-20, 30],
            ],
          ],
          4,
        ),
        { origin: [0, 0, 0], u: [1, 0, 0], v: [0, 1, 0], n: [0, 0, 1] },
      )
      const leaf = scope.difference(block, cuts[0])
      expect(leaf.gapTo(adds[1][0]!, 5)).toBeGreaterThanOrEqual(0.35 - 1e-6)
    })
  })
  it('turns about its pin', () => {
    const pin = pointOut(hinge.motion(values, [123]), [0, 7, 4.5])
    expect(pin.map((x) => Math.round(x * 1e9) / 1e9)).toEqual([0, 7, 4.5])
    const edge = pointOut(hinge.motion(values, [90]), [10, 0, 4.5])
    expect(edge[2]).toBeCloseTo(14.5, 9)
  })
  it.each([
    [{ count: 4 }, 'count'],
    [{ count: 31, length: 20 }, 'count'],
    [{ pin: 8.5 }, 'pin'],
    [{ leaf: 10 }, 'leaf'],
    [{ made: 'snapped', mouth: 4.1 }, 'mouth'],
    [{ made: 'snapped', mouth: 2.7 }, 'mouth'],
    [{ stop: 'end', travel: 200 }, 'travel'],
    [{ stop: 'end', travel: 30 }, 'travel'],
    [{ stop: 'end', leaf: 5.1 }, 'travel'],
    [{ stop: 'end', leaf: 7, travel: 90 }, 'leaf'],
    [{ feel: 'clicks', clicks: 30, ridge: 0.2 }, 'clicks'],
    [{ feel: 'clicks', clicks: 90, ridge: 1.6 }, 'ridge'],
  ])('refuses %o', (change, field) => {
    expect(hinge.impossible!({ ...values, ...change } as never)?.field).toBe(field)
  })
})

it('every joint has a sentence of its own fields', () => {
  for (const joint of joints)
    for (const part of joint.sentence(values))
      if (typeof part === 'object') expect(joint.fields).toHaveProperty(part.field)
})
