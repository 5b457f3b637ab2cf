import { size } from '../../fields/index.ts'
import { uprightSides, type Vec3 } from '../../place/index.ts'
import { asCubics, Drawn, endOf, pointAt, spreadReach, startOf, type Vec2 } from '../../plane/index.ts'

import type { ShapeEdge } from '../edges.ts'
import { bottomFace, topFace } from '../faces.ts'
import { type NamedFace, plainSurfaces, type Surface, type Surfaces, surfacesOf } from '../surfaces.ts'
import { curveAt, stretchesOf } from './stretches.ts'

/** What shapes that are made from one outline have in common. */
export const outlineField = {
  kind: 'outline',
  label: 'Outline',
  default: '',
  meaning: 'The drawing that it is made from: its filled regions.',
} as const

export const wallField = {
  kind: 'choice',
  label: 'Filled or a wall',
  default: 'filled',
  choices: {
    filled: 'filled',
    inside: 'as a wall inside',
    middle: 'as a wall along',
    outside: 'as a wall outside',
  },
  meaning: 'The whole region, or a wall along its lines; open lines can only be walls.',
  rare: true,
} as const
export const thickField = size('Thickness of the wall', '1.2', 'How thick the wall is.')

export type WallKind = keyof typeof wallField.choices

/** Before its values are known a sentence gets something else in its place. */
export function isDrawn(value: unknown): value is Drawn {
  return value instanceof Drawn
}

/** Why an outline gives nothing to make a shape of; undefined where it does. */
export function nothingIn(
  outline: Drawn,
  wall: WallKind = 'filled',
): { readonly field: 'outline'; readonly detail: string } | undefined {
  if (outline.loops.length > 0 || (wall !== 'filled' && outline.open.length > 0)) return undefined
  const detail =
    outline.open.length > 0
      ? 'This outline closes off no region: join its open ends, or make a wall along its lines.'
      : 'This outline has no filled region; draw something closed, or take a region that was left out.'
  return { field: 'outline', detail }
}

/** The extents of an outline across and along, and how far it spreads `beyond` them. */
export function extentsOf(outline: Drawn, beyond = 0): { readonly min: Vec2; readonly max: Vec2 } {
  const reach = (d: Vec2) => levelReach(outline, beyond, d)
  return { min: [-reach([-1, 0]), -reach([0, -1])], max: [reach([1, 0]), reach([0, 1])] }
}

/** How far a drawing reaches from its origin, mm. */
export function farthestOf(outline: Drawn): number {
  const { min, max } = extentsOf(outline)
  return Math.max(...[min[0], max[0]].flatMap((x) => [min[1], max[1]].map((y) => Math.hypot(x, y))))
}

/** The support of a prism over an outline between two heights, whose sides lean out `beyond` mm on the way from foot to head. */
export function drawnReach(outline: Drawn, beyond: number, low: number, high: number, d: Vec3): number {
  const flat: Vec2 = [d[0], d[1]]
  return Math.max(levelReach(outline, 0, flat) + low * d[2], levelReach(outline, beyond, flat) + high * d[2])
}

/** How far an outline reaches once its sides lean out by `beyond` mm; 0 for an empty one. */
function levelReach(outline: Drawn, beyond: number, d: Vec2): number {
  const far = beyond > 0 ? spreadReach(outline.loops, beyond, d) : outline.reach(d)
  return Number.isFinite(far) ? far : 0
}

/**
 * The faces of a prism over an outline: its ends, and one over each line and arc, called by the curve that was drawn.
 * Material lies to the left of the loops, so the outward normal looks to the right.
 */
export function prismFaces(outline: Drawn, low: number, high: number): NamedFace[] {
  const { min, max } = extentsOf(outline)
  const middle = [(min[0] + max[0]) / 2, (min[1] + max[1]) / 2] as const
  const [width, depth] = [max[0] - min[0], max[1] - min[1]]
  const level = (face: NamedFace): NamedFace => ({
    ...face,
    frame: { ...face.frame, origin: [middle[0], middle[1], face.frame.origin[2]] },
  })
  const seen = new Set<string>()
  const sides = stretchesOf(outline).flatMap(({ segment, curve, chain }): NamedFace[] => {
    const name = `side ${curve}`
    if (!chain.closed || seen.has(name) || (segment.kind !== 'line' && segment.kind !== 'arc')) return []
    seen.add(name)
    const z = (low + high) / 2
    const at = pointAt(segment, 0.5)
    if (segment.kind === 'line') {
      const [a, b] = [startOf(segment), endOf(segment)]
      const long = Math.hypot(b[0] - a[0], b[1] - a[1])
      const u: Vec3 = [(b[0] - a[0]) / long, (b[1] - a[1]) / long, 0]
      return [
        {
          name,
          frame: { origin: [at[0], at[1], z], u, v: [0, 0, 1], n: [u[1], -u[0], 0] },
          size: [long, high - low],
          sides: uprightSides,
        },
      ]
    }
    // Bending left, material lies towards the middle: a round; bending right, a bore.
    const out = Math.sign(segment.sweepRad)
    const n: Vec3 = [
      (out * (at[0] - segment.centre[0])) / segment.radius,
      (out * (at[1] - segment.centre[1])) / segment.radius,
      0,
    ]
    return [
      {
        name,
        frame: { origin: [at[0], at[1], z], u: [-n[1], n[0], 0], v: [0, 0, 1], n },
        size: [segment.radius * Math.abs(segment.sweepRad), high - low],
        sides: uprightSides,
        round: out * segment.radius,
      },
    ]
  })
  return [level(topFace(high, width, depth)), level(bottomFace(low, width, depth)), ...sides]
}

/**
 * The edges of a prism over an outline, called by what bounds them and the curves that were drawn; further stretches of one
 * are numbered.
 */
export function prismEdges(outline: Drawn, called = 'side'): ShapeEdge[] {
  const times = new Map<string, number>()
  return outline.loops.flatMap(({ segments, curves }) =>
    segments.flatMap((segment, i) => {
      const known = times.get(curves[i]!) ?? 0
      // An ellipse that is not whole goes over as cubics.
      const whole = segment.kind !== 'ellipse' || Math.abs(segment.sweepRad) > 2 * Math.PI - 1e-9
      const parts = whole ? [segment] : asCubics(segment)
      times.set(curves[i]!, known + parts.length)
      return parts.map((part, k) => {
        const number = known + k + 1
        return { name: `${called} ${curves[i]}${number > 1 ? ` ${number}` : ''}`, segment: part }
      })
    }),
  )
}

/** The surfaces of a prism over an outline: `faces`, those of its ends among them, and one for each curve that is not. */
export function prismSurfaces(
  outline: Drawn,
  faces: readonly Surface[],
  [top, bottom]: readonly [string, string] = ['top', 'bottom'],
): Surfaces {
  const known = new Set(faces.map(({ name }) => name))
  const curves = new Set(stretchesOf(outline).map(({ curve }) => `side ${curve}`))
  const sides = [...curves, 'side'].filter((name) => !known.has(name))
  return surfacesOf([...faces, ...plainSurfaces(...sides)], {
    at(p, normal) {
      if (Math.abs(normal[2]) > 0.999) return normal[2] > 0 ? top : bottom
      return `side ${curveAt(outline, [p[0], p[1]]) ?? ''}`.trim()
    },
  })
}
