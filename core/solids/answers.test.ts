import { describe, it } from 'vitest'
import { keptAnswers } from '../testing/answers.ts'
import { built, testKernel } from '../testing/index.ts'
import { randomPart } from '../testing/parts.ts'
import { answerOf } from '../testing/solids.ts'

const kernel = await testKernel()
const expectKept = keptAnswers(new URL('answers.json', import.meta.url))

describe('random parts', () => {
  it.each(Array.from({ length: 60 }, (_, i) => i + 101))('%i: give the solids that they gave', async (seed) => {
    expectKept(`part ${seed}`, answerOf(await built(kernel, randomPart(seed), 0.1)))
  })
})
