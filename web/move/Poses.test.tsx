import type { KeptPose, Part } from '@makrel/core/document'
import type { Wanted } from '@makrel/core/mechanism'
import { partOf } from '@makrel/core/testing'
import { screen, within } from '@testing-library/react'
import { useState } from 'react'
import { describe, expect, it } from 'vitest'
import { choose, partNow, shown } from '../testing/page.tsx'
import { Poses } from './Poses.tsx'

const open: KeptPose = { id: 'o', name: 'Open', set: [{ joint: 'j', freedom: 0, position: 85.1 }], laid: [] }
const part = (change: Partial<Part> = {}) => partOf([], { poses: [open], ...change })

function Held({ from, pose }: { readonly from: Wanted; readonly pose?: KeptPose }) {
  const [chosen, setChosen] = useState(pose)
  const [wanted, setWanted] = useState(from)
  return (
    <>
      <Poses {...{ wanted, chosen }} onChoose={setChosen} />
      <button type="button" onClick={() => setWanted({ j: [15.3] })}>
        move it
      </button>
    </>
  )
}

describe('poses', () => {
  it('are kept under the name that is typed, or the next one', async () => {
    const { user } = shown(<Held from={{ j: [37.3] }} />, part())
    await user.click(screen.getByRole('button', { name: 'Keep this pose' }))
    expect(partNow().poses.map(({ name }) => name)).toEqual(['Open', 'Pose 2'])
    await user.type(screen.getByLabelText('Name of the pose'), ' Half open {Enter}')
    expect(partNow().poses.map(({ name }) => name)).toEqual(['Open', 'Pose 2', 'Half open'])
    expect(screen.getByLabelText<HTMLInputElement>('Name of the pose').value).toBe('')
  })
  it('can be kept as they are now once something is moved', async () => {
    const { user } = shown(<Held from={{ j: [85.1] }} pose={open} />, part())
    expect(screen.queryByRole('button', { name: /as it is now/ })).toBeNull()
    await user.click(screen.getByText('move it'))
    await user.click(screen.getByRole('button', { name: 'Keep Open as it is now' }))
    expect(partNow().poses).toHaveLength(1)
    expect(JSON.stringify(partNow().poses[0]!.set)).toContain('15.3')
  })
  it('are printed in one of them, or as drawn', async () => {
    const { user } = shown(<Held from={{ j: [85.1] }} pose={open} />, part())
    await user.click(screen.getByRole('button', { name: 'Print it in Open' }))
    expect(partNow().printPose).toBe('o')
    expect(within(screen.getByRole('button', { name: 'Open' }).closest('li')!).getByText('printed so')).toBeTruthy()
    expect(screen.queryByRole('button', { name: /^Print it/ })).toBeNull()
    await user.click(screen.getByRole('button', { name: 'As drawn' }))
    await user.click(screen.getByRole('button', { name: 'Print it as it is drawn' }))
    expect(partNow().printPose).toBe('')
  })
  it('are dropped, and with the one that is printed goes that it is', async () => {
    const { user } = shown(<Held from={{ j: [85.1] }} pose={open} />, part({ printPose: 'o' }))
    await user.click(screen.getByRole('button', { name: 'Drop Open' }))
    expect(partNow()).toMatchObject({ poses: [], printPose: '' })
    expect(screen.getByRole('button', { name: 'As drawn' }).parentElement?.textContent).toContain('printed so')
  })
  it('say how each piece lies on the bed, and keep what is typed for it in the unit of the part', async () => {
    const laid = [{ piece: 'p1', down: 'bottom', turn: 0, at: [12.7, -25.4] }] as unknown as KeptPose['laid']
    const lying = { ...open, laid }
    const { user } = shown(<Held from={{ j: [85.1] }} pose={lying} />, part({ poses: [lying], unit: 'in' }))
    const across = screen.getByLabelText<HTMLInputElement>('Across, in')
    expect([across.value, screen.getByLabelText<HTMLInputElement>('Along, in').value]).toEqual(['0.5', '-1'])
    await user.clear(across)
    await user.type(across, '0.25{Enter}')
    expect(partNow().poses[0]!.laid[0]!.at[0]).toBeCloseTo(6.35, 9)
  })
  it('lay a piece on another side', async () => {
    const laid = [{ piece: 'p1', down: 'bottom', turn: 0, at: [0, 0] }] as unknown as KeptPose['laid']
    const lying = { ...open, laid }
    const { user } = shown(<Held from={{ j: [85.1] }} pose={lying} />, part({ poses: [lying] }))
    const name = partNow().pieces[0]!.name
    await choose(user, `Side of ${name} on the bed`, 'its left side')
    expect(partNow().poses[0]!.laid[0]).toMatchObject({ piece: 'p1', down: 'left' })
    await user.click(screen.getByRole('button', { name: 'Leave them where they stand' }))
    expect(partNow().poses[0]!.laid).toEqual([])
  })
  it('call the bodies of what was split by name, each with how it lies', async () => {
    const laid = ['p1', 'p1.2'].map((piece) => ({ piece, down: 'bottom', turn: 0, at: [0, 0] }))
    const lying = { ...open, laid: laid as unknown as KeptPose['laid'] }
    const { user } = shown(<Held from={{ j: [85.1] }} pose={lying} />, part({ poses: [lying] }))
    const name = partNow().pieces[0]!.name
    await choose(user, `Side of ${name} (2) on the bed`, 'its left side')
    expect(partNow().poses[0]!.laid.map(({ down }) => down)).toEqual(['bottom', 'left'])
  })
})
