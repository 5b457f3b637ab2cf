import { describe, it } from 'vitest'
import { allSteps, hasBody, type Part } from '../document/index.ts'
import { readouts } from '../readouts/index.ts'
import { keptAnswers } from '../testing/answers.ts'
import { built, testKernel } from '../testing/index.ts'
import { randomFrom } from '../testing/outlines.ts'
import { among, keptKinds, randomPart } from '../testing/parts.ts'
import { sampled } from '../testing/sample.ts'
import { answerOf } from '../testing/solids.ts'

const kernel = await testKernel()
const kept = keptAnswers(new URL('answers.json', import.meta.url))
const kinds = keptKinds(kept)
const readable = kept.kindsOf('readouts', readouts)

/** The same with two of each thing that can be read off faces, and off the solid. */
function withReadouts(part: Part, random: () => number): Part {
  const ids = allSteps(part)
    .filter(hasBody)
    .map(({ id }) => id)
  const place = () => ({ step: among(random, ...ids), face: among(random, 'top', 'side', 'left', '') })
  const all = [...readable, ...readable].map(({ kind, takes }, i) => ({
    ...{ id: `q${i}`, name: `q${i}`, kind, note: '' },
    of: Array.from({ length: takes }, place),
  }))
  return { ...part, readouts: [...part.readouts, ...all] }
}

describe('random parts', () => {
  it.each(sampled(60, 101))('%i: give the solids that they gave', async (seed) => {
    const part = withReadouts(randomPart(seed, kinds), randomFrom(seed))
    kept.expectKept(`part ${seed}`, answerOf(await built(kernel, part, 0.1)))
  })
})
