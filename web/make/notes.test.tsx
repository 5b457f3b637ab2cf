import { shippedPrinters } from '@makrel/core/fits'
import type { Names } from '@makrel/core/measures'
import { workOut } from '@makrel/core/planning'
import { problem } from '@makrel/core/problems'
import { partOf, step } from '@makrel/core/testing'
import { screen } from '@testing-library/react'
import type { ReactNode } from 'react'
import { describe, expect, it } from 'vitest'
import { shown } from '../testing/page.tsx'
import { ProblemLines } from '../ui/ProblemLines.tsx'
import { CountOffers } from './CountOffers.tsx'
import { FitNote } from './FitNote.tsx'
import { RuleNote } from './RuleNote.tsx'
import { SpringRows } from './SpringNote.tsx'
import { StepTools } from './StepTools.tsx'

/** What a maker reads of something in a part. */
function read(node: ReactNode, part = inches): string {
  const { container, unmount } = shown(node, part)
  const text = (container.textContent ?? '').replace(/\s+/g, ' ').trim()
  unmount()
  return text
}

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

describe('under a field', () => {
  it('a dash between a whole and a fraction is said as on a rule, with the difference to take', () => {
    const note = (text: string) => read(<RuleNote text={text} kind="length" names={namesOf(inches)} onTake={taken} />)
    expect(note('4-1/3')).toBe('4-1/3 = 4.3333 in, as on a rule. Use 4 - 1/3 = 3.6667 in')
    expect(note('2 - 1/8')).toBe('')
    expect(note('3.7')).toBe('')
  })
  it('a plain number that was meant as a count is offered to be one, where that makes sense of the sum', () => {
    const offers = (text: string) => read(<CountOffers text={text} kind="length" names={namesOf(inches)} />)
    expect(offers('n*pitch + 8.2')).toBe('make n a count')
    expect(offers('pitch + 8.2')).toBe('')
  })
  it('a fit behind a size says its sum and where its gap comes from', () => {
    const mm = { ...inches, unit: 'mm' as const }
    const note = (text: string) => read(<FitNote text={text} takes="round" names={namesOf(mm)} />, mm)
    const gap = shippedPrinters[0]!.fits.slide.round.gap
    expect(note('8.3 slide')).toContain(
      `8.3 + 2 × ${gap} = ${Number((8.3 + 2 * gap).toFixed(3))} mm: slide, round, of Tern 220`,
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
    read(<ProblemLines problems={problems} unit="in" {...(onTake ? { onTake } : {})} />)
  expect(lines(taken)).toContain('use 0.5')
  expect(lines()).not.toContain('use')
  const instead = { field: 'item', text: 'iso-4032 M4', shown: 'M4 hex nut' }
  const unknown = problem('item-unknown', ['a'], { label: 'Nut', value: 'M4.1', known: 'M4 hex nut' }, { instead })
  expect(read(<ProblemLines problems={[unknown]} onTake={taken} />)).toContain('use the M4 hex nut')
})

it('a spring is told in its own units, and a formula that gives nothing is told as nothing', () => {
  const facts = { rate: 1.53, force: 6.12, travel: 25.4, strain: 0.0117, per: 'mm' } as const
  expect(read(<SpringRows facts={facts} />)).toMatch(/^Stiffness1\.53 N\/mmAt 1 in6\.12 NStrain there1\.17 %/)
  expect(read(<SpringRows facts={{ ...facts, per: 'degree', travel: 37.3 }} />)).toContain('At 37.3°6.12 N mm')
  expect(read(<SpringRows facts={undefined} />)).toBe('')
})

it('the tools of a step say what can be undone of it: its ghost, being muted, its copies', () => {
  const tools = (change: object) => {
    const { unmount } = shown(
      <StepTools step={{ ...step('a', 'plate'), ...change }} number="1" more={false} onMore={taken} />,
    )
    const pressed = screen.getAllByRole('button', { pressed: true }).map((each) => each.getAttribute('aria-label'))
    unmount()
    return pressed
  }
  expect(tools({ mute: true })).toEqual(['Mute: leave it out'])
  expect(tools({ ghost: true, mute: true })).toEqual(['Mute: leave it out', 'Ghost: its own shape is shown'])
})
