import type { TriangleMesh } from '../mesh/index.ts'
import type { Vec3 } from '../place/index.ts'

/** A solid cut into cubes: which of their middles lie in it. At least one layer of empty cells is round it on all sides. */
export interface Cells {
  /** of a cell's side, mm */
  readonly size: number
  readonly counts: readonly [number, number, number]
  /** the middle of the first cell */
  readonly from: Vec3
  /** 0 outside; `thin` where the middle of a cell is outside, but what is too thin for cells is near it; x running fastest */
  readonly isInside: Uint8Array
}

export const [inside, thin] = [1, 2]

/** Middles of cells lie off from what is even by so much of a cell: lines through them do not run along faces. */
const off: Vec3 = [0.0137, 0.0211, 0.0173]

/**
 * The cells of a closed mesh. What is thinner than a cell and lies between two middles has both of them all the same, and a gap that lies
 * between two has one of them, so that it parts what it parts.
 */
export function cellsOf(mesh: TriangleMesh, size: number): Cells {
  const { min, max } = boundsOf(mesh)
  const counts = [0, 1, 2].map((k) => Math.max(1, Math.ceil((max[k]! - min[k]!) / size)) + 4) as [
    number,
    number,
    number,
  ]
  const from = [0, 1, 2].map((k) => min[k]! - (1.5 + off[k]!) * size) as unknown as Vec3
  const isInside = new Uint8Array(counts[0] * counts[1] * counts[2])
  const cells = { size, counts, from, isInside }
  const gaps: number[] = []
  for (const axis of [0, 1, 2] as const) fillAlong(mesh, cells, axis, gaps)
  for (const cell of gaps) isInside[cell] = 0
  return cells
}

/** The side of cells, mm, of which about so many fill the box round a mesh. */
export function sizeOfCells(mesh: TriangleMesh, count: number): number {
  const { min, max } = boundsOf(mesh)
  return Math.cbrt(((max[0]! - min[0]!) * (max[1]! - min[1]!) * (max[2]! - min[2]!)) / count)
}

/** Where the middle of a cell is, mm. */
export function middleOf({ size, counts, from }: Cells, cell: number): Vec3 {
  const x = cell % counts[0]
  const y = Math.floor(cell / counts[0]) % counts[1]
  const z = Math.floor(cell / (counts[0] * counts[1]))
  return [from[0] + x * size, from[1] + y * size, from[2] + z * size]
}

/** How far it is from a cell to the next one along each axis. */
export function stridesOf({ counts }: Pick<Cells, 'counts'>): readonly [number, number, number] {
  return [1, counts[0], counts[0] * counts[1]]
}

function boundsOf({ positions }: TriangleMesh) {
  const min = [Infinity, Infinity, Infinity]
  const max = [-Infinity, -Infinity, -Infinity]
  for (let i = 0; i < positions.length; i++) {
    const x = positions[i]!
    if (x < min[i % 3]!) min[i % 3] = x
    if (x > max[i % 3]!) max[i % 3] = x
  }
  return { min, max }
}

/** Where lines through the middles of cells along an axis go into the mesh and out of it. */
function fillAlong(mesh: TriangleMesh, cells: Cells, axis: 0 | 1 | 2, gaps: number[]): void {
  const { size, counts, from, isInside } = cells
  const strides = stridesOf(cells)
  const [u, v] = [(axis + 1) % 3, (axis + 2) % 3] as [0 | 1 | 2, 0 | 1 | 2]
  const { lines, places, ways } = crossingsAlong(mesh, cells, axis)
  // By line: how many crossings come before those of each.
  const starts = new Uint32Array(counts[u] * counts[v] + 1)
  for (const line of lines) starts[line + 1]!++
  for (let i = 1; i < starts.length; i++) starts[i]! += starts[i - 1]!
  const order = new Uint32Array(lines.length)
  const next = starts.slice()
  for (let i = 0; i < lines.length; i++) order[next[lines[i]!]!++] = i
  const cellAt = (x: number) => (x - from[axis]) / size
  for (let line = 0; line + 1 < starts.length; line++) {
    const own = order.subarray(starts[line]!, starts[line + 1]!)
    if (own.length < 2) continue
    inOrder(own, places)
    // A line along a side is counted by one of its two triangles only now and then: the other axes have the cells.
    let through = 0
    for (let i = 0; i < own.length; i++) through += ways[own[i]!]!
    if (through !== 0) continue
    const base = (line % counts[u]) * strides[u] + Math.floor(line / counts[u]) * strides[v]
    let [depth, begins, ended] = [0, 0, Number.NEGATIVE_INFINITY]
    for (let at = 0; at < own.length; at++) {
      const i = own[at]!
      const before = depth
      depth += ways[i]!
      if (before <= 0 && depth > 0) {
        begins = cellAt(places[i]!)
        // No middle lies in the gap from where it ended to here.
        if (Math.ceil(ended) > Math.floor(begins) && ended < begins && Number.isFinite(ended))
          gaps.push(base + Math.round((ended + begins) / 2) * strides[axis])
      }
      if (before <= 0 || depth > 0) continue
      ended = cellAt(places[i]!)
      const [first, last] = [Math.ceil(begins), Math.floor(ended)]
      // What is thin has the middles on both sides of it: what leans stays in one.
      const kind = first > last ? thin : inside
      for (let k = Math.min(first, last); k <= Math.max(first, last); k++) {
        const cell = base + k * strides[axis]
        if (isInside[cell] !== inside) isInside[cell] = kind
      }
    }
  }
}

/** Puts a few numbers in the order of their places; those at the same place stay as they are. */
function inOrder(few: Uint32Array, places: Float64Array): void {
  for (let i = 1; i < few.length; i++) {
    const own = few[i]!
    let to = i
    for (; to > 0 && places[few[to - 1]!]! > places[own]!; to--) few[to] = few[to - 1]!
    few[to] = own
  }
}

/** Crossings of lines through the middles of cells: the number of the line, how far along, and whether it goes in (1) or out (−1). */
function crossingsAlong({ positions, triangles }: TriangleMesh, { size, counts, from }: Cells, axis: 0 | 1 | 2) {
  const [u, v] = [(axis + 1) % 3, (axis + 2) % 3] as [0 | 1 | 2, 0 | 1 | 2]
  let room = 1024
  let [lines, places, ways] = [new Uint32Array(room), new Float64Array(room), new Int8Array(room)]
  let count = 0
  const push = (line: number, place: number, way: number) => {
    if (count === room) {
      room *= 2
      const [l, p, w] = [new Uint32Array(room), new Float64Array(room), new Int8Array(room)]
      l.set(lines)
      p.set(places)
      w.set(ways)
      ;[lines, places, ways] = [l, p, w]
    }
    lines[count] = line
    places[count] = place
    ways[count++] = way
  }
  for (let t = 0; t < triangles.length; t += 3) {
    const [a, b, c] = [3 * triangles[t]!, 3 * triangles[t + 1]!, 3 * triangles[t + 2]!]
    const [au, av] = [(positions[a + u]! - from[u]) / size, (positions[a + v]! - from[v]) / size]
    const [bu, bv] = [(positions[b + u]! - from[u]) / size, (positions[b + v]! - from[v]) / size]
    const [cu, cv] = [(positions[c + u]! - from[u]) / size, (positions[c + v]! - from[v]) / size]
    const area = (bu - au) * (cv - av) - (bv - av) * (cu - au)
    if (area === 0) continue
    const [left, right] = [Math.ceil(Math.min(au, bu, cu)), Math.floor(Math.max(au, bu, cu))]
    const [low, high] = [Math.ceil(Math.min(av, bv, cv)), Math.floor(Math.max(av, bv, cv))]
    for (let y = low; y <= high; y++)
      for (let x = left; x <= right; x++) {
        const inA = ((bu - x) * (cv - y) - (bv - y) * (cu - x)) / area
        const inB = ((cu - x) * (av - y) - (cv - y) * (au - x)) / area
        const inC = 1 - inA - inB
        if (inA < 0 || inB < 0 || inC < 0) continue
        const place = inA * positions[a + axis]! + inB * positions[b + axis]! + inC * positions[c + axis]!
        push(x + y * counts[u], place, area > 0 ? -1 : 1)
      }
  }
  return { lines: lines.subarray(0, count), places: places.subarray(0, count), ways: ways.subarray(0, count) }
}
