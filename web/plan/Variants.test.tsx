import type { Part } from '@makrel/core/document'
import { partOf } from '@makrel/core/testing'
import { screen } from '@testing-library/react'
import { describe, expect, it } from 'vitest'
import { partNow, shown } from '../testing/page.tsx'
import { Variants } from './Variants.tsx'

const part = (change: Partial<Part> = {}) =>
  partOf([], { variants: [{ id: 'v', name: 'wide', values: { w: '4.1' } }], variant: '', ...change })
const chosen = () => screen.getAllByRole<HTMLInputElement>('radio').find(({ checked }) => checked)?.parentElement

describe('variants', () => {
  it('are none until one is added, which is named and nothing else than what is typed', async () => {
    const { user } = shown(<Variants />, part({ variants: [] }))
    expect(screen.queryByRole('radio')).toBeNull()
    await user.click(screen.getByRole('button', { name: /variants: the same part in other sizes/ }))
    expect(partNow().variants).toMatchObject([{ name: 'variant 1', values: {} }])
  })
  it('are in force one at a time', async () => {
    const { user } = shown(<Variants />, part())
    expect(chosen()?.textContent).toBe('as typed')
    await user.click(screen.getByRole('radio', { name: 'wide' }))
    expect(partNow().variant).toBe('v')
    expect(chosen()?.textContent).toBe('wide')
    await user.click(screen.getByRole('radio', { name: 'as typed' }))
    expect(partNow().variant).toBe('')
  })
  it('keep their name where nothing is typed for it', async () => {
    const { user } = shown(<Variants />, part({ variant: 'v' }))
    const name = screen.getByLabelText<HTMLInputElement>('Name of this variant')
    await user.clear(name)
    await user.type(name, '  {Enter}')
    expect(partNow().variants[0]!.name).toBe('wide')
    await user.clear(name)
    await user.type(name, ' narrow {Enter}')
    expect(partNow().variants[0]!.name).toBe('narrow')
  })
  it('leave the part as it was typed when the one in force is removed', async () => {
    const { user } = shown(<Variants />, part({ variant: 'v' }))
    await user.click(screen.getByRole('button', { name: 'Remove wide' }))
    expect(partNow()).toMatchObject({ variants: [], variant: '' })
  })
})
