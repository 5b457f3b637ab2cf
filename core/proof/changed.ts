import type { Kernel, Solid } from '../kernel/index.ts'
import type { Built } from '../solids/index.ts'
import type { Mark } from './define.ts'

/** What is thinner is of flats of a round that are laid another way, mm. */
const skin = 0.04

/** What another build of a part has that the first one has not, and the other way round: to be seen on the drawing. */
export function changedMarks(kernel: Kernel, before: Built, after: Built): readonly Mark[] {
  const ids = new Set([...before.pieces, ...after.pieces].map(({ piece }) => piece.id))
  return [...ids].flatMap((id) => {
    const [was, is] = [before, after].map(({ pieces }) => pieces.find(({ piece }) => piece.id === id)?.solid)
    return [...lessMarks(kernel, is, was, 'added'), ...lessMarks(kernel, was, is, 'removed')]
  })
}

function lessMarks(kernel: Kernel, one: Solid | undefined, less: Solid | undefined, as: 'added' | 'removed'): Mark[] {
  if (!one) return []
  return kernel.scope((scope) => {
    const rest = less ? scope.difference(one, [less]) : one
    return scope.parts(rest).flatMap((body): Mark[] => {
      if (!((2 * body.volume()) / body.area() > skin)) return []
      const { positions, triangles } = body.mesh()
      const points = Float32Array.from({ length: 3 * triangles.length }, (_, i) => {
        return positions[3 * triangles[Math.floor(i / 3)]! + (i % 3)]!
      })
      return [{ kind: 'triangles', points, as }]
    })
  })
}
