import { compose, type Frame, inverse, world } from '../place/index.ts'
import type { MovingJoint, Pose, Positions, Wanted } from './define.ts'

/** A turn counts as much as it moves a point so far from the axis, mm. */
const lever = 10
/** Joints that hold within this hold, mm. */
export const closes = 1e-6
const mostSteps = 60
/** Loops are closed anew after so much of the way, degrees or mm. */
const stride = 10
const mostStrides = 72
/** Slopes are taken over so much to both sides, mm or degrees. */
const h = 1e-4

/**
 * Where all pieces stand when some joints are at given positions, the latest last, each within its travel. Pieces hang on one another
 * by the joints, from the first one on; a joint between two that hang together already closes a loop, which the freedoms that nobody
 * set give way to. Where it cannot close so, what was set before the latest gives way too, one of it, or as much as it takes.
 */
export function posed(pieces: readonly string[], joints: readonly MovingJoint[], wanted: Wanted): Pose {
  const all = posedAt(pieces, joints, wanted)
  const earlier = Object.keys(wanted)
    .filter((id) => joints.some((joint) => joint.id === id))
    .slice(0, -1)
  if (all.off <= closes) return all
  const without = (ids: readonly string[]) =>
    Object.fromEntries(Object.entries(wanted).filter(([id]) => !ids.includes(id)))
  for (const given of [...earlier.map((id) => [id]), ...earlier.map((_, i) => earlier.slice(0, i + 1))]) {
    const pose = posedAt(pieces, joints, without(given))
    if (pose.off <= closes) return pose
  }
  return all
}

function posedAt(pieces: readonly string[], joints: readonly MovingJoint[], wanted: Wanted): Pose {
  const [printed, asked] = [0, 1].map((share) => positionsAt(joints, wanted, share)) as [Positions, Positions]
  const coupled = joints.filter(({ together }) => together)
  const others = joints.filter(({ together }) => !together)
  const { tree, closing } = hanging(pieces, others, turnedTogether(coupled, asked, wanted).motions)
  // Loops are walked to from how they are printed, or they might snap over, or not be found at all.
  const strides = closing.length === 0 ? 1 : stridesTo(joints, printed, asked)
  let positions = printed
  let turned: Motions = new Map()
  for (let i = 1; i <= strides; i++) {
    const at = positionsAt(joints, wanted, i / strides)
    const together = turnedTogether(coupled, at, wanted)
    turned = together.motions
    const start = Object.fromEntries(joints.map(({ id }) => [id, started(at[id]!, positions[id]!, wanted[id])]))
    const next = { ...start, ...together.positions }
    positions = closing.length === 0 ? next : closed(pieces, others, tree, closing, next, wanted, turned)
  }
  const motions = moved(pieces, tree, positions, turned)
  return { motions, positions, off: offOf(closing, motions, positions) }
}

/** What is set, a share of the way to it from where it is printed, within its travel; the rest as printed. */
function positionsAt(joints: readonly MovingJoint[], wanted: Wanted, share: number): Positions {
  return Object.fromEntries(
    joints.map(({ id, freedoms }) => [
      id,
      freedoms.map(({ from, to, atRest }, i) => {
        const asked = Math.min(to, Math.max(from, wanted[id]?.[i] ?? atRest))
        return atRest + share * (asked - atRest)
      }),
    ]),
  )
}

/** What is set stands where it is set, the rest where it stood. */
function started(at: readonly number[], stood: readonly number[], wanted: Wanted[string] | undefined) {
  return at.map((position, i) => (wanted?.[i] === undefined ? stood[i]! : position))
}

function stridesTo(joints: readonly MovingJoint[], printed: Positions, asked: Positions): number {
  const far = joints.flatMap(({ id }) => asked[id]!.map((at, i) => Math.abs(at - printed[id]![i]!)))
  return Math.max(1, Math.min(mostStrides, Math.ceil(Math.max(...far) / stride)))
}

type Motions = ReadonlyMap<string, Frame>

/** Where pieces stand that joints turn together, as wheels do: from a joint whose position is wanted on, each turns the next. */
function turnedTogether(coupled: readonly MovingJoint[], asked: Positions, wanted: Wanted) {
  const motions = new Map<string, Frame>()
  const positions: Record<string, readonly number[]> = {}
  // What was set last drives.
  const set = Object.keys(wanted)
  const rest = [...coupled].sort((a, b) => set.indexOf(b.id) - set.indexOf(a.id))
  while (rest.length > 0) {
    const next = rest.findIndex(({ pieces }) => pieces.some((piece) => motions.has(piece)))
    const joint = rest.splice(Math.max(0, next), 1)[0]!
    const { id, frame, pieces, together } = joint
    const side = motions.has(pieces[0]) ? 0 : 1
    const driver = motions.get(pieces[side])
    const own = driver && compose(compose(inverse(frame), driver), frame)
    positions[id] = own ? together!.positions(side, own) : asked[id]!
    together!.motions(positions[id]!).forEach((motion, i) => {
      const piece = pieces[i as 0 | 1]
      if (!motions.has(piece)) motions.set(piece, compose(compose(frame, motion), inverse(frame)))
    })
  }
  return { motions, positions }
}

interface Link {
  readonly joint: MovingJoint
  /** the piece that is moved, by the other one */
  readonly moves: string
  readonly by: string
}

/** Which joints carry pieces, in the order in which they do, and which close loops. */
function hanging(pieces: readonly string[], joints: readonly MovingJoint[], turned: Motions) {
  const tree: Link[] = []
  const used = new Set<MovingJoint>()
  // What wheels turn stands where they turn it; what it is held by stays, and follows.
  const reached = new Set<string>(turned.keys())
  const grounds = [...pieces].sort((a, b) => Number(turned.has(a)) - Number(turned.has(b)))
  for (const ground of grounds) {
    if (reached.has(ground) && !turned.has(ground)) continue
    reached.add(ground)
    const open = [ground]
    for (let by = open.shift(); by !== undefined; by = open.shift())
      for (const joint of joints) {
        const [a, b] = joint.pieces
        const moves = a === by ? b : b === by ? a : undefined
        if (moves === undefined || used.has(joint) || reached.has(moves) || !pieces.includes(moves)) continue
        used.add(joint)
        reached.add(moves)
        tree.push({ joint, moves, by })
        open.push(moves)
      }
  }
  const between = joints.filter((joint) => !used.has(joint) && joint.pieces.every((piece) => reached.has(piece)))
  return { tree, closing: between }
}

function moved(
  pieces: readonly string[],
  tree: readonly Link[],
  positions: Positions,
  turned: Motions,
): Map<string, Frame> {
  const motions = new Map<string, Frame>(pieces.map((piece) => [piece, turned.get(piece) ?? world]))
  for (const { joint, moves, by } of tree) {
    const own = carried(joint, positions[joint.id]!)
    motions.set(moves, compose(motions.get(by)!, joint.pieces[1] === moves ? own : inverse(own)))
  }
  return motions
}

/** What a joint does to its second piece, in the bed's frame. */
function carried({ frame, motion }: MovingJoint, positions: readonly number[]): Frame {
  return compose(compose(frame, motion(positions)), inverse(frame))
}

/** How many joints close loops. */
export function closingOf(pieces: readonly string[], joints: readonly MovingJoint[]): number {
  return hanging(pieces, joints, new Map()).closing.length
}

/** How all joints that close loops fail to hold with joints at these positions, as `residualOf` has it. */
export function residualsAt(pieces: readonly string[], joints: readonly MovingJoint[], positions: Positions): number[] {
  const { tree, closing } = hanging(pieces, joints, new Map())
  const motions = moved(pieces, tree, positions, new Map())
  return closing.flatMap((joint) => residualOf(joint, motions, positions))
}

/** How a joint fails to hold: three ways, mm, and three turns, as mm at the lever. All are 0 where it holds. */
export function residualOf(joint: MovingJoint, motions: ReadonlyMap<string, Frame>, positions: Positions): number[] {
  const [a, b] = joint.pieces.map((piece) => motions.get(piece) ?? world) as [Frame, Frame]
  const apart = compose(compose(inverse(joint.frame), compose(inverse(a), b)), joint.frame)
  const { origin, u, v, n } = compose(inverse(joint.motion(positions[joint.id]!)), apart)
  // The turn that is left, to first order: what of each axis lies along the others.
  return [...origin, ...[v[2] - n[1], n[0] - u[2], u[1] - v[0]].map((x) => (x / 2) * lever)]
}

function offOf(closing: readonly MovingJoint[], motions: ReadonlyMap<string, Frame>, positions: Positions): number {
  return closing.reduce((most, joint) => Math.max(most, Math.hypot(...residualOf(joint, motions, positions))), 0)
}

/** Positions at which loops close, near those at the start: damped least squares (Levenberg 1944) over what is free to follow. */
function closed(
  pieces: readonly string[],
  joints: readonly MovingJoint[],
  tree: readonly Link[],
  closing: readonly MovingJoint[],
  start: Positions,
  wanted: Wanted,
  turned: Motions,
): Positions {
  const free = joints.flatMap(({ id, freedoms }) =>
    freedoms.flatMap(({ from, to }, i) => (wanted[id]?.[i] === undefined ? [{ id, i, from, to }] : [])),
  )
  const at = (x: readonly number[]): Positions => {
    const all = Object.fromEntries(Object.entries(start).map(([id, own]) => [id, [...own]]))
    for (const [k, { id, i }] of free.entries()) all[id]![i] = x[k]!
    return all
  }
  const residuals = (x: readonly number[]) => {
    const positions = at(x)
    const motions = moved(pieces, tree, positions, turned)
    return closing.flatMap((joint) => residualOf(joint, motions, positions))
  }
  let x = free.map(({ id, i }) => start[id]![i]!)
  let r = residuals(x)
  let damping = 1e-3
  for (let step = 0; step < mostSteps && Math.hypot(...r) > closes / 10; step++) {
    const columns = free.map((_, k) => {
      const [more, less] = [1, -1].map((sign) => residuals(x.with(k, x[k]! + sign * h)))
      return more!.map((value, row) => (value - less![row]!) / (2 * h))
    })
    const normal = columns.map((a, i) => columns.map((b, k) => dotOf(a, b) + (i === k ? damping : 0)))
    const change = solvedBy(
      normal,
      columns.map((a) => -dotOf(a, r)),
    )
    if (!change) break
    const next = x.map((value, k) => Math.min(free[k]!.to, Math.max(free[k]!.from, value + change[k]!)))
    const after = residuals(next)
    if (Math.hypot(...after) < Math.hypot(...r)) {
      x = next
      r = after
      damping = Math.max(damping / 5, 1e-12)
    } else damping *= 8
    if (damping > 1e9) break
  }
  return at(x)
}

function dotOf(a: readonly number[], b: readonly number[]): number {
  return a.reduce((sum, value, i) => sum + value * b[i]!, 0)
}

/** Gaussian elimination with the largest pivot; undefined where there is none. */
function solvedBy(rows: readonly (readonly number[])[], right: readonly number[]): number[] | undefined {
  const n = rows.length
  const m = rows.map((row, i) => [...row, right[i]!])
  for (let c = 0; c < n; c++) {
    let pivot = c
    for (let r = c + 1; r < n; r++) if (Math.abs(m[r]![c]!) > Math.abs(m[pivot]![c]!)) pivot = r
    if (Math.abs(m[pivot]![c]!) < 1e-300) return undefined
    ;[m[c], m[pivot]] = [m[pivot]!, m[c]!]
    for (let r = c + 1; r < n; r++) {
      const factor = m[r]![c]! / m[c]![c]!
      for (let k = c; k <= n; k++) m[r]![k] = m[r]![k]! - factor * m[c]![k]!
    }
  }
  const x = new Array<number>(n).fill(0)
  for (let c = n - 1; c >= 0; c--) {
    const rest = x.reduce((sum, value, k) => (k > c ? sum + m[c]![k]! * value : sum), 0)
    x[c] = (m[c]![n]! - rest) / m[c]![c]!
  }
  return x
}
