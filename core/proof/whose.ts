import { type Found, type ProofContext, type ProofPiece, stepName } from './define.ts'

/** Steps or joints that a place of a piece comes from. */
export interface Whose {
  readonly about: Found['about']
  readonly names: readonly string[]
}

/** Which steps and joints the triangles of a piece that has material come from. */
export function whoseIn({ built: { resolved } }: ProofContext, { built: { solid, ownerOf } }: ProofPiece) {
  const { runs, triangles } = solid!.mesh()
  const owners: (Found['about'][number] | undefined)[] = new Array(triangles.length / 3)
  for (const { original, from, to } of runs) {
    const owner = ownerOf(original)
    if (owner) owners.fill({ kind: owner.kind, id: owner.id }, from, to)
  }
  const nameOf = ({ kind, id }: Found['about'][number]) =>
    kind === 'joint' ? resolved.part.joints.find((joint) => joint.id === id)?.name || 'a joint' : stepName(resolved, id)
  return {
    /** The same text for triangles of the same steps. */
    keyOf: (triangles: readonly number[]): string =>
      [...new Set(triangles.map((t) => `${owners[t]?.kind} ${owners[t]?.id}`))].sort().join(', '),
    of(triangles: readonly number[]): Whose {
      const own = new Map(triangles.flatMap((t) => (owners[t] ? [[owners[t].id, owners[t]] as const] : [])))
      return { about: [...own.values()], names: [...own.values()].map(nameOf) }
    },
    /** What all of their names are: findings that name some follow from it. */
    all: (): readonly string[] =>
      [...new Map(owners.flatMap((owner) => (owner ? [[owner.id, owner] as const] : []))).values()].map(nameOf),
  }
}
