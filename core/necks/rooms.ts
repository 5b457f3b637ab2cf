import type { Paced } from '../pacing/index.ts'
import { type Cells, stridesOf } from './cells.ts'

/** What of a solid has room for one large ball after the other, with nothing much narrower between them. */
export interface Room {
  /** its deepest cell */
  readonly deepest: number
  /** how many cells it has */
  count: number
}

/** Where two rooms meet: cells of either that lie beside the other. */
export interface Door {
  readonly rooms: readonly [number, number]
  /** the deepest of its cells: where the largest ball goes through */
  readonly deepest: number
}

export interface Rooms {
  /** the room of each cell, −1 outside */
  readonly roomOf: Int32Array
  readonly rooms: readonly Room[]
  readonly doors: readonly Door[]
}

/** In a room there is a place so many times as deep as where it meets another one, and by so many cells more: less may be chance. */
const [times, beyond] = [1.6, 0.6]
/** What is nowhere so many cells deep is no room. */
const leastDepth = 1.5

/** The square of how deep a room is at least that meets another one in a cell of such a depth; all in cells. */
export function roomFrom(depth: number): number {
  return Math.max(leastDepth, times * Math.sqrt(depth) + beyond) ** 2
}

/**
 * Parts a solid into rooms: cells are gone through from the deepest one on, and where two that have grown meet, they stay apart if both are
 * much deeper somewhere than there.
 */
export function* roomsOf(cells: Cells, depths: Int32Array, shut: Uint8Array): Paced<Rooms> {
  const { isInside } = cells
  const order = deepestFirst(depths)
  const [sx, sy, sz] = stridesOf(cells)
  /** Of six neighbours: how far on each is, and what shuts it off, a bit of the one that comes first. */
  const by = Int32Array.of(sx, -sx, sy, -sy, sz, -sz)
  const first = by.map((each) => Math.min(0, each))
  const bit = Int32Array.of(1, 1, 2, 2, 4, 4)
  /** cells of a room that grew into another one are that one's, too */
  const parent: number[] = []
  const rooms: Room[] = []
  const rootOf = (room: number) => {
    let at = room
    while (parent[at] !== at) {
      parent[at] = parent[parent[at]!]!
      at = parent[at]!
    }
    return at
  }
  const own = new Int32Array(isInside.length).fill(-1)
  const met: number[] = []
  /** The one room beside a cell, −1 where there is none, −2 where there are several. */
  const oneBeside = (cell: number) => {
    let one = -1
    for (let k = 0; k < 6; k++) {
      const other = own[cell + by[k]!]!
      if (other < 0 || other === one || shut[cell + first[k]!]! & bit[k]!) continue
      const root = parent[other] === other ? other : rootOf(other)
      if (root === one) continue
      if (one >= 0) return -2
      one = root
    }
    return one
  }
  const take = (cell: number) => {
    // Most lie amid cells of one room: what meets nothing else parts nothing.
    const one = oneBeside(cell)
    if (one >= 0) {
      own[cell] = one
      rooms[one]!.count++
      return
    }
    if (one === -1) {
      own[cell] = rooms.length
      parent.push(rooms.length)
      rooms.push({ deepest: cell, count: 1 })
      return
    }
    met.length = 0
    let into = cell
    for (let k = 0; k < 6; k++) {
      const other = own[cell + by[k]!]!
      if (other < 0 || shut[cell + first[k]!]! & bit[k]!) continue
      if (into === cell || depths[cell + by[k]!]! > depths[into]!) into = cell + by[k]!
      const root = rootOf(other)
      if (!met.includes(root)) met.push(root)
    }
    const main = met.reduce((best, room) =>
      depths[rooms[room]!.deepest]! > depths[rooms[best]!.deepest]! ? room : best,
    )
    // It belongs to what it leads into, not to what is the deepest farther on.
    own[cell] = rootOf(own[into]!)
    rooms[own[cell]!]!.count++
    const least = roomFrom(depths[cell]!)
    for (const room of met) {
      if (room === main || depths[rooms[room]!.deepest]! >= least) continue
      parent[room] = main
      rooms[main]!.count += rooms[room]!.count
    }
  }
  // Of cells that lie as deep those beside what is there first, and on from these: none is taken from far along a ledge.
  const queued = new Uint8Array(isInside.length)
  const queue = new Uint32Array(order.length)
  const isBeside = (cell: number) => {
    for (let k = 0; k < 6; k++) if (own[cell + by[k]!]! >= 0 && !(shut[cell + first[k]!]! & bit[k]!)) return true
    return false
  }
  for (let from = 0; from < order.length; ) {
    const depth = depths[order[from]!]!
    let to = from
    while (to < order.length && depths[order[to]!]! === depth) to++
    let [next, end] = [0, 0]
    const goOn = (cell: number) => {
      for (let k = 0; k < 6; k++) {
        const other = cell + by[k]!
        if (depths[other] !== depth || queued[other] || shut[cell + first[k]!]! & bit[k]!) continue
        queued[other] = 1
        queue[end++] = other
      }
    }
    for (let i = from; i < to; i++) {
      const cell = order[i]!
      if (!isBeside(cell)) continue
      queued[cell] = 1
      queue[end++] = cell
    }
    yield
    for (let i = from; i <= to; i++) {
      for (; next < end; next++) {
        take(queue[next]!)
        goOn(queue[next]!)
      }
      if (i === to || queued[order[i]!]) continue
      queued[order[i]!] = 1
      take(order[i]!)
      goOn(order[i]!)
    }
    from = to
  }
  yield
  const numbers = new Int32Array(rooms.length).fill(-1)
  const kept: Room[] = []
  for (let cell = 0; cell < own.length; cell++) {
    if (own[cell]! < 0) continue
    const root = rootOf(own[cell]!)
    if (numbers[root]! < 0) {
      numbers[root] = kept.length
      kept.push(rooms[root]!)
    }
    own[cell] = numbers[root]!
  }
  return { roomOf: own, rooms: kept, doors: doorsOf(cells, depths, shut, own) }
}

/** Cells that are inside, the deepest first. */
function deepestFirst(depths: Int32Array): Uint32Array {
  let [most, count] = [0, 0]
  for (const depth of depths) {
    if (depth > most) most = depth
    if (depth > 0) count++
  }
  const starts = new Uint32Array(most + 2)
  for (const depth of depths) if (depth > 0) starts[most - depth + 1]!++
  for (let i = 1; i < starts.length; i++) starts[i]! += starts[i - 1]!
  const order = new Uint32Array(count)
  for (let cell = 0; cell < depths.length; cell++) {
    const depth = depths[cell]!
    if (depth > 0) order[starts[most - depth]!++] = cell
  }
  return order
}

function doorsOf(cells: Cells, depths: Int32Array, shut: Uint8Array, roomOf: Int32Array): Door[] {
  const strides = stridesOf(cells)
  /** by the two rooms: the cells where they meet */
  const meets = new Map<string, Set<number>>()
  for (let cell = 0; cell < roomOf.length; cell++) {
    const room = roomOf[cell]!
    if (room < 0) continue
    for (let axis = 0; axis < 3; axis++) {
      const by = strides[axis]!
      const other = roomOf[cell + by]!
      if (other < 0 || other === room || shut[cell]! & (1 << axis)) continue
      const key = room < other ? `${room} ${other}` : `${other} ${room}`
      const own = meets.get(key) ?? new Set()
      meets.set(key, own)
      own.add(cell)
      own.add(cell + by)
    }
  }
  // What is ragged is one door all the same.
  const steps = [-2, -1, 0, 1, 2]
  const around = steps.flatMap((x) =>
    steps.flatMap((y) => steps.map((z) => x * strides[0] + y * strides[1] + z * strides[2])),
  )
  return [...meets].flatMap(([key, left]) => {
    const rooms = key.split(' ').map(Number) as [number, number]
    const doors: Door[] = []
    for (const first of left) {
      left.delete(first)
      const open = [first]
      let deepest = first
      for (let cell = open.pop(); cell !== undefined; cell = open.pop()) {
        if (depths[cell]! > depths[deepest]!) deepest = cell
        for (const by of around) if (left.delete(cell + by)) open.push(cell + by)
      }
      doors.push({ rooms, deepest })
    }
    return doors
  })
}
