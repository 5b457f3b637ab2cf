import { Groups, type TriangleMesh, type TriangleTree } from '../mesh/index.ts'
import { withTurns } from '../pacing/index.ts'
import type { Vec3 } from '../place/index.ts'
import { type Cells, cellsOf, stridesOf } from './cells.ts'
import { depthsOf } from './depths.ts'
import { type Door, type Room, type Rooms, roomFrom, roomsOf } from './rooms.ts'
import { placesIn, shutsOf } from './shuts.ts'

export interface PartedSearch {
  /** no cell is smaller, mm */
  readonly least: number
  /** the surface, to be asked what is near */
  readonly tree: TriangleTree
  /** waited for now and then */
  pause?(): Promise<void>
}

/** A solid in cells, and what of it is joined by what. */
export interface Parted {
  readonly cells: Cells
  readonly placeOf: (cell: number) => Vec3
  readonly shut: Uint8Array
  readonly depths: Int32Array
  readonly rooms: Rooms
  readonly joints: readonly Joint[]
  /** cells between sides that are joined by what is too narrow for cells */
  readonly apart: readonly number[]
}

/** Cells are halved once where sides of a solid are joined by what is too narrow for them. */
export async function partedInto(
  solid: TriangleMesh,
  size: number,
  { least, tree, pause }: PartedSearch,
): Promise<Parted> {
  const finest = Math.max(least, size / 2)
  for (let own = size; ; own = finest) {
    await pause?.()
    const cells = cellsOf(solid, own)
    await pause?.()
    const depths = depthsOf(cells)
    await pause?.()
    const placeOf = placesIn(cells, tree)
    const shut = await shutsOf(cells, placeOf, tree, pause)
    await pause?.()
    const rooms = await withTurns(roomsOf(cells, depths, shut), pause ?? (async () => undefined))
    const { bridges, from } = bridgesOf(cells, rooms, ({ deepest }) => depths[deepest]! >= roomFrom(0))
    if (bridges.length > 0 && own > finest) continue
    return {
      ...{ cells, placeOf, shut, depths, rooms },
      joints: jointsOf(rooms, bridges),
      apart: from,
    }
  }
}

/** All doors between two rooms, and what they join. */
export interface Joint {
  readonly rooms: readonly [number, number]
  /** the deepest cell of each door */
  readonly doors: readonly number[]
  /** the rooms of its smaller side, the first of the two among them; undefined where something else joins the two as well */
  readonly smaller: ReadonlySet<number> | undefined
}

/**
 * Where rooms that are parts of one solid come nearest to each other, if cells do not tell how they are joined; `from`: the first of those of
 * each large one.
 */
function bridgesOf(cells: Cells, { rooms, doors, roomOf }: Rooms, isRoom: (room: Room) => boolean) {
  const bridges: Door[] = []
  const from = new Map<number, Door>()
  const large = rooms.flatMap((room, i) => (isRoom(room) ? [i] : []))
  for (;;) {
    const groups = grouped(rooms.length, [...doors, ...bridges])
    const apart = large.find((i) => groups.of(i) !== groups.of(large[0]!))
    if (apart === undefined) break
    const own = groups.of(apart)
    const bridge = nearestOther(cells, roomOf, (room) => groups.of(room) === own)
    if (!bridge) break
    bridges.push(bridge)
    if (!from.has(apart)) from.set(apart, bridge)
  }
  return { bridges, from: [...from.values()].map(({ deepest }) => deepest) }
}

/** Doors between rooms, and whether what lies on their sides hangs together elsewhere as well. */
function jointsOf({ rooms, doors }: Rooms, bridges: readonly Door[]): readonly Joint[] {
  const pairOf = ({ rooms: [a, b] }: Door) => `${a} ${b}`
  const pairs = new Map<string, Door[]>()
  for (const door of doors) pairs.set(pairOf(door), [...(pairs.get(pairOf(door)) ?? []), door])
  return [...pairs.values()].map((own): Joint => {
    const [a, b] = own[0]!.rooms
    const all = { doors: own.map(({ deepest }) => deepest) }
    const without = grouped(rooms.length, [...doors.filter((door) => !own.includes(door)), ...bridges])
    if (without.of(a) === without.of(b)) return { ...all, rooms: [a, b], smaller: undefined }
    const sideOf = (of: number) => new Set(rooms.flatMap((_, i) => (without.of(i) === without.of(of) ? [i] : [])))
    const cellsIn = (set: ReadonlySet<number>) => [...set].reduce((sum, i) => sum + rooms[i]!.count, 0)
    const [one, other] = [sideOf(a), sideOf(b)]
    const isFirst = cellsIn(one) <= cellsIn(other)
    return { ...all, rooms: isFirst ? [a, b] : [b, a], smaller: isFirst ? one : other }
  })
}

function grouped(count: number, doors: readonly Pick<Door, 'rooms'>[]): Groups {
  const groups = new Groups(count)
  for (const { rooms } of doors) groups.join(...rooms)
  return groups
}

/** The shortest way through cells from some rooms to any other one: both rooms, and the cell half way. */
function nearestOther(cells: Cells, roomOf: Int32Array, isOwn: (room: number) => boolean): Door | undefined {
  const from = new Int32Array(roomOf.length).fill(-1)
  let edge: number[] = []
  for (let cell = 0; cell < roomOf.length; cell++) {
    if (roomOf[cell]! < 0 || !isOwn(roomOf[cell]!)) continue
    from[cell] = cell
    edge.push(cell)
  }
  for (const around = besideOf(cells); edge.length > 0; ) {
    const next: number[] = []
    for (const cell of edge)
      for (const by of around) {
        const other = cell + by
        if (from[other] !== -1 || from[other] === undefined) continue
        from[other] = cell
        if (roomOf[other]! < 0) {
          next.push(other)
          continue
        }
        const way = [other]
        for (let at = other; from[at] !== at; at = from[at]!) way.push(from[at]!)
        return { rooms: [roomOf[way.at(-1)!]!, roomOf[other]!], deepest: way[way.length >> 1]! }
      }
    edge = next
  }
  return undefined
}

function besideOf(cells: Cells): readonly number[] {
  return stridesOf(cells).flatMap((by) => [by, -by])
}
