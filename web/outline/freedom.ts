import { type Freedom, freedomOf, type SolvedOutline } from '@makrel/core/outline'
import { useMemo } from 'react'
import { useOutline } from './state.ts'

/** Of a drawing of more unknowns than this, what is free is read again only when what is dragged is let go. */
const mostFollowed = 200

const asBegun = new WeakMap<SolvedOutline['system'], Freedom>()

/** The same drawing is taken hold of: what was free of it is so still. */
export function sameFreedom(before: SolvedOutline['system'], now: SolvedOutline['system']): void {
  const known = asBegun.get(before)
  if (known) asBegun.set(now, known)
}

/** What can still move of an outline as it is shown. Reading it takes longer than a step of dragging a large drawing may. */
export function useFreedom(solved: SolvedOutline): Freedom {
  const dragged = useOutline((state) => state.preview === solved)
  return useMemo(() => {
    const { system, solution } = solved
    const before = asBegun.get(system)
    if (dragged && before && system.unknowns > mostFollowed) return before
    const freedom = freedomOf(system, solution.x)
    asBegun.set(system, freedom)
    return freedom
  }, [solved, dragged])
}
