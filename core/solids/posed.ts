import { type KeptPose, type Laid, type Laying, listed } from '../document/index.ts'
import type { Kernel, Solid } from '../kernel/index.ts'
import {
  boxOf,
  compose,
  cross,
  dot,
  type Frame,
  inverse,
  norm,
  pointOut,
  scaled,
  subtract,
  turnedX,
  turnedY,
  turnedZ,
  unit,
  type Vec3,
  world,
} from '../place/index.ts'
import { pieceIsThere, poseOf, printedAsOne, printedInside, wantedIn } from '../planning/index.ts'
import type { Built, BuiltPiece } from './builder.ts'
import type { TwiceBuilt } from './measurer.ts'

/** How each side of a piece is turned down, so that square things stay square to the last digit. */
const turnedDown: Readonly<Record<Exclude<Laying, 'flat'>, Frame>> = {
  bottom: world,
  top: turnedX(180),
  left: turnedY(-90),
  right: turnedY(90),
  front: turnedX(90),
  back: turnedX(-90),
}
/** Flats whose normals are nearer than this lie in one plane. */
const sameWay = 1e-5

/**
 * What is laid on the bed as one: pieces that are printed inside one another; and of a piece that a step has parted, and that nothing ties to
 * another one, each body by itself.
 */
export function laidTogether({ pieces, resolved }: Built): readonly (readonly BuiltPiece[])[] {
  return printedInside(resolved.part)
    .flatMap((ids) => {
      const own = pieces.filter(({ of }) => ids.includes(of))
      return ids.length === 1 ? own.map((piece) => [piece]) : [own]
    })
    .filter(({ length }) => length > 0)
}

/** How a piece has moved from where it is drawn: by itself, or with the one that it was parted from. */
export function motionOf(
  motions: ReadonlyMap<string, Frame> | undefined,
  { piece, of }: BuiltPiece,
): Frame | undefined {
  return motions?.get(piece.id) ?? motions?.get(of)
}

/**
 * Where pieces have moved to from where they are drawn: by their joints, by the ids of the part's, and laid down where the pose says so, by their
 * own; see `motionOf`.
 */
export function motionsIn(kernel: Kernel, built: Built, pose: KeptPose): ReadonlyMap<string, Frame> {
  const standing = poseOf(built, wantedIn(pose)).motions
  const motions = new Map(standing)
  const groups = laidTogether(built)
  const isLaid = (id: string) => pose.laid.some(({ piece }) => piece === id)
  for (const laid of pose.laid) {
    const group = groups.find((pieces) => pieces.some(({ piece }) => piece.id === laid.piece))
    const first = group?.find(({ piece }) => piece.id === laid.piece)
    const own = first && standing.get(first.of)
    if (!own) continue
    // What it was parted into goes with it.
    const others = built.pieces.filter(({ of, piece }) => of === laid.piece && !isLaid(piece.id) && piece.id !== of)
    const pieces = [...new Set([...group!, ...others])]
    const from = ({ of }: BuiltPiece) => compose(inverse(own), standing.get(of)!)
    const lays = laying(kernel, pieces, from, laid)
    if (lays) for (const piece of pieces) motions.set(piece.piece.id, compose(lays, from(piece)))
  }
  return motions
}

/** How pieces are laid down that stand so in the frame of one of them; undefined where they have no material. */
function laying(kernel: Kernel, pieces: readonly BuiltPiece[], from: (piece: BuiltPiece) => Frame, laid: Laid) {
  const points = pieces.flatMap((piece) => (piece.solid ? pointsOf(piece.solid, from(piece)) : []))
  if (points.length === 0) return undefined
  const down = turnFor(laid.down, () => largestFlat(kernel, points))
  const turned = compose(turnedZ(laid.turn), down)
  const { min, max } = boxOf(points.map((p) => pointOut(turned, p)))!
  const [x, y] = [0, 1].map((i) => laid.at[i]! - (min[i]! + max[i]!) / 2)
  return { ...turned, origin: [x!, y!, -min[2]] as Vec3 }
}

function pointsOf(solid: Solid, frame: Frame): Vec3[] {
  const { positions } = solid.mesh()
  return Array.from({ length: positions.length / 3 }, (_, v) =>
    pointOut(frame, [positions[3 * v]!, positions[3 * v + 1]!, positions[3 * v + 2]!]),
  )
}

/** How a piece is turned to lie so. */
export function turnFor(down: Laid['down'], largest: () => Vec3): Frame {
  if (down === 'flat') return bringingDown(largest())
  if (typeof down === 'string') return turnedDown[down]
  const size = norm(down)
  return size > 0 ? bringingDown(scaled(down, 1 / size)) : world
}

/** The largest flat that points could lie on: of their hull. */
function largestFlat(kernel: Kernel, points: readonly Vec3[]): Vec3 {
  return flatsOf(kernel, points).reduce((best, flat) => (flat.area > best.area * (1 + 1e-6) ? flat : best)).way
}

/** A flat that something could lie on: which way it looks, unit, and its area, mm². */
export interface Flat {
  readonly way: Vec3
  readonly area: number
}

/** The flats that points could lie on: those of their hull. */
export function flatsOf(kernel: Kernel, points: readonly Vec3[]): readonly Flat[] {
  const { positions, triangles } = kernel.scope((scope) => scope.hull(points).mesh())
  const at = (v: number): Vec3 => [positions[3 * v]!, positions[3 * v + 1]!, positions[3 * v + 2]!]
  const flats: { readonly way: Vec3; area: number }[] = []
  for (let t = 0; t < triangles.length; t += 3) {
    const [a, b, c] = [0, 1, 2].map((i) => at(triangles[t + i]!)) as [Vec3, Vec3, Vec3]
    const twice = cross(subtract(b, a), subtract(c, a))
    const size = Math.hypot(...twice)
    if (size === 0) continue
    const way = scaled(twice, 1 / size)
    const known = flats.find((flat) => dot(flat.way, way) > 1 - sameWay)
    if (known) known.area += size / 2
    else flats.push({ way, area: size / 2 })
  }
  return flats
}

/** The shortest turn that brings a direction straight down. */
function bringingDown(way: Vec3): Frame {
  const side = Object.values(turnedDown).find((turn) => pointOut(turn, way)[2] < -1 + 1e-9)
  if (side) return side
  // Its rows: across the plane that the turn lies in, and what is up and along in it.
  const n = scaled(way, -1)
  const u = unit(cross([0, 0, 1], n))
  const from = { origin: [0, 0, 0] as Vec3, u, v: cross(n, u), n }
  const to = { origin: [0, 0, 0] as Vec3, u, v: cross([0, 0, 1], u), n: [0, 0, 1] as Vec3 }
  return compose(to, inverse(from))
}

/** A built part as it stands in a pose. `release` lets go of what was made for that, and is to be called once. */
export interface Posed {
  readonly built: Built
  release(): void
}

/** The part with its pieces moved so, see `motionOf`; it lives as long as what it is made from. */
export function movedBy(kernel: Kernel, built: Built, motions: ReadonlyMap<string, Frame>): Posed {
  const made: Solid[] = []
  const pieces = built.pieces.map((piece) => {
    const motion = motionOf(motions, piece)
    if (!piece.solid || !motion || isWorld(motion)) return piece
    const solid = kernel.scope((scope) => scope.handOver(scope.placed(piece.solid!, motion)))
    made.push(solid)
    // Only what is drawn is moved against each other.
    return { ...piece, solid, stiff: undefined, key: `${piece.key} moved ${JSON.stringify(motion)}` }
  })
  return {
    built: made.length === 0 ? built : { ...built, pieces, motions },
    release() {
      for (const solid of made.splice(0)) solid.release()
    },
  }
}

/** The part as it leaves: its pieces moved so, where they are, and those that a joint makes one body of as one. */
export function leaving(kernel: Kernel, built: Built, motions: ReadonlyMap<string, Frame> | undefined): Posed {
  const posed = motions ? movedBy(kernel, built, motions) : { built, release() {} }
  const groups = printedAsOne(built.resolved.part)
    .map((ids) => ids.filter((id) => pieceIsThere(built.resolved, id)))
    .filter(({ length }) => length > 1)
  return groups.length > 0 ? grownTogether(kernel, posed, groups) : posed
}

/** With each group of pieces, by their ids, as one piece: the first of them, called by all of their names. */
function grownTogether(kernel: Kernel, posed: Posed, groups: readonly (readonly string[])[]): Posed {
  const made: Solid[] = []
  const pieces = posed.built.pieces.flatMap((piece): BuiltPiece[] => {
    const group = groups.find((ids) => ids.includes(piece.piece.id))
    if (!group) return [piece]
    if (piece.piece.id !== group[0]) return []
    const all = posed.built.pieces.filter((each) => group.includes(each.piece.id))
    const solids = all.flatMap(({ solid }) => (solid ? [solid] : []))
    const solid = kernel.scope((scope) => scope.handOver(scope.union(solids)))
    made.push(solid)
    const name = listed(all.map((each) => each.piece.name))
    return [
      {
        ...piece,
        ...{ piece: { ...piece.piece, name }, solid: solid.isEmpty() ? undefined : solid, stiff: undefined },
        holds: all.map((each) => each.piece),
        key: all.map(({ key }) => key).join(' and '),
      },
    ]
  })
  return {
    built: { ...posed.built, pieces },
    release() {
      for (const solid of made.splice(0)) solid.release()
      posed.release()
    },
  }
}

export interface BuiltAndTwice {
  readonly built: Built
  readonly twice: TwiceBuilt
}

/** Uses a built part, and the same at two finenesses, as they stand in a pose; as they are drawn without one. */
export async function inPose<T>(
  kernel: Kernel,
  pose: KeptPose | undefined,
  drawn: BuiltAndTwice,
  use: (standing: BuiltAndTwice) => T | Promise<T>,
): Promise<T> {
  // All of them move as the fine one does.
  const motions = pose && motionsIn(kernel, drawn.twice.fine, pose)
  const { fine: drawnFine, coarse: drawnCoarse, finer: drawnFiner } = drawn.twice
  const wanted = [drawn.built, drawnFine, drawnCoarse, ...(drawnFiner ? [drawnFiner] : [])]
  const all = wanted.map((built) => leaving(kernel, built, motions))
  const [built, fine, coarse, finer] = all.map((posed) => posed.built) as [Built, Built, Built, Built | undefined]
  try {
    return await use({ built, twice: { fine, coarse, finer } })
  } finally {
    for (const posed of all) posed.release()
  }
}

const isWorld = ({ origin, u, v }: Frame) =>
  [...origin, ...u, ...v].every((x, i) => Math.abs(x - [...world.origin, ...world.u, ...world.v][i]!) < 1e-12)

/** Where all pieces lie on the bed side by side, this far apart, mm: on the side that the pose says, or as they are drawn; in rows. */
export function spreadOut(kernel: Kernel, built: Built, pose: KeptPose, apart: number): readonly Laid[] {
  const inside = laidTogether(built)
  const laid = inside.map((pieces): Laid => {
    const known = (ids: readonly string[]) => pose.laid.find(({ piece }) => ids.includes(piece))
    const ids = pieces.map(({ piece }) => piece.id)
    // What was laid with the one that it was parted from lies on the same side.
    const before = known(ids) ?? known(pieces.map(({ of }) => of))
    return before
      ? { ...before, piece: known(ids)?.piece ?? ids[0]! }
      : { piece: ids[0]!, down: 'bottom', turn: 0, at: [0, 0] }
  })
  const motions = motionsIn(kernel, built, { ...pose, laid })
  const groups = inside.flatMap((pieces, i) => {
    const points = pieces.flatMap((piece) => (piece.solid ? pointsOf(piece.solid, motionOf(motions, piece)!) : []))
    if (points.length === 0) return []
    const { min, max } = boxOf(points)!
    const size = [max[0] - min[0], max[1] - min[1]] as const
    return [{ laid: laid[i]!, size }]
  })
  // Rows about as long as all of it is deep.
  const area = groups.reduce((sum, { size: [w, d] }) => sum + (w + apart) * (d + apart), 0)
  const longest = Math.max(Math.sqrt(area), ...groups.map(({ size }) => size[0]))
  const placed: { readonly laid: Laid; readonly at: [number, number] }[] = []
  let [x, y, deep] = [0, 0, 0]
  let wide = 0
  for (const { laid, size } of [...groups].sort((a, b) => b.size[1] - a.size[1])) {
    if (x > 0 && x + size[0] > longest + 1e-9) {
      y += deep + apart
      x = 0
      deep = 0
    }
    placed.push({ laid, at: [x + size[0] / 2, y + size[1] / 2] })
    x += size[0] + apart
    wide = Math.max(wide, x - apart)
    deep = Math.max(deep, size[1])
  }
  const rounded = (value: number) => Math.round(value * 100) / 100
  return placed.map(({ laid, at }) => ({
    ...laid,
    at: [rounded(at[0] - wide / 2), rounded(at[1] - (y + deep) / 2)],
  }))
}
