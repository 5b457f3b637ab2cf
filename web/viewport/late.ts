import type { Part } from '@makrel/core/document'
import type { WorkedPart } from '@makrel/core/planning'
import { startTransition, useEffect, useMemo, useState } from 'react'
import { useBuild, workedOf } from '../state/build.ts'
import { usePart } from '../state/part.ts'
import { useDrag } from './drag.ts'

/**
 * The part as the drawing shows it: a keystroke is on the sheet first, and on the drawing with the next frame. While
 * something is dragged, the drawing comes first.
 */
export function useLatePart(): Part {
  const [part, setPart] = useState(() => usePart.getState().part!)
  useEffect(() => {
    const take = (next: Part | undefined) => {
      if (!next) return
      if (useDrag.getState().id) setPart(next)
      else startTransition(() => setPart(next))
    }
    take(usePart.getState().part)
    return usePart.subscribe((state, before) => {
      if (state.part !== before.part) take(state.part)
    })
  }, [])
  return part
}

/** What the part comes to that the drawing shows. */
export function useLateWorked(): { readonly part: Part; readonly worked: WorkedPart } {
  const part = useLatePart()
  const readings = useBuild((state) => state.readings)
  // biome-ignore lint/correctness/useExhaustiveDependencies: what is read off the solids is taken from the store
  const worked = useMemo(() => workedOf(part), [part, readings])
  return { part, worked }
}
