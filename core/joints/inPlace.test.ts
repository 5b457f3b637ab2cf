import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import type { Scope, Solid } from '../kernel/index.ts'
import { meshFigures } from '../mesh/index.ts'
import type { Vec3 } from '../place/index.ts'
import { facetsOf } from '../testing/facets.ts'
import { testKernel } from '../testing/index.ts'
import { real, runs } from '../testing/sample.ts'
import { jointOf } from './index.ts'

const kernel = await testKernel()
const fineness = 0.02
/** Which way is up as a share of a turn across the axes of hinges and links. */
const upAt = (share: number): Vec3 => [Math.cos(7 * share), 0, Math.sin(7 * share)]
type Values = Readonly<Record<string, number | string>>

/** Values that nobody chose, from a share of each range. */
const between = (low: number, high: number, share: number) => low + (high - low) * share
/** Wheels with an arm beside them. */
const clicking = (s: readonly number[]) => {
  const [bar, hold, gap] = [between(3, 9, s[0]!), between(0.7, 1.9, s[1]!), between(0.2, 0.5, s[2]!)]
  const thick = between(0.8, 1.7, s[4]!)
  return {
    ...{ bar, hold, gap, outside: bar + 2 * (gap + hold) + between(14, 31.7, s[3]!), thick },
    ...{
      height: hold + gap + between(2, 9, s[5]!),
      arm: between(8, 30, s[6]!) * thick,
      upward: between(0.2, 0.8, s[9]!),
    },
  }
}
const kinds: Readonly<Record<string, (s: readonly number[]) => Values>> = {
  link: (s) => {
    const eye = between(7, 21, s[0]!)
    return {
      ...{ eye, width: between(2, 9, s[1]!), pin: between(0.2, 0.55, s[2]!) * eye, cheek: between(1.2, 4, s[3]!) },
      ...{
        reach: eye / 2 + between(1.5, 9, s[4]!),
        gap: between(0.2, 0.5, s[5]!),
        from: -90,
        to: between(15.3, 90, s[6]!),
      },
      bores: s[7]! < 0.7 ? 'teardrop' : 'round',
    }
  },
  'captive-ring': (s) => {
    const [bar, hold, gap] = [between(3, 17, s[0]!), between(0.7, 2.5, s[1]!), between(0.2, 0.5, s[2]!)]
    return {
      ...{ bar, hold, gap, outside: bar + 2 * (gap + hold) + between(1, 12, s[3]!) },
      ...{ height: hold + gap + between(0.5, 9, s[4]!), upward: between(0.2, 0.8, s[5]!) },
    }
  },
  telescope: (s) => {
    const [wall, hold, gap] = [between(1, 2.7, s[0]!), between(0.5, 1.7, s[1]!), between(0.2, 0.5, s[2]!)]
    return {
      ...{ wall, hold, gap, outside: 2 * (2 * wall + hold + gap) + between(2, 30, s[3]!) },
      ...{ height: 2 * wall + 2 * hold + between(4, 50, s[4]!), upward: between(0.2, 0.8, s[5]!) },
    }
  },
  bayonet: (s) => {
    const [plug, lug, gap] = [between(12, 37.3, s[0]!), between(0.8, 2.2, s[1]!), between(0.15, 0.5, s[2]!)]
    const [wall, upward] = [between(1, 3, s[3]!), between(0.2, 0.8, s[4]!)]
    return {
      ...{ plug, lug, gap, wall, upward, head: between(1, 5, s[5]!), lugs: 1 + Math.floor(2.99 * s[6]!) },
      ...{ width: between(2, 4, s[7]!), angle: between(20, 61.9, s[8]!) },
      depth: upward + wall + 2 * lug + 1 + 3 * gap + between(0.5, 6, s[9]!),
    }
  },
  slide: (s) => {
    const [gap, neck] = [between(0.15, 0.5, s[0]!), between(4, 13, s[1]!)]
    const hold = gap + between(0.4, 3, s[2]!)
    return {
      form: ['dovetail', 'tee', 'round', 'drop'][Math.floor(3.99 * s[3]!)]!,
      ends: ['closed', 'front', 'open'][Math.floor(2.99 * s[4]!)]!,
      ...{ gap, neck, wide: neck + 2 * hold, depth: hold + between(1, 4, s[5]!), length: between(8, 31.7, s[6]!) },
      ...{
        width: neck + between(1, 15.3, s[7]!),
        thick: between(1, 4, s[8]!),
        from: between(-12, -1, s[9]!),
        to: between(0, 9, s[0]!),
      },
      upward: between(0.2, 0.8, s[4]!),
    }
  },
  'twist-lock': (s) => {
    const [gap, shaft] = [between(0.15, 0.5, s[0]!), between(3, 9, s[1]!)]
    const bar = shaft + 2 * gap + between(1, 15.3, s[2]!)
    return {
      ...{ gap, shaft, bar, through: between(1.3, 9, s[3]!), under: between(1, 5, s[4]!) },
      ...{ knob: bar + 2 * gap + between(1, 9, s[5]!), head: between(1, 7, s[6]!) },
      room: s[7]! < 0.6 ? 'cut' : 'there',
    }
  },
  detent: (s) => ({ ...clicking(s), clicks: 1 + Math.floor(11.99 * s[7]!), lift: between(0.2, 1, s[8]!) }),
  ratchet: (s) => {
    const depth = between(1.3, 2.3, s[7]!)
    return { ...clicking(s), depth, teeth: 5 + Math.floor(9.99 * s[8]!), gap: between(0.2, 0.35, s[2]!) }
  },
  'pin-hinge': (s) => {
    const [knuckle, gap] = [between(7, 15.3, s[0]!), between(0.2, 0.5, s[1]!)]
    const leaf = between(0.3, 0.9, s[5]!) * knuckle
    const pin = between(0.35, 0.6, s[4]!) * knuckle
    return {
      ...{ knuckle, gap, count: 3 + 2 * Math.floor(2.99 * s[2]!), length: between(25, 61.9, s[3]!), seat: 0.05 },
      ...{ pin, leaf, mouth: between(0.75, 0.95, s[6]!) * pin, travel: between(61.9, 180, s[6]!) },
      made: ['printed', 'separate', 'snapped'][Math.floor(2.99 * s[7]!)]!,
      stop: s[8]! < 0.6 && leaf + gap / 2 < knuckle / 2 ? 'end' : 'none',
      ...{ ridge: 0.15, clicks: between(110, 130, s[9]!) },
      bores: s[8]! < 0.8 ? 'teardrop' : 'round',
      feel: s[9]! < 0.5 && pin / 2 + 2 * gap + 0.6 < knuckle / 2 ? 'clicks' : 'free',
    }
  },
}
const shares = fc.array(real(0, 1), { minLength: 10, maxLength: 10 })

const whole = (scope: Scope, solids: readonly Solid[]) => scope.union(solids)

describe.each(Object.keys(kinds))('a %s that is printed in place', (kind) => {
  const definition = jointOf(kind)!
  const valuesFor = kinds[kind]!

  it('can be, and keeps its gap at every place of its travel', () => {
    fc.assert(
      fc.property(shares, shares, (s, at) => {
        const v = valuesFor(s)
        expect(definition.impossible?.(v as never)).toBeUndefined()
        const least = Math.min(Number(v.gap), Number(v.upward ?? v.gap))
        kernel.scope((scope) => {
          const { adds } = definition.solids(v as never, { scope, fineness, up: upAt(s[0]!) })
          const bends = definition.bends?.(v as never, { scope, fineness, up: upAt(s[0]!) })
          const [drawn, second] = adds.map((each) => whole(scope, each)) as [Solid, Solid]
          // What bends is in its place as it is printed, and out of the way elsewhere.
          if (bends && !drawn.isEmpty()) expect(drawn.gapTo(second, 5)).toBeGreaterThan(least - 0.025)
          const first = bends ? scope.difference(drawn, bends[0]) : drawn
          if (first.isEmpty()) return
          // Of a bayonet, only on its way: locked it cannot be pulled.
          const [one, two] = definition.freedoms(v as never)
          const ways =
            kind === 'bayonet'
              ? [
                  [between(one!.from, one!.to, at[0]!), 0],
                  [one!.to, between(0, two!.to, at[1]!)],
                ]
              : [definition.freedoms(v as never).map(({ from, to }, i) => between(from, to, at[i]!))]
          for (const positions of [definition.freedoms(v as never).map(() => 0), ...ways]) {
            const moved = scope.placed(second, definition.motion(v as never, positions))
            const gap = first.gapTo(moved, 5)
            expect(gap).toBeGreaterThan(least - 0.025)
            if (positions.every((position) => position === 0)) expect(gap).toBeLessThan(Number(v.gap) + 0.03)
          }
        })
      }),
      { numRuns: runs(20), seed: 7 },
    )
  })

  it('makes room in what surrounds it', () => {
    fc.assert(
      fc.property(shares, (s) => {
        const v = valuesFor(s)
        const least = Math.min(Number(v.gap), Number(v.upward ?? v.gap))
        const { min, max } = definition.box(v as never)
        kernel.scope((scope) => {
          const { cuts, adds } = definition.solids(v as never, { scope, fineness, up: upAt(s[0]!) })
          const around = (low: number, high: number) => {
            const far = 60
            const ring = [
              [-far, -far],
              [far, -far],
              [far, far],
              [-far, far],
            ] as const
            return scope.placed(scope.extrude([ring], high - low), {
              ...{ origin: [0, 0, low], u: [1, 0, 0], v: [0, 1, 0], n: [0, 0, 1] },
            } as const)
          }
          const below = kind === 'slide' ? around(-20, 0) : undefined
          // What a piece consists of beside the joint is kept away from the other side of it, where that goes.
          const thick = Number(v.through) + (v.room === 'cut' ? 30 : 0)
          const slab = kind === 'twist-lock' ? around(-thick, 0) : undefined
          const own = below ?? slab ?? (kind === 'captive-ring' ? around(min[2] - 4, max[2]) : undefined)
          if (!own) return
          const left = scope.difference(own, cuts[0])
          const second = whole(scope, adds[1])
          const ways = definition.freedoms(v as never)
          for (const share of [0, 0.37, 1]) {
            // A lock is turned, and then pulled.
            const alone = ways.map(({ from, to }, i) => between(from, to, kind === 'twist-lock' && i > 0 ? 0 : share))
            const positions =
              kind === 'twist-lock' && share === 1 ? ways.map(({ to }, i) => to * (i > 0 ? 0.7 : 1)) : alone
            const moved = scope.placed(second, definition.motion(v as never, positions))
            expect(left.gapTo(moved, 5)).toBeGreaterThan(least - 0.025)
          }
        })
      }),
      { numRuns: runs(8), seed: 8 },
    )
  })

  it('is closed on each side, in one piece, every face with a name of its own', () => {
    fc.assert(
      fc.property(shares, (s) => {
        const v = valuesFor(s)
        kernel.scope((scope) => {
          const { adds } = definition.solids(v as never, { scope, fineness, up: upAt(s[0]!) })
          for (const side of [0, 1] as const) {
            const solid = whole(scope, adds[side])
            if (solid.isEmpty()) continue
            const mesh = solid.mesh()
            expect(meshFigures(mesh)).toMatchObject({ closed: true, oriented: true, cavities: [] })
            // What the piece below joins.
            if (kind !== 'pin-hinge')
              expect(solid.bodies()).toBe(side === 0 && ['detent', 'ratchet'].includes(kind) ? 2 : 1)
            const surfaces = definition.surfaces(v as never, side)
            const known = new Set(surfaces.all.map(({ name }) => name))
            const told = new Set(facetsOf(mesh).map(({ middle, normal }) => surfaces.at(middle, normal)))
            for (const name of told) expect([...known]).toContain(name)
            expect(told.size).toBeGreaterThan(2)
          }
        })
      }),
      { numRuns: runs(6), seed: 9 },
    )
  })
})

it('a twist lock of an earlier version stands where there is room below', () => {
  const { version, upgrades } = jointOf('twist-lock')!
  expect([version, upgrades!.map((upgrade) => upgrade({ bar: '16' }))]).toEqual([2, [{ bar: '16', room: 'there' }]])
})
