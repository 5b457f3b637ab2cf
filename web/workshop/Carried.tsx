import type { KeptThing, WorkshopKind, WorkshopThings } from '@makrel/core/fits'
import { differing } from '@makrel/core/fits'
import { useEffect, useMemo } from 'react'
import { usePart } from '../state/part.ts'
import { Button } from '../ui/Button.tsx'
import { carriedBy, choose, follow, keepAsDesigned, standingIn, valuesText, valuesWith } from './choose.ts'
import { loadWorkshop, useWorkshop, wordOf } from './state.ts'

/** The printer and the material that the open part carries, beside those of the workshop. */
export function Carried() {
  const id = usePart((state) => state.part?.id)
  const lists = useWorkshop((state) => state.lists)
  // biome-ignore lint/correctness/useExhaustiveDependencies: another part is looked at anew
  useEffect(() => {
    const look = () => document.visibilityState === 'visible' && void loadWorkshop()
    look()
    // It may have been changed in another window.
    document.addEventListener('visibilitychange', look)
    return () => document.removeEventListener('visibilitychange', look)
  }, [id])
  // biome-ignore lint/correctness/useExhaustiveDependencies: another part is looked at anew
  useEffect(() => {
    if (!lists) return
    follow('printers', lists.printers)
    follow('materials', lists.materials)
  }, [lists, id])
  if (!lists) return null
  return (
    <>
      <Differs kind="printers" list={lists.printers} />
      <Differs kind="materials" list={lists.materials} />
    </>
  )
}

/** Said where the part was designed with another printer or material of that name; either can be had. */
function Differs<K extends WorkshopKind>({
  kind,
  list,
}: {
  readonly kind: K
  readonly list: readonly KeptThing<WorkshopThings[K]>[]
}) {
  const part = usePart((state) => state.part)
  const standing = part && standingIn(part, kind, list)
  const now = standing && 'now' in standing ? standing.now : undefined
  const count = useMemo(() => (part && now ? valuesWith(part, kind, now) : 0), [part, kind, now])
  if (!part || !now) return null
  const carried = carriedBy(part, kind)
  const others = differing<object>(carried, now).length
  return (
    <div role="alert" className="flex flex-wrap items-center gap-3 border-b border-amber bg-[#faf3e4] px-5 py-2">
      <span className="mr-auto">
        <strong>
          This part was designed with another {wordOf[kind]} called {carried.name}
        </strong>{' '}
        than the one in the workshop: they differ in {others === 1 ? 'one thing' : `${others} things`}.
      </span>
      <Button onClick={() => keepAsDesigned(kind)}>Keep it as designed</Button>
      <Button main onClick={() => choose(kind, now)}>
        Use the workshop’s: {valuesText(count)}
      </Button>
    </div>
  )
}
