import { partOf, step } from '@makrel/core/testing'
import { screen } from '@testing-library/react'
import { describe, expect, it } from 'vitest'
import { choose, partNow, shown } from '../testing/page.tsx'
import { Stances } from './Stances.tsx'

const part = () => partOf([step('b', 'plate', { width: '61.3', depth: '37.7', height: '8.2' })])

describe('a face that has to lie so', () => {
  it('is held, another one or another way, and let go of', async () => {
    const { user } = shown(<Stances />, part())
    await user.click(screen.getByRole('button', { name: 'Hold a face or a hole' }))
    expect(partNow().stances).toMatchObject([{ of: { step: 'b', face: 'top' }, way: 'up' }])
    await choose(user, 'Face 1 that has to lie so', 'left of')
    await choose(user, 'How face 1 has to lie', 'lies on the bed')
    expect(partNow().stances).toMatchObject([{ of: { step: 'b', face: 'left' }, way: 'down' }])
    await user.click(screen.getByRole('button', { name: 'Let go of face 1' }))
    expect(partNow().stances).toEqual([])
  })
  it('is not offered where there is none', () => {
    shown(<Stances />, partOf([]))
    expect(screen.queryByRole('button')).toBeNull()
  })
})
