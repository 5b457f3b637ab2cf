import type { TriangleMesh } from '../mesh/index.ts'
import { type Check, findingOf, type Mark } from './define.ts'
import { mm } from './phrase.ts'

/** What is found. */
const texts = {
  'crosses-too-many': '{piece} has too many triangles to tell whether its surface runs through itself.',
  'crosses-none': 'The surface of {piece} does not run through itself.',
  'crosses-itself':
    'The surface of {piece} runs through itself, by more than {by}, at {count} triangles: a slicer fills that as it likes.',
} as const

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
  meaning: 'The surface does not cross itself.',
  texts,
  scope: 'piece',
  from: () => [],
  async run({ tree, surfaces, pause }, piece) {
    const { id, name } = piece.built.piece
    const finding = findingOf('crosses', texts, [{ kind: 'piece', id }])
    const mesh = piece.built.solid!.mesh()
    if (mesh.triangles.length / 3 > mostTriangles) return [finding('warning', 'crosses-too-many', { piece: name })]
    const crossing = new Set<number>()
    await pause()
    // Of a surface that did not, what is still there does not.
    const fresh = surfaces.before(`crosses ${id}`, mesh)?.fresh
    for (const pair of tree(piece).crossings(rounded, { places: true, fresh })) {
      if (!pair) await pause()
      for (const triangle of pair ?? []) crossing.add(triangle)
      if (crossing.size >= enough) break
    }
    if (crossing.size === 0) {
      surfaces.keep(`crosses ${id}`, mesh, new Uint8Array(mesh.triangles.length / 3))
      return [finding('pass', 'crosses-none', { piece: name })]
    }
    const count = crossing.size < enough ? crossing.size : `${enough} or more`
    const marks: Mark[] = [{ kind: 'triangles', points: cornersOf(mesh, [...crossing]) }]
    return [finding('fault', 'crosses-itself', { piece: name, by: mm(rounded), count }, { marks })]
  },
}

function cornersOf({ positions, triangles }: TriangleMesh, chosen: readonly number[]): Float32Array {
  const corners = chosen.flatMap((t) => [0, 1, 2].map((c) => triangles[3 * t + c]!))
  return Float32Array.from(corners.flatMap((v) => [positions[3 * v]!, positions[3 * v + 1]!, positions[3 * v + 2]!]))
}
