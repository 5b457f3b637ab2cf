import type { KeptPose, Part } from '@makrel/core/document'
import { printPoseOf } from '@makrel/core/planning'
import { useEffect, useMemo, useState } from 'react'
import { checks } from '../channel/client.ts'
import type { Calls } from '../channel/protocol.ts'
import { useBuild } from '../state/build.ts'
import { usePart } from '../state/part.ts'

export type PosedPieces = Calls['posed']['out']

/** Pieces in a pose as they are drawn; `isCurrent`: and not as they were, while that is worked out anew. */
export type PosedNow = PosedPieces & { readonly isCurrent: boolean }

/** What was asked for last: the header and the stage that is shown want the same, and one answer serves both. */
let asked: { readonly part: Part; readonly pose: KeptPose; readonly answer: Promise<PosedPieces> } | undefined

function posedOf(part: Part, pose: KeptPose): Promise<PosedPieces> {
  if (asked?.part !== part || asked.pose !== pose)
    asked = { part, pose, answer: checks().call('posed', { pose }, part) }
  return asked.answer
}

/** Where all pieces stand in a pose, once that is known; undefined where there is no pose, or it cannot be told. */
export function usePosed(pose: KeptPose | undefined): PosedNow | undefined {
  const shown = useBuild((state) => state.shown)
  const part = usePart((state) => state.part)
  const isBuilt = useBuild(({ answered }) => answered === part)
  const [known, setKnown] = useState<{ readonly of: KeptPose; readonly shown: Part; readonly posed: PosedPieces }>()
  useEffect(() => {
    if (!shown || !pose) return
    let current = true
    posedOf(shown, pose).then(
      (posed) => current && setKnown({ of: pose, shown, posed }),
      () => undefined,
    )
    return () => {
      current = false
    }
  }, [shown, pose])
  return useMemo(
    () => (known && known.of === pose ? { ...known.posed, isCurrent: isBuilt && known.shown === shown } : undefined),
    [known, pose, shown, isBuilt],
  )
}

/** Where all pieces lie when they are printed; undefined where that is how they are drawn. */
export function usePrinted(): { readonly pose: KeptPose; readonly posed: PosedNow | undefined } | undefined {
  const pose = usePart((state) => printPoseOf(state.part!))
  const posed = usePosed(pose)
  return pose && { pose, posed }
}
