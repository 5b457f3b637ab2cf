import { describe, it } from 'vitest'
import { keptAnswers, summed, worded } from '../testing/answers.ts'
import { failing, maker, sound } from '../testing/deserving.ts'
import { builtTwice, inTurn, seeded, testKernel } from '../testing/index.ts'
import { plainValues, proofOf } from './index.ts'

const kernel = await testKernel()
const kept = keptAnswers(new URL('answers.json', import.meta.url))

const parts = [
  ...Object.entries(failing).map(([name, make]) => [name, (i: number) => make(maker(seeded(i))).part] as const),
  ...Object.entries(sound).map(([name, make]) => [name, (i: number) => make(maker(seeded(i)))] as const),
]

describe.each(inTurn(3, parts))('the proof of what is like “%s”', (name, partOf) => {
  it('says what it said', async () => {
    const twice = await builtTwice(kernel, partOf(7919))
    const findings = await proofOf(kernel, twice.fine, { twice })
    kept.expectKept(name, {
      found: worded(findings.map(({ check, rank, code, about }) => [check, rank, code, about])),
      sizes: summed(findings.map(({ values }) => plainValues(values))),
      cures: summed(findings.map(({ cures }) => cures?.map(({ edits }) => edits))),
    })
  })
})
