import { stridesOf } from './cells.ts'
import type { Parted } from './parted.ts'
import { type Room, roomFrom } from './rooms.ts'

/** From a cell on one side of a door through it to one on the other: on the ways to where there is room for large balls. */
export function wayThrough(parted: Parted, door: number, pair: readonly [Room, Room]): readonly number[] {
  const [one, other] = [wayTo(parted, door, pair[0], pair), wayTo(parted, door, pair[1], pair)]
  // What both begin with leads to neither.
  const apart = one.findIndex((cell, i) => other[i] !== cell)
  return [...one.slice(Math.max(1, apart)).toReversed(), ...other.slice(Math.max(1, apart) - 1)]
}

/** The shortest way from a door, through two rooms, to where the one has room for a ball that is much larger than what goes through. */
function wayTo(
  { cells, depths, shut, rooms: { roomOf } }: Parted,
  door: number,
  room: Room,
  pair: readonly [Room, Room],
): readonly number[] {
  const numbers = pair.map(({ deepest }) => roomOf[deepest]!)
  const number = roomOf[room.deepest]
  const enough = Math.min(depths[room.deepest]!, roomFrom(depths[door]!))
  const strides = stridesOf(cells)
  const from = new Map([[door, -1]])
  let end = -1
  const isThere = (cell: number) => roomOf[cell] === number && depths[cell]! >= enough
  if (isThere(door)) end = door
  for (let edge = [door]; end < 0 && edge.length > 0; ) {
    const next: number[] = []
    const step = (cell: number, other: number, first: number, bit: number) => {
      if (from.has(other) || !numbers.includes(roomOf[other]!) || shut[first]! & bit) return
      from.set(other, cell)
      if (end < 0 && isThere(other)) end = other
      next.push(other)
    }
    for (const cell of edge)
      for (const [axis, by] of strides.entries()) {
        step(cell, cell + by, cell, 1 << axis)
        step(cell, cell - by, cell - by, 1 << axis)
      }
    edge = next
  }
  const way: number[] = []
  for (let at = end; at >= 0; at = from.get(at)!) way.unshift(at)
  return way.length > 0 ? way : [door]
}
