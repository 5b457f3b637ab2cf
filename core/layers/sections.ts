import type { Kernel, Ring, Solid } from '../kernel/index.ts'
import { type PackedRings, packedRings, unpackedRings, type Vec2 } from '../plane/index.ts'
import { Ledges } from './ledges.ts'

/** Heights nearer to each other than this are one, mm. */
const sameHeight = 1e-6
/** Corners of a triangle that differ by less lie level, mm: numbers of single precision. */
const level = 2e-5
/** Triangles of less are no face, mm² (twice their area). */
const leastFace = 1e-3
/** Corners nearer to each other than this are one, mm. */
const sameCorner = 1e-5

/**
 * Sections by what they are, those of solids that were cut before among them: what an edit leaves alone has the very same rings after it, and
 * what was found of these is known.
 */
export class KnownSections {
  /** of the solids that are cut now, and of those before, the latest first; each with how many corners it has */
  #rounds: { readonly sections: Map<string, Section>; readonly counted: Set<Section>; corners: number }[] = []

  constructor() {
    this.begin()
  }

  /** What comes now is of a later state: what was of no use in the last ones is forgotten. */
  begin(): void {
    const now = { sections: new Map<string, Section>(), counted: new Set<Section>(), corners: 0 }
    this.#rounds = [now, ...this.#rounds.slice(0, mostRounds - 1)]
  }

  /** @internal */
  get(mark: string): Section | undefined {
    for (const { sections } of this.#rounds) {
      const known = sections.get(mark)
      if (known) return this.kept(mark, known)
    }
    return undefined
  }

  /** @internal Past so many corners nothing more is kept: large parts have another section in each layer. */
  kept(mark: string, section: Section): Section {
    const [now] = this.#rounds
    if (!now!.sections.has(mark) && now!.corners + section.count <= mostKept) {
      now!.sections.set(mark, section)
      // It may be known by what crosses it as well.
      if (!now!.counted.has(section)) now!.corners += section.count
      now!.counted.add(section)
    }
    return section
  }
}
/** A proof that was left off tells nothing of what the next one needs. */
const mostRounds = 3
const mostKept = 500_000

/**
 * Sections of a solid by their heights. Between two heights at which corners lie a section changes evenly: where it is the same near both
 * it is so all the way, and is cut once. So layers of a prism have the very same rings, and what was found of one holds for all.
 */
export class Sections {
  readonly #kernel: Kernel
  readonly #solid: Solid
  readonly #mostAtHand: number
  /** heights at which corners lie, ascending */
  readonly #heights: readonly number[]
  /** by its place between heights: the section that was cut there first */
  readonly #first = new Map<number, Section>()
  /** by its place between heights: whether that is the section of all of it */
  readonly #isEven = new Map<number, boolean>()
  readonly #known = new Map<number, Section>()
  /** by what they are, wherever they were cut */
  readonly #alike = new Map<string, Section>()
  readonly #before: KnownSections | undefined
  readonly #crossing: Crossing | undefined
  /** those whose rings are at hand, the one asked for latest last; and how many corners they have */
  readonly #atHand = new Set<Section>()
  #corners = 0

  /** `mostAtHand`: so many corners are kept as they are, beside those of the section that was asked for latest. */
  constructor(
    kernel: Kernel,
    solid: Solid,
    {
      mostAtHand = 1_000_000,
      known,
    }: { readonly mostAtHand?: number; readonly known?: KnownSections | undefined } = {},
  ) {
    this.#mostAtHand = mostAtHand
    this.#before = known
    const isLarge = solid.triangleCount() > mostMarked
    this.#crossing = known && !isLarge ? new Crossing(solid) : undefined
    this.#kernel = kernel
    this.#solid = solid
    const corners = solid.corners()
    const heights: number[] = []
    for (let i = 2; i < corners.length; i += 3) heights.push(corners[i]!)
    heights.sort((a, b) => a - b)
    this.#heights = heights.filter((z, i) => i === 0 || z - heights[i - 1]! > sameHeight)
  }

  /** The rings at height `z`, mm: outer ones counter-clockwise, holes clockwise. */
  at(z: number): readonly Ring[] {
    const section = this.#known.get(z) ?? this.between(z)
    this.#known.set(z, section)
    return this.ringsOf(section)
  }

  /** Of a part of many corners those that were not asked for lately are packed: as lists of places they would fill the memory. */
  private ringsOf(section: Section): readonly Ring[] {
    const rings = section.rings ?? unpackedRings(section.packed!)
    if (!this.#atHand.delete(section)) this.#corners += section.count
    this.#atHand.add(section)
    section.rings = rings
    for (const oldest of this.#atHand) {
      if (this.#corners <= this.#mostAtHand || oldest === section) break
      this.#atHand.delete(oldest)
      this.#corners -= oldest.count
      oldest.packed ??= packedRings(oldest.rings!)
      oldest.rings = undefined
    }
    return rings
  }

  /** Where it may reach out farther than what leans by so much, degrees off upright. */
  ledges(overhang: number): Ledges {
    return new Ledges(this.#solid, overhang)
  }

  /**
   * Stretches of height that level faces bound from below and from above, where these are less than `most` mm apart: what may be a film
   * between them.
   */
  films(most: number): readonly (readonly [low: number, high: number])[] {
    const { positions, triangles } = this.#solid.mesh()
    const faces = { up: new Set<number>(), down: new Set<number>() }
    for (let t = 0; t < triangles.length; t += 3) {
      const [a, b, c] = [0, 1, 2].map((k) => 3 * triangles[t + k]!) as [number, number, number]
      const z = positions[a + 2]!
      if (Math.abs(positions[b + 2]! - z) > level || Math.abs(positions[c + 2]! - z) > level) continue
      const turn =
        (positions[b]! - positions[a]!) * (positions[c + 1]! - positions[a + 1]!) -
        (positions[b + 1]! - positions[a + 1]!) * (positions[c]! - positions[a]!)
      if (Math.abs(turn) > leastFace) faces[turn > 0 ? 'up' : 'down'].add(z)
    }
    const tops = [...faces.up].sort((a, b) => a - b)
    return [...faces.down].flatMap((low) =>
      tops.filter((high) => high > low && high - low < most).map((high) => [low, high] as const),
    )
  }

  private between(z: number): Section {
    const slab = this.below(z)
    const [low, high] = [this.#heights[slab], this.#heights[slab + 1]]
    // On a height itself neither side counts.
    if (low === undefined || high === undefined || z - low < sameHeight || high - z < sameHeight) return this.cut(z)
    const first = this.#first.get(slab)
    if (!first) {
      // Most stretches of what is curved hold one layer: whether they are even is asked for a second one.
      const own = this.cut(z)
      this.#first.set(slab, own)
      return own
    }
    const isEven = this.#isEven.get(slab) ?? this.cut(low + (high - low) / 16) === this.cut(high - (high - low) / 16)
    this.#isEven.set(slab, isEven)
    return isEven ? first : this.cut(z)
  }

  /** The place of the highest height that is not above `z`; −1 where all are. */
  private below(z: number): number {
    let [low, high] = [0, this.#heights.length]
    while (low < high) {
      const middle = (low + high) >> 1
      if (this.#heights[middle]! <= z) low = middle + 1
      else high = middle
    }
    return low - 1
  }

  /** The very same where all corners are at the same places, whichever corner each ring begins at. */
  private cut(z: number): Section {
    const crossing = this.#crossing?.at(z)
    const before = crossing !== undefined ? this.#before?.get(crossing) : undefined
    const section = before ?? this.cutAnew(z)
    if (crossing !== undefined) this.#before?.kept(crossing, section)
    return section
  }

  private cutAnew(z: number): Section {
    const cut = this.#kernel.scope((scope) => scope.slice(this.#solid, z))
    const rings = cut.rings.map(plainer).filter((ring) => ring.length > 2)
    const key = marked(rings)
    const alike = this.#alike.get(key) ?? this.#before?.get(key)
    if (alike) {
      this.#alike.set(key, alike)
      return alike
    }
    const section: Section = { count: rings.reduce((sum, ring) => sum + ring.length, 0), rings, packed: undefined }
    this.#alike.set(key, section)
    this.#before?.kept(key, section)
    this.ringsOf(section)
    return section
  }
}

/** Of solids of more triangles nothing is told by what crosses a height: that is asked of each of them. */
const mostMarked = 200_000

/** What crosses each height of a solid: its section there follows from these triangles alone. */
class Crossing {
  readonly #low: Float64Array
  readonly #high: Float64Array
  /** two numbers of 32 bits for each triangle, by where its corners are to the last digit */
  readonly #marks: Uint32Array

  constructor(solid: Solid) {
    const corners = solid.corners()
    const { triangles } = solid.mesh()
    const count = triangles.length / 3
    this.#low = new Float64Array(count)
    this.#high = new Float64Array(count)
    this.#marks = new Uint32Array(2 * count)
    const bits = new Int32Array(corners.buffer, corners.byteOffset, 2 * corners.length)
    for (let t = 0; t < count; t++) {
      let [one, other, low, high] = [0, 0, Number.POSITIVE_INFINITY, Number.NEGATIVE_INFINITY]
      for (let k = 0; k < 3; k++) {
        const v = 3 * triangles[3 * t + k]!
        let [u, w] = [0, 0]
        for (let i = 2 * v; i < 2 * v + 6; i++) {
          u = mixed(bits[i]!, u)
          w = mixed(w ^ 0x5bd1e995, bits[i]!)
        }
        // Whichever corner it begins at.
        one = (one + u) >>> 0
        other = (other + w) >>> 0
        low = Math.min(low, corners[v + 2]!)
        high = Math.max(high, corners[v + 2]!)
      }
      this.#low[t] = low
      this.#high[t] = high
      this.#marks[2 * t] = mixed(one, other)
      this.#marks[2 * t + 1] = mixed(other, one ^ 0x5bd1e995)
    }
  }

  /** The same where the same triangles cross the same height. */
  at(z: number): string {
    let [one, other, count] = [0, 0, 0]
    for (let t = 0; t < this.#low.length; t++) {
      if (this.#low[t]! > z || this.#high[t]! < z) continue
      one = (one + this.#marks[2 * t]!) >>> 0
      other = (other + this.#marks[2 * t + 1]!) >>> 0
      count++
    }
    return `at ${z} ${count} ${one} ${other}`
  }
}

/** What was cut: its rings, or packed. */
interface Section {
  /** how many corners it has */
  readonly count: number
  rings: readonly Ring[] | undefined
  packed: PackedRings | undefined
}

/** The same for rings whose corners are at the same places, whichever corner each begins at: two sums over all of them, of 32 bits each. */
function marked(rings: readonly Ring[]): string {
  let [one, other, count] = [0, 0, 0]
  for (const ring of rings)
    for (const [x, y] of corners(ring)) {
      const [u, v] = [Math.round(x / sameCorner), Math.round(y / sameCorner)]
      one = (one + mixed(u, v)) >>> 0
      other = (other + mixed(v ^ 0x5bd1e995, u)) >>> 0
      count++
    }
  return `${rings.length} ${count} ${one} ${other}`
}

/** Two whole numbers as one that looks like chance (the finish of MurmurHash3: Appleby, 2011). */
function mixed(u: number, v: number): number {
  let h = Math.imul(u, 0xcc9e2d51) ^ Math.imul(v, 0x1b873593)
  h = Math.imul(h ^ (h >>> 16), 0x85ebca6b)
  h = Math.imul(h ^ (h >>> 13), 0xc2b2ae35)
  return h ^ (h >>> 16)
}

/** A ring without the points on its straight sides: where a cut crosses from one triangle of a wall to the next. */
function corners(ring: Ring): Ring {
  return ring.filter(([x, y], i) => {
    const [fromX, fromY] = ring[(i + ring.length - 1) % ring.length]!
    const [toX, toY] = ring[(i + 1) % ring.length]!
    const [alongX, alongY] = [toX - fromX, toY - fromY]
    const off = Math.abs((x - fromX) * alongY - (y - fromY) * alongX)
    return off > straightWithin * Math.hypot(alongX, alongY)
  })
}

/** A ring without most of these: half of what a cut gives. A row of points that turns little by little keeps some. */
function plainer(ring: Ring): Ring {
  const kept: Vec2[] = []
  for (const [i, point] of ring.entries()) {
    const [fromX, fromY] = kept.at(-1) ?? ring.at(-1)!
    const [toX, toY] = ring[(i + 1) % ring.length]!
    const [alongX, alongY] = [toX - fromX, toY - fromY]
    const off = Math.abs((point[0] - fromX) * alongY - (point[1] - fromY) * alongX)
    if (off > straightWithin * Math.hypot(alongX, alongY)) kept.push(point)
  }
  return kept
}

/** Nearer to the line between its neighbours than this a point is no corner, mm. */
const straightWithin = 3e-6
