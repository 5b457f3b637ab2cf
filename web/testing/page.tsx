import type { Part } from '@makrel/core/document'
import type { Vec3 } from '@makrel/core/place'
import { act, render, screen } from '@testing-library/react'
import { PointerEventsCheckLevel, type UserEvent, userEvent } from '@testing-library/user-event'
import type { ReactNode } from 'react'
import { MemoryRouter } from 'react-router'
import { vi } from 'vitest'
import type { DrawnPiece } from '../state/build.ts'
import { usePart } from '../state/part.ts'

/** Something of the page with a part open, and the hands that work it. */
export function shown(node: ReactNode, part?: Part) {
  if (part) act(() => usePart.getState().open(part, 1, new Date(2026, 10, 30)))
  // Without its style sheet nothing says which of what lies on one another takes a press.
  const user = userEvent.setup({ pointerEventsCheck: PointerEventsCheckLevel.Never })
  return { user, ...render(node, { wrapper: ({ children }) => <MemoryRouter>{children}</MemoryRouter> }) }
}

/** The part as it is now. */
export const partNow = (): Part => usePart.getState().part!

/** Takes one of several from a list of choices, by what it reads. */
export async function choose(user: UserEvent, label: string, option: string): Promise<void> {
  await user.click(screen.getByRole('combobox', { name: label }))
  await user.click(await screen.findByRole('option', { name: new RegExp(`^${option}`) }))
}

/** A piece that was drawn, of which nothing is known but its extents, mm. */
export function drawnAs(id: string, min: Vec3, max: Vec3): DrawnPiece {
  return { ...{ id, of: id, key: id, bounds: { min, max } }, ...{ volume: 0, area: 0, triangles: 0, mesh: undefined } }
}

/** A channel to a worker whose answers the test gives; what is thrown is a call that failed. */
export function answering(
  channel: { call: (...args: never) => unknown },
  answer: (name: string, input: unknown) => unknown,
) {
  return vi
    .spyOn(channel, 'call')
    .mockImplementation((async (name: string, input: unknown) => answer(name, input)) as never)
}
