import type { ReadPoint } from '../document/index.ts'
import { type EdgeFigures, edgeCalled, edgeFigures, type SolidEdge } from '../naming/index.ts'
import type { Plan } from '../planning/index.ts'
import { tried } from '../problems/index.ts'
import type { ReadSolid } from '../readouts/index.ts'
import type { BuiltPiece } from './builder.ts'
import { copiesOf } from './copies.ts'
import { namedFaces, namedSolid } from './named.ts'

/** The edges of a piece, by the names of the faces that meet there. */
export function namedEdges(piece: BuiltPiece, plan: Plan): readonly SolidEdge[] {
  return piece.solid ? namedSolid(piece.solid, copiesOf(plan), piece.ownerOf).edges : []
}

/** The faces of a piece that has material, and which of them each triangle is of. */
export function facesOf({ solid, ownerOf }: BuiltPiece, plan: Plan) {
  const { faceOf, faces } = namedFaces(solid!, copiesOf(plan), ownerOf)
  return { faceOf, faces }
}

/** The triangles of a piece that are of a face of a step, of all of its copies; of all of its faces, where the face is empty. */
export function trianglesOf(piece: BuiltPiece, plan: Plan, { step, face }: Pick<ReadPoint, 'step' | 'face'>): number[] {
  if (!piece.solid) return []
  const { faces, faceOf } = facesOf(piece, plan)
  const own = faces.map(({ owner, face: name }) => owner.id === step && (face === '' || name === face))
  return [...faceOf.keys()].filter((t) => own[faceOf[t]!])
}

/** The keys of all faces of a piece, and by each: the ids of other steps and joints that border on it. */
export function namedBorders(piece: BuiltPiece, plan: Plan): ReadonlyMap<string, ReadonlySet<string>> {
  if (!piece.solid) return new Map()
  const { faces, edges } = namedSolid(piece.solid, copiesOf(plan), piece.ownerOf)
  const borders = new Map(faces.map(({ key }) => [key, new Set<string>()]))
  for (const { faces: both } of edges) {
    const [a, b] = [faces[both[0]]!, faces[both[1]]!]
    if (a.owner.id === b.owner.id) continue
    borders.get(a.key)!.add(b.owner.id)
    borders.get(b.key)!.add(a.owner.id)
  }
  return borders
}

/** The pieces of a build as read-outs are taken from them; edges are named when the first one is asked for. */
export function solidsToRead(pieces: readonly BuiltPiece[], plan: Plan): (id: string) => ReadSolid | undefined {
  return (id) => {
    const piece = pieces.find((each) => each.piece.id === id)
    const { solid } = piece ?? {}
    if (!piece || !solid) return undefined
    let edges: readonly SolidEdge[] | undefined
    return {
      mass: () => solid.mass(),
      crossings: (from, direction) => solid.crossings(from, direction),
      edge(key) {
        edges ??= namedEdges(piece, plan)
        const edge = edgeCalled(edges, key)
        return edge && asMeant(edgeFigures(edge), edge.key, plan)
      },
    }
  }
}

/** The flats of a round stand off it by less than this share of its radius, however coarse it is. */
const nearlyRound = 0.02

/** An edge along a round of one of its shapes is as large as that is meant, whatever its flats come to. */
function asMeant(figures: EdgeFigures, key: string, plan: Plan): EdgeFigures {
  const { radius } = figures
  if (radius === undefined) return figures
  const meant = key
    .split('|')
    .slice(0, 2)
    .flatMap((face) => radiiOf(face, plan))
    .filter((known) => Math.abs(known - radius) < nearlyRound * radius)
    .sort((a, b) => Math.abs(a - radius) - Math.abs(b - radius))[0]
  return meant === undefined ? figures : { ...figures, radius: meant, length: (figures.length * meant) / radius }
}

/** The radii that a face's shape has, of its round faces and of the circles that it is seen as. */
function radiiOf(face: string, plan: Plan): number[] {
  const [kind, step = '', copy = ''] = face.split('/')
  const operand = kind === 'step' ? plan.operands.get(step) : undefined
  const number = Number(copy.split('.').at(-1))
  const own = operand?.copies.find((each) => each.number === number)
  if (operand?.body.kind !== 'shape' || !own) return []
  const { shape } = operand.body
  const faces = tried(() => shape.surfaces(own.values).faces) ?? []
  const seen = tried(() => shape.edges?.(own.values, own.up)) ?? []
  return [
    ...faces.flatMap(({ round }) => (round === undefined ? [] : [Math.abs(round)])),
    ...seen.flatMap(({ segment }) => (segment.kind === 'arc' ? [segment.radius] : [])),
  ]
}
