import { findStep } from '@makrel/core/document'
import type { RenderMesh } from '@makrel/core/solids'
import { useEffect, useState } from 'react'
import { solids } from '../channel/client.ts'
import { numberedTitle } from '../make/words.ts'
import { type DrawnPiece, useBuild } from '../state/build.ts'
import { usePart } from '../state/part.ts'
import { CloseIcon } from '../ui/icons.tsx'
import { pickFor, useEdgePick } from './edgePick.ts'
import { useView } from './view.ts'

type Drawn = Pick<DrawnPiece, 'id' | 'mesh'>

/** The pieces as they are drawn while one step is looked at: its shape alone, or the part without it. */
export function useInspected(pieces: readonly Drawn[]): readonly Drawn[] {
  const inspected = useView((state) => state.inspected)
  const shown = useBuild((state) => state.shown)
  const [meshes, setMeshes] = useState<ReadonlyMap<string, RenderMesh | undefined>>()
  useEffect(() => {
    setMeshes(undefined)
    if (!shown || !inspected || inspected.show === 'with') return
    const { step, show } = inspected
    let current = true
    void solids()
      .call('inspect', { step, show })
      .then(
        (answer) => current && setMeshes(new Map(answer.map(({ piece, mesh }) => [piece, mesh]))),
        () => undefined,
      )
    return () => {
      current = false
    }
  }, [shown, inspected])
  return inspected && meshes ? pieces.map(({ id }) => ({ id, mesh: meshes.get(id) })) : pieces
}

/** Says what is looked at, and leads back to the whole; ends by itself when another step is selected. */
export function InspectLabel() {
  const part = usePart((state) => state.part)!
  const selected = usePart((state) => state.selection?.id)
  const inspected = useView((state) => state.inspected)
  const kind = useEdgePick(({ field }) => field)
  const step = inspected && findStep(part, inspected.step)?.step
  useEffect(() => {
    if (inspected && inspected.step !== selected) useView.setState({ inspected: undefined })
  }, [inspected, selected])
  useEffect(() => {
    if (inspected?.show !== 'until') useEdgePick.setState({ step: undefined })
  }, [inspected])
  useEffect(() => {
    if (inspected?.show !== 'until') return
    const pressed = (event: KeyboardEvent) => {
      if (event.key !== 'Escape' || event.defaultPrevented) return
      event.preventDefault()
      pickFor(undefined)
    }
    window.addEventListener('keydown', pressed, true)
    return () => window.removeEventListener('keydown', pressed, true)
  }, [inspected])
  // Left with the stage.
  useEffect(() => () => useView.setState({ inspected: undefined }), [])
  if (!inspected || !step) return null
  const choice = (show: typeof inspected.show, label: string) => (
    <button
      type="button"
      aria-pressed={inspected.show === show}
      className={
        inspected.show === show ? 'font-semibold' : 'text-mackerel underline underline-offset-2 hover:no-underline'
      }
      onClick={() => useView.setState({ inspected: { step: step.id, show } })}
    >
      {label}
    </button>
  )
  return (
    <p
      role="status"
      className="absolute top-11 left-1/2 z-10 flex -translate-x-1/2 gap-3 border border-mackerel bg-sheet px-3 py-1 whitespace-nowrap"
    >
      <span className="text-ink-soft">{numberedTitle(part, step)}:</span>
      {inspected.show === 'until' ? (
        <span>{kind === 'faces' ? 'click faces' : 'click edges, or a face for all of its edges'}</span>
      ) : null}
      {choice('without', 'before')}
      {choice('with', 'after')}
      {choice('alone', 'only this')}
      <button
        type="button"
        aria-label="Stop looking at one step"
        className="inline-flex items-center text-ink-soft hover:text-ink"
        onClick={() => useView.setState({ inspected: undefined })}
      >
        <CloseIcon size={14} />
      </button>
    </p>
  )
}
