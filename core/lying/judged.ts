import { mostAsked } from '../bearing/index.ts'
import { flattened, type Laid, type Stance } from '../document/index.ts'
import { liesOn, type Printer } from '../fits/index.ts'
import type { Kernel, Solid } from '../kernel/index.ts'
import { type HangingRegion, hangingRegions, laidGroups, layerMiddle, risingOf, Sections } from '../layers/index.ts'
import { areaVector } from '../mesh/index.ts'
import { withTurns } from '../pacing/index.ts'
import { add, cross, directionOut, dot, norm, scaled, subtract, unit, type Vec3, world } from '../place/index.ts'
import { distance2, type Ring, ringArea } from '../plane/index.ts'
import { type Built, type BuiltPiece, laidTogether, trianglesOf, turnFor } from '../solids/index.ts'
import { waysToLie } from './ways.ts'

/** How something that is printed together fares if it lies so. Lengths in mm, areas in mm². */
export interface Judged {
  readonly down: Laid['down']
  /** it lies as it is drawn */
  readonly isDrawn: boolean
  readonly size: Vec3
  readonly fitsBed: boolean
  /** what lies on the bed */
  readonly contact: number
  /** how many places begin in mid-air */
  readonly begins: number
  /** what begins in mid-air, leans out farther than the printer lays without help, or is bridged over more than it spans */
  readonly hangs: number
  /** what tilt topples it at the height at which that is least, degrees; below 0 where it falls over by itself */
  readonly tips: number
  /** how long all lines are that it is laid in, an estimate, mm: at one speed that is what it takes, see `lineLength` */
  readonly lines: number
  /** how many of the round holes, pins and the like of its steps stand upright: these come out round */
  readonly upright: number
  readonly rounds: number
  /** how many of the faces and axes that have to lie so, do */
  readonly kept: number
  readonly stances: number
  /** the most that loads ask of what bears them, as a share of it; undefined where that is not known, or nothing is asked */
  readonly asked: number | undefined
}

/** Pieces that are laid on the bed as one, and the ways in which they can lie together, the best first. */
export interface Lying {
  /** of finished bodies, by id */
  readonly pieces: readonly string[]
  readonly ways: readonly Judged[]
}

export interface LyingOptions {
  /** waited for now and then */
  pause?(): Promise<void>
  /** told of each way, with the solid as it lies then, which is gone after */
  each?(way: Judged, solid: Solid): void
}

/** So many ways are judged closely, beside that in which it is drawn: those of which least looks down too far. */
const mostJudged = 6

/** What is printed together of a built part, as one solid of each, with the ways in which that lies best. */
export async function lyingOf(kernel: Kernel, built: Built, options: LyingOptions = {}): Promise<readonly Lying[]> {
  const { printer } = built.resolved
  const out: Lying[] = []
  for (const pieces of laidTogether(built)) {
    const whole = togetherOf(kernel, pieces)
    if (!whole) continue
    try {
      const corners = whole.corners()
      const points = Array.from(
        { length: corners.length / 3 },
        (_, i): Vec3 => [corners[3 * i]!, corners[3 * i + 1]!, corners[3 * i + 2]!],
      )
      const axes = roundAxes(built, pieces)
      const stances = stancesIn(built, pieces)
      const asked = stances.flatMap(({ way, is }) =>
        is === 'up' ? [scaled(way, -1)] : is === 'down' ? [way] : [way, scaled(way, -1)],
      )
      const guessed = waysToLie(kernel, points, asked)
        .map((down) => ({ down, under: lookingDown(whole, down, printer.overhang) }))
        .sort((a, b) => a.under - b.under)
      const chosen = guessed.filter(
        ({ down }, i) =>
          i < mostJudged || down === drawn || (stances.length > 0 && keptBy(stances, down) === stances.length),
      )
      const ways: Judged[] = []
      for (const { down } of chosen) {
        await options.pause?.()
        const held = { kept: keptBy(stances, down), stances: stances.length }
        const own = { ...held, asked: await askedOfLoads(built, pieces, down, options) }
        ways.push(await judged(kernel, built, whole, axes, down, own, options))
      }
      out.push({ pieces: pieces.map(({ piece }) => piece.id), ways: ways.sort(better) })
    } finally {
      whole.release()
    }
  }
  return out
}

/** How a face, or an axis, has to lie; unit, as it is drawn. */
interface Standing {
  readonly way: Vec3
  readonly is: Stance['way']
}

/** What of these pieces has to lie so; faces that nothing is left of do not matter. */
function stancesIn({ plan, resolved }: Built, pieces: readonly BuiltPiece[]): readonly Standing[] {
  return resolved.part.stances.flatMap(({ of: point, way: is }): Standing[] => {
    const axis = plan.geometry.get(point.step)?.frames?.[0]?.n
    for (const piece of pieces) {
      if (!piece.solid) continue
      const triangles = trianglesOf(piece, plan, point)
      if (triangles.length === 0) continue
      const mesh = piece.solid.mesh()
      const sum = triangles.reduce<Vec3>((all, t) => add(all, areaVector(mesh, t)), [0, 0, 0])
      const whole = triangles.reduce((all, t) => all + norm(areaVector(mesh, t)), 0)
      // What goes all round has an axis, and looks no way.
      const way = point.face !== '' && norm(sum) > 0.5 * whole ? unit(sum) : axis
      return way ? [{ way, is }] : []
    }
    return []
  })
}

/** How many of them lie as they have to. */
function keptBy(stances: readonly Standing[], down: Laid['down']): number {
  const turn = turnOf(down)
  return stances.filter(({ way, is }) => {
    const rise = directionOut(turn, way)[2]
    return is === 'upright' ? Math.abs(rise) > upright : (is === 'up' ? rise : -rise) > upright
  }).length
}

/** The most that loads ask with layers as they are laid then. */
async function askedOfLoads(
  built: Built,
  pieces: readonly BuiltPiece[],
  down: Laid['down'],
  { pause }: LyingOptions,
): Promise<number | undefined> {
  if (built.resolved.part.loads.length === 0) return undefined
  const { u, v, n } = turnOf(down)
  return mostAsked(built, pieces, { up: [u[2], v[2], n[2]], ...(pause ? { pause } : {}) })
}

/** As it is drawn. */
const drawn = 'bottom'

/** Pieces as one solid, to be released; undefined where they have no material. */
function togetherOf(kernel: Kernel, pieces: readonly BuiltPiece[]): Solid | undefined {
  const solids = pieces.flatMap(({ solid }) => (solid ? [solid] : []))
  return solids.length > 0 ? kernel.scope((scope) => scope.handOver(scope.union(solids))) : undefined
}

/** A solid as it lies so, on the bed; to be released. */
function lyingSo(kernel: Kernel, solid: Solid, down: Laid['down']): Solid {
  return kernel.scope((scope) => {
    const turned = scope.placed(solid, turnOf(down))
    return scope.handOver(scope.placed(turned, { ...world, origin: [0, 0, -turned.bounds()!.min[2]] }))
  })
}

const turnOf = (down: Laid['down']) => turnFor(down, () => [0, 0, -1])

/** What of a solid looks down farther than may be, as seen from above, but for what lies on the bed, mm²: before anything is cut. */
function lookingDown(solid: Solid, down: Laid['down'], overhang: number): number {
  const { positions, triangles } = solid.mesh()
  // How high something lies then, by where it is drawn.
  const { u, v, n } = turnOf(down)
  const up: Vec3 = [u[2], v[2], n[2]]
  const at = (i: number): Vec3 => [positions[3 * i]!, positions[3 * i + 1]!, positions[3 * i + 2]!]
  let bed = Number.POSITIVE_INFINITY
  for (let i = 0; i < positions.length / 3; i++) bed = Math.min(bed, dot(up, at(i)))
  const limit = -Math.sin((overhang * Math.PI) / 180)
  let sum = 0
  for (let t = 0; t < triangles.length; t += 3) {
    const [a, b, c] = [at(triangles[t]!), at(triangles[t + 1]!), at(triangles[t + 2]!)]
    const twice = cross(subtract(b, a), subtract(c, a))
    const looks = dot(up, twice) / norm(twice)
    if (looks < limit && dot(up, a) + dot(up, b) + dot(up, c) > 3 * bed + onBed) sum -= dot(up, twice) / 2
  }
  return sum
}
/** mm */
const onBed = 0.01

/** Axes of what round steps make that is to be entered, or enters something. */
function roundAxes({ resolved, plan }: Built, pieces: readonly BuiltPiece[]): readonly Vec3[] {
  return resolved.part.pieces
    .filter(({ id }) => pieces.some(({ of }) => of === id))
    .flatMap(({ steps }) => flattened(steps))
    .flatMap(({ id }) => {
      const { shape, present } = resolved.steps.get(id) ?? {}
      const isRound = Object.values(shape?.fields ?? {}).some((field) => 'takes' in field && field.takes === 'round')
      return present && isRound ? (plan.geometry.get(id)?.frames ?? []).map(({ n }) => n) : []
    })
}

/** Leaning off upright by no more than this a round comes out round, as a cosine: 1°. */
const upright = Math.cos(Math.PI / 180)

async function judged(
  kernel: Kernel,
  { resolved: { printer } }: Built,
  whole: Solid,
  axes: readonly Vec3[],
  down: Laid['down'],
  known: Pick<Judged, 'kept' | 'stances' | 'asked'>,
  { pause, each }: LyingOptions,
): Promise<Judged> {
  const turned = lyingSo(kernel, whole, down)
  try {
    const { min, max } = turned.bounds()!
    const size: Vec3 = [max[0] - min[0], max[1] - min[1], max[2] - min[2]]
    const sections = new Sections(kernel, turned)
    const paused = pause ? { pause } : {}
    const groups = await laidGroups(kernel, sections, {
      ...{ heights: printer, lineWidth: printer.lineWidth, height: size[2] },
      ...paused,
    })
    const { lineWidth, overhang } = printer
    const hanging = await hangingRegions(kernel, sections, {
      ...{ heights: printer, lineWidth, overhang, places: groups.flat(), others: [] },
      ...paused,
    })
    const isBad = ({ kind, long }: HangingRegion) => kind !== 'spans' || long > printer.bridge
    const rising = await withTurns(risingOf(sections, printer, size[2]), async () => pause?.())
    const way: Judged = {
      ...{ ...known, down, size },
      isDrawn: down === drawn,
      fitsBed: liesOn(size, printer.bed) !== undefined,
      contact: areaOf(sections.at(layerMiddle(0, printer))),
      begins: hanging.filter(({ kind }) => kind === 'begins').length,
      hangs: hanging.filter(isBad).reduce((sum, { rings }) => sum + areaOf(rings), 0),
      lines: await lineLength(sections, printer, size[2], pause),
      tips: rising.reduce((least, { tips }) => Math.min(least, tips), rising.length > 0 ? 90 : -90),
      upright: axes.filter((axis) => Math.abs(directionOut(turnOf(down), axis)[2]) > upright).length,
      rounds: axes.length,
    }
    each?.(way, turned)
    return way
  } finally {
    turned.release()
  }
}

/** Lines round each outline, and the share of what is inside of them that is filled. */
const [outlines, filled] = [2, 0.2]
/** From one layer to the next it goes as far as so much of a line, mm. */
const perLayer = 30

/** How long all lines are that a solid is laid in, an estimate, mm: two round each outline, a fifth of what is inside, and the ways from layer to layer. */
async function lineLength(
  sections: Sections,
  printer: Printer,
  height: number,
  pause: (() => Promise<void>) | undefined,
): Promise<number> {
  const known = new WeakMap<readonly Ring[], number>()
  let sum = 0
  for (let layer = 0; layerMiddle(layer, printer) < height; layer++) {
    await pause?.()
    const rings = sections.at(layerMiddle(layer, printer))
    let own = known.get(rings)
    if (own === undefined) {
      const round = outlines * rings.reduce((all, ring) => all + lengthOf(ring), 0)
      own = round + (filled * Math.max(0, areaOf(rings) - round * printer.lineWidth)) / printer.lineWidth
      known.set(rings, own)
    }
    sum += own + perLayer
  }
  return sum
}

function lengthOf(ring: Ring): number {
  return ring.reduce((sum, p, i) => sum + distance2(p, ring[(i + 1) % ring.length]!), 0)
}

function areaOf(rings: readonly Ring[]): number {
  return rings.reduce((sum, ring) => sum + ringArea(ring), 0)
}

/** Less of what hangs, mm², or a share of it or of its lines, is no difference; nor is less of a tilt, degrees. */
const [hardlyHangs, hardlyMore, slender] = [5, 0.05, 5.7]

/**
 * What is better for a print: that it fits the bed, what has to lie so does, it bears its loads, it begins nowhere in mid-air,
 * stands, hangs less, has more rounds upright, takes less time, and is less high.
 */
function better(a: Judged, b: Judged): number {
  const [fits, keeps, bears, begins, falls] = [
    Number(b.fitsBed) - Number(a.fitsBed),
    b.kept - a.kept,
    Number((a.asked ?? 0) > 1) - Number((b.asked ?? 0) > 1),
    Number(a.begins > 0) - Number(b.begins > 0),
    Number(a.tips < slender) - Number(b.tips < slender),
  ]
  if (fits !== 0) return fits
  if (keeps !== 0) return keeps
  if (bears !== 0) return bears
  if (begins !== 0) return begins
  if (falls !== 0) return falls
  const apart = a.hangs - b.hangs
  if (Math.abs(apart) > Math.max(hardlyHangs, hardlyMore * Math.max(a.hangs, b.hangs))) return apart
  const longer = a.lines - b.lines
  const isLonger = Math.abs(longer) > hardlyMore * Math.min(a.lines, b.lines)
  return b.upright - a.upright || (isLonger ? longer : a.size[2] - b.size[2]) || Number(b.isDrawn) - Number(a.isDrawn)
}
