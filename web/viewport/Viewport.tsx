import type { KeptPose } from '@makrel/core/document'
import type { Box, Frame, Vec3 } from '@makrel/core/place'
import type { Mark } from '@makrel/core/proof'
import { lazy, type ReactNode, Suspense } from 'react'
import type { PosedNow } from '../move/posed.ts'
import type { Label } from './Labels.tsx'

export interface ViewportProps {
  readonly editable?: boolean
  /** with all that a step is made by: handles, copies, sections */
  readonly tools?: boolean
  readonly motions?: Readonly<Record<string, Frame>> | undefined
  /** the pose that pieces stand in, and the box that they are in there, once that is known: the view goes to that, once */
  readonly standing?: Standing | undefined
  /** where the finding that is looked at is */
  readonly marks?: readonly Mark[] | undefined
  readonly labels?: readonly Label[] | undefined
  /** pieces that are in others, by their ids */
  readonly clashing?: readonly string[] | undefined
  /** A press on a piece at a place of it, before it is known whether it becomes a drag; whether it was taken. */
  readonly onGrab?: ((piece: string, at: Vec3, event: PointerEvent, viewport: HTMLElement) => boolean) | undefined
  readonly children?: ReactNode
}

interface Standing {
  readonly pose: string
  readonly box: Box | undefined
}

/** What is told of how pieces stand in a pose. */
export function standingIn(pose: KeptPose | undefined, posed: PosedNow | undefined): Standing | undefined {
  return pose && { pose: pose.id, box: posed?.isCurrent ? posed.box : undefined }
}

/** What draws in space is as large as all else together: the sheet is there before it. */
const PartView = lazy(async () => ({ default: (await import('./PartView.tsx')).PartView }))

/** The part as a drawing, see `PartView`. */
export function Viewport(props: ViewportProps) {
  return (
    <Suspense>
      <PartView {...props} />
    </Suspense>
  )
}
