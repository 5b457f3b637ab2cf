import { describe, expect, it } from 'vitest'
import {
  attempt,
  guarded,
  type Problem,
  ProblemError,
  problem,
  problemFrom,
  problemText,
  problemTexts,
  tried,
} from './index.ts'

it('texts are sentences that say what is wrong', () => {
  for (const [code, text] of Object.entries(problemTexts)) {
    if (text === '{detail}') continue
    expect(text, code).toMatch(/^[A-Z“{]/)
    expect(text, code).toMatch(/[.}]$/)
    expect(text.replace(/\{\w+\}/g, ''), code).not.toMatch(/[{}]/)
  }
})

it('every blank of a text is filled, wherever it stands, and with nothing else', () => {
  expect(problemText('pick-unlike', { given: 3, values: 2 })).toBe(
    'There are 3 choices and 2 values; give one value for each.',
  )
  // What is put in is not read again, whatever is in it.
  expect(problemText('unknown-name', { name: '{suggestion} $&', suggestion: ' Is it wall?' })).toBe(
    'There is no measure called “{suggestion} $&”. Is it wall?',
  )
})

describe('a problem', () => {
  const path = ['steps', 'a', 'fields', 'width']
  it('is a fault where nothing else is said, and points at what it means', () => {
    expect(problem('not-finite', path, {})).toEqual({
      ...{ code: 'not-finite', rank: 'fault', text: 'This does not come to a finite number.', path },
    })
    expect(problem('not-finite', path, {}, { rank: 'advice', at: [2, 5] })).toMatchObject({
      rank: 'advice',
      at: [2, 5],
    })
  })
  it('is carried out of work that cannot go on, and is a value where the path is known', () => {
    const thrown = new ProblemError('not-whole', { value: 2.5 }, [0, 3])
    const work = () => {
      throw thrown
    }
    const told = { code: 'not-whole', rank: 'fault', text: expect.stringContaining('this is 2.5'), path, at: [0, 3] }
    expect(attempt(path, work)).toEqual({ ok: false, problem: told })
    expect(problemFrom(thrown, path)).toEqual(told)
    expect(attempt(path, () => 15.3)).toEqual({ ok: true, value: 15.3 })
  })
  it('that nobody foresaw goes on up, or is told at its step and the rest goes on', () => {
    const broken = () => {
      throw new TypeError('no such thing')
    }
    expect(() => attempt(path, broken)).toThrow(TypeError)
    const problems: Problem[] = []
    expect(guarded(path, problems, broken)).toBeUndefined()
    expect(guarded(path, problems, () => 85.1)).toBe(85.1)
    expect(problems).toEqual([
      expect.objectContaining({ code: 'step-failed', path, text: expect.stringContaining('no such thing') }),
    ])
    expect(problemFrom('words alone', path).text).toContain('words alone')
    expect(tried(broken)).toBeUndefined()
    expect(tried(() => 1 / 3)).toBe(1 / 3)
  })
})
