import { newPart } from '@makrel/core/document'
import type { Finding } from '@makrel/core/proof'
import { describe, expect, it } from 'vitest'
import { findingsWord, handOffWord, type Proving, proofWord } from './proving.ts'

const part = newPart({ part: 'a', piece: 'p' }, 'A')
const finding = (rank: Finding['rank']): Finding => ({
  ...{ check: 'closed', rank, code: rank, pattern: rank, values: {}, text: rank, about: [] },
})
const proving = (change: Partial<Proving>): Proving => ({
  ...{ of: part, state: 'done', findings: [finding('pass')], done: 1, total: 1 },
  ...change,
})

describe('the proof in a word', () => {
  it('is a pass only where it is done, of this very state of the part', () => {
    expect(proofWord(proving({}), part)).toEqual({ rank: 'pass', text: 'passed' })
    expect(proofWord(proving({}), { ...part })).toBeUndefined()
    expect(proofWord(proving({ state: 'running' }), part)).toBeUndefined()
    expect(proofWord(undefined, part)).toBeUndefined()
    expect(proofWord(proving({ state: 'curing' }), part)).toEqual({ rank: 'pass', text: 'passed' })
    for (const state of ['stopped', 'failed'] as const)
      expect(proofWord(proving({ state }), part)?.rank).toBe('warning')
  })
  it('says that a part is ready to be handed off only where it is done, without a fault', () => {
    const word = (change: Partial<Proving>, of = part) => handOffWord(proving(change), of)
    expect(word({})).toBe('ready')
    expect(word({ findings: [finding('warning'), finding('pass')] })).toBe('ready')
    expect(word({ findings: [finding('pass'), finding('fault')] })).toBe('has faults')
    expect(word({}, { ...part })).toBe('…')
    expect(word({ state: 'running' })).toBe('…')
    expect(word({ state: 'curing' })).toBe('ready')
    expect(handOffWord(undefined, part)).toBe('…')
    for (const state of ['stopped', 'failed'] as const) expect(word({ state })).toBe('not proved')
    expect(word({ findings: [] })).toBe('not proved')
  })
  it('is the gravest of its findings, and how many there are', () => {
    const all = (...ranks: Finding['rank'][]) => findingsWord(ranks.map(finding)).text
    expect(all('pass', 'fault', 'warning', 'fault')).toBe('2 faults')
    expect(all('pass', 'warning')).toBe('1 warning')
    expect(all('advice', 'advice', 'pass')).toBe('2 notes')
    const aside = { id: 'x', check: 'walls', code: 'c', about: [], reason: 'r', said: 's' }
    expect(findingsWord([{ ...finding('fault'), aside }, finding('warning')]).text).toBe('1 warning, 1 aside')
    expect(findingsWord([{ ...finding('fault'), aside }]).text).toBe('passed, 1 aside')
  })
})
