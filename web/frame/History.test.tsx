import { partOf } from '@makrel/core/testing'
import { screen, waitFor } from '@testing-library/react'
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { api } from '../api.ts'
import { usePart } from '../state/part.ts'
import { partNow, shown } from '../testing/page.tsx'
import { History } from './History.tsx'

const versions = [
  { revision: 9, createdAt: '2026-11-30T10:00:00Z', name: '' },
  { revision: 8, createdAt: '2026-11-29T10:00:00Z', name: 'as tried on the boat' },
  { revision: 7, createdAt: '2026-11-28T10:00:00Z', name: '' },
]
const before = () => ({ ...partOf([]), id: partNow().id, name: 'before' })

beforeEach(() => {
  vi.spyOn(usePart.getState(), 'saveNow').mockResolvedValue(undefined)
  vi.spyOn(api, 'revisions').mockResolvedValue(versions as never)
  vi.spyOn(api, 'revision').mockImplementation(async () => ({ document: before() }))
})
afterEach(() => void vi.restoreAllMocks())

async function opened() {
  const { user } = shown(<History trigger={<button type="button">History</button>} />, { ...partOf([]), name: 'now' })
  await user.click(screen.getByRole('button', { name: 'History' }))
  await screen.findByRole('list', { name: 'Versions' })
  return { user }
}

describe('the earlier versions of a part', () => {
  it('are listed, the latest first, which cannot be returned to', async () => {
    await opened()
    const list = await screen.findAllByRole('listitem')
    expect(list.map((each) => each.textContent)).toEqual([
      expect.stringMatching(/^9now/),
      expect.stringMatching(/^8as tried on the boat/),
      expect.stringMatching(/^7/),
    ])
    expect(screen.getByRole('button', { name: 'Return to this' })).toHaveProperty('disabled', true)
  })
  it('are returned to, an undo away', async () => {
    const { user } = await opened()
    await user.click(await screen.findByText('as tried on the boat'))
    await user.click(screen.getByRole('button', { name: 'Return to this' }))
    await waitFor(() => expect(partNow().name).toBe('before'))
    expect(api.revision).toHaveBeenCalledWith(partNow().id, 8)
    expect(screen.queryByRole('dialog')).toBeNull()
    usePart.getState().undo()
    expect(partNow().name).toBe('now')
  })
  it('are named, once where nothing else is typed', async () => {
    const name = vi.spyOn(api, 'nameRevision').mockResolvedValue(undefined as never)
    const { user } = await opened()
    await user.click(await screen.findByText('as tried on the boat'))
    const field = screen.getByLabelText('Name')
    await user.click(field)
    await user.tab()
    expect(name).not.toHaveBeenCalled()
    await user.clear(field)
    await user.type(field, ' first fit {Enter}')
    await waitFor(() => expect(name).toHaveBeenCalledWith(partNow().id, 8, 'first fit'))
    expect(await screen.findByText('first fit')).toBeTruthy()
  })
  it('are copied as a part of their own', async () => {
    const create = vi.spyOn(api, 'create').mockResolvedValue(undefined as never)
    const { user } = await opened()
    await user.click(await screen.findByText('as tried on the boat'))
    await user.click(screen.getByRole('button', { name: 'Copy as a new part' }))
    await waitFor(() => expect(create).toHaveBeenCalledOnce())
    const [made] = create.mock.calls[0]!
    expect(made.name).toBe('before, version 8')
    expect(made.id).not.toBe(partNow().id)
  })
  it('say why they cannot be had', async () => {
    vi.spyOn(api, 'revisions').mockRejectedValue(new Error('The server does not answer.'))
    const { user } = shown(<History trigger={<button type="button">History</button>} />, partOf([]))
    await user.click(screen.getByRole('button', { name: 'History' }))
    expect((await screen.findByRole('alert')).textContent).toBe('The server does not answer.')
  })
})
