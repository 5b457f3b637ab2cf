import { describe, it } from 'vitest'
import { keptAnswers } from '../testing/answers.ts'
import { built, testKernel } from '../testing/index.ts'
import { randomFrom } from '../testing/outlines.ts'
import { answerOf, plainlyTreatedPart } from '../testing/solids.ts'

const kernel = await testKernel()
const kept = keptAnswers(new URL('answers.json', import.meta.url))

describe('random solids that are hollowed and whose faces are shifted', () => {
  it.each(Array.from({ length: 40 }, (_, i) => i + 101))('%i: come to what they came to', async (seed) => {
    kept.expectKept(
      `solid ${seed}`,
      answerOf(await built(kernel, plainlyTreatedPart(randomFrom(seed), ['hollow', 'shift']), 0.1)),
    )
  })
})
