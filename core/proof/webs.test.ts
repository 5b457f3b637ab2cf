import { describe, expect, it } from 'vitest'
import type { Part } from '../document/index.ts'
import type { Ring } from '../kernel/index.ts'
import { bodiesOf, ringArea } from '../plane/index.ts'
import { cutBlock } from '../testing/cutBlocks.ts'
import { built, partOf, seeded, testKernel } from '../testing/index.ts'
import { sampled } from '../testing/sample.ts'
import { proofOf } from './index.ts'

const kernel = await testKernel()
const { lineWidth } = partOf([]).printer

/** A block with upright holes and slots all over it, here and there with next to nothing between them. */
function riddled(random: () => number): Part {
  return cutBlock(random, { least: 3, more: 7, within: 0.45 }, (between) =>
    random() < 0.5
      ? ['bar', { diameter: `${between(1.5, 7)}` }]
      : ['plate', { width: `${between(1, 5)}`, depth: `${between(2, 12)}` }],
  )
}

/**
 * What a section would have where every place of it is in a disc as wide as this: by another way than the one of the check, and one that
 * knows of no edges. How many bodies and holes there are, and how much is left over in one place, mm².
 */
function opened(rings: readonly Ring[], wide: number) {
  return kernel.scope((scope) => {
    const open = scope.inset(scope.inset(rings, wide / 2), -wide / 2)
    const left = bodiesOf(scope.withoutRegions(rings, open))
    const areas = left.map((body) => body.reduce((sum, ring) => sum + ringArea(ring), 0))
    return { ...shapeOf(open), most: Math.max(0, ...areas) }
  })
}
function shapeOf(rings: readonly Ring[]) {
  const bodies = bodiesOf(rings).length
  return { bodies, holes: rings.length - bodies }
}

describe('webs between holes', () => {
  it.each(sampled(300, 1, 20))(
    'that no line has room in are faults, and where it has room everywhere there is none (%i)',
    async (i) => {
      const drawn = await built(kernel, riddled(seeded(7919 + i)), 0.01)
      const { solid } = drawn.pieces[0]!
      if (!solid) return
      const findings = await proofOf(kernel, drawn, { only: ['walls', 'joined', 'bodies'] })
      const faults = findings.filter(({ rank }) => rank === 'fault')
      const rings = kernel.scope((scope) => scope.slice(solid, solid.bounds()!.max[2] / 2).rings)
      const whole = shapeOf(rings)
      const surely = opened(rings, 0.93 * lineWidth)
      // What falls apart, or holes that run into each other.
      const isBroken = surely.bodies !== whole.bodies || surely.holes !== whole.holes
      if (isBroken)
        expect(
          faults.map(({ text }) => text),
          'of webs',
        ).not.toEqual([])
      const hardly = opened(rings, 1.03 * lineWidth)
      if (whole.bodies === 1 && hardly.most < 0.1 * lineWidth ** 2)
        expect(findings.filter(({ code }) => code === 'walls-not-laid').map(({ text }) => text)).toEqual([])
    },
  )
})
