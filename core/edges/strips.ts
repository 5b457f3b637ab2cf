import type { Vec3 } from '../place/index.ts'
import type { EdgeForm, Station } from './ball.ts'
import { arcOf } from './body.ts'
import { type CornerBody, type Ending, makingOf, type Turn } from './ends.ts'
import type { Network, Patch, Strip } from './sewn.ts'
import type { Surface } from './surface.ts'

/**
 * What courses and corners leave in the place of their edges, by the course or corner: of closed courses, of those that go on into each other
 * round edges of the other sense until they come back, and of those that end at balls in corners, with all that these are joined to.
 */
export function networksOf(
  surface: Surface,
  rolled: readonly Ending[],
  corners: readonly CornerBody[],
  form: EdgeForm,
  fineness: number,
): ReadonlyMap<Ending | CornerBody, Network> {
  const networks = new Map<Ending | CornerBody, Network>()
  if (form.deeper) return networks
  const sound = rolled.filter(liesOnFaces)
  const runs = [...closedOf(sound), ...loopsOf(new Set(sound), corners), ...chainsOf(new Set(sound), corners)]
  for (const { chains, balls } of joined(runs, corners)) {
    const strips = new Map(chains.map((chain) => [chain, stripAlong(surface, chain, form, fineness)] as const))
    const patches = balls.map((ball): Patch => patchOf(surface, ball, strips))
    const network = { strips: [...strips.values()], patches }
    for (const { courses, turns } of chains) {
      for (const { course } of courses) networks.set(course, network)
      for (const { corner } of turns) networks.set(corner, network)
    }
    for (const ball of balls) networks.set(ball, network)
  }
  return networks
}

/** Whether balls lie on both faces all along. */
function liesOnFaces({ stations }: Ending): boolean {
  return stations.every(({ left, right }) => left.past < 0 && right.past < 0)
}

/** Courses one after the other, with the turns from one to the next: as many where it comes back to its first course. */
interface Chain {
  readonly courses: readonly { readonly course: Ending; readonly forwards: boolean }[]
  readonly turns: readonly { readonly corner: CornerBody; readonly forwards: boolean }[]
  readonly closed: boolean
}

function closedOf(rolled: readonly Ending[]): Chain[] {
  return rolled
    .filter(({ course }) => course.closed)
    .map((course) => ({ courses: [{ course, forwards: true }], turns: [], closed: true }))
}

/** The course that a turn leads to from an end of another one. */
function onwards(corners: readonly CornerBody[], from: Ending, end: 0 | 1) {
  for (const corner of corners) {
    const { arrives, leaves } = corner.turn ?? {}
    for (const [one, other, forwards] of [
      [arrives, leaves, true],
      [leaves, arrives, false],
    ] as const)
      if (one?.rolled === from && one.end === end && other) return { corner, forwards, to: other }
  }
  return undefined
}

/** From an end of a course on, as far as turns lead. */
function chainFrom(
  sound: ReadonlySet<Ending>,
  corners: readonly CornerBody[],
  first: Ending,
  end: 0 | 1,
): Chain | undefined {
  const courses: { course: Ending; forwards: boolean }[] = []
  const turns: { corner: CornerBody; forwards: boolean }[] = []
  let [course, from] = [first, end]
  for (;;) {
    if (!sound.has(course) || courses.some((each) => each.course === course)) return undefined
    courses.push({ course, forwards: from === 0 })
    const next = onwards(corners, course, from === 0 ? 1 : 0)
    if (!next) return { courses, turns, closed: false }
    turns.push(next)
    if (next.to.rolled === first && next.to.end === end) return { courses, turns, closed: true }
    course = next.to.rolled
    from = next.to.end
  }
}

/** Each once, with the faces that their courses have in common on the left. */
function loopsOf(sound: ReadonlySet<Ending>, corners: readonly CornerBody[]): Chain[] {
  const loops: Chain[] = []
  const done = new Set<Ending>()
  for (const { turn } of corners) {
    if (!turn || done.has(turn.leaves.rolled)) continue
    const chain = chainFrom(sound, corners, turn.leaves.rolled, turn.leaves.end)
    if (!chain?.closed || chain.turns.some(({ forwards }) => !forwards)) continue
    for (const { course } of chain.courses) done.add(course)
    loops.push(chain)
  }
  return loops
}

/** From ball to ball, each once. */
function chainsOf(sound: ReadonlySet<Ending>, corners: readonly CornerBody[]): Chain[] {
  const chains: Chain[] = []
  const done = new Set<Ending>()
  for (const { ball } of corners)
    for (const { rolled, end } of ball?.ends ?? []) {
      if (done.has(rolled)) continue
      const chain = chainFrom(sound, corners, rolled, end)
      if (!chain || chain.closed) continue
      for (const { course } of chain.courses) done.add(course)
      chains.push(chain)
    }
  return chains
}

interface Joined {
  readonly chains: readonly Chain[]
  readonly balls: readonly CornerBody[]
}

/** Chains that end at the same balls, all of whose ends are of such chains. */
function joined(chains: readonly Chain[], corners: readonly CornerBody[]): Joined[] {
  const at = (chain: Chain, corner: CornerBody) =>
    corner.ball?.ends.some(({ rolled, end }) =>
      endsOf(chain).some((each) => each.course === rolled && each.end === end),
    ) ?? false
  const balls = corners.filter(({ ball }) => ball)
  const done = new Set<Chain>()
  const all: Joined[] = []
  for (const first of chains) {
    if (done.has(first)) continue
    const own = [first]
    const met: CornerBody[] = []
    for (const chain of own) {
      done.add(chain)
      for (const ball of chain.closed ? [] : balls) {
        if (met.includes(ball) || !at(chain, ball)) continue
        met.push(ball)
        for (const other of chains) if (!own.includes(other) && !other.closed && at(other, ball)) own.push(other)
      }
    }
    const ends = own.flatMap((chain) => (chain.closed ? [] : endsOf(chain)))
    const atBalls = met.flatMap(({ ball }) => ball!.ends)
    const isWhole =
      ends.length === atBalls.length &&
      atBalls.every(({ rolled, end }) => ends.some((each) => each.course === rolled && each.end === end))
    if (isWhole) all.push({ chains: own, balls: met })
  }
  return all
}

/** Both ends of a chain that is open. */
function endsOf({ courses }: Chain): { readonly course: Ending; readonly end: 0 | 1 }[] {
  const [first, last] = [courses[0]!, courses.at(-1)!]
  return [
    { course: first.course, end: first.forwards ? 0 : 1 },
    { course: last.course, end: last.forwards ? 1 : 0 },
  ]
}

function stripAlong(surface: Surface, { courses, turns, closed }: Chain, form: EdgeForm, fineness: number): Strip {
  const flats = [
    ...courses.map(({ course }) => makingOf(course.stations, form, fineness).flats),
    ...turns.map(({ corner }) => corner.turn!.flats),
  ]
  const making = { flats: Math.max(...flats), deeper: 0 }
  const halfEdges: number[] = []
  const gone: number[] = []
  const arcs: Vec3[][] = []
  const edges: (readonly number[])[] = []
  const put = (station: Station, forwards: boolean, at: number, of: readonly number[]) => {
    const arc = arcOf(station, making)
    gone.push(at)
    arcs.push(forwards ? arc : arc.reverse())
    edges.push(of)
  }
  courses.forEach(({ course, forwards }, i) => {
    const own = course.course.halfEdges
    const begun = halfEdges.length
    halfEdges.push(...(forwards ? own : own.map((h) => surface.twin(h)).reverse()))
    const turned = turns[i - 1] ?? (closed ? turns.at(-1) : undefined)
    if (turned) putTurn(turned, begun, course.course.edges, put)
    const isLast = i === courses.length - 1
    const stations = forwards ? course.stations : [...course.stations].reverse()
    // An end at a turn is that of the turn; one at a ball stands for the vertex.
    stations.forEach((station, k) => {
      const [isFirst, isEnd] = [k === 0, k === stations.length - 1 && !course.course.closed]
      if ((isFirst && turned) || (isEnd && !(isLast && !closed))) return
      const on = begun + (forwards ? station.gone : own.length - station.gone)
      put(station, forwards, isFirst ? begun : isEnd ? begun + own.length : on, course.course.edges)
    })
  })
  return { halfEdges, closed, gone, arcs, edges }
}

function putTurn(
  { corner, forwards }: Chain['turns'][number],
  begun: number,
  after: readonly number[],
  put: (station: Station, forwards: boolean, at: number, of: readonly number[]) => void,
): void {
  const { stations, arrives, leaves }: Turn = corner.turn!
  const own = [...leaves.rolled.course.edges, ...arrives.rolled.course.edges]
  const all = forwards ? stations : [...stations].reverse()
  all.forEach((station, k) => void put(station, forwards, begun, k + 1 < all.length ? own : after))
}

/** The piece of a ball between the strips that end at it. */
function patchOf(surface: Surface, corner: CornerBody, strips: ReadonlyMap<Chain, Strip>): Patch {
  const { ends, centre } = corner.ball!
  const arcs = ends.map(({ rolled, end }) => {
    for (const [chain, strip] of strips) {
      if (chain.closed) continue
      const which = endsOf(chain).findIndex((each) => each.course === rolled && each.end === end)
      // From the face before its spoke to that after it, which is on the left of what leaves the vertex.
      if (which >= 0) return which === 0 ? [...strip.arcs[0]!].reverse() : strip.arcs.at(-1)!
    }
    throw new Error('a ball whose strips are not known')
  })
  const spokes = ends.map(({ rolled: { course }, end }) =>
    end === 0 ? course.halfEdges[0]! : surface.twin(course.halfEdges.at(-1)!),
  )
  return { spokes, centre, arcs, edges: corner.of.flatMap(({ course }) => course.edges) }
}
