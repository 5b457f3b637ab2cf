import { atOnce, type Paced } from '../pacing/index.ts'
import type { Vec2 } from '../plane/index.ts'
import { Contacts, crosses, type Facing, metBy } from './contact.ts'
import { Profile } from './profile.ts'
import type { FlexMesh } from './region.ts'

/** What bends: MPa, and how thick it is across the plane, mm. */
export interface Stuff {
  readonly stiffness: number
  readonly poisson: number
  readonly thickness: number
}

/** Edges by their tags: those that are held, and those that are pushed one way, by so many mm or with so many N. */
export interface Load {
  readonly held: readonly number[]
  readonly pushed: readonly number[]
  /** unit */
  readonly way: Vec2
  readonly by: 'distance' | 'force'
  readonly amount: number
}

export interface Bent {
  /** x, y of how far each node has moved, mm */
  readonly moved: Float64Array
  /** which share of the load was reached: 1 where all of it */
  readonly reached: number
  /** N, along the way it is pushed */
  readonly force: number
  /** mm that the pushed edges have gone along it, on the whole */
  readonly travel: number
  /** N/mm at first, before it has moved */
  readonly stiffness: number
  /** the largest strain, as a share, at each node of each element, six by six; below 0 where it is pressed together */
  readonly strains: Float64Array
  /** the largest of them beside what is held and pushed, and the node where it is */
  readonly strain: number
  readonly worst: number
  /** N with which it presses on itself; 0 where it does not touch */
  readonly contact: number
}

/** Of the load, at first and at the least. */
const [firstShare, leastShare] = [1, 1 / 512]
const mostRounds = 14
/** What is left out of balance, of what holds it, when it counts as found. */
const balanced = 1e-7

/** Places within a triangle that integrate squares exactly (Strang and Fix 1973), each with a third of its area. */
const inner = [
  [2 / 3, 1 / 6],
  [1 / 6, 2 / 3],
  [1 / 6, 1 / 6],
] as const
const atNodes = [
  [1, 0],
  [0, 1],
  [0, 0],
  [0.5, 0.5],
  [0, 0.5],
  [0.5, 0],
] as const

/**
 * How a flat thing bends in its plane: triangles of six nodes, plane stress, with large turns (total Lagrangian, St. Venant–Kirchhoff;
 * Bathe, Finite Element Procedures, 6.3), by Newton's steps. Where a step of the load finds no balance it is halved, down to a share
 * at which it is given up. Undefined where nothing holds it.
 */
export function* bending(mesh: FlexMesh, stuff: Stuff, load: Load): Paced<Bent | undefined> {
  const system = new System(mesh, stuff, load)
  let found: Balance = { moved: new Float64Array(mesh.nodes.length), force: 0 }
  // At first it gives as its slopes have it.
  const little = yield* system.step(found, load.amount === 0 ? 0 : 1e-6 / Math.max(1, Math.abs(load.amount)), 1)
  if (!little) return undefined
  const gone = system.travelOf(little.moved)
  const stiffness = gone === 0 ? 0 : little.force / gone
  let [reached, share] = [0, firstShare]
  while (reached < 1 && load.amount !== 0) {
    const to = Math.min(1, reached + share)
    const next = yield* system.step(found, to, mostRounds)
    if (next) {
      found = next
      reached = to
      share = Math.min(1, share * 2)
    } else {
      share /= 2
      if (share < leastShare) break
    }
  }
  return told(mesh, load, system, { ...found, reached, stiffness })
}

/** The same, in one go. */
export function bent(mesh: FlexMesh, stuff: Stuff, load: Load): Bent | undefined {
  return atOnce(bending(mesh, stuff, load))
}

/**
 * The same, of what may come to touch itself: where it would run through itself it is bent anew, in small steps, and what touches is
 * pushed apart as by stiff springs (the penalty method; Wriggers, Computational Contact Mechanics). `size`: of its triangles, mm.
 */
export function* bendingTouching(mesh: FlexMesh, stuff: Stuff, load: Load, size: number): Paced<Bent | undefined> {
  const free = yield* bending(mesh, stuff, load)
  if (!free || free.reached === 0 || (!crosses(mesh, free.moved) && free.reached === 1)) return free
  const contacts = new Contacts(mesh, size)
  const far = free.moved.reduce((most, x) => Math.max(most, Math.abs(x)), 0) / free.reached
  const system = new System(mesh, stuff, load)
  const hard = hardness * Math.abs(free.stiffness)
  let found: Balance = { moved: new Float64Array(mesh.nodes.length), force: 0 }
  let touch: Touch | undefined
  let [reached, share] = [0, touchShare]
  while (reached < 1) {
    const to = Math.min(1, reached + share)
    // As far as it may go in one step, and a little beyond.
    const tried = { facing: contacts.near(found.moved, 2 * (to - reached) * far + size / 4), hard }
    const next = yield* system.step(found, to, touchRounds, tried)
    if (next && !crosses(mesh, next.moved, size / 20)) {
      found = next
      touch = tried
      reached = to
      share = Math.min(touchShare, share * 2)
    } else {
      share /= 2
      if (share < touchShare / 32) break
    }
  }
  return told(mesh, load, system, { ...found, reached, stiffness: free.stiffness, touch })
}

/** What touches is so much stiffer than all of it: it runs into itself by a thousandth of what it is pushed. */
const hardness = 1000
/** Of the load with each step, where something touches, and how often it is sought then. */
const [touchShare, touchRounds] = [1 / 12, 24]

/** All that there is to tell of where it stands. */
function told(
  mesh: FlexMesh,
  load: Load,
  system: System,
  {
    moved,
    force,
    reached,
    stiffness,
    touch,
  }: Balance & Pick<Bent, 'reached' | 'stiffness'> & { readonly touch?: Touch | undefined },
): Bent {
  const strains = strainsOf(mesh, moved)
  // What is held or pushed as stiff as stone is strained there as nothing real is.
  const stiff = nodesOf(mesh, [...load.held, ...load.pushed])
  let worst = -1
  for (let e = 0; e < strains.length; e += 6) {
    if (mesh.elements.subarray(e, e + 6).some((node) => stiff.has(node))) continue
    for (let i = e; i < e + 6; i++) if (worst < 0 || Math.abs(strains[i]!) > Math.abs(strains[worst]!)) worst = i
  }
  worst = Math.max(0, worst)
  return {
    moved,
    reached,
    force,
    travel: system.travelOf(moved),
    stiffness,
    strains,
    strain: strains[worst]!,
    worst: mesh.elements[worst]!,
    contact: touch ? contactIn(mesh, moved, touch) : 0,
  }
}

/** Where nodes have moved to, and the force that keeps them there, N. */
interface Balance {
  readonly moved: Float64Array<ArrayBuffer>
  readonly force: number
}

/** The equations of one mesh and one load. */
class System {
  readonly #mesh: FlexMesh
  readonly #stuff: Stuff
  readonly #load: Load
  readonly #profile: Profile
  /** unknown of each of x, y of all nodes; −1 where it is held */
  readonly #unknown: Int32Array
  readonly #count: number
  /** of each pushed node, its part of the pushed length */
  readonly #parts: ReadonlyMap<number, number>
  /** what a force of 1 N comes to, by unknown */
  readonly #push: Float64Array

  constructor(mesh: FlexMesh, stuff: Stuff, load: Load) {
    this.#mesh = mesh
    this.#stuff = stuff
    this.#load = load
    const nodes = mesh.nodes.length / 2
    const used = new Uint8Array(nodes)
    for (const node of mesh.elements) used[node] = 1
    for (const [a, b, middle, tag] of mesh.edges)
      if (load.held.includes(tag)) for (const node of [a, b, middle]) used[node] = 0
    this.#unknown = new Int32Array(2 * nodes).fill(-1)
    let count = 0
    for (let i = 0; i < 2 * nodes; i++) if (used[i >> 1]) this.#unknown[i] = count++
    this.#count = count
    const groups = Array.from({ length: mesh.elements.length / 6 }, (_, e) => this.unknownsOf(e).filter((i) => i >= 0))
    this.#profile = new Profile(count, groups)
    this.#parts = partsOf(mesh, load.pushed)
    this.#push = new Float64Array(count)
    for (const [node, part] of this.#parts)
      for (const i of [0, 1] as const) {
        const at = this.#unknown[2 * node + i]!
        if (at >= 0) this.#push[at] = part * load.way[i]
      }
  }

  /**
   * Where all nodes are in balance at a share of the load, and where they touch, sought from where they stood before; undefined where
   * none was found.
   */
  *step(from: Balance, share: number, rounds: number, touch?: Touch): Paced<Balance | undefined> {
    if (this.#count === 0) return undefined
    const { by, amount } = this.#load
    const moved = Float64Array.from(from.moved)
    let force = by === 'force' ? share * amount : from.force
    let last = Number.POSITIVE_INFINITY
    for (let round = 0; ; round++) {
      yield
      const { inner: held, scale } = this.assembled(moved)
      yield
      const met = touch ? this.metIn(moved, touch, held) : []
      const off = this.#push.map((part, i) => force * part - held[i]!)
      const size = Math.sqrt(off.reduce((sum, x) => sum + x * x, 0))
      if (!Number.isFinite(size)) return undefined
      if (round > 0 && size <= balanced * scale) return { moved, force }
      if (round >= rounds) return rounds === 1 ? { moved, force } : undefined
      if (!touch && round > 3 && size > 1e3 * last) return undefined
      last = Math.min(last, size)
      if (!this.#profile.factor()) return undefined
      const solved = stiffened(this.#profile, met, touch?.hard ?? 0)
      const change = solved(off)
      if (by === 'distance') {
        // As much more force as takes the pushed edges, on the whole, to where they are to be.
        const yields = solved(this.#push)
        const more = (share * amount - this.travelOf(moved) - dotOf(this.#push, change)) / dotOf(this.#push, yields)
        force += more
        for (let i = 0; i < change.length; i++) change[i] = change[i]! + more * yields[i]!
      }
      for (const [i, at] of this.#unknown.entries()) if (at >= 0) moved[i] = moved[i]! + change[at]!
    }
  }

  /** How far the pushed edges have gone along the way they are pushed, on the whole. */
  travelOf(moved: Float64Array): number {
    const { way } = this.#load
    let travel = 0
    for (const [node, part] of this.#parts) travel += part * (moved[2 * node]! * way[0] + moved[2 * node + 1]! * way[1])
    return travel
  }

  private unknownsOf(element: number): number[] {
    const { elements } = this.#mesh
    const out: number[] = []
    for (let k = 0; k < 6; k++) {
      const node = elements[6 * element + k]!
      out.push(this.#unknown[2 * node]!, this.#unknown[2 * node + 1]!)
    }
    return out
  }

  /** What has come to touch, as it pushes apart each N/mm; what it holds against is added to the forces, by unknown. */
  private metIn(moved: Float64Array, { facing, hard }: Touch, against: Float64Array): readonly Spring[] {
    return metBy(this.#mesh, moved, facing).map(({ facing: { node, from, to }, gap, out, share }) => {
      const spring = (
        [
          [node, 1],
          [from, share - 1],
          [to, -share],
        ] as const
      ).flatMap(([each, part]) =>
        [0, 1].flatMap((i) => {
          const at = this.#unknown[2 * each + i]!
          return at < 0 ? [] : [{ at, part: part * out[i]! }]
        }),
      )
      for (const { at, part } of spring) against[at] = against[at]! + hard * gap * part
      return spring
    })
  }

  /** Sets up the slopes, and tells what forces within hold against, by unknown. */
  private assembled(moved: Float64Array): { readonly inner: Float64Array; readonly scale: number } {
    const { nodes, elements } = this.#mesh
    const { stiffness, poisson, thickness } = this.#stuff
    const plane = stiffness / (1 - poisson * poisson)
    const profile = this.#profile
    profile.values.fill(0)
    const against = new Float64Array(this.#count)
    let scale = 1e-9
    const dx = new Float64Array(6)
    const dy = new Float64Array(6)
    const own = new Float64Array(144)
    const held = new Float64Array(12)
    const b = new Float64Array(36)
    for (let e = 0; e < elements.length / 6; e++) {
      own.fill(0)
      held.fill(0)
      for (const [r, s] of inner) {
        const area = slopesAt(nodes, elements, e, r, s, dx, dy)
        const weight = (area / 3) * thickness
        let [f11, f12, f21, f22] = [1, 0, 0, 1]
        for (let k = 0; k < 6; k++) {
          const node = elements[6 * e + k]!
          const [u, v] = [moved[2 * node]!, moved[2 * node + 1]!]
          f11 += u * dx[k]!
          f12 += u * dy[k]!
          f21 += v * dx[k]!
          f22 += v * dy[k]!
        }
        // Turned inside out, it is no balance.
        if (!(f11 * f22 - f12 * f21 > 0.01)) against.fill(Number.NaN)
        const [e11, e22] = [(f11 * f11 + f21 * f21 - 1) / 2, (f12 * f12 + f22 * f22 - 1) / 2]
        const twice = f11 * f12 + f21 * f22
        const s11 = plane * (e11 + poisson * e22)
        const s22 = plane * (e22 + poisson * e11)
        const s12 = (plane * (1 - poisson) * twice) / 2
        for (let k = 0; k < 6; k++) {
          const [x, y] = [dx[k]!, dy[k]!]
          b[6 * k] = f11 * x
          b[6 * k + 1] = f12 * y
          b[6 * k + 2] = f11 * y + f12 * x
          b[6 * k + 3] = f21 * x
          b[6 * k + 4] = f22 * y
          b[6 * k + 5] = f21 * y + f22 * x
        }
        for (let i = 0; i < 12; i++) {
          const [b1, b2, b3] = [b[3 * i]!, b[3 * i + 1]!, b[3 * i + 2]!]
          held[i] = held[i]! + weight * (b1 * s11 + b2 * s22 + b3 * s12)
          const d1 = plane * (b1 + poisson * b2)
          const d2 = plane * (b2 + poisson * b1)
          const d3 = (plane * (1 - poisson) * b3) / 2
          for (let k = 0; k <= i; k++) {
            let value = d1 * b[3 * k]! + d2 * b[3 * k + 1]! + d3 * b[3 * k + 2]!
            if ((i & 1) === (k & 1)) {
              const [p, q] = [i >> 1, k >> 1]
              value += dx[p]! * (s11 * dx[q]! + s12 * dy[q]!) + dy[p]! * (s12 * dx[q]! + s22 * dy[q]!)
            }
            own[12 * i + k] = own[12 * i + k]! + weight * value
          }
        }
      }
      const unknowns = this.unknownsOf(e)
      for (let i = 0; i < 12; i++) {
        const row = unknowns[i]!
        scale = Math.max(scale, Math.abs(held[i]!))
        if (row < 0) continue
        against[row] = against[row]! + held[i]!
        for (let k = 0; k <= i; k++) if (unknowns[k]! >= 0) profile.add(row, unknowns[k]!, own[12 * i + k]!)
      }
    }
    return { inner: against, scale: scale * Math.sqrt(this.#count) }
  }
}

/** What may touch what, and how stiff that is, N/mm. */
interface Touch {
  readonly facing: readonly Facing[]
  readonly hard: number
}

/** N that push apart what has come to touch. */
function contactIn(mesh: FlexMesh, moved: Float64Array, { facing, hard }: Touch): number {
  return metBy(mesh, moved, facing).reduce((sum, { gap }) => sum - hard * gap, 0)
}

/** A spring between some unknowns: its part in each. */
type Spring = readonly { readonly at: number; readonly part: number }[]

/**
 * Solves what was factored with some springs more, each as stiff as `hard`: they couple what lies far apart, and would make rows long
 * (Woodbury's formula; Hager 1989).
 */
function stiffened(profile: Profile, springs: readonly Spring[], hard: number): (right: Float64Array) => Float64Array {
  if (springs.length === 0) return (right) => profile.solved(right)
  const along = (x: Float64Array, spring: Spring) => spring.reduce((sum, { at, part }) => sum + part * x[at]!, 0)
  const gives = springs.map((spring) => {
    const right = new Float64Array(profile.size)
    for (const { at, part } of spring) right[at] = part
    return profile.solved(right)
  })
  const small = springs.map((spring, i) => gives.map((give, k) => along(give, spring) + (i === k ? 1 / hard : 0)))
  return (right) => {
    const x = profile.solved(right)
    const held = solvedDense(
      small,
      springs.map((spring) => along(x, spring)),
    )
    for (const [k, give] of gives.entries()) for (let i = 0; i < x.length; i++) x[i] = x[i]! - held[k]! * give[i]!
    return x
  }
}

/** What solves a small system, by elimination with the largest pivots first. */
function solvedDense(matrix: readonly (readonly number[])[], right: readonly number[]): number[] {
  const rows = matrix.map((row, i) => [...row, right[i]!])
  const count = rows.length
  for (let c = 0; c < count; c++) {
    let most = c
    for (let r = c + 1; r < count; r++) if (Math.abs(rows[r]![c]!) > Math.abs(rows[most]![c]!)) most = r
    ;[rows[c], rows[most]] = [rows[most]!, rows[c]!]
    for (let r = c + 1; r < count; r++) {
      const times = rows[r]![c]! / rows[c]![c]!
      for (let k = c; k <= count; k++) rows[r]![k] = rows[r]![k]! - times * rows[c]![k]!
    }
  }
  const x = new Array<number>(count).fill(0)
  for (let r = count - 1; r >= 0; r--) {
    const row = rows[r]!
    x[r] = row.slice(r + 1, count).reduce((rest, value, i) => rest - value * x[r + 1 + i]!, row[count]!) / row[r]!
  }
  return x
}

function dotOf(a: Float64Array, b: Float64Array): number {
  let sum = 0
  for (let i = 0; i < a.length; i++) sum += a[i]! * b[i]!
  return sum
}

function nodesOf({ edges }: FlexMesh, tags: readonly number[]): ReadonlySet<number> {
  return new Set(edges.flatMap(([a, b, middle, tag]) => (tags.includes(tag) ? [a, b, middle] : [])))
}

/** Of each node of edges with these tags, its part of their length: a sixth of an edge at its ends, two thirds in its middle. */
function partsOf({ nodes, edges }: FlexMesh, tags: readonly number[]): ReadonlyMap<number, number> {
  const parts = new Map<number, number>()
  let whole = 0
  for (const [a, b, middle, tag] of edges) {
    if (!tags.includes(tag)) continue
    const long = Math.hypot(nodes[2 * b]! - nodes[2 * a]!, nodes[2 * b + 1]! - nodes[2 * a + 1]!)
    whole += long
    for (const [node, share] of [
      [a, 1 / 6],
      [b, 1 / 6],
      [middle, 2 / 3],
    ] as const)
      parts.set(node, (parts.get(node) ?? 0) + long * share)
  }
  return new Map([...parts].map(([node, long]) => [node, long / whole]))
}

/** How each node's share changes along x and y, where two corners have shares r and s; the area of the triangle, mm². */
function slopesAt(
  nodes: Float64Array,
  elements: Int32Array,
  element: number,
  r: number,
  s: number,
  dx: Float64Array,
  dy: Float64Array,
): number {
  const [a, b, c] = [elements[6 * element]!, elements[6 * element + 1]!, elements[6 * element + 2]!]
  const [ax, ay] = [nodes[2 * a]!, nodes[2 * a + 1]!]
  const [bx, by] = [nodes[2 * b]!, nodes[2 * b + 1]!]
  const [cx, cy] = [nodes[2 * c]!, nodes[2 * c + 1]!]
  const twice = (bx - ax) * (cy - ay) - (cx - ax) * (by - ay)
  const t = 1 - r - s
  // Of the corners' own shares, which change evenly.
  const x = [(by - cy) / twice, (cy - ay) / twice, (ay - by) / twice] as const
  const y = [(cx - bx) / twice, (ax - cx) / twice, (bx - ax) / twice] as const
  const at = [r, s, t] as const
  for (let k = 0; k < 3; k++) {
    const corner = 4 * at[k]! - 1
    dx[k] = corner * x[k]!
    dy[k] = corner * y[k]!
    const n = (k + 1) % 3
    dx[3 + k] = 4 * (at[k]! * x[n]! + at[n]! * x[k]!)
    dy[3 + k] = 4 * (at[k]! * y[n]! + at[n]! * y[k]!)
  }
  return twice / 2
}

/** The largest strain along any way in the plane, at each node of each element. */
function strainsOf({ nodes, elements }: FlexMesh, moved: Float64Array): Float64Array {
  const out = new Float64Array(elements.length)
  const dx = new Float64Array(6)
  const dy = new Float64Array(6)
  for (let e = 0; e < elements.length / 6; e++)
    for (const [at, [r, s]] of atNodes.entries()) {
      slopesAt(nodes, elements, e, r, s, dx, dy)
      let [f11, f12, f21, f22] = [1, 0, 0, 1]
      for (let k = 0; k < 6; k++) {
        const node = elements[6 * e + k]!
        f11 += moved[2 * node]! * dx[k]!
        f12 += moved[2 * node]! * dy[k]!
        f21 += moved[2 * node + 1]! * dx[k]!
        f22 += moved[2 * node + 1]! * dy[k]!
      }
      // How much longer a stretch is than it was: square roots of FᵀF, less one.
      const [c11, c22, c12] = [f11 * f11 + f21 * f21, f12 * f12 + f22 * f22, f11 * f12 + f21 * f22]
      const [middle, half] = [(c11 + c22) / 2, Math.hypot((c11 - c22) / 2, c12)]
      const [most, least] = [Math.sqrt(middle + half) - 1, Math.sqrt(Math.max(0, middle - half)) - 1]
      out[6 * e + at] = Math.abs(most) >= Math.abs(least) ? most : least
    }
  return out
}
