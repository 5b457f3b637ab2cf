import { allSteps } from '../document/index.ts'
import type { Kernel, Solid, SolidMesh } from '../kernel/index.ts'
import { areaVector } from '../mesh/index.ts'
import { dot, norm, scaled, unit, world } from '../place/index.ts'
import { type Built, trianglesOf } from '../solids/index.ts'
import type { Mark } from './define.ts'

/** What is thinner is of flats of a round that are laid another way, mm. */
const skin = 0.04

/**
 * What another build of a part has that the first one has not, and the other way round, and where it is in several bodies that were one: to be
 * seen on the drawing.
 */
export function changedMarks(kernel: Kernel, before: Built, after: Built): readonly Mark[] {
  const ids = new Set([...before.pieces, ...after.pieces].map(({ of }) => of))
  const changed = [...ids].flatMap((id) => {
    const [was, is] = [before, after].map(({ pieces }) => solidsOf(pieces, id)) as [readonly Solid[], readonly Solid[]]
    return [...lessMarks(kernel, is, was, 'added'), ...lessMarks(kernel, was, is, 'removed')]
  })
  return [...changed, ...partedMarks(kernel, before, after)]
}

/** All bodies that a piece of the part is. */
function solidsOf(pieces: Built['pieces'], id: string): readonly Solid[] {
  return pieces.flatMap(({ of, solid }) => (of === id && solid ? [solid] : []))
}

function lessMarks(kernel: Kernel, one: readonly Solid[], less: readonly Solid[], as: 'added' | 'removed'): Mark[] {
  if (one.length === 0) return []
  return kernel.scope((scope) => {
    const rest = scope.difference(scope.union(one), less)
    return scope.parts(rest).flatMap((body): Mark[] => {
      if (!((2 * body.volume()) / body.area() > skin)) return []
      const mesh = body.mesh()
      return [trianglesMark(mesh, allOf(mesh), as)]
    })
  })
}

/** So far bodies that touch are pushed into each other to see where they do, mm. */
const pushed = 0.02

/** Where bodies that were not there before were parted from others, by steps that were not there. */
function partedMarks(kernel: Kernel, before: Built, { pieces, plan, resolved }: Built): Mark[] {
  const known = new Set(allSteps(before.resolved.part).map(({ id }) => id))
  const steps = allSteps(resolved.part).filter(({ id }) => !known.has(id))
  const isNew = (id: string) => before.pieces.every(({ piece }) => piece.id !== id)
  return pieces.flatMap((piece): Mark[] => {
    const { solid, of } = piece
    const own = steps.flatMap(({ id }) => trianglesOf(piece, plan, { step: id, face: '' }))
    if (!solid || piece.piece.id === of || !isNew(piece.piece.id) || own.length === 0) return []
    const mesh = solid.mesh()
    const way = unit(
      own.map((t) => areaVector(mesh, t)).reduce((most, each) => (norm(each) > norm(most) ? each : most)),
    )
    // In the plane of the cut there may be faces of others too: what is cut is where both bodies touch.
    const others = own.filter((t) => Math.abs(dot(unit(areaVector(mesh, t)), way)) < flat)
    const touching = kernel.scope((scope) => {
      const beside = pieces.flatMap((each) => (each.of === of && each !== piece && each.solid ? [each.solid] : []))
      const moved = scope.placed(scope.union(beside), { ...world, origin: scaled(way, -pushed) })
      const slab = scope.intersection([moved, solid]).mesh()
      return trianglesMark(slab, allOf(slab), 'removed')
    })
    return [touching, ...(others.length > 0 ? [trianglesMark(mesh, others, 'removed')] : [])]
  })
}
/** Of the cosine between them: what is nearer looks the same way. */
const flat = 0.999

const allOf = ({ triangles }: SolidMesh) => Array.from({ length: triangles.length / 3 }, (_, t) => t)

function trianglesMark({ positions, triangles }: SolidMesh, shown: readonly number[], as: 'added' | 'removed'): Mark {
  const points = Float32Array.from(
    shown.flatMap((t) => [0, 1, 2].flatMap((k) => [0, 1, 2].map((i) => positions[3 * triangles[3 * t + k]! + i]!))),
  )
  return { kind: 'triangles', points, as }
}
