import type { Part } from '@makrel/core/document'
import { partOf, step } from '@makrel/core/testing'
import { act, screen, within } from '@testing-library/react'
import { describe, expect, it } from 'vitest'
import { usePart } from '../state/part.ts'
import { partNow, shown } from '../testing/page.tsx'
import { Measures } from './Measures.tsx'

const part = (change: Partial<Part> = {}) =>
  partOf([step('b', 'plate', { width: 'wall*20', depth: '37.7', height: 'wall' })], {
    measures: [
      { id: 'w', name: 'wall', kind: 'length', expression: '2.3', note: '' },
      { id: 'r', name: 'rod', kind: 'length', expression: 'wall + 1/3', note: '' },
      { id: 'c', name: 'size', kind: 'choice', expression: 'small', choices: ['small', 'large'], note: '' },
    ],
    ...change,
  })
const measure = (id: string) => partNow().measures.find((each) => each.id === id)!
const rowOf = (name: string) => screen.getByLabelText(`Name of ${name}`).closest('tr')!

describe('a measure', () => {
  it('says what it comes to, by the measures that it is made of', async () => {
    const { user } = shown(<Measures />, part())
    expect(within(rowOf('rod')).getByText('2.633 mm')).toBeTruthy()
    await user.clear(screen.getByLabelText('Expression of wall'))
    await user.type(screen.getByLabelText('Expression of wall'), '3.1')
    expect(within(rowOf('rod')).getByText('3.433 mm')).toBeTruthy()
  })
  it('that cannot be read says where and why, and those made of it have no value', async () => {
    const { user } = shown(<Measures />, part())
    await user.type(screen.getByLabelText('Expression of wall'), '3 + rodd')
    const alerts = screen.getAllByRole('alert').map((each) => each.textContent)
    expect(alerts[0]).toContain('rodd')
    expect(document.querySelector('mark')?.textContent).toBe('rodd')
    expect(within(rowOf('rod')).getByText('—')).toBeTruthy()
  })
  it('is taken back by Escape to what it was when the keyboard came', async () => {
    const { user } = shown(<Measures />, part())
    const field = screen.getByLabelText<HTMLInputElement>('Expression of wall')
    await user.type(field, '85.1{Escape}')
    expect(measure('w').expression).toBe('2.3')
    expect(field.value).toBe('2.3')
  })
  it('is renamed wherever it is used', async () => {
    const { user } = shown(<Measures />, part())
    const name = screen.getByLabelText('Name of wall')
    await user.clear(name)
    await user.type(name, ' side {Enter}')
    expect(measure('w').name).toBe('side')
    expect(measure('r').expression).toBe('side + 1/3')
    expect(partNow().pieces[0]!.steps[0]).toMatchObject({ fields: { width: 'side*20', height: 'side' } })
  })
  it('is added under a name that nothing has', async () => {
    const { user } = shown(
      <Measures />,
      part({ measures: [{ id: 'a', name: 'size2', kind: 'length', expression: '1', note: '' }] }),
    )
    await user.click(screen.getByRole('button', { name: 'Add a measure' }))
    expect(partNow().measures.map(({ name }) => name)).toEqual(['size2', 'size3'])
    expect(document.activeElement).toBe(screen.getByLabelText('Name of size3'))
  })
  it('is removed, which one undo takes back', async () => {
    const { user } = shown(<Measures />, part())
    await user.click(screen.getByRole('button', { name: 'Remove rod' }))
    expect(partNow().measures.map(({ id }) => id)).toEqual(['w', 'c'])
    act(() => usePart.getState().undo())
    expect(partNow().measures).toHaveLength(3)
  })
  it('counts its readings in words', () => {
    const [first, ...others] = part().measures
    const read = (values: readonly number[]) =>
      part({ measures: [{ ...first!, readings: values.map((value) => ({ value, at: '' })) }, ...others] })
    shown(<Measures />, read([2.3]))
    expect(screen.getByLabelText('Readings of wall').textContent).toBe('1 reading')
    act(() => usePart.getState().open(read([2.3, 2.4]), 2, new Date()))
    expect(screen.getByLabelText('Readings of wall').textContent).toBe('2 readings')
  })
})

describe('a choice', () => {
  it('has as many words as are listed, each once', async () => {
    const { user } = shown(<Measures />, part())
    const words = screen.getByLabelText('Choices of size, separated by commas')
    await user.clear(words)
    await user.type(words, ' small , wide,,wide, long {Enter}')
    expect(measure('c')).toMatchObject({ choices: ['small', 'wide', 'long'], expression: 'small' })
  })
  it('goes to the first word where its own went', async () => {
    const { user } = shown(<Measures />, part())
    const words = screen.getByLabelText('Choices of size, separated by commas')
    await user.clear(words)
    await user.type(words, 'wide, long{Enter}')
    expect(measure('c')).toMatchObject({ choices: ['wide', 'long'], expression: 'wide' })
  })
  it('keeps its words where they are taken back', async () => {
    const { user } = shown(<Measures />, part())
    const words = screen.getByLabelText<HTMLInputElement>('Choices of size, separated by commas')
    await user.type(words, ', wide{Escape}')
    expect(words.value).toBe('small, large')
    await user.tab()
    expect(measure('c').choices).toEqual(['small', 'large'])
  })
})

describe('in a variant', () => {
  it('a value is of that variant only, until it is given back', async () => {
    const { user } = shown(<Measures />, part({ variants: [{ id: 'v', name: 'wide', values: {} }], variant: 'v' }))
    const field = screen.getByLabelText('Expression of wall')
    await user.clear(field)
    await user.type(field, '4.1')
    expect(partNow().variants[0]!.values).toEqual({ w: '4.1' })
    expect(measure('w').expression).toBe('2.3')
    expect(within(rowOf('wall')).getByText(/wide only/)).toBeTruthy()
    await user.click(screen.getByRole('button', { name: 'wall: as in all variants' }))
    expect(partNow().variants[0]!.values).toEqual({})
  })
})
