import { type Found, type ProofContext, type ProofPiece, stepName } from './define.ts'

/** Steps or joints that a place of a piece comes from. */
export interface Whose {
  readonly about: Found['about']
  readonly names: readonly string[]
}

/** Which steps and joints the triangles of a piece that has material come from. */
export function whoseIn({ built: { resolved } }: ProofContext, { built: { solid, ownerOf } }: ProofPiece) {
  const { runs, triangles } = solid!.mesh()
  const owned = runs.flatMap(({ original, from, to }) => {
    const owner = ownerOf(original)
    return owner ? [{ owner: { kind: owner.kind, id: owner.id } as const, from, to }] : []
  })
  let placeOf: Int32Array | undefined
  const ownerAt = (t: number) => {
    placeOf ??= owned.reduce(
      (all, { from, to }, i) => all.fill(i, from, to),
      new Int32Array(triangles.length / 3).fill(-1),
    )
    return owned[placeOf[t]!]?.owner
  }
  const nameOf = ({ kind, id }: Found['about'][number]) =>
    kind === 'joint' ? resolved.part.joints.find((joint) => joint.id === id)?.name || 'a joint' : stepName(resolved, id)
  const each = (owners: readonly (Found['about'][number] | undefined)[]) => [
    ...new Map(owners.flatMap((owner) => (owner ? [[owner.id, owner] as const] : []))).values(),
  ]
  return {
    /** The same text for triangles of the same steps. */
    keyOf: (triangles: readonly number[]): string =>
      [...new Set(triangles.map((t) => ownerAt(t)?.id ?? ''))].sort().join(', '),
    of(triangles: readonly number[]): Whose {
      const about = each([...new Set(triangles)].map(ownerAt))
      return { about, names: about.map(nameOf) }
    },
    /** What all of their names are: findings that name some follow from it. */
    all: (): readonly string[] => each(owned.map(({ owner }) => owner)).map(nameOf),
  }
}
