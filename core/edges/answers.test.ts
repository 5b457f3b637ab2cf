import { describe, it } from 'vitest'
import { keptAnswers } from '../testing/answers.ts'
import { built, testKernel } from '../testing/index.ts'
import { randomFrom } from '../testing/outlines.ts'
import { keptKinds } from '../testing/parts.ts'
import { sampled } from '../testing/sample.ts'
import { answerOf, treatedPart } from '../testing/solids.ts'

const kernel = await testKernel()
const kept = keptAnswers(new URL('answers.json', import.meta.url))
const kinds = keptKinds(kept)

describe('random solids with rounds and bevels', () => {
  it.each(sampled(60))('%i: come to what they came to', async (seed) => {
    kept.expectKept(
      `solid ${seed}`,
      answerOf(await built(kernel, treatedPart(randomFrom(seed), ['round', 'bevel'], kinds), 0.1)),
    )
  })
})
