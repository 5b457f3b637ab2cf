import { describe, expect, it } from 'vitest'
import type { Part } from '../document/index.ts'
import type { Ring } from '../kernel/index.ts'
import { bodiesOf, ringArea } from '../plane/index.ts'
import { cutBlock } from '../testing/cutBlocks.ts'
import { built, partOf, seeded, testKernel } from '../testing/index.ts'
import { sampled } from '../testing/sample.ts'
import { proofOf } from './index.ts'

const kernel = await testKernel()
const { leastGap, lineWidth, holeOffset } = partOf([]).printer

/** A block with upright slots and holes all over it, many of them next to nothing wide, also where they run out of it. */
function slotted(random: () => number): Part {
  return cutBlock(random, { least: 1, more: 5, within: 0.5 }, (between) => {
    const narrow = between(0.6, 1.6) * leastGap
    return random() < 0.3
      ? ['bar', { diameter: `${random() < 0.5 ? between(1, 2) * leastGap : between(1.5, 7)}` }]
      : ['plate', { width: `${random() < 0.7 ? narrow : between(1, 5)}`, depth: `${between(2, 14)}` }]
  })
}

/**
 * What a section is filled up by where no disc as wide as this goes in from outside: by another way than the one of the check. The most of
 * it in one place, mm².
 */
function filledUp(rings: readonly Ring[], wide: number): number {
  return kernel.scope((scope) => {
    const closed = scope.inset(scope.inset(rings, -wide / 2), wide / 2)
    const areas = bodiesOf(scope.withoutRegions(closed, rings)).map((body) =>
      body.reduce((sum, ring) => sum + ringArea(ring), 0),
    )
    return Math.max(0, ...areas)
  })
}

describe('slots and holes that run through a block', () => {
  it.each(sampled(300, 1, 20))('are told where they close, and nowhere else (%i)', async (i) => {
    const drawn = await built(kernel, slotted(seeded(4409 + i)), 0.01)
    const { solid } = drawn.pieces[0]!
    if (!solid) return
    const found = await proofOf(kernel, drawn, { only: ['slots', 'within'] })
    const told = found.filter(({ rank }) => rank !== 'pass').map(({ text }) => text)
    const rings = kernel.scope((scope) => scope.slice(solid, solid.bounds()!.max[2] / 2).rings)
    if (filledUp(rings, 0.95 * leastGap) > 2 * lineWidth ** 2 + 0.1) expect(told, 'of what closes').not.toEqual([])
    const widest = 1.03 * (leastGap + 2 * holeOffset)
    if (filledUp(rings, widest) < 0.2 * lineWidth ** 2) expect(told).toEqual([])
  })
})
