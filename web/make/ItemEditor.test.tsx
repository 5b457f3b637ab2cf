import type { ItemField } from '@makrel/core/fields'
import { render, screen } from '@testing-library/react'
import userEvent from '@testing-library/user-event'
import { expect, it, vi } from 'vitest'
import type { EditorProps } from './editors.tsx'
import { ItemEditor } from './ItemEditor.tsx'

const definition: ItemField = { kind: 'item', label: 'Nut', default: 'iso-4032 M4', meaning: '', of: ['nut'] }

function shown(text: string) {
  const onChange = vi.fn()
  const props = { definition, text, onChange, texts: {}, names: {}, sides: {}, step: undefined, fault: undefined }
  render(<ItemEditor {...(props as unknown as EditorProps<ItemField>)} />)
  return { onChange, user: userEvent.setup() }
}

it('is found by typing, and taken by Enter', async () => {
  const { onChange, user } = shown('iso-4032 M4')
  expect(screen.getByRole('button', { name: 'Nut' }).textContent).toBe('M4 hex nut')
  screen.getByRole('button', { name: 'Nut' }).focus()
  await user.keyboard('{Enter}')
  await user.type(screen.getByLabelText('Find: nut'), 'lock M8')
  expect(screen.getAllByRole('option').map(({ textContent }) => textContent)).toEqual(['M8 lock nutISO 7040:2012'])
  await user.keyboard('{Enter}')
  expect(onChange.mock.calls).toEqual([['iso-7040 M8', true]])
})

it('lists the sizes of the same form first, and says where nothing is called so', async () => {
  const { onChange, user } = shown('iso-7040 M6')
  await user.click(screen.getByRole('button', { name: 'Nut' }))
  const [first] = screen.getAllByRole('option')
  expect(first!.textContent).toContain('lock nut')
  await user.type(screen.getByLabelText('Find: nut'), 'M4.1')
  expect(screen.queryAllByRole('option')).toEqual([])
  expect(screen.getByText(/Nothing in the tables is called “M4.1”/)).toBeTruthy()
  await user.keyboard('{Enter}{Escape}')
  expect(onChange).not.toHaveBeenCalled()
})

it('shows what is in the part, even where no table has it', () => {
  shown('iso-4032 M4.1')
  expect(screen.getByRole('button', { name: 'Nut' }).textContent).toBe('iso-4032 M4.1')
})
