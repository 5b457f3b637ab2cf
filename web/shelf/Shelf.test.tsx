import type { Part, ShelfEntry } from '@makrel/core/document'
import { partOf } from '@makrel/core/testing'
import { act, screen, waitFor, within } from '@testing-library/react'
import { Route, Routes } from 'react-router'
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { ApiError, api } from '../api.ts'
import { saves } from '../state/saves.ts'
import { shown } from '../testing/page.tsx'
import { Shelf } from './Shelf.tsx'

// Opened at the shelf, the page asks for its first parts before anything else: here the tests answer.
vi.hoisted(() => history.replaceState(null, '', '/elsewhere'))

const entry = (change: Partial<ShelfEntry> = {}): ShelfEntry => ({
  ...{ id: 'a', name: 'Bracket', unit: 'mm', revision: 3, updatedAt: '2026-11-30T10:00:00Z' },
  ...{ size: [61.3, 37.7, 8.2], pictureRevision: 3 },
  ...change,
})
let kept: readonly ShelfEntry[] = []
const part = (): Part => ({ ...partOf([]), id: 'a', name: 'Bracket' })

beforeEach(() => {
  kept = [entry()]
  // What another test left to be saved waits for a server that there is not.
  vi.spyOn(saves, 'all').mockResolvedValue(undefined)
  vi.spyOn(api, 'list').mockImplementation(async ({ search, from, count }) => {
    const found = kept.filter(({ name }) => name.toLowerCase().includes(search.toLowerCase()))
    return { total: found.length, entries: found.slice(from, from + count) }
  })
  vi.spyOn(api, 'read').mockImplementation(async () => ({ document: part(), revision: 3, updatedAt: '' }))
  // Rows come into view by the height of what they scroll in.
  vi.spyOn(HTMLElement.prototype, 'offsetHeight', 'get').mockReturnValue(700)
  vi.spyOn(HTMLElement.prototype, 'clientWidth', 'get').mockReturnValue(900)
  vi.spyOn(HTMLElement.prototype, 'clientHeight', 'get').mockReturnValue(700)
})
afterEach(() => {
  vi.restoreAllMocks()
})

function shelf() {
  return shown(
    <Routes>
      <Route path="/" element={<Shelf />} />
      <Route path="*" element={<p>a part</p>} />
    </Routes>,
  )
}

describe('the shelf', () => {
  it('shows each part with its size in its own unit', async () => {
    kept = [entry(), entry({ id: 'b', name: 'Cleat', unit: 'in', size: [25.4, 50.8, 8.47] })]
    shelf()
    expect(await screen.findByText('61.3 × 37.7 × 8.2 mm')).toBeTruthy()
    expect(screen.getByText('1 × 2 × 0.333 in')).toBeTruthy()
    expect(screen.getAllByRole('img')).toHaveLength(2)
  })
  it('says where it is empty, and where nothing is called so', async () => {
    kept = []
    const { user } = shelf()
    expect(await screen.findByText(/The shelf is empty/)).toBeTruthy()
    kept = [entry()]
    await user.type(screen.getByLabelText('Search parts'), 'zz')
    expect(await screen.findByText('No part is called “zz”.')).toBeTruthy()
  })
  it('is searched and put in order by the server', async () => {
    kept = [entry(), entry({ id: 'b', name: 'Cleat' })]
    const { user } = shelf()
    await screen.findByLabelText('Name of Bracket')
    await user.type(screen.getByLabelText('Search parts'), 'cle')
    await waitFor(() => expect(screen.queryByLabelText('Name of Bracket')).toBeNull())
    expect(screen.getByLabelText('Name of Cleat')).toBeTruthy()
    await user.click(screen.getByRole('combobox', { name: 'Order' }))
    await user.click(await screen.findByRole('option', { name: 'Largest first' }))
    await waitFor(() =>
      expect(api.list).toHaveBeenLastCalledWith(expect.objectContaining({ order: 'size', search: 'cle' })),
    )
  })
  it('says why there is none, and asks again by itself', async () => {
    vi.useFakeTimers({ toFake: ['setInterval', 'clearInterval'] })
    try {
      vi.mocked(api.list).mockRejectedValueOnce(new ApiError(0, 'The server does not answer.', undefined))
      shelf()
      expect((await screen.findByRole('alert')).textContent).toBe('The server does not answer.')
      await act(() => vi.advanceTimersByTimeAsync(3100))
      expect(await screen.findByLabelText('Name of Bracket')).toBeTruthy()
      expect(screen.queryByRole('alert')).toBeNull()
    } finally {
      vi.useRealTimers()
    }
  })
})

describe('a card', () => {
  it('is renamed when its name is left, not to nothing', async () => {
    const save = vi.spyOn(api, 'save').mockResolvedValue({ revision: 4, updatedAt: '' })
    const { user } = shelf()
    const name = await screen.findByLabelText<HTMLInputElement>('Name of Bracket')
    await user.clear(name)
    await user.tab()
    expect(name.value).toBe('Bracket')
    expect(save).not.toHaveBeenCalled()
    await user.clear(name)
    await user.type(name, ' Ear {Enter}')
    await waitFor(() => expect(save).toHaveBeenCalledOnce())
    expect(save.mock.calls[0]![0].name).toBe('Ear')
    expect(save.mock.calls[0]![1]).toBe(3)
  })
  it('is copied under an id of its own', async () => {
    const create = vi.spyOn(api, 'create').mockResolvedValue({ id: 'c', revision: 1 })
    const { user } = shelf()
    await user.click(await screen.findByRole('button', { name: 'Copy Bracket' }))
    await waitFor(() => expect(create).toHaveBeenCalledOnce())
    const [made] = create.mock.calls[0]!
    expect([made.name, made.id === 'a']).toEqual(['Bracket copy', false])
  })
  it('is removed, and one press brings it back', async () => {
    const remove = vi.spyOn(api, 'remove').mockImplementation(async () => {
      kept = []
    })
    const restore = vi.spyOn(api, 'restore').mockImplementation(async () => {
      kept = [entry()]
    })
    const { user } = shelf()
    await user.click(await screen.findByRole('button', { name: 'Remove Bracket' }))
    await waitFor(() => expect(screen.queryByLabelText('Name of Bracket')).toBeNull())
    expect(remove).toHaveBeenCalledWith('a')
    const notice = within(screen.getByText('Bracket was removed.').closest('li')!)
    await user.click(notice.getByRole('button', { name: 'Undo' }))
    expect(await screen.findByLabelText('Name of Bracket')).toBeTruthy()
    expect(restore).toHaveBeenCalledWith('a')
  })
  it('what cannot be done is told', async () => {
    vi.spyOn(api, 'remove').mockRejectedValue(new ApiError(0, 'The server does not answer.', undefined))
    const { user } = shelf()
    await user.click(await screen.findByRole('button', { name: 'Remove Bracket' }))
    await waitFor(() => expect(document.body.textContent).toContain('The server does not answer.'))
    expect(screen.getByLabelText('Name of Bracket')).toBeTruthy()
  })
})

describe('what is opened', () => {
  it('a new part begins at its measures', async () => {
    const create = vi.spyOn(api, 'create').mockResolvedValue({ id: 'n', revision: 1 })
    const { user } = shelf()
    await user.click(await screen.findByRole('button', { name: /New part/ }))
    expect(await screen.findByText('a part')).toBeTruthy()
    expect(create.mock.calls[0]![0].pieces).toHaveLength(1)
  })
  it('a file that is no part says so by its name, and nothing is made', async () => {
    const create = vi.spyOn(api, 'create')
    const { user } = shelf()
    const huge = new File(['{}'], 'rail.json')
    Object.defineProperty(huge, 'size', { value: 1e12 })
    await user.upload(await screen.findByLabelText('Part file'), huge)
    await waitFor(() => expect(document.body.textContent).toMatch(/rail\.json was not opened: it is larger than/))
    expect(create).not.toHaveBeenCalled()
  })
})
