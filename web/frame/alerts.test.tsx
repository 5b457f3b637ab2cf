import { partOf } from '@makrel/core/testing'
import { act, screen } from '@testing-library/react'
import { afterEach, describe, expect, it, vi } from 'vitest'
import { type ApiError, api } from '../api.ts'
import { usePart } from '../state/part.ts'
import { partNow, shown } from '../testing/page.tsx'
import { Conflict, Unkept } from './Conflict.tsx'
import { Unopened } from './Unopened.tsx'

afterEach(() => void vi.restoreAllMocks())

describe('a part that was changed elsewhere', () => {
  const theirs = () => ({ ...partOf([]), id: partNow().id, name: 'theirs' })
  const stale = () => act(() => usePart.setState({ save: { kind: 'stale', revision: 7, theirs: theirs() } }))
  it('is told only then', () => {
    shown(<Conflict />, partOf([]))
    expect(screen.queryByRole('alert')).toBeNull()
    stale()
    expect(screen.getByRole('alert').textContent).toContain('not saved yet')
  })
  it('is the other one once that is taken, with what was here an undo away', async () => {
    const { user } = shown(<Conflict />, { ...partOf([]), name: 'mine' })
    stale()
    await user.click(screen.getByRole('button', { name: 'Take the other one' }))
    expect(partNow().name).toBe('theirs')
    expect(screen.queryByRole('alert')).toBeNull()
    act(() => usePart.getState().undo())
    expect(partNow().name).toBe('mine')
  })
  it('stays as it is here where that is kept', async () => {
    const { user } = shown(<Conflict />, { ...partOf([]), name: 'mine' })
    stale()
    await user.click(screen.getByRole('button', { name: 'Keep mine' }))
    expect(partNow().name).toBe('mine')
    expect(screen.queryByRole('alert')).toBeNull()
  })
  it('is two where both are kept: what was here is on the shelf under a name of its own', async () => {
    const create = vi.spyOn(api, 'create').mockResolvedValue(undefined as never)
    const { user } = shown(<Conflict />, { ...partOf([]), name: 'mine' })
    const { id } = partNow()
    stale()
    await user.click(screen.getByRole('button', { name: 'Keep both' }))
    const [made] = create.mock.calls[0]!
    expect(made.id).not.toBe(id)
    expect(made.name).toMatch(/^mine/)
    expect(partNow()).toMatchObject({ id, name: 'theirs' })
  })
})

it('what is not saved says why, and what can be done', () => {
  shown(<Unkept />, partOf([]))
  expect(screen.queryByRole('alert')).toBeNull()
  act(() => usePart.setState({ save: { kind: 'failed', message: 'The server does not answer.' } }))
  expect(screen.getByRole('alert').textContent).toContain('The server does not answer.')
  for (const name of ['Try again', 'Save as a file', 'Earlier versions'])
    expect(screen.getByRole('button', { name })).toBeTruthy()
})

describe('a part that cannot be opened', () => {
  const failure = (status: number) => ({ status, message: 'Its width is no number.' }) as ApiError
  const versions = [
    { revision: 9, createdAt: '2026-11-30T10:00:00Z', name: '' },
    { revision: 8, createdAt: '2026-11-29T10:00:00Z', name: 'as tried on the boat' },
  ]
  it('says why, and offers its file and its earlier versions where it is there', async () => {
    vi.spyOn(api, 'revisions').mockResolvedValue(versions as never)
    const load = vi.spyOn(api, 'revision').mockResolvedValue({ document: partOf([]) } as never)
    const save = vi.spyOn(api, 'save').mockResolvedValue(undefined as never)
    const again = vi.fn()
    const { user } = shown(<Unopened id="p" failure={failure(400)} again={again} />)
    expect(screen.getByRole('alert').textContent).toContain('Its width is no number.')
    expect(screen.getByRole('link', { name: 'Save the file as it stands' })).toBeTruthy()
    expect(await screen.findByText('as tried on the boat')).toBeTruthy()
    expect(screen.getAllByRole('button', { name: 'Return to this' })).toHaveLength(1)
    await user.click(screen.getByRole('button', { name: 'Return to this' }))
    expect(load).toHaveBeenCalledWith('p', 8)
    expect(save.mock.calls[0]![1]).toBe(9)
    expect(again).toHaveBeenCalledOnce()
  })
  it('is put back on the shelf where it was thrown away', async () => {
    const asked = vi.spyOn(api, 'revisions')
    const restore = vi.spyOn(api, 'restore').mockResolvedValue(undefined as never)
    const again = vi.fn()
    const { user } = shown(<Unopened id="p" failure={failure(404)} again={again} />)
    expect(asked).not.toHaveBeenCalled()
    expect(screen.queryByRole('link', { name: 'Save the file as it stands' })).toBeNull()
    await user.click(screen.getByRole('button', { name: 'Put it back on the shelf' }))
    expect(restore).toHaveBeenCalledWith('p')
    expect(again).toHaveBeenCalledOnce()
  })
  it('is not gone where the server is only away', () => {
    shown(<Unopened id="p" failure={failure(0)} again={() => undefined} />)
    expect(screen.queryByRole('button', { name: 'Put it back on the shelf' })).toBeNull()
    expect(screen.getByRole('button', { name: 'Try again' })).toBeTruthy()
  })
})
