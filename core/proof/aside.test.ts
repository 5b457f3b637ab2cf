import { describe, expect, it } from 'vitest'
import { applyEdit, type Part, readPartFile, writePartFile } from '../document/index.ts'
import { fieldKindOf } from '../planning/index.ts'
import { built, onFace, partOf, step, testKernel } from '../testing/index.ts'
import { withAsides } from './aside.ts'
import { canBeSetAside, type Finding, proofOf, setAsideOf, solidFaults, worst } from './index.ts'

const kernel = await testKernel()
const only = ['closed', 'walls', 'stands', 'bodies']
const proof = async (part: Part) => proofOf(kernel, await built(kernel, part, 0.02), { only })
/** A plate with a fin so thick on it. */
const finned = (thick: number, lift = 0) =>
  partOf([
    step('foot', 'plate', { width: '31.3', depth: '23.7', height: '4.1' }, { place: { lift: `${lift}` } } as never),
    step('fin', 'plate', { width: '17.3', depth: `${thick}`, height: '9.3' }, { place: onFace('foot', 'top') }),
  ])
const told = (found: readonly Finding[]) => found.filter(({ rank }) => rank !== 'pass')
const withAside = (part: Part, finding: Finding, reason = 'a label only') =>
  applyEdit(part, { type: 'set-aside', aside: setAsideOf(finding, 'x1', reason) }, fieldKindOf)

describe('a finding that is set aside', () => {
  it('is told with its reason and counts for nothing, through a file as well', async () => {
    const part = finned(0.37)
    const [found] = told(await proof(part))
    expect(found!.rank).toBe('fault')
    const kept = readPartFile(writePartFile(withAside(part, found!)))
    const after = await proof(kept)
    expect(told(after).map(({ text, aside }) => [text, aside?.reason])).toEqual([[found!.text, 'a label only']])
    expect(worst(after)).toBe('pass')
    expect(worst(await proof(part))).toBe('fault')
  })
  it.each([
    [0.371, true],
    [0.39, true],
    [0.36, true],
    [0.31, false],
    [0.5, false],
  ])('comes back when it gets worse, or says something else: a fin of %f', async (thick, stays) => {
    const [found] = told(await proof(finned(0.37)))
    const { setAside } = withAside(finned(0.37), found!)
    const after = told(await proof({ ...finned(thick), setAside }))
    expect(after.map(({ aside }) => aside !== undefined)).toEqual([stays])
  })
  it('stays so only where it says the same, if nothing tells how bad it is', async () => {
    const [found] = told(await proof(finned(3.3, 0.7)))
    expect([found!.check, found!.by]).toEqual(['stands', undefined])
    const { setAside } = withAside(finned(3.3, 0.7), found!)
    for (const [lift, stays] of [
      [0.7, true],
      [0.9, false],
      [0.6, false],
    ] as const)
      expect(told(await proof({ ...finned(3.3, lift), setAside })).map(({ aside }) => aside !== undefined)).toEqual([
        stays,
      ])
  })
  it('is taken up again, and set aside anew in place of what was said before', async () => {
    const [found] = told(await proof(finned(0.37)))
    const twice = withAside(withAside(finned(0.37), found!), found!, 'a shim')
    expect(twice.setAside.map(({ reason }) => reason)).toEqual(['a shim'])
    expect(applyEdit(twice, { type: 'take-up', id: 'x1' }, fieldKindOf).setAside).toEqual([])
  })
  it('is one, of several that say the same of the same step: the one that it was', () => {
    const neck = (by: number) =>
      ({ check: 'necks', code: 'c', rank: 'advice', about: [], pattern: '', values: {}, text: `${by}`, by }) as Finding
    const asideOf = (findings: readonly Finding[], ...set: readonly Finding[]) =>
      withAsides({ setAside: set.map((each, i) => setAsideOf(each, `x${i}`, 'meant so')) }, findings).map(
        ({ aside }) => aside?.id,
      )
    expect(asideOf([neck(3.1), neck(7.3)], neck(7.3))).toEqual([undefined, 'x0'])
    expect(asideOf([neck(7.3), neck(3.1)], neck(3.1))).toEqual([undefined, 'x0'])
    expect(asideOf([neck(3.1), neck(7.3)], neck(7.3), neck(3.1))).toEqual(['x1', 'x0'])
    expect(asideOf([neck(3.1), neck(7.9)], neck(7.3), neck(3.1))).toEqual(['x0', undefined])
  })
  it('keeps no file back', () => {
    const fault = { check: 'bodies', code: 'c', rank: 'fault', about: [], pattern: '', values: {}, text: 't' } as const
    expect(solidFaults([fault])).toHaveLength(1)
    expect(solidFaults([{ ...fault, aside: setAsideOf(fault, 'x', 'meant so') }])).toEqual([])
  })
  it('is not one that passes, nor one of what is not closed', () => {
    expect(canBeSetAside({ check: 'walls', rank: 'pass' })).toBe(false)
    expect(canBeSetAside({ check: 'closed', rank: 'fault' })).toBe(false)
    expect(canBeSetAside({ check: 'walls', rank: 'advice' })).toBe(true)
  })
})
