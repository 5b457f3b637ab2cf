import { expect, it } from 'vitest'
import type { Step } from '../document/index.ts'
import { Builder } from '../solids/index.ts'
import { partOf, testKernel, treatment } from '../testing/index.ts'
import { randomFrom } from '../testing/outlines.ts'
import { among } from '../testing/parts.ts'
import { sampled } from '../testing/sample.ts'
import { answerOf, randomTray } from '../testing/solids.ts'

const kernel = await testKernel()
const fineness = 0.05

it.each(sampled(10))('walls of a changed tray are those of one that is made anew: %d', async (seed) => {
  const random = randomFrom(seed)
  const tray = randomTray(random)
  const hollow = (thick: string) => treatment('hollow', { thick, open: among(random, '', 'b/bottom') }, 'h')
  const round = treatment('round', { edges: 'of b/top', radius: among(random, '0.7', '1.3') }, 'r')
  const walls = hollow('0.9')
  const states: Step[][] = [
    [...tray, round, walls],
    // A wider block: pockets stay what they were.
    [{ ...tray[0]!, fields: { ...tray[0]!.fields, width: '92.3' } } as Step, ...tray.slice(1), round, walls],
    [...tray.slice(0, -1), round, walls],
    [...tray, walls],
    [...tray, round, hollow('1.1')],
    [...tray, round, walls],
  ]
  const warm = new Builder(kernel)
  for (const steps of states) {
    const part = partOf(steps)
    const changed = answerOf(await warm.build(part, { fineness }))
    const fresh = new Builder(kernel)
    const anew = answerOf(await fresh.build(part, { fineness }))
    expect(changed.faces).toEqual(anew.faces)
    expect(changed.problems).toEqual(anew.problems)
    expect(changed.sizes).toEqual(anew.sizes)
    fresh.clear()
  }
  warm.clear()
})
