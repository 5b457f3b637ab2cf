import type { EdgeForm } from './ball.ts'
import { arcOf } from './body.ts'
import { type CornerBody, type Ending, makingOf } from './ends.ts'
import type { Strip } from './sewn.ts'
import type { Surface } from './surface.ts'

/**
 * What courses leave in the place of their edges, where these come back to where they began: one that is closed, or several that go on
 * round edges of the other sense where they meet. By the courses and corners that are in it.
 */
export function stripsOf(
  surface: Surface,
  rolled: readonly Ending[],
  corners: readonly CornerBody[],
  form: EdgeForm,
  fineness: number,
): ReadonlyMap<Ending | CornerBody, Strip> {
  const strips = new Map<Ending | CornerBody, Strip>()
  if (form.deeper) return strips
  for (const each of rolled) {
    if (!each.course.closed || !liesOnFaces(each)) continue
    const making = makingOf(each.stations, form, fineness)
    strips.set(each, {
      halfEdges: each.course.halfEdges,
      gone: each.stations.map(({ gone }) => gone),
      arcs: each.stations.map((station) => arcOf(station, making)),
      edges: each.stations.map(() => each.course.edges),
    })
  }
  const arriving = new Map<Ending, [CornerBody?, CornerBody?]>()
  for (const corner of corners) {
    if (!corner.turn) continue
    const { rolled: from, end } = corner.turn.arrives
    const known = arriving.get(from) ?? []
    known[end] = corner
    arriving.set(from, known)
  }
  for (const corner of corners) {
    if (strips.has(corner)) continue
    const loop = loopFrom(corner, arriving)
    const strip = loop && stripRound(surface, loop, form, fineness)
    if (strip) for (const { corner: own, course } of loop) strips.set(own, strip).set(course, strip)
  }
  return strips
}

/** Whether balls lie on both faces all along. */
function liesOnFaces({ stations }: Ending): boolean {
  return stations.every(({ left, right }) => left.past < 0 && right.past < 0)
}

/** A corner and the course that leaves it, from its first end or its last. */
interface Stretch {
  readonly corner: CornerBody
  readonly course: Ending
  readonly forwards: boolean
}

function loopFrom(
  first: CornerBody,
  arriving: ReadonlyMap<Ending, readonly [CornerBody?, CornerBody?]>,
): Stretch[] | undefined {
  const loop: Stretch[] = []
  let corner: CornerBody | undefined = first
  do {
    const leaves: { readonly rolled: Ending; readonly end: 0 | 1 } | undefined = corner?.turn?.leaves
    if (!corner || !leaves || !liesOnFaces(leaves.rolled) || loop.some((each) => each.corner === corner))
      return undefined
    const forwards: boolean = leaves.end === 0
    loop.push({ corner, course: leaves.rolled, forwards })
    corner = arriving.get(leaves.rolled)?.[forwards ? 1 : 0]
  } while (corner !== first)
  return loop
}

/** The faces that corners have in common lie on the left all the way round. */
function stripRound(surface: Surface, loop: readonly Stretch[], form: EdgeForm, fineness: number): Strip {
  const makings = loop.map(({ course }) => makingOf(course.stations, form, fineness).flats)
  const flats = Math.max(...makings, ...loop.map(({ corner }) => corner.turn!.flats))
  const making = { flats, deeper: 0 }
  const halfEdges: number[] = []
  const gone: number[] = []
  const arcs: ReturnType<typeof arcOf>[] = []
  const edges: (readonly number[])[] = []
  for (const { corner, course, forwards } of loop) {
    const begun = halfEdges.length
    const own = course.course.halfEdges
    halfEdges.push(...(forwards ? own : own.map((h) => surface.twin(h)).reverse()))
    const [arrives, leaves] = [corner.turn!.arrives.rolled.course, course.course]
    const round = [...leaves.edges, ...arrives.edges]
    for (const [i, station] of corner.turn!.stations.entries()) {
      gone.push(begun)
      arcs.push(arcOf(station, making))
      edges.push(i + 1 < corner.turn!.stations.length ? round : leaves.edges)
    }
    // Its ends are those of its corners.
    const inner = course.stations.slice(1, -1)
    for (const station of forwards ? inner : [...inner].reverse()) {
      const arc = arcOf(station, making)
      gone.push(begun + (forwards ? station.gone : own.length - station.gone))
      arcs.push(forwards ? arc : arc.reverse())
      edges.push(leaves.edges)
    }
  }
  return { halfEdges, gone, arcs, edges }
}
