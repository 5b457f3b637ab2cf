import { type TriangleMesh, TriangleTree } from '../mesh/index.ts'
import {
  type Cells,
  Cutter,
  laidIn,
  middleOf,
  type Plane,
  planeThrough,
  sectionFigures,
  stridesOf,
} from '../necks/index.ts'
import { add, dot, norm, scaled, subtract, unit, type Vec3 } from '../place/index.ts'
import { bodiesOf, type Ring, RingSides, ringArea, type Vec2 } from '../plane/index.ts'
import type { Flow } from './flow.ts'
import { betweenLayers, type Force, type Stress, stressIn, together } from './stress.ts'

/** What a material bears before it breaks, MPa. */
export interface Strength {
  readonly along: number
  /** between two layers */
  readonly across: number
}

interface Layered extends Strength {
  /** unit: the way layers are laid on each other */
  readonly up: Vec3
}

/** A section that parts what is loaded from what is held, and how much of what it bears is asked of it. */
export interface Loaded {
  readonly plane: Plane
  readonly rings: readonly Ring[]
  /** mm² */
  readonly area: number
  /** the way it is narrowest, mm */
  readonly across: number
  readonly stress: Stress
  /** the force goes on beyond it: where that is, as seen from its middle, mm */
  readonly arm: number
  /** what it would be pulled apart between: layers, or not */
  readonly betweenLayers: boolean
  /** 1 where it breaks */
  readonly use: number
  /**
   * no less than what is asked of one of several bodies that bear it together, bent by its share with the whole arm; 0 where it is one: what
   * braces them tells how much less, which a section does not know
   */
  readonly alone: number
  /** how many bodies bear it together */
  readonly count: number
}

/** The sections between what is loaded and what is held. */
export interface LoadedSections {
  /** the one of which most is asked */
  readonly worst: Loaded | undefined
  /** the one of which most may be asked by itself, where several bodies bear together */
  readonly shared: Loaded | undefined
  /** how many were looked at */
  readonly count: number
  /** the middle of a stretch of the way in which no section was found that parts the two, if there is one */
  readonly unmeasured: Vec3 | undefined
}

/** As many places on the way are looked at as it has cells, at most so many; so many of them are looked at closely, and round the worst it is looked so often in so many steps. */
const [mostStations, mostClosely, rounds, times] = [48, 4, 3, 4]
/** What flows through a section is all that flows, but for this share: else it does not part the two. */
const leak = 0.06
/** Less of what flows is no part of it. */
const leastShare = 0.01
/** Of no stretch of the way without a section may be more than this share, nor may what flows fall by more there: within it, and at its ends. */
const inside = [0.12, 0.15] as const
const atEnd = [0.3, 0.75] as const
/** Where it falls by less there is room all round. */
const hardlyFalls = 0.02

/**
 * The section of which a force asks most. Sections lie square to the way in which a current would flow from what is loaded to what is held. `force`: N, on what is loaded.
 */
export async function loadedSections(
  mesh: TriangleMesh,
  flow: Flow,
  force: Force,
  strength: Layered,
  pause?: () => Promise<void>,
): Promise<LoadedSections> {
  const { cells, potential, way } = flow
  const cutter = new Cutter(mesh)
  const stations = stationsOn(way)
  const at = stations.map((cell) => potential[cell]!)
  const found: (Loaded | undefined)[] = []
  let count = 0
  const look = (level: number, closely: boolean): Loaded | undefined => {
    const front = frontOf(crossingsAt(flow, level))
    const section = sectionThrough(cutter, flow, front, closely)
    if (!section) return undefined
    count++
    return loadedBy(section, force, strength)
  }
  for (const [i, level] of at.entries()) {
    await pause?.()
    found.push(i === 0 || i === at.length - 1 ? undefined : look(level, false))
  }
  // Sections are square to what flows nearly: those of which most is asked are looked at closely.
  const order = [...found.keys()].filter((i) => found[i]).sort((i, j) => found[j]!.use - found[i]!.use)
  let worst: Loaded | undefined
  let [low, high] = [0, 0]
  for (const i of order.slice(0, mostClosely)) {
    await pause?.()
    const own = look(at[i]!, true) ?? found[i]!
    if (worst && own.use <= worst.use) continue
    worst = own
    ;[low, high] = [at[Math.min(at.length - 1, i + 1)]!, at[Math.max(0, i - 1)]!]
  }
  for (let round = 0; worst && round < rounds; round++) {
    await pause?.()
    const step = (high - low) / (times + 2)
    let best = (low + high) / 2
    for (let k = 1; k <= times + 1; k++) {
      if (k > 1) await pause?.()
      const own = look(low + k * step, true)
      if (!own || own.use < worst.use) continue
      worst = own
      best = low + k * step
    }
    ;[low, high] = [best - step, best + step]
  }
  const shared = found.reduce<Loaded | undefined>(
    (most, own) => (own && own.alone > (most?.alone ?? 0) ? own : most),
    undefined,
  )
  const gap = worst ? gapIn(found, at) : stations.length >> 1
  return { worst, shared, count, unmeasured: gap === undefined ? undefined : middleOf(cells, stations[gap]!) }
}

/** Cells of the way, evenly. */
function stationsOn(way: readonly number[]): readonly number[] {
  const count = Math.min(mostStations, way.length)
  return Array.from({ length: count }, (_, i) => way[Math.round((i * (way.length - 1)) / Math.max(1, count - 1))]!)
}

/**
 * The middle of the first stretch of stations of which too much is not known: by how long it is, and by how far the potential falls there, which
 * is most where it is narrow. Where it spreads from what is loaded it falls as well.
 */
function gapIn(found: readonly (Loaded | undefined)[], levels: readonly number[]): number | undefined {
  for (let from = 0; from < found.length; from++) {
    if (found[from]) continue
    let to = from
    while (to + 1 < found.length && !found[to + 1]) to++
    const isEnd = from === 0 || to === found.length - 1
    const share = (to - from + 1) / found.length
    const falls = levels[Math.max(0, from - 1)]! - levels[Math.min(levels.length - 1, to + 1)]!
    const [mostLong, mostFall] = isEnd ? atEnd : inside
    if ((share > mostLong && falls > hardlyFalls) || falls > mostFall) return (from + to) >> 1
    from = to
  }
  return undefined
}

/** Where it goes from a cell below a level to one above it, along an axis. */
interface Crossing {
  readonly axis: number
  /** from the lower to the higher one */
  readonly up: 1 | -1
  readonly through: number
  readonly at: Vec3
}

function crossingsAt({ cells, potential, isOpen }: Flow, level: number): readonly Crossing[] {
  const out: Crossing[] = []
  const strides = stridesOf(cells)
  for (let cell = 0; cell < potential.length; cell++) {
    const own = potential[cell]!
    if (Number.isNaN(own)) continue
    for (let axis = 0; axis < 3; axis++) {
      const other = potential[cell + strides[axis]!]!
      if (own < level === other < level || Number.isNaN(other) || !isOpen(cell, axis)) continue
      const at = alongAxis(middleOf(cells, cell), axis, ((level - own) / (other - own)) * cells.size)
      out.push({ axis, up: other > own ? 1 : -1, through: Math.abs(other - own), at })
    }
  }
  return out
}

/** Where what flows is at a level: in several places together, where it is parted. Only all of them together tell what they bear. */
interface Front {
  readonly crossings: readonly Crossing[]
  readonly through: number
  readonly at: Vec3
  /** unit: to what is loaded */
  readonly normal: Vec3
}

function frontOf(crossings: readonly Crossing[]): Front {
  const way = [0, 0, 0]
  const sum = [0, 0, 0]
  let through = 0
  for (const each of crossings) {
    through += each.through
    way[each.axis]! += each.up * each.through
    for (let k = 0; k < 3; k++) sum[k]! += each.through * each.at[k]!
  }
  const at = sum.map((x) => x / through) as unknown as Vec3
  return { crossings, through, at, normal: unit(way as unknown as Vec3) }
}

interface CutThrough {
  readonly plane: Plane
  readonly bodies: readonly (readonly Ring[])[]
  /** how much of what flows goes through each of them, as a share */
  readonly shares: readonly number[]
}

/** Tilts that are tried, degrees, and shifts, in cells: each as long as there is less to cut by more than this share of it. */
const steps = [
  { tilt: 8, shift: 1 },
  { tilt: 4, shift: 0.5 },
  { tilt: 2, shift: 0.25 },
  { tilt: 1, shift: 0.12 },
] as const
const lessBy = 2e-3
/** No farther than so many cells, and so many degrees, from where it was: it is about the same place that is looked at. */
const [mostShift, mostTilt] = [2.5, 35]

/** A section at a front that parts what is loaded from what is held, square to what flows; `closely`: to what is there as well. */
function sectionThrough(cutter: Cutter, flow: Flow, front: Front, closely: boolean): CutThrough | undefined {
  if (!(norm(front.normal) > 0.5)) return undefined
  const isWhole = (cut: CutThrough | undefined) => (cut && parts(flow, cut, front.through) ? cut : undefined)
  const cut = (plane: Plane) => cutAt(cutter, flow, front, plane)
  const near = firstOf([front.normal, ...axesNear(front.normal)], (way) => isWhole(cut(planeThrough(front.at, way))))
  return near && closely ? (isWhole(squared(near, flow.cells.size, cut)) ?? near) : near
}

/**
 * The least section about a place: what flows round a corner is cut askew, and a section that is askew seems to bear less than one that is
 * square to what is there.
 */
function squared(from: CutThrough, size: number, cut: (plane: Plane) => CutThrough | undefined): CutThrough {
  const leastTilt = Math.cos((mostTilt * Math.PI) / 180)
  const isNear = ({ normal, at }: Plane) =>
    dot(normal, from.plane.normal) > leastTilt && norm(subtract(at, from.plane.at)) < mostShift * size
  let [best, least] = [from, areaOf(from)]
  for (const { tilt, shift } of steps) {
    const by = Math.tan((tilt * Math.PI) / 180)
    for (let moved = true, left = 6; moved && left > 0; left--) {
      const { normal, u, v, at } = best.plane
      const tilted = [u, v, scaled(u, -1), scaled(v, -1)].map((way) =>
        planeThrough(at, unit(add(normal, scaled(way, by)))),
      )
      const shifted = [shift, -shift].map((far) => planeThrough(add(at, scaled(normal, far * size)), normal))
      const next = firstOf([...tilted, ...shifted].filter(isNear), (plane) => {
        const own = cut(plane)
        return own && areaOf(own) < least * (1 - lessBy) ? own : undefined
      })
      moved = next !== undefined
      if (next) [best, least] = [next, areaOf(next)]
    }
  }
  return best
}

function areaOf({ bodies }: CutThrough): number {
  return bodies.flat().reduce((sum, ring) => sum + ringArea(ring), 0)
}

function firstOf<T, R>(items: readonly T[], find: (item: T) => R | undefined): R | undefined {
  for (const item of items) {
    const found = find(item)
    if (found !== undefined) return found
  }
  return undefined
}

function axesNear(normal: Vec3): readonly Vec3[] {
  return [0, 1, 2]
    .filter((k) => Math.abs(normal[k]!) > 0.3)
    .sort((a, b) => Math.abs(normal[b]!) - Math.abs(normal[a]!))
    .map((k) => [0, 1, 2].map((i) => (i === k ? Math.sign(normal[k]!) : 0)) as unknown as Vec3)
}

/** What a plane cuts of the bodies that what flows at a front goes through. */
function cutAt(cutter: Cutter, { cells: { size } }: Flow, front: Front, plane: Plane): CutThrough | undefined {
  const all = bodiesOf(cutter.by(plane).rings).map((rings) => ({ rings, sides: new RingSides(rings) }))
  const stride = Math.ceil(front.crossings.length / mostAsked)
  const shares = new Map<readonly Ring[], number>()
  let asked = 0
  for (let i = 0; i < front.crossings.length; i += stride) {
    const { at, through } = front.crossings[i]!
    const body = bodyAt(all, laidIn(plane, at), size)
    asked += through
    if (body) shares.set(body, (shares.get(body) ?? 0) + through)
  }
  const bodies = all.map(({ rings }) => rings).filter((rings) => (shares.get(rings) ?? 0) > leastShare * asked)
  return bodies.length > 0 ? { plane, bodies, shares: bodies.map((rings) => shares.get(rings)! / asked) } : undefined
}

/** So many places where it goes through a front are asked in which body they are. */
const mostAsked = 150

interface Sided {
  readonly rings: readonly Ring[]
  readonly sides: RingSides
}

/** The body that has a place, or is no farther from it than a cell. */
function bodyAt(all: readonly Sided[], p: Vec2, size: number): readonly Ring[] | undefined {
  const own =
    all.find(({ sides }) => sides.isFilledAt(p)) ??
    all.find(({ sides }) => sides.distanceFrom(p, 1.01 * size) < 1.01 * size)
  return own?.rings
}

/** Whether all that flows goes through a section: else it does not part what is loaded from what is held. */
function parts(flow: Flow, { plane, bodies }: CutThrough, total: number): boolean {
  const { size } = flow.cells
  const all = [{ rings: bodies.flat(), sides: new RingSides(bodies.flat()) }]
  let through = 0
  forEachThrough(flow, plane, (p, by) => {
    if (bodyAt(all, p, size)) through += by
  })
  return Math.abs(through - total) <= leak * total
}

/** What flows through a plane, cell by cell: where, and how much, the way of its normal. */
function forEachThrough({ cells, potential, isOpen }: Flow, plane: Plane, each: (p: Vec2, by: number) => void): void {
  const strides = stridesOf(cells)
  const [nx, ny, nz] = plane.normal
  const from = dot(plane.normal, subtract(cells.from, plane.at))
  const steps = [nx * cells.size, ny * cells.size, nz * cells.size] as const
  const [countX, countY, countZ] = cells.counts
  for (let z = 0, cell = 0; z < countZ; z++)
    for (let y = 0; y < countY; y++)
      for (let x = 0; x < countX; x++, cell++) {
        const own = potential[cell]!
        if (Number.isNaN(own)) continue
        const above = from + x * steps[0] + y * steps[1] + z * steps[2]
        for (let axis = 0; axis < 3; axis++) {
          const next = above + steps[axis]!
          if (above < 0 === next < 0) continue
          const other = potential[cell + strides[axis]!]!
          if (Number.isNaN(other) || !isOpen(cell, axis)) continue
          const at = alongAxis(middleOf(cells, cell), axis, (above / (above - next)) * cells.size)
          each(laidIn(plane, at), (other - own) * (next > above ? 1 : -1))
        }
      }
}

function alongAxis([x, y, z]: Vec3, axis: number, by: number): Vec3 {
  return [axis === 0 ? x + by : x, axis === 1 ? y + by : y, axis === 2 ? z + by : z]
}

function loadedBy({ plane, bodies, shares }: CutThrough, force: Force, strength: Layered): Loaded {
  const usedOf = (own: readonly (readonly Ring[])[], share: number) => {
    const stress = stressIn(plane, own, { ...force, force: scaled(force.force, share) })
    const whole = Math.max(together(stress.pull, stress.shear), together(stress.press, stress.shear)) / strength.along
    const layers = betweenLayers(stress, Math.abs(dot(plane.normal, strength.up))) / strength.across
    return { stress, whole, layers }
  }
  const { stress, whole, layers } = usedOf(bodies, 1)
  const alone = bodies.map((body, i) => {
    const own = usedOf([body], shares[i]!)
    return Math.max(own.whole, own.layers)
  })
  const rings = bodies.flat()
  const { area, across } = sectionFigures(rings)
  return {
    ...{ plane, rings, area, across, stress, betweenLayers: layers > whole },
    arm: norm(subtract(force.at, plane.at)),
    use: Math.max(whole, layers),
    alone: bodies.length > 1 ? Math.max(...alone) : 0,
    count: bodies.length,
  }
}

/** Cells that lie right inside some triangles of a mesh. */
export function cellsAt(cells: Cells, mesh: TriangleMesh, triangles: readonly number[]): readonly number[] {
  const { positions } = mesh
  const own = Uint32Array.from(triangles.flatMap((t) => [0, 1, 2].map((k) => mesh.triangles[3 * t + k]!)))
  const tree = new TriangleTree({ positions, triangles: own })
  const reach = 1.05 * cells.size
  const low = [Infinity, Infinity, Infinity]
  const high = [-Infinity, -Infinity, -Infinity]
  for (const v of own)
    for (let k = 0; k < 3; k++) {
      low[k] = Math.min(low[k]!, positions[3 * v + k]!)
      high[k] = Math.max(high[k]!, positions[3 * v + k]!)
    }
  const range = [0, 1, 2].map((k) => [
    Math.max(0, Math.floor((low[k]! - reach - cells.from[k]!) / cells.size)),
    Math.min(cells.counts[k]! - 1, Math.ceil((high[k]! + reach - cells.from[k]!) / cells.size)),
  ]) as [number, number][]
  const [sx, sy, sz] = stridesOf(cells)
  const out: number[] = []
  for (let z = range[2]![0]; z <= range[2]![1]; z++)
    for (let y = range[1]![0]; y <= range[1]![1]; y++)
      for (let x = range[0]![0]; x <= range[0]![1]; x++) {
        const cell = x * sx + y * sy + z * sz
        if (cells.isInside[cell] && tree.nearest(middleOf(cells, cell), reach)) out.push(cell)
      }
  return out
}
