import { allSteps, type BodyStep, type Part, type Step } from '@makrel/core/document'
import { partOf, step, treatment } from '@makrel/core/testing'
import { act, screen, within } from '@testing-library/react'
import { useState } from 'react'
import { describe, expect, it, vi } from 'vitest'
import { useWorked } from '../state/built.ts'
import { usePart } from '../state/part.ts'
import { choose, partNow, shown } from '../testing/page.tsx'
import { StepLine } from './StepLine.tsx'

/** One line of the sheet as the sheet draws it. */
function Line({ id }: { readonly id: string }) {
  const part = usePart((state) => state.part!)
  const selection = usePart((state) => state.selection)
  const worked = useWorked()!
  const [open, setOpen] = useState(false)
  const list = part.pieces[0]!.steps
  const index = list.findIndex((each) => each.id === id)
  const selected = selection?.id === id
  if (index < 0) return null
  return (
    <StepLine
      {...{ part, index, open, selected, chosen: selected, depth: 0, number: `${index + 1}` }}
      step={list[index]!}
      last={index === list.length - 1}
      resolved={worked.resolved}
      plan={worked.plan}
      problems={worked.problems.filter(({ path }) => path[1] === id)}
      onOpen={() => setOpen(!open)}
    />
  )
}

const sheet = (): Part =>
  partOf([
    step('b', 'plate', { width: '61.3', depth: '37.7', height: '8.2' }),
    step('h', 'hole', { diameter: '5.3' }, { place: { on: { kind: 'face', step: 'b', face: 'top' } } }),
    treatment('round', { edges: 'upright', radius: '3.3' }),
  ])
const stepNow = (id: string): Step => allSteps(partNow()).find((each) => each.id === id)!
const orderNow = () => partNow().pieces[0]!.steps.map(({ id }) => id)

function line(id: string, part = sheet()) {
  const { user } = shown(<Line id={id} />, part)
  return { user, number: screen.getByRole('button', { name: /^Step / }) }
}

describe('a line of the sheet', () => {
  it('is selected by its number, which shows its tools', async () => {
    const { user, number } = line('b')
    expect(screen.queryByRole('toolbar')).toBeNull()
    await user.click(number)
    expect(usePart.getState().selection).toMatchObject({ kind: 'step', id: 'b' })
    expect(number.getAttribute('aria-pressed')).toBe('true')
    expect(screen.getByRole('toolbar')).toBeTruthy()
  })
  it('moves up and down the sheet by keys, and not over its ends', async () => {
    const { user, number } = line('h')
    number.focus()
    await user.keyboard('{Alt>}{ArrowDown}{/Alt}')
    expect(orderNow().indexOf('h')).toBe(2)
    await user.keyboard('{Alt>}{ArrowDown}{/Alt}')
    expect(orderNow().indexOf('h')).toBe(2)
    await user.keyboard('{Alt>}{ArrowUp}{ArrowUp}{ArrowUp}{/Alt}')
    expect(orderNow().indexOf('h')).toBe(0)
  })
  it('says that it is left out, and by what', async () => {
    const part = sheet()
    const { user, number } = line('b', part)
    await user.click(number)
    await user.click(screen.getByRole('button', { name: 'Mute: leave it out' }))
    expect(stepNow('b').mute).toBe(true)
    expect(screen.getByText('Muted: left out of the solid.')).toBeTruthy()
    await user.click(screen.getByRole('button', { name: 'Mute: leave it out' }))
    expect(screen.queryByText(/left out of the solid/)).toBeNull()
  })
  it('says that its condition does not hold', () => {
    const part = sheet()
    const [first, ...rest] = part.pieces[0]!.steps
    line('b', { ...part, pieces: [{ ...part.pieces[0]!, steps: [{ ...first!, when: '1 > 2' }, ...rest] }] })
    expect(screen.getByText('Left out of the solid: its condition does not hold.')).toBeTruthy()
  })
  it('types a value into the step, which is one step of the way back', async () => {
    const { user } = line('b')
    const width = screen.getAllByRole('textbox').find((field) => (field as HTMLInputElement).value === '61.3')!
    await user.click(width)
    await user.keyboard('85.1{Enter}')
    expect(stepNow('b')).toMatchObject({ fields: { width: '85.1' } })
    usePart.getState().undo()
    expect(stepNow('b')).toMatchObject({ fields: { width: '61.3' } })
  })
})

describe('the tools of a step', () => {
  it('show all its values, and fewer again', async () => {
    const { user, number } = line('b')
    await user.click(number)
    const fields = () => screen.getAllByRole('textbox').length
    const few = fields()
    await user.click(screen.getByRole('button', { name: 'More values' }))
    expect(fields()).toBeGreaterThan(few)
    expect(screen.getByRole('button', { name: 'More values' }).textContent).toBe('fewer')
    await user.click(screen.getByRole('button', { name: 'More values' }))
    expect(fields()).toBe(few)
  })
  it('repeat it in the way that is chosen, three times at most', async () => {
    const { user, number } = line('b')
    await user.click(number)
    for (const count of [1, 2, 3]) {
      await user.click(screen.getByRole('button', { name: 'Repeat' }))
      const menu = await screen.findByRole('menu')
      await user.click(within(menu).getAllByRole('menuitem')[0]!)
      expect(stepNow('b')).toMatchObject({ repeats: { length: count } })
    }
    expect(screen.getByRole('button', { name: 'Repeat' })).toHaveProperty('disabled', true)
  })
  it('are none for what has no body of its own', async () => {
    const part = sheet()
    const { user, number } = line(part.pieces[0]!.steps[2]!.id, part)
    await user.click(number)
    expect(screen.queryByRole('button', { name: 'Repeat' })).toBeNull()
  })
  it('name it when the name is left, without blanks about it, and not where nothing changed', async () => {
    const { user, number } = line('b')
    await user.click(number)
    const edit = vi.spyOn(usePart.getState(), 'editAll')
    const name = screen.getByLabelText('Name of this step')
    await user.click(name)
    await user.tab()
    expect(edit).not.toHaveBeenCalled()
    await user.type(name, ' base {Enter}')
    expect(stepNow('b').name).toBe('base')
    edit.mockRestore()
  })
  it('copy it, and what is copied is selected', async () => {
    const { user, number } = line('h')
    await user.click(number)
    await user.click(screen.getByRole('button', { name: 'Copy' }))
    expect(orderNow()).toHaveLength(4)
    const { selection } = usePart.getState()
    expect(selection?.id).not.toBe('h')
    expect(stepNow(selection!.id)).toMatchObject({ shape: 'hole', fields: { diameter: '5.3' } })
  })
  it('remove it, which one undo takes back', async () => {
    const { user, number } = line('h')
    await user.click(number)
    await user.click(screen.getByRole('button', { name: 'Remove' }))
    expect(orderNow()).not.toContain('h')
    act(() => usePart.getState().undo())
    expect(orderNow()).toContain('h')
  })
})

describe('where a step stands', () => {
  const hole = () => stepNow('h') as BodyStep
  it('is measured from an edge once that is chosen, and its distance has the keyboard', async () => {
    const { user, number } = line('h')
    await user.click(number)
    await user.click(screen.getByRole('combobox', { name: 'Measured left to right' }))
    const offered = screen.getAllByRole('option').map((each) => each.textContent!)
    await user.click(screen.getByRole('option', { name: offered.find((each) => /left edge/.test(each))! }))
    const distance = screen.getByLabelText('Distance left to right')
    expect(document.activeElement).toBe(distance)
    await user.keyboard('15.3{Enter}')
    expect(hole().place.across).toMatchObject({ from: 'low', by: '15.3' })
    await choose(user, 'Measured left to right', 'centred')
    expect(hole().place.across).toMatchObject({ from: 'centre', to: 'centre' })
    expect(screen.queryByLabelText('Distance left to right')).toBeNull()
  })
  it('is on another face of what stands above it in the sheet once that is chosen, and on none of what comes later', async () => {
    const { user, number } = line('h')
    await user.click(number)
    await user.click(screen.getByRole('combobox', { name: 'Stands on' }))
    const offered = screen.getAllByRole('option').map((each) => each.textContent!)
    expect(offered.some((each) => / 3, /.test(each))).toBe(false)
    await user.click(screen.getByRole('option', { name: /^front of 1, plate/ }))
    expect(hole().place.on).toEqual({ kind: 'face', step: 'b', face: 'front' })
  })
})
