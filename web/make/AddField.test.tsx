import { allSteps, type BodyStep } from '@makrel/core/document'
import { bundleOf, partOf, step } from '@makrel/core/testing'
import { act, screen } from '@testing-library/react'
import { describe, expect, it } from 'vitest'
import { usePart } from '../state/part.ts'
import { partNow, shown } from '../testing/page.tsx'
import { AddField } from './AddField.tsx'

const block = () => step('b', 'plate', { width: '61.3', depth: '37.7', height: '8.2' })

function adding(part = partOf([])) {
  const { user } = shown(<AddField pieceId={part.pieces[0]!.id} />, part)
  return { user, field: screen.getByLabelText<HTMLInputElement>('Add a step') }
}
const steps = () => allSteps(partNow()) as BodyStep[]
const added = () => steps().at(-1)!
const fieldsOf = (some: BodyStep) => ('fields' in some ? some.fields : {})

describe('what is typed to add a step', () => {
  it('is one with its numbers, after which the field is ready for the next', async () => {
    const { user, field } = adding()
    await user.type(field, 'plate 61.3 37.7 8.2{Enter}')
    expect(fieldsOf(added())).toMatchObject({ width: '61.3', depth: '37.7', height: '8.2' })
    expect(field.value).toBe('')
    expect(document.activeElement).toBe(field)
    expect(usePart.getState().selection).toEqual({ kind: 'step', id: added().id })
    expect(usePart.getState().focus).toBeUndefined()
  })
  it('asks for its first value where numbers are missing', async () => {
    const { user, field } = adding()
    await user.type(field, 'plate{Enter}')
    expect(usePart.getState().focus).toBe('width')
  })
  it('is not added while something of it means nothing, which is said', async () => {
    const { user, field } = adding(partOf([block()]))
    await user.type(field, 'nut pocket 6 7 slide 3.2{Enter}')
    expect(screen.getAllByRole('alert')[0]!.textContent).toContain('slide 3.2')
    expect(steps()).toHaveLength(1)
    expect(field.value).toBe('nut pocket 6 7 slide 3.2')
  })
  it('enters the top of the last step, or the face that was picked', async () => {
    const { user, field } = adding(partOf([block()]))
    await user.type(field, 'hole 5.3{Enter}')
    expect(added().place.on).toEqual({ kind: 'face', step: 'b', face: 'top' })
    expect([added().operation, fieldsOf(added()).diameter]).toEqual(['cut', '5.3'])
    act(() => usePart.getState().select({ kind: 'step', id: 'b', face: 'front' }))
    await user.type(field, 'hole 4.1{Enter}')
    expect(added().place.on).toEqual({ kind: 'face', step: 'b', face: 'front' })
  })
  it('stands on the bed where nothing was picked, in the bundle of what was', async () => {
    const { user, field } = adding(partOf([bundleOf('g', [block()])]))
    await user.type(field, 'plate 5.1 4.2 3.3{Enter}')
    expect(added().place.on).toEqual({ kind: 'bed' })
    expect(partNow().pieces[0]!.steps).toHaveLength(2)
    act(() => usePart.getState().select({ kind: 'step', id: 'b' }))
    await user.type(field, 'hole 2.2{Enter}')
    expect(partNow().pieces[0]!.steps).toHaveLength(2)
    expect(steps()).toHaveLength(4)
  })
  it('that nothing is called like leads to what may be meant', async () => {
    const { user, field } = adding()
    await user.type(field, 'platte')
    expect(screen.getByText(/Nothing is called “platte”/)).toBeTruthy()
    await user.click(screen.getByRole('button', { name: 'plate' }))
    expect(field.value).toBe('plate')
    expect(document.activeElement).toBe(field)
    await user.keyboard('{Enter}')
    expect(steps()).toHaveLength(1)
  })
  it('that is done elsewhere says where', async () => {
    const { user, field } = adding()
    await user.type(field, 'weight')
    expect(screen.getByText(/stand at the foot of the drawing/)).toBeTruthy()
  })
  it('rounds the selected step where edges are meant', async () => {
    const { user, field } = adding(partOf([block()]))
    act(() => usePart.getState().select({ kind: 'step', id: 'b' }))
    await user.type(field, 'round 3.3{Enter}')
    expect(allSteps(partNow()).at(-1)).toMatchObject({
      kind: 'treatment',
      operation: 'round',
      fields: { radius: '3.3' },
    })
  })
  it('in an inch part is in inches', async () => {
    const { user, field } = adding(partOf([], { unit: 'in' }))
    await user.type(field, 'plate 3 1/4 x 2 x 1/4{Enter}')
    expect(fieldsOf(added())).toMatchObject({ width: '3 1/4', depth: '2', height: '1/4' })
  })
  it('stands clear of another piece', async () => {
    const part = partOf([block()])
    const two = { ...part, pieces: [...part.pieces, { ...part.pieces[0]!, id: 'p2', name: 'lid', steps: [] }] }
    const { user } = shown(<AddField pieceId="p2" />, two)
    await user.type(screen.getByLabelText('Add a step'), 'plate 10.1 10.2 3.3{Enter}')
    expect(added().place.across).not.toMatchObject({ from: 'centre', to: 'centre', by: '0' })
  })
})
