import type { ShelfEntry } from '@makrel/core/document'
import { jointOf } from '@makrel/core/joints'
import { partOf, step } from '@makrel/core/testing'
import { screen, waitFor } from '@testing-library/react'
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { ApiError, api } from '../api.ts'
import { useWantedJoint } from '../make/startJoint.ts'
import { usePart } from '../state/part.ts'
import { choose, partNow, shown } from '../testing/page.tsx'
import { AddJoint } from './AddJoint.tsx'
import { SecondPiece } from './SecondPiece.tsx'

afterEach(() => void vi.restoreAllMocks())

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
