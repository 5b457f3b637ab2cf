import type { Part } from '@makrel/core/document'
import { partOf, step } from '@makrel/core/testing'
import { act, screen, within } from '@testing-library/react'
import { describe, expect, it } from 'vitest'
import { usePart } from '../state/part.ts'
import { choose, partNow, shown } from '../testing/page.tsx'
import { Readouts } from './Readouts.tsx'

const plate = () => step('b', 'plate', { width: '61.3', depth: '37.7', height: '8.2' })
const face = (name: string) => ({ step: 'b', face: name })
const height = { id: 'r', name: 'tall', kind: 'distance', of: [face('top'), face('bottom')], note: '' }
const part = (change: Partial<Part> = {}) => partOf([plate()], { readouts: [height], ...change })
const row = (name = 'tall') => screen.getByLabelText(`Name of ${name}`).closest('tr')!

describe('a read-out', () => {
  it('says what it comes to in the part’s unit, and who uses it', () => {
    const measure = { id: 'm', name: 'half', kind: 'length', expression: 'tall / 2', note: '' } as const
    const { unmount } = shown(<Readouts />, part({ measures: [measure] }))
    expect(within(row()).getByText('8.2 mm')).toBeTruthy()
    expect(row().textContent).toContain('half')
    unmount()
    shown(<Readouts />, partOf([step('b', 'plate', { height: '1 1/4' })], { readouts: [height], unit: 'in' }))
    expect(within(row()).getByText('1.25 in')).toBeTruthy()
  })
  it('reads between other places once they are chosen', async () => {
    const { user } = shown(<Readouts />, part())
    await choose(user, 'First place of tall', 'left of')
    await choose(user, 'Second place of tall', 'right of')
    expect(partNow().readouts[0]!.of).toEqual([face('left'), face('right')])
    expect(within(row()).getByText('61.3 mm')).toBeTruthy()
  })
  it('of another kind keeps as many of its places as that has', async () => {
    const { user } = shown(<Readouts />, part())
    await choose(user, 'Kind of tall', 'thickness')
    expect(partNow().readouts[0]).toMatchObject({ kind: 'thickness', of: [face('top')] })
    expect(screen.queryByLabelText('Second place of tall')).toBeNull()
  })
  it('of a place that is gone has no value, and says so', () => {
    shown(<Readouts />, part({ readouts: [{ ...height, of: [{ step: 'gone', face: 'top' }, face('bottom')] }] }))
    expect(within(row()).getByText('—')).toBeTruthy()
    expect(screen.getByRole('alert').textContent).not.toBe('')
  })
  it('is added under a name that nothing has, and removed, which one undo takes back', async () => {
    const taken = { id: 'm', name: 'read2', kind: 'length', expression: '1', note: '' } as const
    const { user } = shown(<Readouts />, part({ measures: [taken] }))
    await user.click(screen.getByRole('button', { name: 'Add a read-out' }))
    expect(partNow().readouts.map(({ name }) => name)).toEqual(['tall', 'read3'])
    await user.click(screen.getByRole('button', { name: 'Remove tall' }))
    expect(partNow().readouts.map(({ name }) => name)).toEqual(['read3'])
    act(() => usePart.getState().undo())
    expect(partNow().readouts).toHaveLength(2)
  })
  it('is not offered where there is nothing to read', () => {
    shown(<Readouts />, partOf([]))
    expect(screen.queryByRole('button', { name: 'Add a read-out' })).toBeNull()
    expect(document.body.textContent).toContain('There is nothing to read yet')
  })
})
