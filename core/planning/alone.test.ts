import { describe, expect, it } from 'vitest'
import type { Part } from '../document/index.ts'
import { onFace, partOf, repeat, step } from '../testing/index.ts'
import { aloneStep, workOut } from './index.ts'

const measures = [{ id: 'm', name: 'teeth', kind: 'count', expression: '2 * 13', note: '' } as const]
const source = (unit: 'mm' | 'in' = 'mm'): Part => {
  const fields = {
    teeth: 'teeth',
    module: unit === 'mm' ? '1/3 in' : '1/8',
    play: 'free',
    helix: '17.3',
    run: 'helical',
    hole: unit === 'mm' ? '8 slide' : '1/4 slide',
  }
  const base = step('base', 'plate', { width: unit === 'mm' ? '300' : '12', depth: unit === 'mm' ? '300' : '12' })
  const gear = step('g', 'gear', fields, {
    place: { ...onFace('base', 'top'), turn: '37.3' },
    repeats: [repeat('row')],
  })
  return partOf([base, { ...gear, when: 'teeth > 3' }], { unit, measures })
}

describe('a shape taken out of its part', () => {
  it.each(['mm', 'in'] as const)('has the values that it had there, in any part: %s', (unit) => {
    const part = source(unit)
    const was = workOut(part).resolved.steps.get('g')!.values
    const alone = aloneStep(part, 'g', 'new')!
    for (const other of ['mm', 'in'] as const) {
      // Where a measure of the same name says something else.
      const there = partOf([alone], { unit: other, measures: [{ ...measures[0]!, expression: '99' }] })
      const now = workOut(there).resolved.steps.get('new')!.values
      for (const [name, value] of Object.entries(was!))
        expect(now![name], name).toEqual(typeof value === 'number' ? expect.closeTo(value, 8) : value)
      expect(workOut(there).problems).toEqual([])
    }
  })
  it('stands alone on the bed', () => {
    const alone = aloneStep(source(), 'g', 'new')!
    expect(alone).toMatchObject({ id: 'new', when: '', repeats: [], place: { on: { kind: 'bed' }, turn: '0' } })
    expect(alone.place.across.to).toBe('own')
  })
  it('is none where there is no such shape, or it cannot be made out', () => {
    expect(aloneStep(source(), 'gone', 'new')).toBeUndefined()
    expect(aloneStep(partOf([step('g', 'gear', { teeth: 'no such' })]), 'g', 'new')).toBeUndefined()
  })
})
