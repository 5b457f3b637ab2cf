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
 * `sides`: those of the region, see `sidesOf`. `beyond`: what of it cannot do without; lines that do not run through that are not told.
 */
export function spannedBest(sides: readonly Side[], beyond: readonly Ring[], lineWidth: number): Spanned {
  const [flat, needed] = [flatSides(sides), flatSides(sidesOf(beyond, () => false))]
  const ways = new Set(Array.from({ length: 180 / tried }, (_, i) => i * tried))
  const byLength = [...sides].filter(({ isHeld }) => isHeld).sort((p, q) => lengthOf(q) - lengthOf(p))
  for (const { a, b } of byLength.slice(0, mostSides)) ways.add(wayOf(minus(b, a)) - 90).add(wayOf(minus(b, a)))
  let best: Spanned | undefined
  for (const way of ways) {
    const own = spannedIn(flat, needed, ((way % 180) + 180) % 180, lineWidth)
    const isFreer = best && own.freeArea > best.freeArea + hardlyFree * lineWidth
    const isLess = !best || own.freeArea < best.freeArea - hardlyFree * lineWidth
    if (isLess || (!isFreer && own.longest < best!.longest)) best = own
  }
  return best!
}

function spannedIn(sides: FlatSides, needed: FlatSides, way: number, lineWidth: number): Spanned {
  const turn = (way * Math.PI) / 180
  const along: Vec2 = [Math.cos(turn), Math.sin(turn)]
  let [low, high] = [Number.POSITIVE_INFINITY, Number.NEGATIVE_INFINITY]
  for (let i = 0; i < needed.ends.length; i += 4) {
    const off = along[0] * needed.ends[i + 1]! - along[1] * needed.ends[i]!
    if (off < low) low = off
    if (off > high) high = off
  }
  const widest = Math.max(Math.min(lineWidth, (high - low) / fewest), (high - low) / most)
  const count = Math.max(1, Math.round((high - low) / widest))
  const pitch = (high - low) / count
  const cuts = cutsOf(sides, along, low, pitch, count)
  const inside = cutsOf(needed, along, low, pitch, count)
  const lines: SpannedLine[] = []
  let [longest, free] = [0, 0]
  for (let i = 0; i < count; i++) {
    const at = low + pitch * (i + 0.5)
    const place = (far: number): Vec2 => [along[0] * far - along[1] * at, along[1] * far + along[0] * at]
    for (let k = cuts.starts[i]!; k + 1 < cuts.starts[i + 1]!; k += 2) {
      const [from, to] = [cuts.far[k]!, cuts.far[k + 1]!]
      let beyond = 0
      for (let m = inside.starts[i]!; m + 1 < inside.starts[i + 1]!; m += 2)
        beyond += Math.max(0, Math.min(to, inside.far[m + 1]!) - Math.max(from, inside.far[m]!))
      if (beyond <= 0) continue
      const long = to - from
      const isHeld = cuts.isHeld[k] === 1 && cuts.isHeld[k + 1] === 1
      lines.push({ from: place(from), to: place(to), long, isHeld })
      if (isHeld) longest = Math.max(longest, long)
      else free += beyond
    }
  }
  return { way, longest, freeArea: free * pitch, pitch, lines }
}

/** Sides as plain numbers, since lines are laid through them in dozens of ways: x, y of both ends of each. */
interface FlatSides {
  readonly ends: Float64Array
  readonly isHeld: Uint8Array
}

function flatSides(sides: readonly Side[]): FlatSides {
  const ends = new Float64Array(4 * sides.length)
  const isHeld = new Uint8Array(sides.length)
  for (const [i, { a, b, isHeld: held }] of sides.entries()) {
    ends[4 * i] = a[0]
    ends[4 * i + 1] = a[1]
    ends[4 * i + 2] = b[0]
    ends[4 * i + 3] = b[1]
    if (held) isHeld[i] = 1
  }
  return { ends, isHeld }
}

/** Where lines cross sides: those of line i from `starts[i]` on, as they come along it. */
interface Cuts {
  readonly starts: Int32Array
  readonly far: Float64Array
  readonly isHeld: Uint8Array
}

/** Where evenly spaced lines cross sides, along each line. */
function cutsOf({ ends, isHeld }: FlatSides, along: Vec2, low: number, pitch: number, count: number): Cuts {
  const [cos, sin] = along
  const sides = isHeld.length
  /** of each side how far off its ends are, and the lines that cross it: a line through a corner crosses the one of both sides that goes up from it */
  const off = new Float64Array(2 * sides)
  const lines = new Int32Array(2 * sides)
  const starts = new Int32Array(count + 1)
  for (let i = 0; i < sides; i++) {
    const p = cos * ends[4 * i + 1]! - sin * ends[4 * i]!
    const q = cos * ends[4 * i + 3]! - sin * ends[4 * i + 2]!
    off[2 * i] = p
    off[2 * i + 1] = q
    if (p === q) continue
    const high = Math.max(p, q)
    const first = Math.max(0, Math.ceil((Math.min(p, q) - low) / pitch - 0.5))
    let last = first
    while (last < count && low + pitch * (last + 0.5) < high) starts[++last]!++
    lines[2 * i] = first
    lines[2 * i + 1] = last
  }
  for (let i = 0; i < count; i++) starts[i + 1]! += starts[i]!
  const next = starts.slice(0, count)
  const cuts: Cuts = { starts, far: new Float64Array(starts[count]!), isHeld: new Uint8Array(starts[count]!) }
  for (let i = 0; i < sides; i++) {
    const [p, q] = [off[2 * i]!, off[2 * i + 1]!]
    const x = cos * ends[4 * i]! + sin * ends[4 * i + 1]!
    const y = cos * ends[4 * i + 2]! + sin * ends[4 * i + 3]!
    for (let line = lines[2 * i]!; line < lines[2 * i + 1]!; line++) {
      const at = low + pitch * (line + 0.5)
      const far = x + ((at - p) / (q - p)) * (y - x)
      // Few cross each line: each is put where it belongs.
      let k = next[line]!++
      for (; k > starts[line]! && cuts.far[k - 1]! > far; k--) {
        cuts.far[k] = cuts.far[k - 1]!
        cuts.isHeld[k] = cuts.isHeld[k - 1]!
      }
      cuts.far[k] = far
      cuts.isHeld[k] = isHeld[i]!
    }
  }
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
