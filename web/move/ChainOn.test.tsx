import { newPiece, onBed, type Part } from '@makrel/core/document'
import { defaultFields } from '@makrel/core/fields'
import { jointOf } from '@makrel/core/joints'
import { partOf, step } from '@makrel/core/testing'
import { screen } from '@testing-library/react'
import { describe, expect, it } from 'vitest'
import { usePart } from '../state/part.ts'
import { partNow, shown } from '../testing/page.tsx'
import { ChainOn } from './ChainOn.tsx'

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
