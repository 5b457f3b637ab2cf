import type { Outline, Part } from '@makrel/core/document'
import { pointIn } from '@makrel/core/place'
import type { Vec2 } from '@makrel/core/plane'
import { planeOf } from '@makrel/core/planning'
import { useMemo } from 'react'
import type { PieceMesh } from '../channel/protocol.ts'
import { useBuild, workedOf } from '../state/build.ts'
import { usePart } from '../state/part.ts'

/** More edges of a piece than this are not drawn behind an outline: they would hide it, and cost time. */
const mostEdges = 12_000

export type FlatEdge = readonly [Vec2, Vec2]

/** The drawn edges of the part as they are seen on the plane of an outline, mm; undefined where its plane is not known. */
export function usePartEdges({ on }: Pick<Outline, 'on'>): readonly FlatEdge[] | undefined {
  const pieces = useBuild((state) => state.pieces)
  const part = usePart((state) => state.part!)
  return useMemo(() => edgesOn(part, on, pieces), [pieces, part, on])
}

export function edgesOn(
  part: Part,
  on: Outline['on'],
  pieces: readonly Pick<PieceMesh, 'mesh'>[],
): readonly FlatEdge[] | undefined {
  const plane = planeOf({ on }, workedOf(part).plan)
  if (!plane) return undefined
  return pieces.flatMap(({ mesh }) => {
    const edges = mesh?.edges ?? new Float32Array()
    if (edges.length / 6 > mostEdges) return []
    const end = (at: number): Vec2 => {
      const [x, y] = pointIn(plane, [edges[at]!, edges[at + 1]!, edges[at + 2]!])
      return [x, y]
    }
    return Array.from({ length: edges.length / 6 }, (_, i) => [end(6 * i), end(6 * i + 3)] as const)
  })
}
