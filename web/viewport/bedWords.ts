import type { Box, Vec3 } from '@makrel/core/place'

/** What is seen, and from where. */
export interface Seen {
  /** world to clip space, column by column */
  readonly matrix: readonly number[]
  readonly eye: Vec3
  /** of the drawing, pixels */
  readonly width: number
  readonly height: number
}

/** A word that lies on the bed: its middle, the ways in which it reads and stands up, and how high its letters are, mm. */
export interface BedWord {
  readonly word: string
  readonly at: Vec3
  readonly along: Vec3
  readonly up: Vec3
  readonly high: number
}

const sides = [
  ['front', [0, -1]],
  ['right', [1, 0]],
  ['back', [0, 1]],
  ['left', [-1, 0]],
] as const

/** Height of the letters as they would be seen from straight above, pixels. */
const letters = 17
/** The words lie within these shares of the drawing: its tools are above, its title block below. */
const [mostAside, mostUp, mostDown] = [0.9, 0.84, -0.74]
/** Seen flatter than this they could not be read. */
const flattest = 0.12
/** Clear of the part, and of its dimensions, by this share of its size. */
const clear = 0.18
/** So many places are tried between the part and the edge of the bed. */
const tries = 24

/** Which side of the bed is which, each at the edge of the bed or as near to it as is seen; none where it lies out of view or edge-on. */
export function bedWords(bed: readonly [number, number, number], box: Box | undefined, seen: Seen): readonly BedWord[] {
  const middle = [0, 1].map((k) => (box ? (box.min[k]! + box.max[k]!) / 2 : 0)) as [number, number]
  const half = [0, 1].map((k) => (box ? (box.max[k]! - box.min[k]!) / 2 : 0)) as [number, number]
  return sides.flatMap(([word, [dx, dy]]): readonly BedWord[] => {
    const k = dx === 0 ? 1 : 0
    const edge = bed[k] / 2 - (dx + dy) * middle[k]
    const least = half[k] + clear * Math.max(...half, 10)
    const at = (far: number): Vec3 => [middle[0] + dx * far, middle[1] + dy * far, 0]
    const places = Array.from({ length: tries + 1 }, (_, i) =>
      at(least + (Math.max(0, edge - least) * (tries - i)) / tries),
    )
    const found = places.find((place) => isInView(seen, place))
    if (!found) return []
    const sideways: Vec3 = [-dy, dx, 0]
    const [across] = pixels(seen, found, sideways)
    const along: Vec3 = across < 0 ? [dy, -dx, 0] : sideways
    const above = seen.eye[2] < 0 ? -1 : 1
    const up: Vec3 = [-along[1] * above, along[0] * above, 0]
    const [a, b] = [pixels(seen, found, along), pixels(seen, found, up)]
    const perMm = Math.max(Math.hypot(...a), Math.hypot(...b))
    const area = Math.abs(a[0] * b[1] - a[1] * b[0])
    const high = letters / perMm
    // Within the edge of the bed, not on its line.
    const inwards: Vec3 = [found[0] - dx * high, found[1] - dy * high, 0]
    // Edge-on they would be lines.
    return area < flattest * perMm ** 2 ? [] : [{ word, at: inwards, along, up, high }]
  })
}

function clip({ matrix: m }: Seen, [x, y, z]: Vec3): readonly [number, number, number] {
  const row = (r: number) => m[r]! * x + m[r + 4]! * y + m[r + 8]! * z + m[r + 12]!
  const w = row(3)
  return [row(0) / w, row(1) / w, w]
}

function isInView(seen: Seen, at: Vec3): boolean {
  const [x, y, w] = clip(seen, at)
  return w > 0 && Math.abs(x) <= mostAside && y <= mostUp && y >= mostDown
}

/** How far one mm that way goes on the screen, pixels to the right and up. */
function pixels(seen: Seen, at: Vec3, way: Vec3): readonly [number, number] {
  const [a, b] = [clip(seen, at), clip(seen, [at[0] + way[0], at[1] + way[1], at[2] + way[2]])]
  return [((b[0] - a[0]) * seen.width) / 2, ((b[1] - a[1]) * seen.height) / 2]
}
