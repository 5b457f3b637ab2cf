import type { Ring } from '../kernel/index.ts'
import { minus, norm2, type Vec2 } from '../plane/index.ts'

/** How a region of a layer that has nothing below it is bridged: all of its lines beside each other, in one way. */
export interface Spanned {
  /** the way of the lines, degrees counter-clockwise from x, 0 up to 180 */
  readonly way: number
  /** the longest line that is held at both of its ends, mm; 0 where none is */
  readonly longest: number
  /** what the lines cover that are not held at both, mm² */
  readonly freeArea: number
  /** how far the lines are apart, mm */
  readonly pitch: number
  readonly lines: readonly SpannedLine[]
}

/** A line through a region, as long as it has nothing below it. */
export interface SpannedLine {
  readonly from: Vec2
  readonly to: Vec2
  /** mm */
  readonly long: number
  readonly isHeld: boolean
}

export interface Side {
  readonly a: Vec2
  readonly b: Vec2
  readonly isHeld: boolean
}

/** Lines are tried in ways so far apart, and square to the longest sides, degrees. */
const tried = 7.5
const mostSides = 8
/** So many lines run through the narrowest and the widest region. */
const [fewest, most] = [12, 400]
/** So far beyond a side it is asked what is there, mm. */
const beyondSide = 1e-3
/** Lines are not told to be free where they are by less than this, as a share of all they cover. */
const hardlyFree = 1e-3

/**
 * The way in which a region is bridged best: with the least that hangs free, then with the shortest lines (a slicer chooses its way so).
 * `beyond`: what of the region cannot do without; lines that do not run through that are not told. `isHeldAt`: whether a line that ends
 * there lies on something.
 */
export function spannedBest(
  region: readonly Ring[],
  beyond: readonly Ring[],
  isHeldAt: (place: Vec2) => boolean,
  lineWidth: number,
): Spanned {
  const sides = sidesOf(region, isHeldAt)
  const needed = sidesOf(beyond, () => false)
  const ways = new Set(Array.from({ length: 180 / tried }, (_, i) => i * tried))
  const byLength = [...sides].filter(({ isHeld }) => isHeld).sort((p, q) => lengthOf(q) - lengthOf(p))
  for (const { a, b } of byLength.slice(0, mostSides)) ways.add(wayOf(minus(b, a)) - 90).add(wayOf(minus(b, a)))
  let best: Spanned | undefined
  for (const way of ways) {
    const own = spannedIn(sides, needed, ((way % 180) + 180) % 180, lineWidth)
    const isFreer = best && own.freeArea > best.freeArea + hardlyFree * lineWidth
    const isLess = !best || own.freeArea < best.freeArea - hardlyFree * lineWidth
    if (isLess || (!isFreer && own.longest < best!.longest)) best = own
  }
  return best!
}

function spannedIn(sides: readonly Side[], needed: readonly Side[], way: number, lineWidth: number): Spanned {
  const turn = (way * Math.PI) / 180
  const along: Vec2 = [Math.cos(turn), Math.sin(turn)]
  const off = ([x, y]: Vec2) => along[0] * y - along[1] * x
  const low = needed.reduce((least, { a }) => Math.min(least, off(a)), Number.POSITIVE_INFINITY)
  const high = needed.reduce((far, { a }) => Math.max(far, off(a)), Number.NEGATIVE_INFINITY)
  const widest = Math.max(Math.min(lineWidth, (high - low) / fewest), (high - low) / most)
  const count = Math.max(1, Math.round((high - low) / widest))
  const pitch = (high - low) / count
  const [cuts, inside] = [sides, needed].map((each) => cutsOf(each, along, low, pitch, count)) as [Cut[][], Cut[][]]
  const lines: SpannedLine[] = []
  let [longest, free] = [0, 0]
  for (let i = 0; i < count; i++) {
    const at = low + pitch * (i + 0.5)
    const place = (far: number): Vec2 => [along[0] * far - along[1] * at, along[1] * far + along[0] * at]
    const [own, within] = [cuts[i]!, inside[i]!]
    for (let k = 0; k + 1 < own.length; k += 2) {
      const [from, to] = [own[k]!, own[k + 1]!]
      let beyond = 0
      for (let m = 0; m + 1 < within.length; m += 2)
        beyond += Math.max(0, Math.min(to.far, within[m + 1]!.far) - Math.max(from.far, within[m]!.far))
      if (beyond <= 0) continue
      const long = to.far - from.far
      const isHeld = from.isHeld && to.isHeld
      lines.push({ from: place(from.far), to: place(to.far), long, isHeld })
      if (isHeld) longest = Math.max(longest, long)
      else free += beyond
    }
  }
  return { way, longest, freeArea: free * pitch, pitch, lines }
}

interface Cut {
  readonly far: number
  readonly isHeld: boolean
}

/** Where evenly spaced lines cross sides, along each line. */
function cutsOf(sides: readonly Side[], along: Vec2, low: number, pitch: number, count: number): Cut[][] {
  const cuts = Array.from({ length: count }, (): Cut[] => [])
  for (const { a, b, isHeld } of sides) {
    const [p, q] = [along[0] * a[1] - along[1] * a[0], along[0] * b[1] - along[1] * b[0]]
    if (p === q) continue
    const [x, y] = [along[0] * a[0] + along[1] * a[1], along[0] * b[0] + along[1] * b[1]]
    // A line through a corner crosses the one of both sides that goes up from it.
    const first = Math.max(0, Math.ceil((Math.min(p, q) - low) / pitch - 0.5))
    for (let i = first; i < count; i++) {
      const at = low + pitch * (i + 0.5)
      if (at >= Math.max(p, q)) break
      cuts[i]!.push({ far: x + ((at - p) / (q - p)) * (y - x), isHeld })
    }
  }
  for (const own of cuts) own.sort((m, n) => m.far - n.far)
  return cuts
}

/** The sides of rings, and whether what lies right outside of each is held. */
export function sidesOf(rings: readonly Ring[], isHeldAt: (place: Vec2) => boolean): readonly Side[] {
  return rings.flatMap((ring) =>
    ring.map((a, i): Side => {
      const b = ring[(i + 1) % ring.length]!
      const [x, y] = minus(b, a)
      const long = Math.hypot(x, y) || 1
      // To the right of a side is what is outside.
      const place: Vec2 = [(a[0] + b[0]) / 2 + (beyondSide * y) / long, (a[1] + b[1]) / 2 - (beyondSide * x) / long]
      return { a, b, isHeld: isHeldAt(place) }
    }),
  )
}

const lengthOf = ({ a, b }: Side) => norm2(minus(b, a))
const wayOf = ([x, y]: Vec2) => (Math.atan2(y, x) * 180) / Math.PI
