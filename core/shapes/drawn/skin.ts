import type { Ring, Scope, Solid } from '../../kernel/index.ts'
import { add, cross, dot, norm, subtract, type Vec3 } from '../../place/index.ts'
import { ProblemError } from '../../problems/index.ts'

/** Solids of more triangles than this are refused. */
const mostTriangles = 1_500_000

export interface Skin {
  /** rings of a flat region, outer counter-clockwise: how the ends are closed */
  readonly flat: readonly Ring[]
  /** the same for the last section where it differs */
  readonly lastFlat?: readonly Ring[]
  /** where the corners of all rings lie, one list for each section, as the way goes */
  readonly sections: readonly (readonly Vec3[])[]
  /** the last section is followed by the first */
  readonly closed?: boolean
  /** chord tolerance, mm: where a patch between two sections is warped, its flats are broken up until two triangles fit it */
  readonly fineness?: number
}

/**
 * A solid through sections that all have the same corners; several of them where they lie apart. A section seen from where
 * the way goes to is counter-clockwise.
 *
 *       section k + 1   q──────q'      two triangles for each flat:
 *                       │   ╱  │        p p' q'  and  p q' q, by turns with p p' q  and  p' q' q
 *       section k       p──────p'
 *
 * @throws ProblemError too-many-triangles
 */
export function skinned(scope: Scope, given: Skin | readonly Skin[]): Solid {
  const skins = ('sections' in given ? [given] : given).map(broken)
  const count = skins.reduce((sum, { flat, sections }) => sum + 2 * cornersOf(flat) * sections.length, 0)
  if (count > mostTriangles) throw new ProblemError('too-many-triangles', { count })
  const points: Vec3[] = []
  const triangles: [number, number, number][] = []
  for (const skin of skins) {
    const from = points.length
    for (const section of skin.sections) for (const point of section) points.push(point)
    for (const [a, b, c] of stretched(scope, skin)) triangles.push([from + a, from + b, from + c])
  }
  return scope.surface(points, triangles)
}

const cornersOf = (rings: readonly Ring[]) => rings.reduce((sum, ring) => sum + ring.length, 0)

/** The triangles between the corners of its sections, numbered one section after another. */
function stretched(
  scope: Scope,
  { flat, lastFlat = flat, sections, closed = false }: Skin,
): [number, number, number][] {
  const wide = cornersOf(flat)
  const triangles: [number, number, number][] = []
  const last = closed ? sections.length : sections.length - 1
  for (let k = 0; k < last; k++) {
    const [low, high] = [k * wide, ((k + 1) % sections.length) * wide]
    let start = 0
    for (const ring of flat) {
      for (let i = 0; i < ring.length; i++) {
        const [a, b] = [start + i, start + ((i + 1) % ring.length)]
        // Turn and turn about, so that what one diagonal adds to a warped patch the next one takes away.
        if ((k + i) % 2 === 0) triangles.push([low + a, low + b, high + b], [low + a, high + b, high + a])
        else triangles.push([low + a, low + b, high + a], [low + b, high + b, high + a])
      }
      start += ring.length
    }
  }
  if (!closed) {
    const top = (sections.length - 1) * wide
    for (const [a, b, c] of scope.triangulated(flat)) triangles.push([a, c, b])
    for (const [a, b, c] of scope.triangulated(lastFlat)) triangles.push([top + a, top + b, top + c])
  }
  return triangles
}

/** No flat is broken into more pieces than this. */
const mostPieces = 64

/**
 * How far the middle of a patch between p p' and q q' lies off the two triangles that stand for it: a quarter of
 * p + q' − p' − q, as far as that is square to the patch. Half as much when the flat is halved; nothing for a flat patch.
 */
function warp(p: Vec3, p2: Vec3, q: Vec3, q2: Vec3): number {
  const across = cross(subtract(q2, p), subtract(p2, q))
  const size = norm(across)
  return size < 1e-12 ? 0 : Math.abs(dot(subtract(add(p, q2), add(p2, q)), across)) / size / 4
}

function broken(skin: Skin): Skin {
  const { flat, lastFlat = flat, sections, closed = false, fineness } = skin
  if (fineness === undefined) return skin
  const last = closed ? sections.length : sections.length - 1
  let start = 0
  const pieces = flat.map((ring) => {
    const own = ring.map((_, i) => {
      const [a, b] = [start + i, start + ((i + 1) % ring.length)]
      let most = 0
      for (let k = 0; k < last; k++) {
        const [low, high] = [sections[k]!, sections[(k + 1) % sections.length]!]
        most = Math.max(most, warp(low[a]!, low[b]!, high[a]!, high[b]!))
      }
      return Math.min(mostPieces, Math.max(1, Math.ceil(most / fineness)))
    })
    start += ring.length
    return own
  })
  if (pieces.every((own) => own.every((count) => count === 1))) return skin
  const split = <P extends readonly number[]>(ring: readonly P[], own: readonly number[]): P[] =>
    ring.flatMap((p, i) => {
      const next = ring[(i + 1) % ring.length]!
      return Array.from({ length: own[i]! }, (_, k) =>
        k === 0 ? p : (p.map((x, axis) => x + ((next[axis]! - x) * k) / own[i]!) as unknown as P),
      )
    })
  const rings = (all: readonly Ring[]) => all.map((ring, r) => split(ring, pieces[r]!))
  const through = (section: readonly Vec3[]) => {
    let from = 0
    return flat.flatMap((ring, r) => {
      const own = section.slice(from, from + ring.length)
      from += ring.length
      return split(own, pieces[r]!)
    })
  }
  return { ...skin, flat: rings(flat), lastFlat: rings(lastFlat), sections: sections.map(through) }
}
