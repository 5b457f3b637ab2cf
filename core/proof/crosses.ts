import type { TriangleMesh } from '../mesh/index.ts'
import { type Check, type Finding, type Mark, millimetres } from './define.ts'

/** Triangles that go through each other by less are rounded so, mm: a mesh in single precision is right to 3e-5 on the largest bed. */
const rounded = 1e-3
/** So many crossings are enough to tell, and to show. */
const enough = 200
/** Looking at more triangles than these takes longer than the rest of a proof. */
const mostTriangles = 1_000_000

/** What runs through itself has an inside that nobody can tell: slicers fill it in ways of their own. */
export const crossesCheck: Check = {
  id: 'crosses',
  label: 'Through itself',
  meaning: 'The surface does not run through itself.',
  scope: 'piece',
  from: () => [],
  async run({ tree, pause }, piece) {
    const { id, name } = piece.built.piece
    const told = (rank: Finding['rank'], text: string, marks?: readonly Mark[]): readonly Finding[] => [
      { check: 'crosses', rank, text, about: [{ kind: 'piece', id }], ...(marks && { marks }) },
    ]
    const mesh = piece.built.solid!.mesh()
    const count = mesh.triangles.length / 3
    if (count > mostTriangles)
      return told('warning', `${name} has too many triangles to tell whether its surface runs through itself.`)
    const crossing = new Set<number>()
    await pause()
    for (const pair of tree(piece).crossings(rounded, true)) {
      if (!pair) await pause()
      for (const triangle of pair ?? []) crossing.add(triangle)
      if (crossing.size >= enough) break
    }
    if (crossing.size === 0) return told('pass', `The surface of ${name} does not run through itself.`)
    const number = crossing.size < enough ? `${crossing.size}` : `${enough} or more`
    return told(
      'fault',
      `The surface of ${name} runs through itself, by more than ${millimetres(rounded)}, at ${number} triangles: a slicer fills that as it likes.`,
      [{ kind: 'triangles', points: cornersOf(mesh, [...crossing]) }],
    )
  },
}

function cornersOf({ positions, triangles }: TriangleMesh, chosen: readonly number[]): Float32Array {
  const corners = chosen.flatMap((t) => [0, 1, 2].map((c) => triangles[3 * t + c]!))
  return Float32Array.from(corners.flatMap((v) => [positions[3 * v]!, positions[3 * v + 1]!, positions[3 * v + 2]!]))
}
