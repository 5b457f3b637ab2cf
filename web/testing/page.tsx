import type { Part } from '@makrel/core/document'
import { act, render } from '@testing-library/react'
import { userEvent } from '@testing-library/user-event'
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
