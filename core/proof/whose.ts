import { listed } from '../document/index.ts'
import type { FaceName } from '../fields/index.ts'
import { type Found, type ProofContext, type ProofPiece, stepName } from './define.ts'

type Owner = Found['about'][number]

/** Steps or joints that a place of a piece comes from. */
export interface Whose {
  readonly about: Found['about']
  readonly names: readonly string[]
  /** the same with their faces and copies: "the top of copy 3 of Step 2 of Bracket (rib)" */
  readonly where: readonly string[]
  /** the faces of steps that it is of */
  readonly faces: readonly FaceName[]
}

/** More faces of a step than these are all over it: it is named alone. */
const mostFaces = 3
/** The same of its copies. */
const mostCopies = 3

/** Which steps and joints the triangles of a piece that has material come from. */
export function whoseIn(context: ProofContext, piece: ProofPiece) {
  const { resolved, motions } = context.built
  const { solid, ownerOf } = piece.built
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
  const nameOf = ({ kind, id }: Owner) =>
    kind === 'joint' ? resolved.part.joints.find((joint) => joint.id === id)?.name || 'a joint' : stepName(resolved, id)
  const each = (owners: readonly (Owner | undefined)[]) => [
    ...new Map(owners.flatMap((owner) => (owner ? [[owner.id, owner] as const] : []))).values(),
  ]
  const facesAt = (on: readonly number[]) => {
    const { faces, faceOf } = context.faces(piece)
    return [...new Set(on.map((t) => faces[faceOf[t]!]!))]
  }
  /** With the faces and copies that these triangles are of. */
  const whereOn = (owner: Owner, on: readonly number[]) => {
    const isOwn = (face: { readonly owner: { readonly id: string } }) => face.owner.id === owner.id
    const own = facesAt(on).filter(isOwn)
    const all = context.faces(piece).faces.filter(isOwn)
    const called = [...new Set(own.map(({ face }) => shortly(face)))].sort()
    const copies = copiesIn(own)
    // In a pose a copy is not where it is known by.
    const isOfSome = !motions && copies.length <= mostCopies && copies.length < copiesIn(all).length
    const copy = isOfSome ? `${copies.length > 1 ? 'copies' : 'copy'} ${listed(copies)} of ` : ''
    const face = called.length > 0 && called.length <= mostFaces ? `the ${listed(called)} of ` : ''
    return `${face}${copy}${nameOf(owner)}`
  }
  return {
    /** The same text for triangles of the same steps. */
    keyOf: (triangles: readonly number[]): string =>
      [...new Set(triangles.map((t) => ownerAt(t)?.id ?? ''))].sort().join(', '),
    of(triangles: readonly number[]): Whose {
      const on = [...new Set(triangles)]
      const about = each(on.map(ownerAt))
      return {
        about,
        names: about.map(nameOf),
        get where() {
          return about.map((owner) => whereOn(owner, on))
        },
        get faces() {
          const own = facesAt(on).flatMap(({ owner, face }) =>
            owner.kind === 'step' ? [{ step: owner.id, face }] : [],
          )
          return [...new Map(own.map((each) => [`${each.step}/${each.face}`, each] as const)).entries()]
            .sort(([a], [b]) => (a < b ? -1 : 1))
            .map(([, each]) => each)
        },
      }
    },
    /** What all of their names are: findings that name some follow from it. */
    all: (): readonly string[] => each(owned.map(({ owner }) => owner)).map(nameOf),
  }
}

/** Without what it in turn was made from: "round" of "round of front and top". */
function shortly(face: string): string {
  return face.replace(/ of .*$/, '')
}

/** The copies that these faces are of, in their order. */
function copiesIn(faces: readonly { readonly copy: string }[]): string[] {
  return [...new Set(faces.map(({ copy }) => copy))].sort((a, b) => a.localeCompare(b, 'en', { numeric: true }))
}
