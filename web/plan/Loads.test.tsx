import type { Part } from '@makrel/core/document'
import type { Finding } from '@makrel/core/proof'
import { partOf, step } from '@makrel/core/testing'
import { act, screen, within } from '@testing-library/react'
import { describe, expect, it } from 'vitest'
import { useBuild } from '../state/build.ts'
import { usePart } from '../state/part.ts'
import { choose, partNow, shown } from '../testing/page.tsx'
import { LeastWall } from './LeastWall.tsx'
import { Loads } from './Loads.tsx'

const plate = () => step('b', 'plate', { width: '61.3', depth: '37.7', height: '8.2' })
const face = (name: string) => ({ step: 'b', face: name })
const oars = { id: 'l', name: 'Oars', held: face('back'), at: face('top'), way: 'down', force: '60' } as const
const part = (change: Partial<Part> = {}) => partOf([plate()], { loads: [oars], ...change })
const row = (name = 'Oars') => screen.getByLabelText(`Name of ${name}`).closest('tr')!

describe('a load', () => {
  it('is added under a name that no other has, changed, and removed, which one undo takes back', async () => {
    const { user } = shown(<Loads />, part())
    await user.click(screen.getByRole('button', { name: 'Add a load' }))
    expect(partNow().loads.map(({ name, held, at }) => [name, held.face, at.face])).toEqual([
      ['Oars', 'back', 'top'],
      ['Load 2', 'bottom', 'top'],
    ])
    await choose(user, 'Held place of Load 2', 'left of')
    await choose(user, 'Loaded place of Load 2', 'right of')
    await choose(user, 'Way of Load 2', 'away from the face')
    expect(partNow().loads[1]).toMatchObject({ held: face('left'), at: face('right'), way: 'out' })
    await user.click(screen.getByRole('button', { name: 'Remove Oars' }))
    expect(partNow().loads.map(({ name }) => name)).toEqual(['Load 2'])
    act(() => usePart.getState().undo())
    expect(partNow().loads).toHaveLength(2)
  })
  it('takes its force from a measure, and keeps what cannot be read out of force', async () => {
    const measure = { id: 'm', name: 'weight', kind: 'ratio', expression: '37.3', note: '' } as const
    const { user } = shown(<Loads />, part({ measures: [measure] }))
    await user.click(screen.getByRole('textbox', { name: 'Force of Oars' }))
    await user.keyboard('weight * 2{Enter}')
    expect(partNow().loads[0]!.force).toBe('weight * 2')
    await user.click(screen.getByRole('textbox', { name: 'Force of Oars' }))
    await user.keyboard('heavy')
    expect(screen.getByRole('alert').textContent).toContain('heavy')
    expect(partNow().loads[0]!.force).toBe('weight * 2')
  })
  it('says what its proof found, as long as that is of the part as it is', () => {
    shown(<Loads />, part())
    const finding = {
      check: 'loads',
      code: 'load-borne',
      rank: 'pass',
      about: [],
      text: 'It is borne.',
      values: { load: 'Oars' },
    }
    const proving = { of: partNow(), state: 'done', findings: [finding as unknown as Finding], done: 1, total: 1 }
    act(() => useBuild.setState({ proving: proving as never }))
    expect(within(row()).getByText('It is borne.')).toBeTruthy()
    act(() => usePart.getState().edit({ type: 'keep-load', load: { ...oars, force: '70' } }))
    expect(within(row()).queryByText('It is borne.')).toBeNull()
  })
  it('is not offered where nothing could bear one', () => {
    shown(<Loads />, partOf([]))
    expect(screen.queryByRole('button', { name: 'Add a load' })).toBeNull()
    expect(document.body.textContent).toContain('nothing yet that could bear one')
  })
  it('at a step that is gone says so in its place', () => {
    shown(<Loads />, part({ loads: [{ ...oars, at: { step: 'gone', face: 'top' } }] }))
    expect(row().textContent).toContain('a step that is gone')
  })
})

describe('a least wall', () => {
  it('is asked for, changed and dropped', async () => {
    const { user } = shown(<LeastWall />, part())
    await user.click(screen.getByRole('button', { name: 'Ask for a least wall' }))
    expect(partNow().leastWall).toBe('1.2')
    await user.click(screen.getByRole('textbox', { name: 'Least wall' }))
    await user.keyboard('2.3{Enter}')
    expect(partNow().leastWall).toBe('2.3')
    await user.click(screen.getByRole('button', { name: 'Drop the least wall' }))
    expect(partNow().leastWall).toBe('')
  })
  it('of a part in inches is in inches', async () => {
    const { user } = shown(<LeastWall />, part({ unit: 'in' }))
    await user.click(screen.getByRole('button', { name: 'Ask for a least wall' }))
    expect(partNow().leastWall).toMatch(/^\d+\/\d+$/)
  })
})
