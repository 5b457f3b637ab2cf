import { create } from 'zustand'
import { createJSONStorage, persist } from 'zustand/middleware'

interface Lately {
  /** kinds of shapes, the last one used first */
  readonly kinds: readonly string[]
  use(kind: string): void
}

/** So many are kept: a row of the catalogue. */
const mostKept = 6

/** The shapes that were used last, on this machine. */
export const useLately = create<Lately>()(
  persist(
    (set, get) => ({
      kinds: [],
      use: (kind) => set({ kinds: [kind, ...get().kinds.filter((other) => other !== kind)].slice(0, mostKept) }),
    }),
    { name: 'makrel-lately', storage: createJSONStorage(() => localStorage) },
  ),
)
