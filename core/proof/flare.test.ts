import { describe, expect, it } from 'vitest'
import { newPiece, type Part, type Step } from '../document/index.ts'
import type { Solid, SolidMesh } from '../kernel/index.ts'
import { layerMiddle } from '../layers/index.ts'
import { built, onFace, partOf, seeded, step, testKernel } from '../testing/index.ts'
import { sampled } from '../testing/sample.ts'
import { proofOf } from './index.ts'
import type { Size } from './phrase.ts'

const kernel = await testKernel()
const { printer } = partOf([])

type Segment = readonly [ax: number, ay: number, bx: number, by: number]

/** Where triangles cross a height, one by one. */
function crossings({ positions, triangles }: SolidMesh, z: number): readonly Segment[] {
  const out: Segment[] = []
  for (let t = 0; t < triangles.length; t += 3) {
    const ends: number[] = []
    for (let k = 0; k < 3; k++) {
      const [a, b] = [3 * triangles[t + k]!, 3 * triangles[t + ((k + 1) % 3)]!]
      const [low, high] = [positions[a + 2]! - z, positions[b + 2]! - z]
      if (low < 0 === high < 0) continue
      const share = low / (low - high)
      for (const i of [0, 1]) ends.push(positions[a + i]! + share * (positions[b + i]! - positions[a + i]!))
    }
    if (ends.length === 4) out.push(ends as unknown as Segment)
  }
  return out
}

/** How far two outlines that do not cross are apart: of each end of one to each side of the other. */
function apart(one: readonly Segment[], other: readonly Segment[]): number {
  const far = (x: number, y: number, [ax, ay, bx, by]: Segment) => {
    const [u, v] = [bx - ax, by - ay]
    const whole = u * u + v * v
    const share = whole > 0 ? Math.min(1, Math.max(0, ((x - ax) * u + (y - ay) * v) / whole)) : 0
    return Math.hypot(ax + share * u - x, ay + share * v - y)
  }
  let least = Number.POSITIVE_INFINITY
  for (const [from, to] of [
    [one, other],
    [other, one],
  ] as const)
    for (const [x, y] of from) for (const side of to) least = Math.min(least, far(x, y, side))
  return least
}

const off = (by: number) => ({ from: 'centre', to: 'centre', by: `${by}` }) as const

/** A body of some kind that stands on the bed, or leans into it. */
function standing(random: () => number, id: string, x: number): Step {
  const size = (low: number, high: number) => `${low + (high - low) * random()}`
  const leans = random() < 0.4
  const place = {
    ...{ across: off(x), along: off(3 * random()), rest: 'on' as const, turn: size(-180, 180) },
    ...{ lift: leans ? '-2' : random() < 0.15 ? '0.4' : '0', lean: leans ? size(-20, 20) : '0' },
  }
  const kinds: readonly [string, Record<string, string>][] = [
    ['plate', { width: size(6, 9), depth: size(6, 9), height: '5.3' }],
    ['bar', { diameter: size(6, 9), height: '5.3' }],
    ['prism', { sides: '5', size: size(6, 9), height: '5.3' }],
  ]
  const [kind, fields] = kinds[Math.floor(3 * random())]!
  return step(id, kind, fields, { place })
}

describe('pieces that are printed beside each other', () => {
  it.each(sampled(120, 1, 10))('fuse where both are pressed out as far as they are apart (%i)', async (i) => {
    const random = seeded(6007 * i)
    const part = partOf([standing(random, 'a', 0)])
    const other = { ...newPiece('p2', 'Other', 'sand'), steps: [standing(random, 'b', 7.2 + 2.6 * random())] }
    const drawn = await built(kernel, { ...part, pieces: [...part.pieces, other] }, 0.05)
    const [a, b] = drawn.pieces.map(({ solid }) => solid!) as [Solid, Solid]
    const found = await proofOf(kernel, drawn, { only: ['flare'] })
    const codes = found.map(({ code }) => code)
    if ([a, b].some((solid) => solid.bounds()!.min[2] > 1e-3)) return expect(codes).toEqual([])
    const [one, two] = [a, b].map((solid) => crossings(solid.mesh(), layerMiddle(0, printer)))
    const gap = apart(one!, two!)
    const isCrossing = kernel.scope((scope) => scope.intersection([a, b]).volume() > 1e-6)
    if (isCrossing || Math.abs(gap - 2 * printer.flare) < 1e-3) return
    expect(codes).toEqual(gap < 2 * printer.flare ? ['flare-fuses'] : gap < 4 * printer.flare ? ['flare-room'] : [])
    if (gap < 2 * printer.flare) expect((found[0]!.values.gap as Size).of[0]).toBeCloseTo(gap, 4)
  })
})

describe('what has a fit', () => {
  /** A block with a hole or a slot into any of its sides, as deep and at such a slant as it happens to be. */
  function holed(random: () => number, isMuted: boolean): Part {
    const among = <T>(...all: readonly T[]) => all[Math.floor(random() * all.length)]!
    const side = among('top', 'bottom', 'left', 'front')
    const [diameter, depth] = [3 + 4 * random(), 2 + 9 * random()]
    const place = {
      ...onFace('a', side),
      ...{ across: off(8 * random() - 4), along: off(4 * random() - 2), turn: `${90 * random()}` },
      lean: random() < 0.5 ? '0' : `${40 * random() - 20}`,
    }
    const more = { operation: 'cut', place, mute: isMuted }
    const size = `${diameter} slide`
    const cut =
      random() < 0.6
        ? step('h', 'hole', { diameter: size, reach: 'blind', depth: `${depth}` }, more)
        : step('h', 'slot', { length: '9.7', width: size, reach: 'blind', depth: `${depth}` }, more)
    return partOf([step('a', 'plate', { width: '31.3', depth: '23.7', height: '8.1' }), cut])
  }
  it.each(sampled(120, 1, 10))(
    'loses it where its mouth is on the bed, whichever way it was drilled (%i)',
    async (i) => {
      const [drawn, whole] = [
        await built(kernel, holed(seeded(3571 * i), false), 0.05),
        await built(kernel, holed(seeded(3571 * i), true), 0.05),
      ]
      const found = await proofOf(kernel, drawn, { only: ['flare'] })
      const onBed = ({ pieces: [piece] }: typeof drawn) =>
        kernel.scope((scope) => scope.slice(piece!.solid!, 1e-3).area)
      const lost = onBed(whole) - onBed(drawn)
      if (lost > 0 && lost < 0.05) return
      expect(found.map(({ code }) => code)).toEqual(lost > 0 ? ['flare-pinches'] : [])
    },
  )
})
