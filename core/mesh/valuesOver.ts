import { norm, subtract, type Vec3 } from '../place/index.ts'
import type { TriangleMesh } from './define.ts'
import { cornersOf } from './tree.ts'

/** A surface with a value at each corner of its triangles. */
export interface SurfaceValues {
  /** x, y, z of three corners a triangle, mm */
  readonly points: Float32Array
  /** one a corner */
  readonly values: Float32Array
}

interface OverOptions {
  /** Only what is below is looked at closely, and told. */
  readonly below: number
  /** sides are at most so long where the value is below, an eighth of that where it does not run straight along them, mm */
  readonly side: number
  /** triangles that are not told, by a place of them; all are where it is left out */
  readonly isTold?: (place: Vec3, triangle: number) => boolean
  /** what is told of a corner of a triangle where that is more than what it was looked for by */
  readonly told?: (place: Vec3, triangle: number, value: number) => number
  readonly pause?: () => Promise<void>
}

/** A side along which the value is off a straight line by this share of what is looked at is halved. */
const bending = 0.04
/** So many triangles are enough for a picture; parting ends there. */
const enough = 30_000
/** So many triangles are looked at between two turns of others: some ms. */
const betweenTurns = 200

/**
 * A value that changes by no more than 1 a mm, over the triangles of a mesh: sides are halved until they are short, or the value runs
 * straight along them. Whether one is halved is asked of the side alone, so neighbours agree and no gaps come up between them.
 */
export async function valuesOver(
  mesh: TriangleMesh,
  value: (place: Vec3) => number,
  { below, side, isTold, told, pause }: OverOptions,
): Promise<SurfaceValues> {
  const places: Vec3[] = []
  const values: number[] = []
  const add = (place: Vec3) => {
    places.push(place)
    values.push(value(place))
    return places.length - 1
  }
  const apart = (a: number, b: number) => norm(subtract(places[a]!, places[b]!))
  const known = new Map<string, number | undefined>()
  /** The middle of a side that is to be parted. */
  const halfOf = (a: number, b: number): number | undefined => {
    const key = a < b ? `${a} ${b}` : `${b} ${a}`
    if (known.has(key)) return known.get(key)
    const long = apart(a, b)
    let half: number | undefined
    // No place of a triangle is farther from either end of its longest side than that is long.
    if (long > side / 8 && Math.min(values[a]!, values[b]!) - long < below) {
      const [p, q] = [places[a]!, places[b]!]
      const middle = add([(p[0] + q[0]) / 2, (p[1] + q[1]) / 2, (p[2] + q[2]) / 2])
      const bends = Math.abs(values[middle]! - (values[a]! + values[b]!) / 2) > bending * below
      if (long > side || bends) half = middle
    }
    known.set(key, half)
    return half
  }

  const cornerOf = new Map<number, number>()
  const cornerAt = (t: number, c: number, corners: Float64Array) => {
    const v = mesh.triangles[3 * t + c]!
    let at = cornerOf.get(v)
    if (at === undefined) {
      at = add([corners[3 * c]!, corners[3 * c + 1]!, corners[3 * c + 2]!])
      cornerOf.set(v, at)
    }
    return at
  }
  /** All that a side is parted at, in their order. */
  const along = (a: number, b: number): number[] => {
    const half = halfOf(a, b)
    return half === undefined ? [] : [...along(a, half), half, ...along(half, b)]
  }
  const out: { readonly of: number; readonly corners: Corners }[] = []
  const corners = new Float64Array(9)
  let looked = 0
  const isFull = () => out.length > enough
  for (let t = 0; t < mesh.triangles.length / 3; t++) {
    cornersOf({ mesh }, t, corners)
    const open: Corners[] = [[cornerAt(t, 0, corners), cornerAt(t, 1, corners), cornerAt(t, 2, corners)]]
    while (open.length > 0) {
      if (looked++ % betweenTurns === 0) await pause?.()
      const triangle = open.pop()!
      const [a, b, c] = triangle
      const halves = isFull() ? [] : [halfOf(a, b), halfOf(b, c), halfOf(c, a)]
      const [ab, bc, ca] = halves
      if (ab !== undefined && bc !== undefined && ca !== undefined)
        open.push([a, ab, ca], [ab, b, bc], [ca, bc, c], [ab, bc, ca])
      else if (halves.some((half) => half !== undefined)) {
        // Seen from the corner across from a side that stays whole, a long thin triangle is a row of short ones.
        const [p, q, r]: Corners = bc === undefined ? [a, b, c] : ca === undefined ? [b, c, a] : [c, a, b]
        open.push(...rowOf([p, ...along(p, q), q], [p, ...along(p, r), r], apart))
      } else if (triangle.some((at) => values[at]! < below)) out.push({ of: t, corners: triangle })
    }
  }
  const kept = isTold
    ? out.filter(({ of, corners: [a, b, c] }) => isTold(middleOf(places[a]!, places[b]!, places[c]!), of))
    : out
  const result = { points: new Float32Array(9 * kept.length), values: new Float32Array(3 * kept.length) }
  for (const [i, { of, corners: own }] of kept.entries())
    for (const [k, at] of own.entries()) {
      result.points.set(places[at]!, 9 * i + 3 * k)
      result.values[3 * i + k] = told ? told(places[at]!, of, values[at]!) : values[at]!
    }
  return result
}

type Corners = readonly [number, number, number]

/** The triangles between two rows of corners that begin at the same one. */
function rowOf(left: readonly number[], right: readonly number[], apart: (a: number, b: number) => number): Corners[] {
  const out: Corners[] = []
  let [i, k] = [left.length - 1, right.length - 1]
  while (i > 1 || k > 1) {
    const isLeft = k === 1 || (i > 1 && apart(left[i - 1]!, right[k]!) < apart(left[i]!, right[k - 1]!))
    out.push(isLeft ? [left[i - 1]!, left[i]!, right[k]!] : [right[k - 1]!, left[i]!, right[k]!])
    if (isLeft) i--
    else k--
  }
  return [...out, [left[0]!, left[1]!, right[1]!]]
}

function middleOf(a: Vec3, b: Vec3, c: Vec3): Vec3 {
  return [(a[0] + b[0] + c[0]) / 3, (a[1] + b[1] + c[1]) / 3, (a[2] + b[2] + c[2]) / 3]
}
