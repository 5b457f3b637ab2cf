import { describe, it } from 'vitest'
import { keptAnswers } from '../testing/answers.ts'
import { built, testKernel } from '../testing/index.ts'
import { randomFrom } from '../testing/outlines.ts'
import { answerOf, treatedPart } from '../testing/solids.ts'

const kernel = await testKernel()
const expectKept = keptAnswers(new URL('answers.json', import.meta.url))

describe('random solids with rounds and bevels', () => {
  it.each(Array.from({ length: 60 }, (_, i) => i + 1))('%i: come to what they came to', async (seed) => {
    expectKept(`solid ${seed}`, answerOf(await built(kernel, treatedPart(randomFrom(seed), ['round', 'bevel']), 0.1)))
  })
})
