import { describe, expect, it } from 'vitest'
import { workOut } from '../planning/index.ts'
import { built, partOf, step, testKernel } from '../testing/index.ts'

const kernel = await testKernel()
const words = 'OAR SHED 2'
const sign = (more: Record<string, string>) => step('t', 'text', { text: words, size: '8', depth: '0.6', ...more })
const toldOf = (more: Record<string, string>) =>
  workOut(partOf([sign(more)])).problems.map(({ code, path, text }) => ({ code, field: path.at(-1), text }))

/** How long the words are, mm, by what they are as a line of their own. */
async function lengthOf(): Promise<number> {
  const { min, max } = (await built(kernel, partOf([sign({})]), 0.02)).pieces[0]!.solid!.bounds()!
  return max[0] - min[0]
}

describe('words that go round', () => {
  it.each([
    ['circle', { line: 'over' }],
    ['circle', { line: 'under' }],
    ['round', { wrap: 'outside' }],
  ])('a %s %o are as long as that at most, once round it', async (field, more) => {
    const round = (await lengthOf()) / Math.PI
    const fits = { ...more, [field]: (1.06 * round).toFixed(2) }
    expect(toldOf(fits)).toEqual([])
    const { pieces } = await built(kernel, partOf([sign(fits)]), 0.05)
    expect(pieces[0]!.solid!.volume()).toBeGreaterThan(10)
    const [told, ...others] = toldOf({ ...more, [field]: (0.94 * round).toFixed(2) })
    expect([told?.field, others]).toEqual([field, []])
    expect(told!.text).toMatch(/more than once/)
  })
})
