import { describe, expect, it } from 'vitest'
import type { Part } from '../document/index.ts'
import { failing, maker, sound } from '../testing/deserving.ts'
import { built, seeded, testKernel } from '../testing/index.ts'
import { sampled, seed } from '../testing/sample.ts'
import { type Finding, proofOf } from './index.ts'

const kernel = await testKernel()

async function proof(part: Part, only?: readonly string[]): Promise<readonly Finding[]> {
  return proofOf(kernel, await built(kernel, part, 0.03), only ? { only } : {})
}

const [ways, kinds] = [Object.entries(failing), Object.entries(sound)]
const said = (findings: readonly Finding[]) => findings.map(({ check, rank, text }) => `${rank} (${check}): ${text}`)

describe('what deserves a fault has one', () => {
  it.each(sampled(1000, 1, 20).map((i) => [ways[i % ways.length]![0], i] as const))('%s (%i)', async (name, i) => {
    const { part, checks, rank: least = 'fault' } = failing[name]!(maker(seeded(1000 * seed + i)))
    const findings = await proof(part, checks)
    const ranks = least === 'warning' ? ['warning', 'fault'] : ['fault']
    const told = findings.filter(({ rank, code }) => ranks.includes(rank) && code !== 'check-failed')
    expect(told, said(findings).join('\n')).not.toEqual([])
  })
})

describe('what is sound has none', () => {
  it.each(sampled(1000, 1, 20).map((i) => [kinds[i % kinds.length]![0], i] as const))('%s (%i)', async (name, i) => {
    const findings = await proof(sound[name]!(maker(seeded(1000 * seed + i))))
    expect(said(findings.filter(({ rank }) => rank === 'fault' || rank === 'warning'))).toEqual([])
    expect(findings.some(({ rank }) => rank === 'pass')).toBe(true)
  })
})
