import type { OpenedMesh } from '@makrel/core/exchange'
import { shippedPrinters } from '@makrel/core/fits'
import { partOf } from '@makrel/core/testing'
import { act, screen } from '@testing-library/react'
import { afterEach, describe, expect, it } from 'vitest'
import { shown } from '../testing/page.tsx'
import { BringInDialog } from './BringInDialog.tsx'
import { closeBringIn, useBringIn } from './state.ts'

afterEach(() => act(closeBringIn))

const mesh = { positions: new Float32Array(9), triangles: Uint32Array.from([0, 1, 2, 2, 1, 0]) }
const opened = (max: readonly [number, number, number], more: Partial<OpenedMesh> = {}): OpenedMesh => ({
  ...{ file: 'hook.stl', pieces: [{ name: 'hook', mesh }], min: [0, 0, 0], max, stated: false, unit: 'mm' },
  ...more,
})

function asked(of: OpenedMesh, unit: 'mm' | 'in' = 'mm') {
  const { user } = shown(<BringInDialog />, partOf([], { unit, printer: shippedPrinters[0]! }))
  act(() => useBringIn.setState({ file: of.file, opened: of, unit: of.unit, into: { kind: 'part' } }))
  return {
    user,
    unitOf: (name: string) => screen.getByRole<HTMLInputElement>('radio', { name: new RegExp(`^${name}`) }),
  }
}

describe('a mesh whose file has no unit', () => {
  it('is asked for it, with the size in each, and what is most likely and why', async () => {
    const { user, unitOf } = asked(opened([2.41, 1.6, 1], { unit: 'in' }))
    expect(unitOf('in').checked).toBe(true)
    expect(unitOf('in').closest('label')!.textContent).toContain('61.21 × 40.64 × 25.4 mm')
    expect(unitOf('in').closest('label')!.textContent).toContain('most likely: in mm it would be only 2.41 mm long')
    expect(unitOf('mm').closest('label')!.textContent).toContain('2.41 × 1.6 × 1 mm')
    await user.click(unitOf('cm'))
    expect(useBringIn.getState().unit).toBe('cm')
  })
  it('says what is larger than the bed of this printer', () => {
    const { unitOf } = asked(opened([90, 40, 10]))
    const [printer] = shippedPrinters
    expect(unitOf('mm').closest('label')!.textContent).not.toContain('larger than')
    expect(unitOf('in').closest('label')!.textContent).toContain(`larger than the bed of ${printer!.name}`)
  })
  it('shows sizes in the unit of the part', () => {
    const { unitOf } = asked(opened([25.4, 12.7, 5.08]), 'in')
    expect(unitOf('mm').closest('label')!.textContent).toContain('1 × 0.5 × 0.2 in')
  })
})

it('a mesh whose file states its unit is not asked for it', () => {
  asked(opened([61.3, 37.7, 8.2], { stated: true }))
  expect(screen.queryByRole('radio')).toBeNull()
  expect(screen.getByRole('dialog').textContent).toContain('61.3 × 37.7 × 8.2 mmin mm, as the file states')
})

it('a file that cannot be read says why, and can only be closed', async () => {
  const { user } = shown(<BringInDialog />, partOf([]))
  act(() => useBringIn.setState({ file: 'notes.stl', fault: 'It holds no triangles.' }))
  expect(screen.getByRole('alert').textContent).toBe('It holds no triangles.')
  expect(screen.queryByRole('button', { name: 'Bring it in' })).toBeNull()
  await user.click(screen.getByRole('button', { name: 'Close' }))
  expect(useBringIn.getState().file).toBeUndefined()
})

it('while it is read, nothing can be brought in', () => {
  shown(<BringInDialog />, partOf([]))
  act(() => useBringIn.setState({ file: 'hook.stl', busy: true }))
  expect(screen.getByRole('dialog').textContent).toContain('Reading …')
  act(() => useBringIn.setState({ opened: opened([1, 2, 3]) }))
  expect(screen.getByRole('button', { name: 'Bring it in' })).toHaveProperty('disabled', true)
})
