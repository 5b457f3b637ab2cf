import { describe, it } from 'vitest'
import { keptAnswers } from '../testing/answers.ts'
import { built, testKernel } from '../testing/index.ts'
import { randomFrom } from '../testing/outlines.ts'
import { sampled } from '../testing/sample.ts'
import { answerOf, plainlyTreatedPart } from '../testing/solids.ts'

const kernel = await testKernel()
const kept = keptAnswers(new URL('answers.json', import.meta.url))

describe('random solids that are hollowed and whose faces are shifted', () => {
  it.each(sampled(40, 101))('%i: come to what they came to', async (seed) => {
    kept.expectKept(
      `solid ${seed}`,
      answerOf(await built(kernel, plainlyTreatedPart(randomFrom(seed), ['hollow', 'shift']), 0.1)),
    )
  })
})
