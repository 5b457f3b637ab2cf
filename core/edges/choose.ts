import type { EdgeRule, EdgeTrait, FaceName } from '../fields/index.ts'
import { edgeCalled, isSmooth, type SolidEdge } from '../naming/index.ts'
import { dot, type Vec3 } from '../place/index.ts'

/** Edges that rules find, by their places in the list of all. */
export interface ChosenEdges {
  readonly edges: readonly number[]
  /** the numbers, from 1, of rules that find none, and of those that find nothing but smooth ones */
  readonly none: readonly number[]
  readonly smooth: readonly number[]
}

/** What edges are chosen from: those of a solid, or of its drawing. */
export interface EdgesToChoose {
  readonly edges: readonly SolidEdge[]
  readonly faces: readonly { readonly key: string }[]
  /** x, y, z for each vertex */
  readonly positions: ArrayLike<number>
}

/** `up`: unit, away from the bed, as the solid stands now. */
export function chosenEdges(solid: EdgesToChoose, rules: readonly EdgeRule[], up: Vec3): ChosenEdges {
  const chosen = new Set<number>()
  const [none, smooth]: [number[], number[]] = [[], []]
  const lies = levels(solid, up)
  rules.forEach((rule, i) => {
    const found = foundBy(solid, rule).filter((edge) => rule.traits.every((trait) => lies(edge, trait)))
    const sharp = found.filter((edge) => !isSmooth(solid.edges[edge]!))
    for (const edge of sharp)
      if (rule.less) chosen.delete(edge)
      else chosen.add(edge)
    if (sharp.length === 0 && !rule.less) (found.length > 0 ? smooth : none).push(i + 1)
  })
  return { edges: [...chosen].sort((a, b) => a - b), none, smooth }
}

function foundBy(solid: EdgesToChoose, { where }: EdgeRule): number[] {
  const { edges } = solid
  const all = (holds: (edge: SolidEdge) => boolean) => edges.flatMap((edge, i) => (holds(edge) ? [i] : []))
  const isOf = (name: FaceName) => {
    const faces = solid.faces.map(({ key }) => isCalled(key, name))
    return (face: number) => faces[face]!
  }
  switch (where.kind) {
    case 'all':
      return all(() => true)
    case 'of': {
      const of = isOf(where.of)
      return all(({ faces: [a, b] }) => of(a) || of(b))
    }
    case 'meets': {
      const [one, other] = where.faces.map(isOf) as [(face: number) => boolean, (face: number) => boolean]
      return all(({ faces: [a, b] }) => (one(a) && other(b)) || (one(b) && other(a)))
    }
    case 'rims': {
      const of = isOf({ step: where.step, face: undefined })
      return all(({ faces: [a, b] }) => of(a) !== of(b))
    }
    case 'edge': {
      const found = edgeCalled(edges, where.key)
      return found ? runningOn(edges, edges.indexOf(found)) : []
    }
  }
}

/** The key of a face begins with the kind and id of what it is of, then which copy. */
function isCalled(key: string, { step, face }: FaceName): boolean {
  const [kind, id, , ...name] = key.split('/')
  return kind === 'step' && id === step && (face === undefined || name.join('/') === face)
}

/** An edge with all that go on from it smoothly. */
export function runningOn(edges: readonly SolidEdge[], first: number): number[] {
  const all = [first]
  const seen = new Set(all)
  for (const edge of all)
    for (const next of edges[edge]!.next) {
      const other = edges[next]!
      if (seen.has(next) || isSmooth(other) || other.bend > 0 !== edges[first]!.bend > 0) continue
      seen.add(next)
      all.push(next)
    }
  return all
}

/** Two heights that differ by less are level, mm. */
const level = 1e-3

/** Tells which traits an edge has. */
function levels(solid: EdgesToChoose, up: Vec3): (edge: number, trait: EdgeTrait) => boolean {
  const height = (points: ArrayLike<number>, i: number) =>
    dot([points[3 * i]!, points[3 * i + 1]!, points[3 * i + 2]!], up)
  let bed: number | undefined
  const lowest = () => {
    if (bed === undefined) {
      bed = Number.POSITIVE_INFINITY
      for (let i = 0; i < solid.positions.length / 3; i++) bed = Math.min(bed, height(solid.positions, i))
    }
    return bed
  }
  return (edge, trait) => {
    const { points, bend } = solid.edges[edge]!
    const heights = Array.from({ length: points.length / 3 }, (_, i) => height(points, i))
    const [low, high] = [Math.min(...heights), Math.max(...heights)]
    switch (trait) {
      case 'outer':
        return bend > 0
      case 'inner':
        return bend < 0
      case 'level':
        return high - low < level
      case 'bed':
        return high - lowest() < level
      case 'upright': {
        const sides = Array.from({ length: points.length / 3 }, (_, i) => {
          const p: Vec3 = [
            points[3 * i]! - points[0]!,
            points[3 * i + 1]! - points[1]!,
            points[3 * i + 2]! - points[2]!,
          ]
          return Math.sqrt(Math.max(0, dot(p, p) - dot(p, up) ** 2))
        })
        return high - low > level && Math.max(...sides) < level
      }
    }
  }
}
