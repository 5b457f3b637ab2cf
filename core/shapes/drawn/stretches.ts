import Flatbush from 'flatbush'
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
 * The stretches of an outline, broken into chords, by the boxes of these: what lies nearest is found without looking at
 * all. True curves are only asked where the chords of several lie about as near.
 */
class NearestStretch {
  readonly #chords: readonly Chord[]
  readonly #boxes: Flatbush | undefined
  /** a first guess of how far off a point lies, mm */
  readonly #near: number
  /** no chord is farther from its curve than this, mm */
  #off = 0

  constructor(outline: Drawn) {
    const all = stretchesOf(outline).map(({ segment, curve }, order): Stretch => ({ segment, curve, order }))
    this.#chords = all.flatMap((of) => this.chordsOf(of))
    this.#boxes = boxesOf(this.#chords)
    const { minX = 0, minY = 0, maxX = 0, maxY = 0 } = this.#boxes ?? {}
    this.#near = Math.max(maxX - minX, maxY - minY, 1e-3) / 64
  }

  curveAt(p: Vec2): string | undefined {
    if (!this.#boxes) return undefined
    const slack = 2 * this.#off + alike
    for (let r = this.#near; ; r *= 2) {
      const found = this.#boxes.search(p[0] - r, p[1] - r, p[0] + r, p[1] + r)
      const near = new Map<Stretch, number>()
      let best = Infinity
      for (const i of found) {
        const { a, b, of } = this.#chords[i]!
        const away = distanceTo(a, b, p)
        if (away >= (near.get(of) ?? Infinity)) continue
        near.set(of, away)
        best = Math.min(best, away)
      }
      // What was not found is farther away than this.
      if (best + slack <= r || found.length === this.#chords.length) return this.nearestOf(near, best + slack, p)
    }
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

function boxesOf(chords: readonly Chord[]): Flatbush | undefined {
  if (chords.length === 0) return undefined
  const boxes = new Flatbush(chords.length)
  for (const { a, b } of chords)
    boxes.add(Math.min(a[0], b[0]), Math.min(a[1], b[1]), Math.max(a[0], b[0]), Math.max(a[1], b[1]))
  boxes.finish()
  return boxes
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
