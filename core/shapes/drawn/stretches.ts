import { type Chain, type Drawn, nearestOn, pointAt, type Segment, type Vec2 } from '../../plane/index.ts'

/** All stretches of an outline, with the curve that each was drawn as. */
export function stretchesOf(
  outline: Drawn,
): { readonly segment: Segment; readonly curve: string; readonly chain: Chain }[] {
  return [...outline.loops, ...outline.open].flatMap((chain) =>
    chain.segments.map((segment, i) => ({ segment, curve: chain.curves[i]!, chain })),
  )
}

/** Distances that differ by less are the same, mm. */
const alike = 1e-9

interface Stretch {
  readonly segment: Segment
  readonly curve: string
  readonly order: number
}
interface Chord {
  readonly a: Vec2
  readonly b: Vec2
  readonly of: Stretch
}

/** Into how many chords a stretch is broken that is not straight. */
const chordsEach = 24

/**
 * The stretches of an outline, broken into chords, by the cells of the plane that these pass: what lies nearest is found
 * without looking at all. True curves are only asked where the chords of several lie about as near.
 */
class NearestStretch {
  readonly #cells = new Map<string, Chord[]>()
  readonly #size: number
  /** rings of cells that are looked through; farther off, all stretches are */
  readonly #most: number
  /** no chord is farther from its curve than this, mm */
  #off = 0

  constructor(outline: Drawn) {
    const all = stretchesOf(outline).map(({ segment, curve }, order): Stretch => ({ segment, curve, order }))
    const chords = all.flatMap((of) => this.chordsOf(of))
    const extent = (i: 0 | 1) =>
      Math.max(...chords.map(({ a, b }) => Math.max(a[i], b[i]))) -
      Math.min(...chords.map(({ a, b }) => Math.min(a[i], b[i])))
    const wide = all.length === 0 ? 1 : Math.max(extent(0), extent(1), 1e-6)
    // About as many cells across as there are chords round the outline.
    const across = Math.min(512, Math.max(1, Math.ceil(Math.sqrt(chords.length) * 2)))
    this.#size = wide / across
    this.#most = across + 2
    for (const chord of chords) {
      const [low, high] = [0, 1].map((k) =>
        [0, 1].map((i) => Math.floor((k === 0 ? Math.min : Math.max)(chord.a[i]!, chord.b[i]!) / this.#size)),
      ) as [number[], number[]]
      for (let x = low[0]!; x <= high[0]!; x++)
        for (let y = low[1]!; y <= high[1]!; y++) {
          const key = `${x} ${y}`
          const cell = this.#cells.get(key)
          if (cell) cell.push(chord)
          else this.#cells.set(key, [chord])
        }
    }
  }

  curveAt(p: Vec2): string | undefined {
    const [cx, cy] = [Math.floor(p[0] / this.#size), Math.floor(p[1] / this.#size)]
    const near = new Map<Stretch, number>()
    let best = Infinity
    const look = (chords: readonly Chord[]) => {
      for (const { a, b, of } of chords) {
        const away = distanceTo(a, b, p)
        if (away >= (near.get(of) ?? Infinity)) continue
        near.set(of, away)
        best = Math.min(best, away)
      }
    }
    const slack = 2 * this.#off + alike
    for (let ring = 0; ring <= this.#most; ring++) {
      // What lies in a ring farther out is at least this far away.
      if (best + slack <= (ring - 1) * this.#size) return this.nearestOf(near, best + slack, p)
      for (let x = cx - ring; x <= cx + ring; x++)
        for (let y = cy - ring; y <= cy + ring; y += x === cx - ring || x === cx + ring ? 1 : Math.max(1, 2 * ring))
          look(this.#cells.get(`${x} ${y}`) ?? [])
    }
    // Of a point far off all cells: as far off it is hardly ever asked for.
    for (const cell of this.#cells.values()) look(cell)
    return this.nearestOf(near, best + slack, p)
  }

  /** Of the stretches that lie within a distance the nearest one; of two that meet there, the one that is drawn first. */
  private nearestOf(near: ReadonlyMap<Stretch, number>, within: number, p: Vec2): string | undefined {
    const able = [...near].flatMap(([of, away]) => (away <= within ? [of] : []))
    const [first] = able
    if (able.every(({ curve }) => curve === first?.curve)) return first?.curve
    let best: { readonly of: Stretch; readonly distance: number } | undefined
    for (const of of able.sort((a, b) => a.order - b.order)) {
      const { distance } = nearestOn(of.segment, p)
      if (!best || best.distance - distance > alike) best = { of, distance }
    }
    return best?.of.curve
  }

  private chordsOf(of: Stretch): Chord[] {
    const { segment } = of
    const count = segment.kind === 'line' ? 1 : chordsEach
    return Array.from({ length: count }, (_, i): Chord => {
      const [a, b] = [pointAt(segment, i / count), pointAt(segment, (i + 1) / count)]
      // A curve that bulges more to one side is farther from its chord elsewhere, but not by half.
      if (count > 1) this.#off = Math.max(this.#off, 1.5 * distanceTo(a, b, pointAt(segment, (i + 0.5) / count)))
      return { a, b, of }
    })
  }
}

function distanceTo(a: Vec2, b: Vec2, p: Vec2): number {
  const [dx, dy] = [b[0] - a[0], b[1] - a[1]]
  const t = Math.min(1, Math.max(0, ((p[0] - a[0]) * dx + (p[1] - a[1]) * dy) / (dx * dx + dy * dy || 1)))
  return Math.hypot(a[0] + dx * t - p[0], a[1] + dy * t - p[1])
}

const known = new WeakMap<Drawn, NearestStretch>()

/** The curve that lies nearest to a point of the plane. */
export function curveAt(outline: Drawn, p: Vec2): string | undefined {
  let index = known.get(outline)
  if (!index) {
    index = new NearestStretch(outline)
    known.set(outline, index)
  }
  return index.curveAt(p)
}
