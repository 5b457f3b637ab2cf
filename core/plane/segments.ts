import {
  between2,
  cross2,
  dot2,
  leftOf,
  type Motion2,
  minus,
  movedBy,
  norm2,
  plus,
  times,
  turnedBy,
  unit2,
  type Vec2,
} from './vectors.ts'

/**
 * True curves of the plane, each run through as t goes from 0 to 1. Angles are in radians and counted counter-clockwise;
 * a negative sweep runs clockwise.
 */
export type Segment = LineSegment | ArcSegment | EllipseSegment | CubicSegment
export interface LineSegment {
  readonly kind: 'line'
  readonly from: Vec2
  readonly to: Vec2
}
export interface ArcSegment {
  readonly kind: 'arc'
  readonly centre: Vec2
  readonly radius: number
  readonly startRad: number
  readonly sweepRad: number
}
/** centre + major·cos θ + minor·sin θ; the two half axes stand square to each other. */
export interface EllipseSegment {
  readonly kind: 'ellipse'
  readonly centre: Vec2
  readonly major: Vec2
  readonly minor: Vec2
  readonly startRad: number
  readonly sweepRad: number
}
/** Bézier: the ends and the two points between that pull it. */
export interface CubicSegment {
  readonly kind: 'cubic'
  readonly points: readonly [Vec2, Vec2, Vec2, Vec2]
}

export function line(from: Vec2, to: Vec2): LineSegment {
  return { kind: 'line', from, to }
}

/** The arc about `centre` from `from` to the direction of `to`. */
export function arcBetween(centre: Vec2, from: Vec2, to: Vec2, counterClockwise: boolean): ArcSegment {
  const [a, b] = [minus(from, centre), minus(to, centre)]
  const startRad = Math.atan2(a[1], a[0])
  const turn = Math.atan2(b[1], b[0]) - startRad
  const whole = 2 * Math.PI
  const left = ((turn % whole) + whole) % whole
  // Ends that fall together bound a whole circle.
  const sweepRad = counterClockwise
    ? left < 1e-12
      ? whole
      : left
    : left > whole - 1e-12 || left === 0
      ? -whole
      : left - whole
  return { kind: 'arc', centre, radius: norm2(a), startRad, sweepRad }
}

export function circleSegment(centre: Vec2, radius: number): ArcSegment {
  return { kind: 'arc', centre, radius, startRad: 0, sweepRad: 2 * Math.PI }
}

/** The arc through three points; undefined where they lie on a line. */
export function arcThrough(from: Vec2, via: Vec2, to: Vec2): ArcSegment | undefined {
  const [a, b] = [minus(via, from), minus(to, from)]
  const twice = 2 * cross2(a, b)
  if (Math.abs(twice) < 1e-12 * (dot2(a, a) + dot2(b, b) + 1e-30)) return undefined
  const centre: Vec2 = [
    from[0] + (b[1] * dot2(a, a) - a[1] * dot2(b, b)) / twice,
    from[1] + (a[0] * dot2(b, b) - b[0] * dot2(a, a)) / twice,
  ]
  return arcBetween(centre, from, to, twice > 0)
}

/** At an ellipse's own angle, which is that of its circle before it was flattened. */
function onEllipse({ centre, major, minor }: EllipseSegment, rad: number): Vec2 {
  const [c, s] = [Math.cos(rad), Math.sin(rad)]
  return [centre[0] + major[0] * c + minor[0] * s, centre[1] + major[1] * c + minor[1] * s]
}

export function pointAt(s: Segment, t: number): Vec2 {
  switch (s.kind) {
    case 'line':
      return between2(s.from, s.to, t)
    case 'arc': {
      const rad = s.startRad + s.sweepRad * t
      return [s.centre[0] + s.radius * Math.cos(rad), s.centre[1] + s.radius * Math.sin(rad)]
    }
    case 'ellipse':
      return onEllipse(s, s.startRad + s.sweepRad * t)
    case 'cubic': {
      const [a, b, c, d] = s.points
      const u = 1 - t
      const w = [u * u * u, 3 * u * u * t, 3 * u * t * t, t * t * t] as const
      return [0, 1].map((i) => w[0] * a[i]! + w[1] * b[i]! + w[2] * c[i]! + w[3] * d[i]!) as unknown as Vec2
    }
  }
}

/** Change of the point with t. */
export function derivativeAt(s: Segment, t: number): Vec2 {
  switch (s.kind) {
    case 'line':
      return minus(s.to, s.from)
    case 'arc': {
      const rad = s.startRad + s.sweepRad * t
      const speed = s.radius * s.sweepRad
      return [-speed * Math.sin(rad), speed * Math.cos(rad)]
    }
    case 'ellipse': {
      const rad = s.startRad + s.sweepRad * t
      return times(plus(times(s.major, -Math.sin(rad)), times(s.minor, Math.cos(rad))), s.sweepRad)
    }
    case 'cubic': {
      const [a, b, c, d] = s.points
      const u = 1 - t
      const legs = [minus(b, a), minus(c, b), minus(d, c)] as const
      return plus(plus(times(legs[0], 3 * u * u), times(legs[1], 6 * u * t)), times(legs[2], 3 * t * t))
    }
  }
}

/** Second change of the point with t. */
function secondAt(s: Segment, t: number): Vec2 {
  switch (s.kind) {
    case 'line':
      return [0, 0]
    case 'arc':
      return times(minus(pointAt(s, t), s.centre), -(s.sweepRad ** 2))
    case 'ellipse':
      return times(minus(pointAt(s, t), s.centre), -(s.sweepRad ** 2))
    case 'cubic': {
      const [a, b, c, d] = s.points
      const [one, two] = [minus(plus(a, c), times(b, 2)), minus(plus(b, d), times(c, 2))]
      return plus(times(one, 6 * (1 - t)), times(two, 6 * t))
    }
  }
}

/** Unit direction of travel; where a cubic stands still at its end, that of the way on. */
export function directionAt(s: Segment, t: number): Vec2 {
  const d = derivativeAt(s, t)
  if (norm2(d) > 1e-12) return unit2(d)
  const near = Math.min(1, Math.max(0, t < 0.5 ? t + 1e-5 : t - 1e-5))
  return unit2(t < 0.5 ? minus(pointAt(s, near), pointAt(s, t)) : minus(pointAt(s, t), pointAt(s, near)))
}

/** 1/mm, positive where it turns to the left. */
export function curvatureAt(s: Segment, t: number): number {
  if (s.kind === 'line') return 0
  const d = derivativeAt(s, t)
  const speed = norm2(d)
  return speed < 1e-12 ? 0 : cross2(d, secondAt(s, t)) / speed ** 3
}

export const startOf = (s: Segment): Vec2 =>
  s.kind === 'line' ? s.from : s.kind === 'cubic' ? s.points[0] : pointAt(s, 0)
export const endOf = (s: Segment): Vec2 => (s.kind === 'line' ? s.to : s.kind === 'cubic' ? s.points[3] : pointAt(s, 1))

export function reversed(s: Segment): Segment {
  switch (s.kind) {
    case 'line':
      return { ...s, from: s.to, to: s.from }
    case 'arc':
    case 'ellipse':
      return { ...s, startRad: s.startRad + s.sweepRad, sweepRad: -s.sweepRad }
    case 'cubic': {
      const [a, b, c, d] = s.points
      return { ...s, points: [d, c, b, a] }
    }
  }
}

/** The stretch from t0 to t1, t0 < t1. */
export function stretch(s: Segment, t0: number, t1: number): Segment {
  if (t0 === 0 && t1 === 1) return s
  switch (s.kind) {
    case 'line':
      return { ...s, from: t0 === 0 ? s.from : pointAt(s, t0), to: t1 === 1 ? s.to : pointAt(s, t1) }
    case 'arc':
    case 'ellipse':
      return { ...s, startRad: s.startRad + s.sweepRad * t0, sweepRad: s.sweepRad * (t1 - t0) }
    case 'cubic': {
      // de Casteljau, twice.
      const left = halves(s.points, t1)[0]
      return { ...s, points: t0 === 0 ? left : halves(left, t0 / t1)[1] }
    }
  }
}

type Four = CubicSegment['points']
function halves([a, b, c, d]: Four, t: number): readonly [Four, Four] {
  const [ab, bc, cd] = [between2(a, b, t), between2(b, c, t), between2(c, d, t)]
  const [abc, bcd] = [between2(ab, bc, t), between2(bc, cd, t)]
  const middle = between2(abc, bcd, t)
  return [
    [a, ab, abc, middle],
    [middle, bcd, cd, d],
  ]
}

/** The segment carried by a motion that keeps sizes. */
export function carried(s: Segment, motion: Motion2): Segment {
  const mirrored = cross2(motion.u, motion.v) < 0
  switch (s.kind) {
    case 'line':
      return line(movedBy(motion, s.from), movedBy(motion, s.to))
    case 'arc': {
      const start = turnedBy(motion, [Math.cos(s.startRad), Math.sin(s.startRad)])
      return {
        ...s,
        centre: movedBy(motion, s.centre),
        startRad: Math.atan2(start[1], start[0]),
        sweepRad: mirrored ? -s.sweepRad : s.sweepRad,
      }
    }
    case 'ellipse':
      return {
        ...s,
        centre: movedBy(motion, s.centre),
        major: turnedBy(motion, s.major),
        minor: turnedBy(motion, s.minor),
      }
    case 'cubic':
      return { ...s, points: s.points.map((p) => movedBy(motion, p)) as unknown as Four }
  }
}

const gauss = [
  [0.5 - Math.sqrt(0.15), 5 / 18],
  [0.5, 8 / 18],
  [0.5 + Math.sqrt(0.15), 5 / 18],
] as const

/**
 * Half the integral of x dy − y dx along the segment, in closed form; summed round a loop it is the area inside, mm²
 * (Green's theorem). Gauss with three points is exact for a cubic's, which is of degree five.
 */
export function areaUnder(s: Segment): number {
  switch (s.kind) {
    case 'line':
      return cross2(s.from, s.to) / 2
    case 'arc':
      return (s.radius ** 2 * s.sweepRad + cross2(s.centre, minus(endOf(s), startOf(s)))) / 2
    case 'ellipse':
      return (cross2(s.major, s.minor) * s.sweepRad + cross2(s.centre, minus(endOf(s), startOf(s)))) / 2
    case 'cubic':
      return gauss.reduce((sum, [t, weight]) => sum + (weight * cross2(pointAt(s, t), derivativeAt(s, t))) / 2, 0)
  }
}

/** How far the segment reaches along a direction, exactly. */
export function segmentReach(s: Segment, d: Vec2): number {
  const ends = Math.max(dot2(startOf(s), d), dot2(endOf(s), d))
  switch (s.kind) {
    case 'line':
      return ends
    case 'arc':
    case 'ellipse': {
      const [c, m] =
        s.kind === 'arc'
          ? [times([d[0], d[1]], s.radius)[0], times([d[0], d[1]], s.radius)[1]]
          : [dot2(s.major, d), dot2(s.minor, d)]
      const far = Math.atan2(m, c)
      return passes(s, far) ? Math.max(ends, dot2(s.centre, d) + Math.hypot(c, m)) : ends
    }
    case 'cubic': {
      // Where the derivative along d is zero: a quadratic in t.
      const [a, b, c, e] = s.points.map((p) => dot2(p, d)) as unknown as readonly [number, number, number, number]
      const [p, q, r] = [e - 3 * c + 3 * b - a, 2 * (c - 2 * b + a), b - a]
      return quadraticRoots(p, q, r)
        .filter((t) => t > 0 && t < 1)
        .reduce((far, t) => Math.max(far, dot2(pointAt(s, t), d)), ends)
    }
  }
}

function passes({ startRad, sweepRad }: ArcSegment | EllipseSegment, rad: number): boolean {
  return paramOfAngle(startRad, sweepRad, rad) !== undefined
}

/** The t at which an arc passes an angle, or undefined. */
export function paramOfAngle(startRad: number, sweepRad: number, rad: number): number | undefined {
  const whole = 2 * Math.PI
  const away = sweepRad > 0 ? rad - startRad : startRad - rad
  const turned = ((away % whole) + whole) % whole
  const t = turned / Math.abs(sweepRad)
  if (t <= 1) return t
  // Just before its start.
  return whole - turned < 1e-9 ? 0 : undefined
}

export function quadraticRoots(a: number, b: number, c: number): number[] {
  if (Math.abs(a) < 1e-14 * (Math.abs(b) + Math.abs(c))) return b === 0 ? [] : [-c / b]
  const under = b * b - 4 * a * c
  if (under < 0) return []
  // Without cancellation (Numerical Recipes 5.6).
  const q = -(b + (b < 0 ? -1 : 1) * Math.sqrt(under)) / 2
  return q === 0 ? [0] : [q / a, c / q]
}

/** The t of the point nearest to `p`, and how far it is, mm. */
export function nearestOn(s: Segment, p: Vec2): { readonly t: number; readonly distance: number } {
  const at = (t: number) => ({ t, distance: norm2(minus(pointAt(s, t), p)) })
  const ends = [at(0), at(1)]
  const best = (all: readonly { t: number; distance: number }[]) =>
    all.reduce((a, b) => (b.distance < a.distance ? b : a))
  switch (s.kind) {
    case 'line': {
      const d = minus(s.to, s.from)
      const long = dot2(d, d)
      const t = long === 0 ? 0 : dot2(minus(p, s.from), d) / long
      return t > 0 && t < 1 ? at(t) : best(ends)
    }
    case 'arc': {
      const t = paramOfAngle(s.startRad, s.sweepRad, Math.atan2(p[1] - s.centre[1], p[0] - s.centre[0]))
      return t === undefined ? best(ends) : best([at(t), ...ends])
    }
    default: {
      const samples = placesAlong(s).map(at)
      // Each dip between samples is followed: across a thin curve its other side may have the nearer sample.
      const dips = samples.flatMap((sample, i) => {
        const [before, after] = [samples[i - 1] ?? sample, samples[i + 1] ?? sample]
        if (sample.distance > before.distance || sample.distance > after.distance) return []
        return [sample, at(dipBetween(s, p, before.t, sample.t, after.t))]
      })
      return best(dips)
    }
  }
}

const knownPlaces = new WeakMap<Segment, readonly number[]>()

/** Parameters along a bent segment, closer together where it bends more: between two of them it turns by less than 20°. */
function placesAlong(s: Segment): readonly number[] {
  const known = knownPlaces.get(s)
  if (known) return known
  const turn = (from: number, to: number) => {
    const [a, b] = [derivativeAt(s, from), derivativeAt(s, to)]
    return Math.abs(Math.atan2(cross2(a, b), dot2(a, b)))
  }
  const between = (from: number, to: number, depth: number): number[] => {
    const middle = (from + to) / 2
    if (depth === 0 || Math.max(turn(from, middle), turn(middle, to)) < Math.PI / 18) return [to]
    return [...between(from, middle, depth - 1), ...between(middle, to, depth - 1)]
  }
  const even = 24
  const places = [0, ...Array.from({ length: even }, (_, i) => between(i / even, (i + 1) / even, 10)).flat()]
  knownPlaces.set(s, places)
  return places
}

/** Where (C − p)·C′ = 0 on a stretch: by Newton, and by halving where that would leave it. */
function dipBetween(s: Segment, p: Vec2, from: number, start: number, to: number): number {
  let [low, high, t] = [from, to, start]
  for (let i = 0; i < 60; i++) {
    const [away, d, dd] = [minus(pointAt(s, t), p), derivativeAt(s, t), secondAt(s, t)]
    const slope = dot2(away, d)
    if (slope > 0) high = t
    else low = t
    const bend = dot2(d, d) + dot2(away, dd)
    const newton = t - slope / bend
    const next = bend > 0 && newton >= low && newton <= high ? newton : (low + high) / 2
    if (Math.abs(next - t) < 1e-14) break
    t = next
  }
  return t
}

/** Length along the segment, mm; of an ellipse or cubic by Gauss over 32 parts. */
export function lengthOf(s: Segment): number {
  switch (s.kind) {
    case 'line':
      return norm2(minus(s.to, s.from))
    case 'arc':
      return s.radius * Math.abs(s.sweepRad)
    default: {
      const parts = 32
      let sum = 0
      for (let i = 0; i < parts; i++)
        for (const [t, weight] of gauss) sum += (weight * norm2(derivativeAt(s, (i + t) / parts))) / parts
      return sum
    }
  }
}

/** The left normal of the direction of travel. */
export function normalAt(s: Segment, t: number): Vec2 {
  return leftOf(directionAt(s, t))
}

/** An arc or ellipse as cubics of at most an eighth of a turn: they leave it by less than 3e-7 of its size (Goldapp 1991). */
export function asCubics(s: ArcSegment | EllipseSegment): CubicSegment[] {
  const count = Math.max(1, Math.ceil(Math.abs(s.sweepRad) / (Math.PI / 4) - 1e-9))
  const handle = (4 / 3) * Math.tan(s.sweepRad / count / 4)
  return Array.from({ length: count }, (_, i) => {
    const part = stretch(s, i / count, (i + 1) / count) as ArcSegment | EllipseSegment
    const [a, d] = [startOf(part), endOf(part)]
    // The change per radian, whatever way the arc runs.
    const way = (t: number) => times(derivativeAt(part, t), 1 / part.sweepRad)
    return { kind: 'cubic', points: [a, plus(a, times(way(0), handle)), plus(d, times(way(1), -handle)), d] }
  })
}
