import type { Part } from '@makrel/core/document'
import { act, render, screen } from '@testing-library/react'
import { type UserEvent, userEvent } from '@testing-library/user-event'
import type { ReactNode } from 'react'
import { MemoryRouter } from 'react-router'
import { usePart } from '../state/part.ts'

/** Something of the page with a part open, and the hands that work it. */
export function shown(node: ReactNode, part?: Part) {
  if (part) act(() => usePart.getState().open(part, 1, new Date(2026, 10, 30)))
  const user = userEvent.setup()
  return { user, ...render(node, { wrapper: ({ children }) => <MemoryRouter>{children}</MemoryRouter> }) }
}

/** The part as it is now. */
export const partNow = (): Part => usePart.getState().part!

/** Takes one of several from a list of choices, by what it reads. */
export async function choose(user: UserEvent, label: string, option: string): Promise<void> {
  await user.click(screen.getByRole('combobox', { name: label }))
  await user.click(await screen.findByRole('option', { name: new RegExp(`^${option}`) }))
}
