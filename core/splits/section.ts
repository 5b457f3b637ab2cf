import type { Ring, Scope, Solid } from '../kernel/index.ts'
import { type Frame, inverse, pointOut } from '../place/index.ts'
import { distance2, dot2, insideRings, minus, plus, pointInside, ringArea, times, type Vec2 } from '../plane/index.ts'

/** A plane is looked at so far to both sides at least, mm. */
const hair = 1e-4

/**
 * Where two halves of a solid face each other across the plane of a frame and a gap, and where in it something finds room.
 * Lengths in mm.
 */
export class Section {
  readonly #scope: Scope
  readonly #solid: Solid
  readonly frame: Frame
  /** what both halves have of it */
  readonly rings: readonly Ring[]
  /** whether the plane goes past the solid */
  readonly misses: boolean
  /** of the gap, how far the face of each half is from the plane */
  readonly half: number

  constructor(scope: Scope, solid: Solid, frame: Frame, gap = 0) {
    this.#scope = scope
    this.#solid = solid
    this.frame = frame
    this.half = gap / 2
    const stood = scope.placed(solid, inverse(frame))
    const at = (height: number) => scope.slice(stood, height).rings
    // Where it leans, the two faces that a wide gap leaves are not alike; nor are they where a ledge ends right in the plane.
    const off = Math.max(this.half, hair)
    const faces = [at(off), at(-off)]
    this.misses = faces.every((rings) => rings.length === 0)
    this.rings = faces.reduce((all, rings) => scope.commonRegions(all, rings))
  }

  /** How far it reaches across, along `u`. */
  get width(): readonly [number, number] {
    const across = this.rings.flatMap((ring) => ring.map(([x]) => x))
    return across.length > 0 ? [Math.min(...across), Math.max(...across)] : [0, 0]
  }

  /** The stretches of it over a place across, from low to high. */
  stretchesAt(x: number): (readonly [number, number])[] {
    const ys = this.rings
      .flatMap((ring) =>
        ring.flatMap((p, i) => {
          const q = ring[(i + 1) % ring.length]!
          return p[0] > x !== q[0] > x ? [p[1] + ((q[1] - p[1]) * (x - p[0])) / (q[0] - p[0])] : []
        }),
      )
      .sort((a, b) => a - b)
    return ys.flatMap((y, i) => (i % 2 === 0 && ys[i + 1] !== undefined ? [[y, ys[i + 1]!] as const] : []))
  }

  /** The largest radius of a disc that finds room in it; 0 for no section. */
  roomiest(): number {
    let [low, high] = [0, Math.sqrt(Math.abs(this.rings.reduce((sum, ring) => sum + ringArea(ring), 0)) / Math.PI)]
    for (let i = 0; i < bisections; i++) {
      const middle = (low + high) / 2
      if (this.#scope.inset(this.rings, middle).length > 0) low = middle
      else high = middle
    }
    return low
  }

  /**
   * Up to `count` places in it, spread evenly, each `margin` or more inside of its edge and `apart` or more from the others:
   * as many as find room. In the frame's plane.
   */
  spread(count: number, margin: number, apart: number): Vec2[] {
    const room = this.#scope.inset(this.rings, margin)
    if (room.length === 0) return []
    const [whole, inner] = [samplesOf(this.rings), samplesOf(room)]
    const moved = (at: Vec2) => (insideRings(room, at) ? at : nearest(inner, at))
    const isFree = (found: readonly Vec2[]) =>
      found.every((a, i) => found.slice(0, i).every((b) => distance2(a, b) >= apart))
    for (let wanted = count; wanted > 0; wanted--) {
      const found = [evenly(whole, wanted).map(moved), farApart(inner, wanted)].find(isFree)
      if (found) return found
    }
    return []
  }

  /** How far the half along the normal (1) or against it goes on from a place of its face, to where it first ends. */
  depthAt([x, y]: Vec2, way: 1 | -1): number {
    const { n } = this.frame
    const from = pointOut(this.frame, [x, y, way * this.half])
    const inwards = [way * n[0], way * n[1], way * n[2]] as const
    return this.#solid.crossings(from, inwards).find((far) => far > 1e-6) ?? 0
  }
}

const bisections = 24

interface Sample {
  readonly at: Vec2
  readonly weight: number
}

/** Cells across and along each region that is sampled; even, so that what is symmetrical stays so. */
const cells = 36

function samplesOf(rings: readonly Ring[]): Sample[] {
  return rings
    .filter((ring) => ringArea(ring) > 0)
    .flatMap((ring): Sample[] => {
      const range = (i: 0 | 1) => {
        const all = ring.map((p) => p[i])
        return [Math.min(...all), Math.max(...all)] as const
      }
      const [[left, right], [low, high]] = [range(0), range(1)]
      const [w, h] = [(right - left) / cells, (high - low) / cells]
      const found = Array.from({ length: cells ** 2 }, (_, i): Vec2 => {
        return [left + w * ((i % cells) + 0.5), low + h * (Math.floor(i / cells) + 0.5)]
      }).filter((at) => insideRings([ring], at) && insideRings(rings, at))
      if (found.length > 0) return found.map((at) => ({ at, weight: w * h }))
      const only = pointInside([ring]) ?? ring[0]!
      return [{ at: only, weight: Math.abs(ringArea(ring)) }]
    })
}

/** Rounds of Lloyd's method (Lloyd 1982) at most: each place moves to the middle of what is nearest to it. */
const rounds = 60
/** A place that moves less than this is where it belongs, mm. */
const still = 1e-6

/**
 * Places from which all of a region is near: of rows and grids along it, and of a beginning far apart for what is bent, the one
 * from which it is nearest.
 */
function evenly(samples: readonly Sample[], count: number): Vec2[] {
  const begun = [...gridsOn(samples, count), farApart(samples, count)]
  const settled = begun.map((places) => settledFrom(samples, places))
  // The first unless a later one is clearly better: what is scattered may lie askew.
  return [...settled.reduce((best, each) => (each.energy < best.energy * 0.98 ? each : best)).places]
}

function settledFrom(samples: readonly Sample[], begun: readonly Vec2[]) {
  let places = begun
  for (let i = 0; i < rounds; i++) {
    const sums = places.map(() => ({ x: 0, y: 0, weight: 0 }))
    for (const sample of samples) {
      const [one, other] = nearestTwo(places, sample.at)
      // What lies half-way is shared, so that what is symmetrical stays so.
      const share = other === undefined ? sample.weight : sample.weight / 2
      for (const k of other === undefined ? [one] : [one, other]) {
        const sum = sums[k]!
        sum.x += sample.at[0] * share
        sum.y += sample.at[1] * share
        sum.weight += share
      }
    }
    const next = sums.map(({ x, y, weight }, k): Vec2 => (weight > 0 ? [x / weight, y / weight] : places[k]!))
    const moved = Math.max(...next.map((at, k) => distance2(at, places[k]!)))
    places = next
    if (moved < still) break
  }
  const energy = samples.reduce(
    (sum, { at, weight }) => sum + weight * distance2(at, places[nearestTwo(places, at)[0]]!) ** 2,
    0,
  )
  return { places, energy }
}

/** The place that is nearest to a point, and a second one where it is as near. */
function nearestTwo(places: readonly Vec2[], [x, y]: Vec2): readonly [number, number?] {
  let [best, least, tied] = [0, Number.POSITIVE_INFINITY, -1]
  for (let k = 0; k < places.length; k++) {
    const [px, py] = places[k]!
    const far = (px - x) ** 2 + (py - y) ** 2
    if (far < least - 1e-9) [best, least, tied] = [k, far, -1]
    else if (far < least + 1e-9) tied = k
  }
  return tied < 0 ? [best] : [best, tied]
}

function nearest(samples: readonly Sample[], at: Vec2): Vec2 {
  return samples.reduce((best, sample) => (distance2(sample.at, at) < distance2(best.at, at) ? sample : best)).at
}

/**
 * In one row along the direction in which a region is longest, in two along it, and so on, as far as the count can be shared out;
 * across where it is as long in all directions.
 */
function gridsOn(samples: readonly Sample[], count: number): Vec2[][] {
  const whole = samples.reduce((sum, { weight }) => sum + weight, 0)
  const middle = times(
    samples.reduce<Vec2>((sum, { at, weight }) => plus(sum, times(at, weight)), [0, 0]),
    1 / whole,
  )
  let [xx, xy, yy] = [0, 0, 0]
  for (const { at, weight } of samples) {
    const [x, y] = minus(at, middle)
    xx += weight * x * x
    xy += weight * x * y
    yy += weight * y * y
  }
  const isRound = Math.hypot(xx - yy, 2 * xy) < 0.05 * (xx + yy)
  const turn = isRound ? 0 : Math.atan2(2 * xy, xx - yy) / 2
  const along: Vec2 = Math.abs(turn) < 1e-9 ? [1, 0] : [Math.cos(turn), Math.sin(turn)]
  const across: Vec2 = [-along[1], along[0]]
  const range = (axis: Vec2) => {
    const all = samples.map(({ at }) => dot2(at, axis))
    return [Math.min(...all), Math.max(...all)] as const
  }
  const [[left, right], [low, high]] = [range(along), range(across)]
  const rows = Array.from({ length: count }, (_, i) => i + 1).filter((each) => count % each === 0 && each ** 2 <= count)
  return rows.map((row) =>
    Array.from({ length: count }, (_, i) => {
      const columns = count / row
      const x = left + ((right - left) * ((i % columns) + 0.5)) / columns
      const y = low + ((high - low) * (Math.floor(i / columns) + 0.5)) / row
      return plus(times(along, x), times(across, y))
    }),
  )
}

/** Each as far as can be from those before it, the first one from the first of all. */
function farApart(samples: readonly Sample[], count: number): Vec2[] {
  const places: Vec2[] = []
  let far = samples.map(({ at }) => distance2(at, samples[0]!.at))
  while (places.length < count) {
    let best = 0
    for (let i = 1; i < far.length; i++) if (far[i]! > far[best]! + 1e-9) best = i
    const { at } = samples[best]!
    places.push(at)
    far = far.map((each, i) => {
      const own = distance2(samples[i]!.at, at)
      return places.length === 1 ? own : Math.min(each, own)
    })
  }
  return places
}
