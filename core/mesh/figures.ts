import type { TriangleMesh } from './define.ts'
import { isSliver, type Shell, shellsOf } from './shells.ts'

export interface MeshFigures {
  readonly triangles: number
  /** every edge is shared by exactly two triangles */
  readonly closed: boolean
  /** … which run along it in opposite directions, and the whole encloses a positive volume */
  readonly oriented: boolean
  /** edges with another number of triangles than two */
  readonly openEdges: number
  /** edges whose two triangles run along it in the same direction */
  readonly flippedEdges: number
  /** separate bodies, without slivers; one that lies in a cavity of another is one of its own, a cavity is none */
  readonly solids: number
  /** mm³ of each closed cavity, with what may lie in it */
  readonly cavities: readonly number[]
  /** mm³, by the divergence theorem; negative when inside out */
  readonly volume: number
  /** mm² */
  readonly area: number
  readonly min: readonly [number, number, number]
  readonly max: readonly [number, number, number]
}

/** Measures a mesh whose equal corners share one vertex (see `welded`). An empty mesh has zero size at the origin. */
export function meshFigures(mesh: TriangleMesh): MeshFigures {
  const { shells, openEdges, flippedEdges } = shellsOf(mesh)
  const empty = shells.length === 0
  const bound = (pick: (...values: number[]) => number, which: 'min' | 'max', start: number) =>
    [0, 1, 2].map((i) => (empty ? 0 : shells.reduce((most, shell) => pick(most, shell[which][i]!), start))) as [
      number,
      number,
      number,
    ]
  const bodies = shells.filter((shell) => !isSliver(shell))
  return {
    triangles: mesh.triangles.length / 3,
    closed: openEdges === 0 && !empty,
    // The outside of a body has to face outwards, the wall of a cavity into it.
    oriented:
      openEdges === 0 && flippedEdges === 0 && !empty && bodies.every((shell) => isOutside(shell) === shell.volume > 0),
    openEdges,
    flippedEdges,
    solids: bodies.filter(isOutside).length,
    cavities: bodies.filter((shell) => !isOutside(shell)).map(({ volume }) => Math.abs(volume)),
    volume: shells.reduce((sum, { volume }) => sum + volume, 0),
    area: shells.reduce((sum, { area }) => sum + area, 0),
    min: bound(Math.min, 'min', Infinity),
    max: bound(Math.max, 'max', -Infinity),
  }
}

/** Whether a shell is the outside of a body, not the wall of a cavity. */
export function isOutside({ depth }: Shell): boolean {
  return depth % 2 === 0
}

/**
 * The mesh with corners of exactly equal coordinates made one vertex, and triangles that thereby lose their area left
 * out (two corners in one place). For files that repeat the corners of every triangle.
 */
export function welded({ positions, triangles }: TriangleMesh): TriangleMesh {
  const index = new Map<string, number>()
  const map = new Uint32Array(positions.length / 3)
  const kept: number[] = []
  for (let v = 0; v < map.length; v++) {
    // "+ 0" makes −0 and 0 one place.
    const key = `${positions[3 * v]! + 0},${positions[3 * v + 1]! + 0},${positions[3 * v + 2]! + 0}`
    let at = index.get(key)
    if (at === undefined) {
      at = index.size
      index.set(key, at)
      kept.push(positions[3 * v]!, positions[3 * v + 1]!, positions[3 * v + 2]!)
    }
    map[v] = at
  }
  const out: number[] = []
  for (let i = 0; i < triangles.length; i += 3) {
    const [a, b, c] = [map[triangles[i]!]!, map[triangles[i + 1]!]!, map[triangles[i + 2]!]!]
    if (a !== b && b !== c && c !== a) out.push(a, b, c)
  }
  return { positions: new Float64Array(kept), triangles: new Uint32Array(out) }
}
