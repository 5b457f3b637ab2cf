import { shippedPrinters } from '@makrel/core/fits'
import type { Names } from '@makrel/core/measures'
import { workOut } from '@makrel/core/planning'
import { problem } from '@makrel/core/problems'
import { partOf, step } from '@makrel/core/testing'
import React, { createElement } from 'react'
import { renderToStaticMarkup } from 'react-dom/server'
import { afterAll, beforeAll, beforeEach, describe, expect, it, vi } from 'vitest'
import { usePart } from '../state/part.ts'
import { ProblemLines } from '../ui/ProblemLines.tsx'
import { CountOffers } from './CountOffers.tsx'
import { FitNote } from './FitNote.tsx'
import { RuleNote } from './RuleNote.tsx'
import { SpringRows } from './SpringNote.tsx'
import { StepTools } from './StepTools.tsx'

/** What a maker reads of a component, its tags left out. */
const read = (node: Parameters<typeof renderToStaticMarkup>[0]) =>
  renderToStaticMarkup(node)
    .replace(/<[^>]*>/g, ' ')
    .replace(/&#x27;/g, "'")
    .replace(/\s+/g, ' ')
    .trim()

const inches = partOf([], {
  unit: 'in',
  printer: shippedPrinters[0]!,
  measures: [
    { id: 'n', name: 'n', kind: 'length', expression: '7', note: '' },
    { id: 'p', name: 'pitch', kind: 'length', expression: '1/2', note: '' },
  ],
})
const namesOf = (part: typeof inches): Names => workOut(part).resolved.measures.names
const taken = () => undefined

// Rendered to text a store would be as it was when it was made.
beforeAll(() => void vi.spyOn(React, 'useSyncExternalStore').mockImplementation((_, now) => now()))
afterAll(() => void vi.restoreAllMocks())
beforeEach(() => usePart.setState({ part: inches }))

describe('under a field', () => {
  it('a dash between a whole and a fraction is said as on a rule, with the difference to take', () => {
    const note = (text: string) =>
      read(createElement(RuleNote, { text, kind: 'length', names: namesOf(inches), onTake: taken }))
    expect(note('4-1/3')).toBe('4-1/3 = 4.3333 in , as on a rule. Use 4 - 1/3 = 3.6667 in')
    expect(note('2 - 1/8')).toBe('')
    expect(note('3.7')).toBe('')
  })
  it('a plain number that was meant as a count is offered to be one, where that makes sense of the sum', () => {
    const offers = (text: string) => read(createElement(CountOffers, { text, kind: 'length', names: namesOf(inches) }))
    expect(offers('n*pitch + 8.2')).toBe('make n a count')
    expect(offers('pitch + 8.2')).toBe('')
  })
  it('a fit behind a size says its sum and where its gap comes from', () => {
    const mm = { ...inches, unit: 'mm' as const }
    usePart.setState({ part: mm })
    const note = (text: string) => read(createElement(FitNote, { text, takes: 'round', names: namesOf(mm) }))
    const gap = shippedPrinters[0]!.fits.slide.round.gap
    expect(note('8.3 slide')).toContain(
      `8.3 + 2 × ${gap} = ${Number((8.3 + 2 * gap).toFixed(3))} mm : slide, round, of Tern 220`,
    )
    expect(note('8.3')).toBe('')
    expect(note('8.3 / 0 slide')).toBe('')
  })
})

it('a problem offers what would do in the unit of the part, and only where it can be taken', () => {
  const problems = [
    problem(
      'too-small',
      ['a'],
      { label: 'Wall', bound: '1', value: '0' },
      { offer: { field: 'w', value: 12.7 } as never },
    ),
  ]
  const lines = (onTake?: () => void) =>
    read(createElement(ProblemLines, { problems, unit: 'in', ...(onTake ? { onTake } : {}) }))
  expect(lines(taken)).toContain('use 0.5')
  expect(lines()).not.toContain('use')
})

it('a spring is told in its own units, and a formula that gives nothing is told as nothing', () => {
  const facts = { rate: 1.53, force: 6.12, travel: 25.4, strain: 0.0117, per: 'mm' } as const
  expect(read(createElement(SpringRows, { facts }))).toMatch(
    /^Stiffness 1\.53 N\/mm At 1 in 6\.12 N Strain there 1\.17 %/,
  )
  expect(read(createElement(SpringRows, { facts: { ...facts, per: 'degree', travel: 37.3 } }))).toContain(
    'At 37.3° 6.12 N mm',
  )
  expect(read(createElement(SpringRows, { facts: undefined }))).toBe('')
})

it('the tools of a step say what can be undone of it: its ghost, being muted, its copies', () => {
  const tools = (change: object) =>
    renderToStaticMarkup(
      createElement(StepTools, { step: { ...step('a', 'plate'), ...change }, number: '1', more: false, onMore: taken }),
    )
  expect(tools({})).not.toContain('Ghost:')
  expect(tools({ ghost: true })).toContain('aria-label="Ghost: its own shape is shown"')
  expect(tools({ mute: true })).toMatch(
    /aria-pressed="true"[^>]*aria-label="Mute|aria-label="Mute: leave it out"[^>]*aria-pressed="true"/,
  )
})
