import { partOf } from '@makrel/core/testing'
import { screen } from '@testing-library/react'
import { beforeEach, describe, expect, it } from 'vitest'
import { shown } from '../testing/page.tsx'
import { setTool, useOutline } from './state.ts'
import { ToolRows } from './ToolRows.tsx'

beforeEach(() => setTool('select'))

const drawing = (unit: 'mm' | 'in' = 'mm') => {
  const { user } = shown(<ToolRows />, partOf([], { unit }))
  return { user, field: screen.getByLabelText<HTMLInputElement>('Draw') }
}

describe('what is typed to draw', () => {
  it.each([
    ['circle 20.5', 'circle', ['20.5']],
    ['rectangle 40.1 × 20.3', 'rectangle', ['40.1', '20.3']],
    ['rectangle 40.1x20.3', 'rectangle', ['40.1', '20.3']],
    ['rectangle 3 1/4 × 1/2', 'rectangle', ['3 1/4', '1/2']],
    ['rectangle 3 x 1/2', 'rectangle', ['3', '1/2']],
    ['line', 'line', []],
  ])('%s takes up its tool with its sizes', async (typed, tool, sizes) => {
    const { user, field } = drawing('in')
    await user.type(field, `${typed}{Enter}`)
    expect([useOutline.getState().tool, useOutline.getState().typed]).toEqual([tool, sizes])
    expect(field.value).toBe('')
  })
  it('a polygon begins with how many sides it has', async () => {
    const { user, field } = drawing()
    await user.type(field, 'polygon 7 15.3{Enter}')
    expect(useOutline.getState()).toMatchObject({ tool: 'polygon', sides: 7, typed: ['15.3'] })
    await user.type(field, 'polygon 2{Enter}')
    expect(useOutline.getState().sides).toBe(3)
  })
  it('that means nothing is marked, and stays', async () => {
    const { user, field } = drawing()
    await user.type(field, 'squiggle{Enter}')
    expect(field.getAttribute('aria-invalid')).toBe('true')
    expect(field.value).toBe('squiggle')
    await user.type(field, 's')
    expect(field.getAttribute('aria-invalid')).toBe('false')
  })
})
