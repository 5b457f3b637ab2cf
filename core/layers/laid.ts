import type { Kernel, Ring } from '../kernel/index.ts'
import { Groups } from '../mesh/index.ts'
import {
  type Box2,
  bodiesOf,
  boxAround,
  boxesMeet,
  insideRings,
  offSide,
  type PackedRings,
  packedRings,
  pointInside,
  RingSides,
  ringArea,
  unpackedRings,
  type Vec2,
} from '../plane/index.ts'
import { type LayerHeights, layerBottom, layerMiddle } from './heights.ts'
import type { Sections } from './sections.ts'

/** A place in a layer that has room for a line: where the middle of the line can go, and all that is within half a line of it. */
export interface LaidPlace {
  /** from 0 */
  readonly layer: number
  /** where the middle of a line can go */
  readonly core: PackedRings
  readonly box: Box2
  /** a place well inside of that */
  readonly inside: Vec2
}

export interface LaidOptions {
  readonly heights: LayerHeights
  /** how wide a line is, mm */
  readonly lineWidth: number
  /** of all that is to be printed, mm above the bed */
  readonly height: number
  pause?(): Promise<void>
}

/** A line that is wider than its room by this share is laid all the same: walls are made as wide as so many lines. */
const slack = 0.02
/** A thin wall that leans is laid on the one below, where they share so much of a line. */
const leastShared = 0.25
/** What stands out of a core by less than this is not looked at, mm. */
const plainer = 0.005
/** What is thinner than this share of a layer is a film. */
const halfLayer = 0.5
/** So far below and above a film its neighbours are looked at, mm. */
const beside = 1e-4
/** Cores share something where they do so over more than this, mm². */
const hardlyAny = 1e-9

/**
 * What a printer lays of a solid, in groups of places that hang together: places of a layer are apart where no line goes from one to the
 * other, and hang on what is below where a whole round of a line's width lies in both, or a thin wall on a quarter of its line.
 */
export async function laidGroups(
  kernel: Kernel,
  sections: Pick<Sections, 'at' | 'films'>,
  { heights, lineWidth, height, pause }: LaidOptions,
): Promise<readonly (readonly LaidPlace[])[]> {
  const by = (lineWidth / 2) * (1 - slack)
  /** Places that share what a thin wall must lie on have cores no farther from each other. */
  const mostApart = 2 * by - leastShared * lineWidth
  /** what was found of the same section in other layers */
  const known = new WeakMap<readonly Ring[], readonly Room[]>()
  const placesIn = (rings: readonly Ring[]): readonly Room[] => {
    const own = known.get(rings)
    if (own) return own
    const before = roomsOf.get(rings)
    const isKnown = before?.by === by
    const rooms = isKnown
      ? before.rooms.map((room) => ({ ...room, core: unpackedRings(room.packed) }))
      : bodiesOf(kernel.scope((scope) => scope.inset(rings, by, { within: plainer }))).map((core) => ({
          ...{ core, packed: packedRings(core), box: boxOf(core), inside: pointInside(core) ?? core[0]![0]! },
        }))
    known.set(rings, rooms)
    if (!isKnown) roomsOf.set(rings, { by, rooms: rooms.map(({ packed, box, inside }) => ({ packed, box, inside })) })
    return rooms
  }
  /** Where a place well inside of one lies in the other it is quickly told. */
  const clearlyShares = (a: Room, b: Room) =>
    a.core === b.core || insideRings(b.core, a.inside) || insideRings(a.core, b.inside)
  const shares = (a: Room, b: Room) =>
    kernel.scope((scope) => {
      const common = (one: readonly Ring[], other: readonly Ring[]) => scope.commonRegions(one, other)
      const both = common(a.core, b.core).reduce((sum, ring) => sum + ringArea(ring), 0)
      if (both > hardlyAny) return true
      // Two lines beside each other have no room in a thin one.
      if ([a, b].every(({ core }) => scope.inset(core, by).length > 0)) return false
      const [one, other] = [scope.inset(a.core, -by), scope.inset(b.core, -by)]
      return scope.inset(common(one, other), (leastShared * lineWidth) / 2).length > 0
    })
  const { changes = [] } = heights
  const thickest = [heights, ...changes].reduce((most, each) => Math.max(most, each.layerHeight), heights.firstLayer)
  const films = sections.films(halfLayer * thickest)
  /** What lies in the middle of a layer, but for films: what is no thicker than half of it gives no line. */
  const ringsIn = (layer: number) => {
    const middle = layerMiddle(layer, heights)
    const rings = sections.at(middle)
    const thick = halfLayer * (layerBottom(layer + 1, heights) - layerBottom(layer, heights))
    return films
      .filter(([low, high]) => low < middle && middle < high && high - low < thick)
      .reduce((left, [low, high]) => {
        const [below, above] = [sections.at(low - beside), sections.at(high + beside)]
        return kernel.scope((scope) => {
          const thin = scope.withoutRegions(scope.withoutRegions(left, below), above)
          return thin.length === 0 ? left : scope.withoutRegions(left, thin)
        })
      }, rings)
  }
  const places: LaidPlace[] = []
  const groups = new Groups()
  /** of the layer below, and the number of the first of them */
  let [below, first]: readonly [readonly Room[], number] = [[], 0]
  for (let layer = 0; layerBottom(layer, heights) < height; layer++) {
    await pause?.()
    const next = places.length
    const doubtful: (readonly [own: number, under: number])[] = []
    const rooms = placesIn(ringsIn(layer))
    for (const [i, room] of rooms.entries()) {
      const number = groups.add()
      places.push({ layer, core: room.packed, box: room.box, inside: room.inside })
      for (const [k, under] of below.entries()) {
        if (!boxesMeet(room.box, under.box, lineWidth)) continue
        if (clearlyShares(room, under)) groups.join(number, first + k)
        else doubtful.push([i, k])
      }
    }
    // Most of these hang together by what lies below.
    for (const [i, k] of doubtful) {
      if (groups.of(next + i) === groups.of(first + k)) continue
      const [one, other] = [rooms[i]!, below[k]!]
      if (nearerThan(one.core, other.core, mostApart) && shares(one, other)) groups.join(next + i, first + k)
    }
    ;[below, first] = [rooms, next]
  }
  const all = new Map<number, LaidPlace[]>()
  places.forEach((place, i) => {
    const own = all.get(groups.of(i))
    if (own) own.push(place)
    else all.set(groups.of(i), [place])
  })
  return [...all.values()]
}

/** What was found of the same section of other solids, as before an edit. */
const roomsOf = new WeakMap<readonly Ring[], { readonly by: number; readonly rooms: readonly Omit<Room, 'core'>[] }>()

/** A place of a section, in whatever layers that is. */
interface Room extends Pick<LaidPlace, 'box' | 'inside'> {
  readonly core: readonly Ring[]
  readonly packed: PackedRings
}

function boxOf(rings: readonly Ring[]): Box2 {
  return boxAround(rings.flatMap((ring) => ring.map((p) => ({ min: p, max: p }))))!
}

/** Whether the lines of rings cross, or come nearer to each other than `within`, mm. */
function nearerThan(a: readonly Ring[], b: readonly Ring[], within: number): boolean {
  const sides = new RingSides(b)
  for (const ring of a)
    for (let i = 0; i < ring.length; i++) {
      const [p, q] = [ring[i]!, ring[(i + 1) % ring.length]!]
      const box: Box2 = {
        min: [Math.min(p[0], q[0]) - within, Math.min(p[1], q[1]) - within],
        max: [Math.max(p[0], q[0]) + within, Math.max(p[1], q[1]) + within],
      }
      for (const [r, s] of sides.in(box)) {
        if (cross(p, q, r, s)) return true
        if (offSide(p, r, s) < within || offSide(q, r, s) < within) return true
        if (offSide(r, p, q) < within || offSide(s, p, q) < within) return true
      }
    }
  return false
}

/** Whether the lines from p to q and from r to s cross. */
function cross(p: Vec2, q: Vec2, r: Vec2, s: Vec2): boolean {
  const side = (a: Vec2, b: Vec2, c: Vec2) => (b[0] - a[0]) * (c[1] - a[1]) - (b[1] - a[1]) * (c[0] - a[0])
  return side(p, q, r) * side(p, q, s) < 0 && side(r, s, p) * side(r, s, q) < 0
}
