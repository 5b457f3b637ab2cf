import type { Solid } from '../kernel/index.ts'
import { nextHalfEdge } from '../mesh/index.ts'

/** Heights at which a solid may reach out beyond what is below it, as stretches that are apart, lowest first, mm. */
export class Ledges {
  readonly #stretches: readonly (readonly [low: number, high: number])[]

  /**
   * Leaning by no more than `overhang`, degrees off upright. From any place of what stands above, one goes straight down through the solid,
   * and where that ends, on down its surface the steepest way: that leads no farther aside than what leans by so much, unless it comes to
   * a face that leans more, along the keel between two faces, or to an end, which is the foot of something.
   */
  constructor(solid: Pick<Solid, 'corners' | 'mesh' | 'twins'>, overhang: number) {
    const [corners, { triangles }, twins] = [solid.corners(), solid.mesh(), solid.twins()]
    const most = (overhang * Math.PI) / 180
    const count = triangles.length / 3
    const [x, y] = [new Float64Array(count), new Float64Array(count)]
    /** looks down, or is a sliver, of which nobody knows where it looks */
    const isDown = new Uint8Array(count)
    const isSliver = new Uint8Array(count)
    const found: [number, number][] = []
    for (let t = 0; t < count; t++) {
      const [a, b, c] = [3 * triangles[3 * t]!, 3 * triangles[3 * t + 1]!, 3 * triangles[3 * t + 2]!]
      const [bx, by, bz] = [
        corners[b]! - corners[a]!,
        corners[b + 1]! - corners[a + 1]!,
        corners[b + 2]! - corners[a + 2]!,
      ]
      const [cx, cy, cz] = [
        corners[c]! - corners[a]!,
        corners[c + 1]! - corners[a + 1]!,
        corners[c + 2]! - corners[a + 2]!,
      ]
      x[t] = by * cz - bz * cy
      y[t] = bz * cx - bx * cz
      const down = -(bx * cy - by * cx)
      const twice = Math.hypot(x[t]!, y[t]!, down)
      isSliver[t] = twice > thinnest * Math.max(Math.hypot(bx, by, bz), Math.hypot(cx, cy, cz)) ? 0 : 1
      isDown[t] = isSliver[t] || down > 0 ? 1 : 0
      if (isSliver[t] || !(down > twice * Math.sin(most))) continue
      const [p, q, r] = [corners[a + 2]!, corners[b + 2]!, corners[c + 2]!]
      found.push([Math.min(p, q, r), Math.max(p, q, r)])
    }
    const [goesOn, isUnder] = [new Uint8Array(corners.length / 3), new Uint8Array(corners.length / 3)]
    for (let h = 0; h < triangles.length; h++) {
      const [t, from, to] = [(h / 3) | 0, triangles[h]!, triangles[nextHalfEdge(h)]!]
      const [low, high] = [corners[3 * from + 2]!, corners[3 * to + 2]!]
      if (high < low) goesOn[from] = 1
      if (isDown[t]) isUnder[from] = 1
      const [twin, along, aside] = [
        twins[h]!,
        corners[3 * to]! - corners[3 * from]!,
        corners[3 * to + 1]! - corners[3 * from + 1]!,
      ]
      if (twin < h) continue
      const other = (twin / 3) | 0
      const leadsTo = (own: number, way: 1 | -1) => isSliver[own] || way * (aside * x[own]! - along * y[own]!) > 0
      if (!(isDown[t] || isDown[other]) || !leadsTo(t, 1) || !leadsTo(other, -1)) continue
      if (Math.atan2(Math.hypot(along, aside), Math.abs(high - low)) > most)
        found.push([Math.min(low, high), Math.max(low, high)])
    }
    for (let v = 0; v < goesOn.length; v++)
      if (isUnder[v] && !goesOn[v]) found.push([corners[3 * v + 2]!, corners[3 * v + 2]!])
    found.sort(([a], [b]) => a - b)
    const stretches: [number, number][] = []
    for (const [low, high] of found) {
      const last = stretches.at(-1)
      if (last && low <= last[1]) last[1] = Math.max(last[1], high)
      else stretches.push([low, high])
    }
    this.#stretches = stretches
  }

  /** Whether some of it lies between two heights, mm. */
  areBetween(low: number, high: number): boolean {
    let [first, end] = [0, this.#stretches.length]
    while (first < end) {
      const middle = (first + end) >> 1
      if (this.#stretches[middle]![1] < low) first = middle + 1
      else end = middle
    }
    return first < this.#stretches.length && this.#stretches[first]![0] <= high
  }
}

/** What is no wider than this is a sliver, mm. */
const thinnest = 1e-6
