import type { KeptPose, Part } from '../document/index.ts'
import { type JointDefinition, jointOf } from '../joints/index.ts'
import type { Wanted } from '../mechanism/index.ts'

/** What joints are set to in a pose. */
export function wantedIn({ set }: Pick<KeptPose, 'set'>): Wanted {
  const wanted: Record<string, (number | undefined)[]> = {}
  for (const { joint, freedom, position } of set) {
    const own = wanted[joint] ?? []
    // The latest last.
    delete wanted[joint]
    wanted[joint] = Array.from({ length: Math.max(own.length, freedom + 1) }, (_, i) =>
      i === freedom ? position : own[i],
    )
  }
  return wanted
}

/** The same as it is kept. */
export function setIn(wanted: Wanted): KeptPose['set'] {
  return Object.entries(wanted).flatMap(([joint, positions]) =>
    positions.flatMap((position, freedom) => (position === undefined ? [] : [{ joint, freedom, position }])),
  )
}

/** The pose that a part is printed in; undefined where that is how it is drawn. */
export function printPoseOf({ poses, printPose }: Part): KeptPose | undefined {
  return poses.find(({ id }) => id === printPose)
}

/** The pose to hand a part off in: the one it is printed in where none is named; undefined for how it is drawn, which `''` names. */
export function poseToHandOff(part: Part, id: string | undefined): KeptPose | undefined {
  return id === undefined ? printPoseOf(part) : part.poses.find((pose) => pose.id === id)
}

/** Pieces by what is printed inside one another: joints that are made with them hold them together from the start. */
export const printedInside = (part: Part): Groups =>
  tiedBy(part, ({ between, standsOn, comesApart }, fields) => !between && !standsOn && !comesApart?.(fields))

/** Pieces by what is one body as it is printed. */
export const printedAsOne = (part: Part): Groups => tiedBy(part, ({ joins }, fields) => joins?.(fields) ?? false)

type Groups = readonly (readonly string[])[]

/** Pieces by what such joints tie together, in the order of the part. */
function tiedBy(
  { pieces, joints }: Part,
  ties: (definition: JointDefinition, fields: Readonly<Record<string, string>>) => boolean,
): Groups {
  let groups: Groups = pieces.map(({ id }) => [id])
  for (const { kind, pieces: tied, fields } of joints) {
    const definition = jointOf(kind)
    if (!definition || !ties(definition, fields)) continue
    const isTied = (group: readonly string[]) => group.some((id) => tied.includes(id))
    const at = groups.findIndex(isTied)
    if (at < 0) continue
    const together = groups.filter(isTied).flat()
    groups = groups.filter((group) => !isTied(group)).toSpliced(at, 0, together)
  }
  return groups
}
