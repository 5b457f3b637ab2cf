import { add, cross, dot, norm, subtract, type Vec3 } from '../place/index.ts'
import type { EdgeForm, EdgePlace, Station } from './ball.ts'
import { type Course, directionOf, placeAt } from './courses.ts'
import type { Surface } from './surface.ts'

/** A ball and how far along its course it stands: the number of its half-edge, and the share of it that is gone. */
export interface Placed extends Station {
  readonly gone: number
}

/** The ball that rolls along a course: where it stands at its corners and between them. */
export interface Rolled {
  readonly course: Course
  /** from the first to the last, near enough to each other to follow the faces */
  stations: readonly Placed[]
  /** some that are at none of its two ends, for what is asked of it all along */
  readonly inner: readonly Placed[]
  /** the one in the middle of a course that is so short beside its balls that there are none of these */
  readonly middle?: Placed
}

/** Stretches are halved until the balls between follow those at their ends; not more often than this. */
const mostHalvings = 6

export function rolledAlong(
  surface: Surface,
  course: Course,
  form: EdgeForm,
  scale: number,
  fineness: number,
  firstLeft: boolean,
): Rolled | undefined {
  const { sense, halfEdges, closed } = course
  const count = halfEdges.length
  const all: Placed[] = []
  const lengths = sharesOf(surface, halfEdges)
  const ball = (place: EdgePlace, gone: number): Placed | undefined => {
    const sizes = { share: lengths(gone), scale, firstLeft }
    const station = form.at(surface, place, sense, sizes)
    if (station && station.left.past < 0 && station.right.past < 0) return { ...station, gone }
    // Where it is just as large as the round that it runs along, it stands still there, and no way can be told.
    const smaller = form.at(surface, place, sense, { ...sizes, scale: scale * (1 - almost) })
    const fits = smaller && smaller.left.past < 0 && smaller.right.past < 0
    const found = fits ? smaller : (station ?? smaller)
    return found && { ...found, gone }
  }
  const within = (i: number, share: number) =>
    ball({ left: halfEdges[i]!, share, direction: directionOf(surface, halfEdges[i]!) }, i + share)
  const fill = (i: number, from: Placed, to: Placed, low: number, high: number, halvings: number): boolean => {
    const share = (low + high) / 2
    const middle = within(i, share)
    if (!middle) return false
    if (halvings === 0 || follows(from, middle, to, fineness / 2)) return true
    if (!fill(i, from, middle, low, share, halvings - 1)) return false
    all.push(middle)
    return fill(i, middle, to, share, high, halvings - 1)
  }
  let last: Placed | undefined
  for (let i = 0; i <= count; i++) {
    const next = closed && i === count ? { ...all[0]!, gone: count } : ball(placeAt(surface, course, i), i)
    if (!next) return undefined
    if (last && !fill(i - 1, last, next, 0, 1, mostHalvings)) return undefined
    if (!(closed && i === count)) all.push(next)
    last = next
  }
  if (!runsOn(all, closed)) return undefined
  const inner = closed || all.length > 2 ? all.slice(closed ? 0 : 1, closed ? undefined : -1) : []
  for (let i = 0; i < count; i++)
    for (const share of samples(surface, halfEdges[i]!, all[0]!.radius)) {
      const between = within(i, share)
      if (!between) return undefined
      inner.push(between)
    }
  const middle = inner.length === 0 ? within(Math.floor(count / 2), 0.5) : undefined
  return { course, stations: stoodStill(all), inner, ...(middle && { middle }) }
}

/** How much of a course is gone, from 0 to 1, by the number of its stretch and the share of that. */
function sharesOf(surface: Surface, halfEdges: readonly number[]): (gone: number) => number {
  const ends = [0]
  for (const h of halfEdges) {
    const [p, q] = [surface.at(surface.from(h)), surface.at(surface.from(surface.twin(h)))]
    ends.push(ends.at(-1)! + norm(subtract(q, p)))
  }
  const whole = ends.at(-1)! || 1
  return (gone) => {
    const i = Math.min(Math.floor(gone), halfEdges.length - 1)
    return (ends[i]! + (gone - i) * (ends[i + 1]! - ends[i]!)) / whole
  }
}

/** Shares of a stretch at which a ball is looked at; none of those that are short beside it. */
function samples(surface: Surface, h: number, radius: number): number[] {
  const [p, q] = [surface.at(surface.from(h)), surface.at(surface.from(surface.twin(h)))]
  const count = Math.min(7, Math.floor((2 * norm(subtract(q, p))) / radius))
  return Array.from({ length: count }, (_, i) => (i + 1) / (count + 1))
}

/** What a radius is made smaller by, as a share, where a ball is just as large as what it lies in. */
const almost = 1e-6

/** Whether no ball stands behind the one before it. */
function runsOn(stations: readonly Placed[], closed: boolean): boolean {
  return stations.every((one, i) => {
    const next = stations[i + 1] ?? (closed ? stations[0]! : undefined)
    return !next || dot(subtract(next.centre, one.centre), add(one.along, next.along)) >= -10 * almost * one.radius
  })
}

/** Balls that hardly move stand still, and so do their contacts: bodies have no sides that are next to nothing. */
function stoodStill(stations: readonly Placed[]): Placed[] {
  let last: Placed | undefined
  return stations.map((each) => {
    const near = (p: Vec3, q: Vec3 | undefined) => (q && norm(subtract(p, q)) < 100 * almost * each.radius ? q : p)
    last = {
      ...each,
      centre: near(each.centre, last?.centre),
      left: { ...each.left, at: near(each.left.at, last?.left.at) },
      right: { ...each.right, at: near(each.right.at, last?.right.at) },
    }
    return last
  })
}

/** Whether what is half-way between two balls is where they let expect it. */
function follows(a: Station, middle: Station, b: Station, within: number): boolean {
  const near = (p: Vec3, m: Vec3, q: Vec3) => {
    const line = subtract(q, p)
    const away = subtract(m, p)
    const size = norm(line)
    return size === 0 ? norm(away) < within : norm(cross(away, line)) / size < within
  }
  return (
    near(a.centre, middle.centre, b.centre) &&
    near(a.left.at, middle.left.at, b.left.at) &&
    near(a.right.at, middle.right.at, b.right.at)
  )
}
