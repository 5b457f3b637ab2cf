import type { Joint } from '../document/index.ts'
import { type Mobility, type MovingJoint, mobilityOf, type Pose, posed, type Wanted } from '../mechanism/index.ts'
import { compose, type Frame, inverse, world } from '../place/index.ts'
import { tried } from '../problems/index.ts'
import type { ResolvedPart } from './resolve.ts'

/** A joint with where it stands, in the bed's frame. */
export interface StandingJoint {
  readonly joint: Joint
  readonly frame: Frame
  /** of a joint between two steps: where the second stands in the frame of the first */
  readonly second?: Frame | undefined
}

interface JointedPart {
  readonly resolved: ResolvedPart
  readonly joints: readonly StandingJoint[]
}

/** Where all pieces stand with some joints at positions of their travel, the latest last. One that cannot tell how it moves does not. */
export function poseOf(of: JointedPart, wanted: Wanted): Pose {
  return posed(pieceIds(of), movingJoints(of), wanted)
}

/** What all pieces can do where they stand with joints at these positions. */
export function mobilityIn(of: JointedPart, { positions }: Pick<Pose, 'positions'>): Mobility | undefined {
  return mobilityOf(pieceIds(of), heldOnce(movingJoints(of)), positions)
}

/** Two pieces that several bolts hold are held once: a bolt has play, and nothing has to be exact for the next one. */
function heldOnce(joints: readonly MovingJoint[]): MovingJoint[] {
  const held = new Set<string>()
  return joints.filter(({ freedoms, pieces }) => {
    if (freedoms.length > 0) return true
    const pair = [...pieces].sort().join(' ')
    const isFirst = !held.has(pair)
    held.add(pair)
    return isFirst
  })
}

const pieceIds = ({ resolved }: JointedPart) => resolved.part.pieces.map(({ id }) => id)

function movingJoints(of: JointedPart): MovingJoint[] {
  return of.joints.flatMap(({ joint, frame, second }): MovingJoint[] => {
    const { definition, values } = of.resolved.joints.get(joint.id) ?? {}
    if (!definition || !values) return []
    const freedoms = tried(() => definition.freedoms(values)) ?? []
    const base = { id: joint.id, pieces: joint.pieces, frame, freedoms }
    const { between } = definition
    if (between && second) {
      const motions = (at: readonly number[]) => between.motions(values, second, at)
      return [
        {
          ...base,
          together: { motions, positions: (side, motion) => between.positions(values, second, side, motion) },
          motion(at) {
            const [one, two] = motions(at)
            return compose(inverse(one), two)
          },
        },
      ]
    }
    const motion = (at: readonly number[]) => {
      const own = tried(() => definition.motion(values, at))
      return own && [...own.origin, ...own.u, ...own.v].every(Number.isFinite) ? own : world
    }
    return [{ ...base, motion }]
  })
}
