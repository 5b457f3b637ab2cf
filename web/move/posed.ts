import type { KeptPose, Part } from '@makrel/core/document'
import { printPoseOf } from '@makrel/core/planning'
import { useEffect, useState } from 'react'
import { checks } from '../channel/client.ts'
import type { Calls } from '../channel/protocol.ts'
import { useBuild } from '../state/build.ts'
import { usePart } from '../state/part.ts'

export type PosedPieces = Calls['posed']['out']

/** What was asked for last: the header and the stage that is shown want the same, and one answer serves both. */
let asked: { readonly part: Part; readonly pose: KeptPose; readonly answer: Promise<PosedPieces> } | undefined

function posedOf(part: Part, pose: KeptPose): Promise<PosedPieces> {
  if (asked?.part !== part || asked.pose !== pose)
    asked = { part, pose, answer: checks().call('posed', { pose }, part) }
  return asked.answer
}

/** Where all pieces stand in a pose, once that is known; undefined where there is no pose, or it cannot be told. */
export function usePosed(pose: KeptPose | undefined): PosedPieces | undefined {
  const shown = useBuild((state) => state.shown)
  const [known, setKnown] = useState<{ readonly of: KeptPose; readonly posed: PosedPieces }>()
  useEffect(() => {
    if (!shown || !pose) return
    let current = true
    posedOf(shown, pose).then(
      (posed) => current && setKnown({ of: pose, posed }),
      () => undefined,
    )
    return () => {
      current = false
    }
  }, [shown, pose])
  return known?.of === pose ? known?.posed : undefined
}

/** Where all pieces lie when they are printed; undefined where that is how they are drawn. */
export function usePrinted(): { readonly pose: KeptPose; readonly posed: PosedPieces | undefined } | undefined {
  const pose = usePart((state) => printPoseOf(state.part!))
  const posed = usePosed(pose)
  return pose && { pose, posed }
}
