import { describe, it } from 'vitest'
import { asPrinted } from '../solids/index.ts'
import { keptAnswers, summed, worded } from '../testing/answers.ts'
import { built, partOf, seeded, testKernel } from '../testing/index.ts'
import { randomToPrint } from '../testing/printed.ts'
import { sampled } from '../testing/sample.ts'
import type { Compensation } from './index.ts'

const kernel = await testKernel()
const kept = keptAnswers(new URL('answers.json', import.meta.url))
const errors: Compensation = {
  ...{ walls: 0.04, rounds: 0.07, flare: 0.1, shrinkage: 0.3, firstLayer: 0.24, lineWidth: 0.44 },
  ...{ printer: 'Tern 220', material: 'PLA', origins: [] },
}

describe('random parts that make up for a printer', () => {
  it.each(sampled(40, 301, 20))('%i: come to what they came to, and stay where they stayed', async (seed) => {
    const before = await built(kernel, partOf(randomToPrint(seeded(seed))), 0.05)
    if (!before.pieces[0]!.solid) return
    const after = asPrinted(kernel, before, errors)
    const solid = after.built.pieces[0]!.solid!
    const stayed = after.stayed.get('p1') ?? []
    kept.expectKept(`part ${seed}`, {
      solid: summed([solid.volume(), solid.area(), solid.bounds()]),
      why: worded(stayed.map(({ why }) => why)),
      stayed: summed(stayed.map(({ area, at }) => [area, at])),
    })
    after.release()
  })
})
