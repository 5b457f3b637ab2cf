import { size } from '../../fields/index.ts'
import { arc, type Scope, type Solid, segmentsFor } from '../../kernel/index.ts'
import { dot, type Frame, pointOut, subtract, type Vec3 } from '../../place/index.ts'
import { ProblemError } from '../../problems/index.ts'
import { defineShape } from '../define.ts'
import { cloudOf, cloudReach } from '../drawn/cloud.ts'
import { plainSurfaces, surfacesOf } from '../surfaces.ts'

interface Values {
  readonly outer: number
  readonly wire: number
  readonly across: number
  readonly along: number
}

/**
 * Rings that hang in one another, in a grid, printed in place: each leans by 45°, those of every other row the other way and half a ring
 * aside, so that it goes through four others. All stand on a small flat, and print without support.
 */
export const chainMail = defineShape({
  kind: 'chain-mail',
  label: 'chain mail',
  words: ['ring mesh', 'linked rings', 'ring fabric', 'chain', 'mail'],
  shelf: 'machine',
  icon: 'M3 8 A5 4 0 1 1 13 8 A5 4 0 1 1 3 8 M11 15 A5 4 0 1 1 21 15 A5 4 0 1 1 11 15 M19 8 A5 4 0 1 1 29 8 A5 4 0 1 1 19 8',
  operation: 'add',
  seat: 'stands',
  loose: true,
  fields: {
    outer: size('Ring diameter', '14', 'Diameter over the outside of each ring.'),
    wire: size('Wire', '2', 'Thickness of each ring.'),
    across: {
      kind: 'count',
      label: 'Across',
      default: '4',
      least: 1,
      most: 60,
      meaning: 'Number of rings in each row.',
    },
    along: { kind: 'count', label: 'Rows', default: '6', least: 1, most: 60, meaning: 'Number of rows.' },
  },
  quick: ['outer', 'wire', 'across', 'along'],
  sentence: () => [
    'chain mail of rings ⌀',
    { field: 'outer' },
    ', their wire',
    { field: 'wire' },
    'thick,',
    { field: 'across' },
    'in each of',
    { field: 'along' },
    'rows',
  ],
  impossible(v) {
    if (gapOf(v) >= leastGap) return undefined
    const most = Math.floor((100 * (closest * v.outer - 2 * leastGap)) / (2 + closest)) / 100
    return {
      field: 'wire',
      detail: `Its rings would fuse, ${Number(Math.max(0, gapOf(v)).toFixed(2))} mm apart: ${Math.max(0, most)} mm at most.`,
      ...(most > 0 ? { nearest: { field: 'wire', value: most } } : {}),
    }
  },
  box: (v) => {
    const [x, y] = half(v)
    return { min: [-x, -y, 0], max: [x, y, high(v)] }
  },
  reach(v, d) {
    const hulls = cloudsOf(v)
    return ringsOf(v).reduce((most, { at, lean }) => Math.max(most, dot(at, d) + hulls[lean](d)), -Infinity)
  },
  // Each ring by itself, with its foot.
  surfaces: (v) =>
    surfacesOf(plainSurfaces(...ringsOf(v).flatMap((_, i) => [`ring ${i + 1}`, `foot ${i + 1}`])), {
      at: (p, n) => `${p[2] < 1e-3 && n[2] < -0.99 ? 'foot' : 'ring'} ${nearestRing(v, p) + 1}`,
    }),
  dimensions: (v) => {
    const { at } = ringsOf(v)[0]!
    return [
      {
        ...{ kind: 'linear', field: 'outer', from: [at[0] - v.outer / 2, at[1], at[2]] },
        ...{ to: [at[0] + v.outer / 2, at[1], at[2]], offset: [0, -1, 0] },
      },
    ]
  },
  solid(v, { scope, fineness }) {
    const rings = ringsOf(v)
    const each = segmentsFor(v.outer / 2, fineness) * segmentsFor(v.wire / 2, fineness) * 2
    if (each * rings.length > mostTriangles)
      throw new ProblemError('too-many-triangles', { count: each * rings.length })
    const kinds = { back: ring(v, 'back', scope, fineness), front: ring(v, 'front', scope, fineness) }
    return scope.union(rings.map(({ at, lean }) => scope.placed(kinds[lean], standing(at))))
  },
})

const mostTriangles = 1_500_000

type Lean = 'back' | 'front'

/** From ring to ring in a row, and from row to row, by the radius of the middle of a wire: as far as all of them are apart for that. */
const [pitch, rows] = [2.47, 0.55]
/** How near the middles of two wires then come, by that radius. */
const closest = 0.4659
/** Rings fuse on any printer that are nearer, mm. */
const leastGap = 0.25
/** How much of a wire its foot takes away. */
const foot = 0.15

const middle = (v: Values) => (v.outer - v.wire) / 2
const gapOf = (v: Values) => closest * middle(v) - v.wire
/** Height of the middle of a ring above its foot. */
const level = (v: Values) => middle(v) * Math.SQRT1_2 + v.wire / 2 - foot * v.wire
const high = (v: Values) => level(v) + middle(v) * Math.SQRT1_2 + v.wire / 2

/** Half of its whole width and depth. */
function half(v: Values): readonly [number, number] {
  const aside = v.along > 1 ? 0.5 : 0
  return [
    ((v.across - 1 + aside) * pitch * middle(v) + v.outer) / 2,
    ((v.along - 1) * rows * middle(v)) / 2 + middle(v) * Math.SQRT1_2 + v.wire / 2,
  ]
}

/** The middle of the first ring, from above. */
function start(v: Values): readonly [number, number] {
  const [x, y] = half(v)
  return [-x + v.outer / 2, -y + middle(v) * Math.SQRT1_2 + v.wire / 2]
}

/** The middle of each ring, and which way it leans. */
function ringsOf(v: Values): { readonly at: Vec3; readonly lean: Lean }[] {
  const [x, y] = start(v)
  return Array.from({ length: v.along }, (_, row) =>
    Array.from({ length: v.across }, (_, column) => ({
      at: [x + (column + (row % 2) / 2) * pitch * middle(v), y + row * rows * middle(v), level(v)] as Vec3,
      lean: row % 2 === 0 ? ('back' as const) : ('front' as const),
    })),
  ).flat()
}

const standing = (at: Vec3): Frame => ({ origin: at, u: [1, 0, 0], v: [0, 1, 0], n: [0, 0, 1] })

/** The ring that a point is on, by its number: the nearest of those whose box it may be in. */
function nearestRing(v: Values, p: Vec3): number {
  const [x, y] = start(v)
  const reach = v.outer / 2
  const step = rows * middle(v)
  const near = (from: number, by: number, most: number) => [
    Math.max(0, Math.ceil((from - reach) / by)),
    Math.min(most - 1, Math.floor((from + reach) / by)),
  ]
  let best = { ring: 0, away: Number.POSITIVE_INFINITY }
  const [firstRow, lastRow] = near(p[1] - y, step, v.along) as [number, number]
  for (let row = firstRow; row <= lastRow; row++) {
    const aside = x + ((row % 2) / 2) * pitch * middle(v)
    const [first, last] = near(p[0] - aside, pitch * middle(v), v.across) as [number, number]
    for (let column = first; column <= last; column++) {
      const q = subtract(p, [aside + column * pitch * middle(v), y + row * step, level(v)])
      const { u, v: up, n } = leaning(row % 2 === 0 ? 'back' : 'front')
      const away = Math.hypot(Math.hypot(dot(q, u), dot(q, up)) - middle(v), dot(q, n))
      if (away < best.away) best = { ring: row * v.across + column, away }
    }
  }
  return best.ring
}

/** The plane of a ring about its middle. */
function leaning(lean: Lean): Frame {
  const s = lean === 'back' ? Math.SQRT1_2 : -Math.SQRT1_2
  return { origin: [0, 0, 0], u: [1, 0, 0], v: [0, Math.SQRT1_2, s], n: [0, -s, Math.SQRT1_2] }
}

function ring(v: Values, lean: Lean, scope: Scope, fineness: number): Solid {
  const section = arc(middle(v), 0, v.wire / 2, 0, 360, segmentsFor(v.wire / 2, fineness)).slice(0, -1)
  const whole = scope.placed(scope.revolve(section, segmentsFor(v.outer / 2, fineness)), leaning(lean))
  return scope.trimmed(whole, [0, 0, 1], -level(v))
}

/** How far a ring that leans so reaches from its middle: that of a dense one, cut off at its foot. Both are mirror images in y. */
function cloudsOf(v: Values): Readonly<Record<Lean, (d: Vec3) => number>> {
  const back = cloudOf(v, () => densePoints(v))
  return { back: (d) => cloudReach(back, d), front: ([x, y, z]) => cloudReach(back, [x, -y, z]) }
}

function densePoints(v: Values): Vec3[] {
  const [around, across] = [360, 96]
  const frame = leaning('back')
  const out: Vec3[] = []
  for (let i = 0; i < around; i++) {
    const at = (2 * Math.PI * i) / around
    const circle = Array.from({ length: across }, (_, k): Vec3 => {
      const turn = (2 * Math.PI * k) / across
      const far = middle(v) + (v.wire / 2) * Math.cos(turn)
      return pointOut(frame, [far * Math.cos(at), far * Math.sin(at), (v.wire / 2) * Math.sin(turn)])
    })
    circle.forEach((p, k) => {
      const q = circle[(k + 1) % across]!
      const [a, b] = [p[2] + level(v), q[2] + level(v)]
      if (a >= 0) out.push(p)
      const share = a / (a - b)
      if (a < 0 !== b < 0) out.push([p[0] + share * (q[0] - p[0]), p[1] + share * (q[1] - p[1]), -level(v)])
    })
  }
  return out
}
