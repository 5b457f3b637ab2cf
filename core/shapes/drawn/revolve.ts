import type { Ring, Scope } from '../../kernel/index.ts'
import { segmentsFor } from '../../kernel/index.ts'
import { levelSides, type Vec3 } from '../../place/index.ts'
import {
  type Drawn,
  directionAt,
  dot2,
  endOf,
  type Motion2,
  minus,
  movedBackBy,
  movedBy,
  type Segment,
  startOf,
  turnedBy,
  unit2,
  type Vec2,
} from '../../plane/index.ts'
import { type DimensionLine, defineShape, discReach } from '../define.ts'
import { circleEdge, type ShapeEdge } from '../edges.ts'
import { roundFace } from '../faces.ts'
import { type NamedFace, plainSurfaces, type Surface, surfacesOf } from '../surfaces.ts'
import { isDrawn, nothingIn, outlineField, thickField, type WallKind, wallField } from './common.ts'
import { aboutAxis, profileOf, sidesOf } from './profile.ts'
import { curveAt, stretchesOf } from './stretches.ts'

interface Values {
  readonly outline: Drawn
  readonly axis: string
  readonly angle: number
  readonly surface: 'round' | 'flats'
  readonly flats: number
  readonly over: 'corners' | 'flats'
  readonly smooth: number
  readonly wall: WallKind
  readonly thick: number
  readonly base: number
}

/** An outline turned about one of its lines. */
export const revolve = defineShape({
  kind: 'revolve',
  label: 'revolve',
  words: ['outline', 'turned', 'lathe', 'spin', 'vessel', 'bowl', 'cup', 'vase', 'handle', 'pulley', 'sheave'],
  shelf: 'outlines',
  icon: 'M16 2 V22 M10 4 A6 2 0 0 0 22 4 A6 2 0 0 0 10 4 C10 9 5 12 6 19 A10 3 0 0 0 26 19 C27 12 22 9 22 4',
  operation: 'add',
  seat: 'stands',
  fields: {
    outline: outlineField,
    axis: {
      kind: 'axis',
      of: 'outline',
      label: 'Axis',
      default: 'y-axis',
      meaning: 'The straight line of the drawing that it is turned about; it becomes the upright axis.',
    },
    angle: {
      kind: 'angle',
      label: 'Angle',
      default: '360',
      above: 0,
      most: 360,
      meaning: 'How far it is turned; 360 goes all the way round.',
    },
    surface: {
      kind: 'choice',
      label: 'Surface',
      default: 'round',
      choices: { round: 'round', flats: 'with flats:' },
      meaning: 'Truly round, or with a number of flats.',
      rare: true,
    },
    flats: {
      kind: 'count',
      label: 'Flats',
      default: '8',
      least: 3,
      most: 360,
      meaning: 'How many flats a whole turn has.',
    },
    over: {
      kind: 'choice',
      label: 'Measured',
      default: 'corners',
      choices: { corners: 'over corners', flats: 'across flats' },
      meaning: 'Whether the drawn distance from the axis is that of its corners or of the middle of its flats.',
    },
    smooth: {
      kind: 'count',
      label: 'Smoothing',
      default: '0',
      least: 0,
      most: 6,
      meaning: 'How many times its corners are cut to smooth it; marked points stay sharp. 0 leaves it as drawn.',
      rare: true,
    },
    wall: wallField,
    thick: thickField,
    base: {
      kind: 'length',
      label: 'Flat base',
      default: '0',
      least: 0,
      most: 10_000,
      meaning: 'How much is cut off at its foot for it to stand on; 0 leaves it whole.',
      rare: true,
    },
  },
  quick: ['angle'],
  sentence: (v) => [
    'revolve of',
    { field: 'outline' },
    'about',
    { field: 'axis' },
    'by',
    { field: 'angle' },
    ',',
    { field: 'surface' },
    ...(v.surface === 'flats' ? [{ field: 'flats' }, { field: 'over' }] : []),
    ', smoothing',
    { field: 'smooth' },
    ',',
    { field: 'wall' },
    ...(v.wall === 'filled' ? [] : [{ field: 'thick' }, 'thick']),
    ', its foot cut off at',
    { field: 'base' },
  ],
  impossible(v) {
    const nothing = nothingIn(v.outline, v.wall)
    if (nothing) return nothing
    const axis = v.outline.lines.get(v.axis)
    if (!axis) return { field: 'axis', detail: 'The line that it is turned about is gone; choose another one.' }
    const { left, right } = sidesOf(v.outline, axis)
    if (left > 1e-6 && right > 1e-6) {
      const less = Math.round(Math.min(left, right) * 1000) / 1000
      return { field: 'axis', detail: `The outline crosses its axis by ${less} mm; keep it on one side.` }
    }
    if (Math.max(left, right) < 1e-6)
      return { field: 'axis', detail: 'The outline lies on its axis, so there is nothing to turn.' }
    const [low, high] = heightsOf(v)
    if (v.base >= high - low - 1e-9)
      return {
        field: 'base',
        detail: `It is ${Math.round((high - low) * 1000) / 1000} mm high, and that much is cut off.`,
      }
    return undefined
  },
  box(v) {
    const r = radiusOf(v)
    const [low, high] = heightsOf(v)
    return { min: [-r, -r, low + v.base], max: [r, r, high] }
  },
  reach(v, d) {
    const r = radiusOf(v)
    const [low, high] = heightsOf(v)
    return Math.max(discReach(r, low + v.base, d), discReach(r, high, d))
  },
  surfaces(v) {
    const axis = v.outline.lines.get(v.axis)
    const motion = axis && aboutAxis(v.outline, axis)
    return surfacesOf(surfaceList(v), { at: (p, normal) => (motion ? surfaceAt(v, motion, p, normal) : 'side') })
  },
  edges: (v) => rimsOf(v),
  dimensions: (): readonly DimensionLine[] => [],
  solid(v, { scope, fineness, cuts }) {
    const far = radiusOf(v)
    const whole = v.surface === 'flats' ? v.flats : segmentsFor(far, fineness, cuts)
    // The library makes a whole number of steps of what is turned; their size is that of a whole turn.
    const rings = profile(scope, v, fineness, cuts)
    const corner = 1 / Math.cos(Math.PI / whole)
    const grown =
      v.surface === 'flats'
        ? rings.map((ring) => ring.map(([x, y]): Vec2 => [v.over === 'flats' ? x * corner : x, y]))
        : rings.map((ring) => circumscribed(ring, corner, cuts))
    return scope.revolved(grown, whole, v.angle)
  },
})

/** Fineness that the extents of what is smoothed are measured at, mm. */
const measuredAt = 0.01

function radiusOf(v: Values): number {
  if (!v.outline.lines.has(v.axis)) return 1
  const corner = v.surface === 'flats' && v.over === 'flats' ? 1 / Math.cos(Math.PI / v.flats) : 1
  return profileOf(v, measuredAt, false).reach([1, 0]) * corner
}

function heightsOf(v: Values): readonly [number, number] {
  if (!v.outline.lines.has(v.axis)) return [0, 1]
  const region = profileOf(v, measuredAt, false)
  return [-region.reach([0, -1]), region.reach([0, 1])]
}

/** The region that is turned, in the half-plane right of the axis: x is the distance from it, y the height. */
function profile(scope: Scope, v: Values, fineness: number, cuts: boolean): Ring[] {
  const rings = profileOf(v, fineness, cuts)
    .rings(fineness, cuts)
    .map((ring) => ring.map(([x, y]): Vec2 => [Math.abs(x) < 1e-9 ? 0 : x, y]))
  if (v.wall === 'filled' && v.base === 0) return rings
  const [low, high] = heightsOf(v)
  const far = radiusOf(v) + 1
  const half: Ring = [
    [0, low + v.base],
    [far, low + v.base],
    [far, high + 1],
    [0, high + 1],
  ]
  return scope.commonRegions(rings, [half])
}

/**
 * Corners moved out so that flats touch the true round where it is hollow: of what is added round its bores, of what is cut
 * round its outside.
 */
function circumscribed(ring: Ring, corner: number, cuts: boolean): Ring {
  return ring.map(([x, y], i) => {
    const [a, b] = [ring[(i + ring.length - 1) % ring.length]!, ring[(i + 1) % ring.length]!]
    // Outward normals look to the right of the way.
    const out = (p: Vec2, q: Vec2) => (q[1] - p[1]) / (Math.hypot(q[0] - p[0], q[1] - p[1]) || 1)
    const facing = out(a, [x, y]) + out([x, y], b)
    const hollow = cuts ? facing > 1e-9 : facing < -1e-9
    return hollow ? [x * corner, y] : [x, y]
  })
}

/** The circles that the corners of the profile run along, called by the two curves that meet there. */
function rimsOf(v: Values): ShapeEdge[] {
  const axis = isDrawn(v.outline) ? v.outline.lines.get(v.axis) : undefined
  const round = v.angle === 360 && v.surface === 'round' && v.smooth === 0 && v.wall === 'filled'
  if (!axis || !round) return []
  const [low] = heightsOf(v)
  const motion = aboutAxis(v.outline, axis)
  return v.outline.loops.flatMap(({ segments, curves }) =>
    segments.flatMap((segment, i): ShapeEdge[] => {
      const next = (i + 1) % segments.length
      const [radius, z] = movedBy(motion, endOf(segment))
      // Curves that run on into one another leave no edge.
      const corner = dot2(directionAt(segment, 1), directionAt(segments[next]!, 0)) < 0.9
      if (!corner || radius < 1e-6 || z < low + v.base - 1e-9) return []
      return [circleEdge(`rim ${curves[i]} ${curves[next]}`, 2 * radius)]
    }),
  )
}

/** One for each curve of the profile, the ends of what does not go all the way round, and a foot that was cut. */
function surfaceList(v: Values): Surface[] {
  const faces = facesOf(v)
  const known = new Set(faces.map(({ name }) => name))
  const axis = isDrawn(v.outline) ? v.outline.lines.get(v.axis) : undefined
  const motion = axis && aboutAxis(v.outline, axis)
  const lies = (p: Vec2) => motion !== undefined && Math.abs(movedBy(motion, p)[0]) < 1e-9
  // What lies in the axis makes no surface.
  const turned = isDrawn(v.outline)
    ? stretchesOf(v.outline).filter(({ segment: s }) => !(s.kind === 'line' && lies(startOf(s)) && lies(endOf(s))))
    : []
  const curves = turned.map(({ curve }) => `side ${curve}`)
  const names = [...curves, 'side', ...(v.base > 0 ? ['foot'] : []), ...(v.angle < 360 ? ['start', 'end'] : [])]
  return [...faces, ...plainSurfaces(...new Set(names.filter((name) => !known.has(name))))]
}

function surfaceAt(v: Values, motion: Motion2, p: Vec3, normal: Vec3): string {
  if (v.angle < 360) {
    const rad = (v.angle * Math.PI) / 180
    const ends = { start: [0, -1], end: [-Math.sin(rad), Math.cos(rad)] } as const
    // Walls look that way too, elsewhere.
    for (const [name, [x, y]] of Object.entries(ends))
      if (normal[0] * x + normal[1] * y > 0.999 && Math.abs(p[0] * x + p[1] * y) < 0.01) return name
  }
  if (v.base > 0 && normal[2] < -0.999 && p[2] < heightsOf(v)[0] + v.base + 0.01) return 'foot'
  // Just off the axis, so that of what meets there none that runs along it is meant: it makes no face.
  const beside: Vec2 = [Math.max(Math.hypot(p[0], p[1]), 1e-6), p[2]]
  const curve = curveAt(v.outline, movedBackBy(motion, beside))
  return curve === undefined ? 'side' : `side ${curve}`
}

/** Level and upright lines of the profile are faces, and so are the two ends of what does not go all the way round. */
function facesOf(v: Values): NamedFace[] {
  const axis = isDrawn(v.outline) ? v.outline.lines.get(v.axis) : undefined
  if (!axis || v.smooth > 0 || v.wall !== 'filled') return []
  const [low, high] = heightsOf(v)
  const motion = aboutAxis(v.outline, axis)
  const faces: NamedFace[] = []
  const seen = new Set<string>()
  for (const { segment, curve, chain } of stretchesOf(v.outline)) {
    const name = `side ${curve}`
    if (!chain.closed || seen.has(name) || segment.kind !== 'line') continue
    const [a, b] = [movedBy(motion, startOf(segment)), movedBy(motion, endOf(segment))]
    const outward = outwardIn(motion, segment)
    if (Math.abs(a[1] - b[1]) < 1e-9 && Math.abs(outward[1]) > 0.999 && a[1] > low + v.base - 1e-9) {
      seen.add(name)
      faces.push(levelFace(name, a[1], Math.max(a[0], b[0]), outward[1] > 0))
    } else if (Math.abs(a[0] - b[0]) < 1e-9 && a[0] > 1e-9 && v.surface === 'round') {
      seen.add(name)
      const out = outward[0] > 0 ? 1 : -1
      faces.push(roundFace(name, out * a[0], Math.min(a[1], b[1]), Math.max(a[1], b[1])))
    }
  }
  if (v.base > 0) faces.push(levelFace('foot', low + v.base, radiusOf(v), false))
  if (v.angle < 360) faces.push(...endFaces(v, low + v.base, high))
  return faces
}

function levelFace(name: string, z: number, r: number, up: boolean): NamedFace {
  const frame = up
    ? ({ origin: [0, 0, z], u: [1, 0, 0], v: [0, 1, 0], n: [0, 0, 1] } as const)
    : ({ origin: [0, 0, z], u: [-1, 0, 0], v: [0, 1, 0], n: [0, 0, -1] } as const)
  return {
    name,
    frame,
    size: [2 * r, 2 * r],
    sides: up ? levelSides : { across: ['right', 'left'], along: ['front', 'back'] },
  }
}

/** The outward normal of a stretch in the profile: to the right of its way, or to the left where it is seen mirrored. */
function outwardIn(motion: Motion2, s: Segment): Vec2 {
  const d = unit2(minus(endOf(s), startOf(s)))
  return turnedBy(motion, [d[1], -d[0]])
}

function endFaces(v: Values, low: number, high: number): NamedFace[] {
  const [far, z] = [radiusOf(v), (low + high) / 2]
  const rad = (v.angle * Math.PI) / 180
  const face = (name: string, out: Vec2, n: Vec3): NamedFace => {
    const u: Vec3 = [-n[1], n[0], 0]
    return {
      name,
      frame: { origin: [(out[0] * far) / 2, (out[1] * far) / 2, z], u, v: [0, 0, 1], n },
      size: [far, high - low],
      sides: { across: ['left', 'right'], along: ['bottom', 'top'] },
    }
  }
  return [
    face('start', [1, 0], [0, -1, 0]),
    face('end', [Math.cos(rad), Math.sin(rad)], [-Math.sin(rad), Math.cos(rad), 0]),
  ]
}
