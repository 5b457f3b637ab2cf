import { newPiece, onBed, type Part } from '@makrel/core/document'
import { defaultFields } from '@makrel/core/fields'
import { jointOf } from '@makrel/core/joints'
import { partOf, step } from '@makrel/core/testing'
import { act, screen } from '@testing-library/react'
import { describe, expect, it } from 'vitest'
import { usePart } from '../state/part.ts'
import { choose, partNow, shown } from '../testing/page.tsx'
import { JointLine } from './JointLine.tsx'

const part = (): Part => {
  const base = partOf([step('b', 'plate', { width: '61.9', depth: '53', height: '2.35' })])
  const lid = {
    ...newPiece('p2', 'Lid', 'sand'),
    steps: [step('l', 'plate', { width: '20', depth: '10', height: '3' })],
  }
  const kind = jointOf('detent')!
  return {
    ...base,
    pieces: [{ ...base.pieces[0]!, name: 'Box' }, lid, { ...newPiece('p3', 'Knob', 'sand'), steps: [] }],
    joints: [
      {
        ...{ id: 'j', name: '', kind: 'detent', pieces: ['p1', 'p2'], place: { ...onBed, lift: '2.35' } },
        fields: { ...defaultFields(kind.fields) },
      },
    ],
  }
}

function Line() {
  const joint = usePart((state) => state.part!.joints[0])
  const selection = usePart((state) => state.selection)
  return joint ? <JointLine joint={joint} number={1} selected={selection?.id === joint.id} /> : <p>no joint</p>
}
const jointNow = () => partNow().joints[0]!

describe('a joint', () => {
  it('says which piece stays and which moves', () => {
    shown(<Line />, part())
    expect(screen.getByRole('listitem').textContent).toMatch(/between Box, which stays, and Lid, which moves/)
  })
  it('changes its pieces over where the other one is chosen, and is never of one piece twice', async () => {
    const { user } = shown(<Line />, part())
    await choose(user, 'First piece', 'Lid')
    expect(jointNow().pieces).toEqual(['p2', 'p1'])
    await choose(user, 'Second piece', 'Knob')
    expect(jointNow().pieces).toEqual(['p2', 'p3'])
    act(() => usePart.getState().undo())
    expect(jointNow().pieces).toEqual(['p2', 'p1'])
  })
  it('is selected by a press on its line, and shows its spring then', async () => {
    const { user } = shown(<Line />, part())
    expect(screen.getByRole('listitem').getAttribute('aria-current')).toBe('false')
    await user.click(screen.getByText('1'))
    expect(usePart.getState().selection).toMatchObject({ kind: 'joint', id: 'j' })
    expect(screen.getByRole('listitem').textContent).toMatch(/Stiffness/)
  })
  it('says what is wrong with it on its own line', async () => {
    shown(<Line />, part())
    act(() => void usePart.getState().edit({ type: 'set-field', id: 'j', field: 'clicks', text: '60' }))
    expect(screen.getAllByRole('alert').length).toBeGreaterThan(0)
  })
  it('is removed, which one undo takes back', async () => {
    const { user } = shown(<Line />, part())
    await user.click(screen.getByRole('button', { name: 'Remove this joint' }))
    expect(partNow().joints).toEqual([])
    act(() => usePart.getState().undo())
    expect(jointNow().kind).toBe('detent')
  })
})
