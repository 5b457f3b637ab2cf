import { newPiece, onBed, type Part, type ShelfEntry } from '@makrel/core/document'
import { defaultFields } from '@makrel/core/fields'
import { jointOf } from '@makrel/core/joints'
import { partOf, step } from '@makrel/core/testing'
import { screen, waitFor } from '@testing-library/react'
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { ApiError, api } from '../api.ts'
import { useWantedJoint } from '../make/startJoint.ts'
import { usePart } from '../state/part.ts'
import { choose, partNow, shown } from '../testing/page.tsx'
import { AddJoint } from './AddJoint.tsx'
import { ChainOn } from './ChainOn.tsx'
import { SecondPiece } from './SecondPiece.tsx'

afterEach(() => void vi.restoreAllMocks())

function Chain() {
  const joint = usePart((state) => state.part!.joints[0]!)
  return <ChainOn joint={joint} />
}

describe('more links', () => {
  const chain = (by: string, along = false): Part => {
    const base = partOf([step('b', 'plate', { width: '20', depth: '12', height: '4' })])
    const centre = { from: 'centre', to: 'centre', by: '0' } as const
    const far = { ...centre, by }
    const place = along ? { across: centre, along: far } : { across: far, along: centre }
    const link = { ...newPiece('p2', 'Link', 'sand'), steps: [step('l', 'plate', { width: '20' }, { place })] }
    const kind = jointOf('pin-hinge')!
    const joint = { id: 'j', name: '', kind: 'pin-hinge', pieces: ['p1', 'p2'] as const, place: onBed }
    return {
      ...base,
      pieces: [base.pieces[0]!, link],
      joints: [{ ...joint, fields: defaultFields(kind.fields) } as Part['joints'][number]],
    }
  }
  const opened = async (part: Part) => {
    const { user } = shown(<Chain />, part)
    await user.click(screen.getByRole('button', { name: 'Go on with more links …' }))
    return user
  }
  it.each([
    ['31.7', false, '31.7', 'to the right'],
    ['-31.7', false, '31.7', 'to the left'],
    ['31.7', true, '31.7', 'to the back'],
    ['-31.7', true, '31.7', 'to the front'],
  ])('go on as the last two stand: %s', async (by, along, pitch, way) => {
    await opened(chain(by, along))
    expect(screen.getByLabelText<HTMLInputElement>('Pitch').value).toBe(pitch)
    expect(screen.getByRole('combobox', { name: 'Which way' }).textContent).toBe(way)
  })
  it('are added with a joint each, as one edit', async () => {
    const user = await opened(chain('31.7'))
    await user.clear(screen.getByLabelText('How many'))
    await user.type(screen.getByLabelText('How many'), '2')
    await user.click(screen.getByRole('button', { name: 'Add them' }))
    expect([partNow().pieces.length, partNow().joints.length]).toEqual([4, 3])
    expect(
      partNow()
        .joints.slice(1)
        .map(({ pieces: [first] }) => first),
    ).toEqual(['p2', partNow().pieces[2]!.id])
    usePart.getState().undo()
    expect(partNow().pieces).toHaveLength(2)
  })
  it.each([
    ['How many', '0'],
    ['How many', 'many'],
    ['Pitch', '0'],
    ['Pitch', '-3'],
    ['Pitch', '3 *'],
  ])('are not added where %s is %s', async (label, text) => {
    const user = await opened(chain('31.7'))
    await user.clear(screen.getByLabelText(label))
    await user.type(screen.getByLabelText(label), text)
    await user.click(screen.getByRole('button', { name: 'Add them' }))
    expect(partNow().pieces).toHaveLength(2)
    expect(screen.getByLabelText(label)).toBeTruthy()
  })
})

describe('a wheel of another part', () => {
  const gear = (id: string) => step(id, 'gear', { teeth: '23', module: '1.3' })
  const entry = (id: string, name: string) => ({ id, name }) as ShelfEntry
  const other = () => ({ ...partOf([gear('w')]), id: 'other', name: 'Bilge pump' })
  const label = jointOf('gear-mesh')!.label
  beforeEach(() => {
    vi.spyOn(api, 'list').mockImplementation(async () => ({
      total: 2,
      entries: [entry(partNow().id, 'this one'), entry('other', 'Bilge pump')],
    }))
    vi.spyOn(api, 'read').mockImplementation(async () => ({ document: other(), revision: 1, updatedAt: '' }))
  })
  const button = () => screen.getByRole('button', { name: `Add a ${label} with another part` })
  const opened = async () => {
    const { user } = shown(<AddJoint />, { ...partOf([gear('g')]), id: 'own' })
    await user.click(button())
    return user
  }
  it('is asked for only where there is one to be in mesh with', () => {
    shown(<AddJoint />, partOf([step('b', 'plate')]))
    expect(button()).toHaveProperty('disabled', true)
  })
  it('comes in as a piece of its own, in mesh', async () => {
    const user = await opened()
    await waitFor(() => expect(screen.getByRole('combobox', { name: 'Part' })).toBeTruthy())
    await choose(user, 'Part', 'Bilge pump')
    await waitFor(() => expect(screen.getByRole('combobox', { name: 'Wheel' })).toBeTruthy())
    await user.click(screen.getByRole('button', { name: 'Bring it in' }))
    expect(
      partNow()
        .pieces.map(({ name }) => name)
        .at(-1),
    ).toBe('Bilge pump')
    expect(partNow().joints).toMatchObject([{ kind: 'gear-mesh' }])
    expect(usePart.getState().selection).toMatchObject({ kind: 'joint', id: partNow().joints[0]!.id })
    usePart.getState().undo()
    expect([partNow().pieces.length, partNow().joints.length]).toEqual([1, 0])
  })
  it('of a part without one is none, and a part that cannot be read says why', async () => {
    vi.mocked(api.read).mockImplementationOnce(async () => ({
      document: { ...other(), ...partOf([]) },
      revision: 1,
      updatedAt: '',
    }))
    const user = await opened()
    await waitFor(() => expect(screen.getByRole('combobox', { name: 'Part' })).toBeTruthy())
    await choose(user, 'Part', 'Bilge pump')
    expect(await screen.findByText('There is no wheel in this part.')).toBeTruthy()
    expect(screen.getByRole('button', { name: 'Bring it in' })).toHaveProperty('disabled', true)
  })
  it('says why the shelf cannot be had', async () => {
    vi.mocked(api.list).mockRejectedValue(new ApiError(0, 'The server does not answer.', undefined))
    await opened()
    expect((await screen.findByRole('alert')).textContent).toBe('The server does not answer.')
  })
})

describe('kinds of joint', () => {
  it('are not offered where there is nothing to join', () => {
    shown(<AddJoint />, partOf([]))
    expect(screen.getByRole('button', { name: 'Add a joint' })).toHaveProperty('disabled', true)
  })
  const hinge = jointOf('pin-hinge')!
  const begun = async () => {
    const both = (
      <>
        <AddJoint />
        <SecondPiece />
      </>
    )
    const { user } = shown(both, partOf([step('b', 'plate')]))
    await user.click(screen.getByRole('button', { name: 'Add a joint' }))
    await user.click(await screen.findByRole('button', { name: `Add a ${hinge.label}` }))
    expect(screen.getByRole('alert').textContent).toContain(`A ${hinge.label} ties two pieces.`)
    expect(partNow().joints).toEqual([])
    return user
  }
  it.each([/^A plate beside it/, /^A copy of/])('ask for the second piece that they need: %s', async (answer) => {
    const user = await begun()
    await user.click(screen.getByRole('button', { name: answer }))
    expect(partNow().joints).toMatchObject([{ kind: 'pin-hinge' }])
    expect(partNow().pieces).toHaveLength(2)
    expect(screen.queryByRole('alert')).toBeNull()
    usePart.getState().undo()
    expect([partNow().pieces.length, partNow().joints.length]).toEqual([1, 0])
  })
  it('are given up where no second piece is wanted', async () => {
    const user = await begun()
    await user.click(screen.getByRole('button', { name: 'Cancel' }))
    expect(useWantedJoint.getState().wanted).toBeUndefined()
    expect([partNow().pieces.length, partNow().joints.length]).toEqual([1, 0])
  })
})
