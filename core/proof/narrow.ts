import { Facing, type FacingSpot, Groups, type TriangleTree } from '../mesh/index.ts'
import { add, dot, norm, scaled, subtract, unit, type Vec3 } from '../place/index.ts'
import type { Mark, ProofContext, ProofPiece } from './define.ts'

/** What walls and slots have in common: places where surfaces that face each other come too near. */

/** Parts of a wall are told together where it differs over them by no more than this share: how thin it is at its thinnest is told of each. */
const alike = 0.1
/** Two sides that lean to each other by less run beside each other: as the sum of their unit normals. */
const hardlyLeans = 5e-3
/** From ball to ball what tapers grows by as much of what it should be across at least; a wall runs on as it is. */
const grows = 5e-3
/** As a share of what it should be as wide as: how far it is from one ball to the next. */
const [shortest, longest] = [0.01, 0.5]
const mostStrides = 80
/** What looks another way than both sides of an edge by so much closes it off at its end, as a cosine. */
const endsFrom = 0.5

/**
 * Whether a place lies at an edge to which what is between its sides tapers, as at the tip of a wedge or the bottom of a groove: from ball to
 * ball the sides come together one way, and the other way there is room for a ball that is as wide as it should be, within a few widths. At
 * a neck there is room both ways, and a wall runs on as it is.
 */
function isEdge(looked: Looked, spot: FacingSpot, wanted: number): boolean {
  return walked(looked, spot, wanted, 'apart') === 'room' && walked(looked, spot, wanted, 'together') === 'end'
}

/** From the ball of a place on to where the sides that it touches go apart, or come together: what is there, within a few widths. */
function walked(looked: Looked, spot: FacingSpot, wanted: number, where: 'apart' | 'together'): 'room' | 'end' | 'on' {
  const { facing, tree, edgeWithin } = looked
  const out = (n: Vec3) => scaled(n, facing.way)
  let ball: Pick<FacingSpot, 'middle' | 'normal' | 'at' | 'across'> | undefined = spot
  let [across, centre, side, other, way]: [number, Vec3, Vec3, Vec3, Vec3] = [0, spot.middle, none, none, none]
  let unfaced = 0
  for (let [gone, strides] = [0, 0]; gone < edgeWithin * wanted && strides < mostStrides; strides++) {
    unfaced = ball ? 0 : unfaced + 1
    // Behind a corner that comes near to a wall nothing faces anything; before an end it is no farther than it is across.
    if (where === 'together' && unfaced > 1) return 'on'
    if (ball) {
      if (where === 'apart' && ball.across < across + grows * wanted) return 'on'
      side = out(ball.normal)
      centre = subtract(ball.middle, scaled(side, ball.across / 2))
      other = scaled(subtract(ball.at, centre), 2 / ball.across)
      const apart = scaled(add(side, other), -1)
      const leans = norm(apart) >= hardlyLeans
      if (!leans && (where === 'apart' || across === 0)) return 'on'
      // Behind a neck they go apart again.
      if (leans && across > 0 && where === 'together' && dot(apart, way) > 0) return 'on'
      if (leans) way = scaled(unit(apart), where === 'apart' ? 1 : -1)
      across = ball.across
    }
    // Closely where sides come together, or what is behind a narrow place is passed by.
    const closely = Math.min(longest, Math.max(shortest, (0.7 * across) / wanted))
    const stride = wanted * (where === 'apart' ? longest : closely)
    gone += stride
    let next = add(centre, scaled(way, stride))
    let near = tree.nearest(next, wanted / 2)
    // It is no farther on than that: nothing lies between.
    if (!near) return 'room'
    // The ends of an edge are in the way of neither of its sides.
    for (let ends = 0; ends < 2 && near.distance < wanted / 2; ends++) {
      const end = out(tree.normal(near.triangle))
      if (Math.max(dot(end, side), dot(end, other)) > endsFrom || Math.abs(dot(end, way)) > endsFrom) break
      next = subtract(next, scaled(end, 1.01 * (wanted / 2) - near.distance))
      near = tree.nearest(next)!
    }
    if (dot(out(tree.normal(near.triangle)), subtract(near.to, next)) <= 0) return 'end'
    if (near.distance >= wanted / 2) return 'room'
    // Where sides lean so much that they do not face each other any more it is straight on.
    const found = facing.across(near.to, near.triangle, 2 * wanted)
    ball = found && { ...found, middle: near.to }
    centre = next
  }
  return 'on'
}
const none: Vec3 = [0, 0, 0]

/** Looking at more triangles than these takes longer than the rest of a proof. */
const mostTriangles = 1_000_000

export function isTooLarge({ built }: ProofPiece): boolean {
  return built.solid!.mesh().triangles.length / 3 > mostTriangles
}

interface Search {
  /** what is nearer than this on both of its sides is looked at, mm */
  readonly below: number
  /** how finely, mm */
  readonly fine: number
}

/** All places of a piece where what faces each other is near, through the solid or through the air. */
export async function nearSpots(
  { tree, surfaces, pause }: ProofContext,
  piece: ProofPiece,
  through: 'solid' | 'air',
  search: Search,
) {
  const mesh = piece.built.solid!.mesh()
  const what = `nothing within ${search.below} ${through} ${piece.built.piece.id}`
  const before = surfaces.before(what, mesh)
  const facing = new Facing(tree(piece), through)
  const { alone, ...found } = await facing.spots({ ...search, alike, pause, before })
  if (found.isWhole) surfaces.keep(what, mesh, alone)
  return { facing, tree: tree(piece), pause, ...search, ...found }
}

interface Looked {
  readonly facing: Facing
  readonly tree: TriangleTree
  /** what tapers to nothing within so many times of what it should be as wide as is no more than an edge */
  readonly edgeWithin: number
  /** how finely it was looked at, mm */
  readonly fine: number
  /** what is smaller than this, mm², is a speck: a corner that is not quite sharp */
  readonly speck: number
  /** what is no deeper than this, mm, is no more than a step in a corner */
  readonly shallow?: number
  readonly pause: () => Promise<void>
}

/**
 * What is nearer than it should be, where that is not at an edge alone; `wanted`: how far it should be across, mm. Of what lies close
 * together one place is asked for all, and what lies right beside an edge is of that edge.
 */
export async function narrowSpots(
  looked: Looked,
  spots: readonly FacingSpot[],
  wanted: (spot: FacingSpot) => number,
): Promise<readonly FacingSpot[]> {
  const near: FacingSpot[] = []
  for (const [i, spot] of spots.entries()) {
    if (i % betweenTurns === 0) await looked.pause()
    if (spot.across < wanted(spot)) near.push(spot)
  }
  const out: (readonly FacingSpot[])[] = []
  let asked = 0
  for (const patch of patchesOf(looked, near)) {
    if (areaBetween(patch) < looked.speck) continue
    const side = patch.reduce((most, spot) => Math.max(most, wanted(spot)), 0)
    const cells = new Map<string, FacingSpot[]>()
    for (const [i, spot] of patch.entries()) {
      // What is larger than a cell is asked by itself.
      const key = spot.area > side * side ? `large ${i}` : cellOf(looked, spot, side).join(' ')
      const own = cells.get(key)
      if (own) own.push(spot)
      else cells.set(key, [spot])
    }
    const edges = new Set<string>()
    const isBeside = (key: string) => {
      if (key.startsWith('large') || edges.has(key)) return edges.has(key)
      const [x, y, z] = key.split(' ').map(Number) as [number, number, number]
      return aboutOne.some((dx) =>
        aboutOne.some((dy) => aboutOne.some((dz) => edges.has(`${x + dx} ${y + dy} ${z + dz}`))),
      )
    }
    for (const [key, own] of cells) {
      // What lies beside an edge need not be asked any more.
      if (isBeside(key)) continue
      if (asked++ % betweenTurns === 0) await looked.pause()
      const widest = own.reduce((best, spot) => (spot.across > best.across ? spot : best))
      if (isEdge(looked, widest, wanted(widest))) edges.add(key)
    }
    const own = [...cells].flatMap(([key, each]) => (isBeside(key) ? [] : each))
    if (areaBetween(own) >= looked.speck && depthOf(own) > (looked.shallow ?? 0)) out.push(own)
  }
  return out.flat()
}
/** So many places are asked what is wanted of them, or whether they are of an edge, between two turns of others: some ms. */
const betweenTurns = 50
const aboutOne = [-1, 0, 1]

/** How deep it is across the way in which it is longest, mm. */
function depthOf(spots: readonly FacingSpot[]): number {
  const low = [0, 1, 2].map((k) =>
    spots.reduce(
      (least, { corners }) => Math.min(least, corners[k]!, corners[3 + k]!, corners[6 + k]!),
      Number.POSITIVE_INFINITY,
    ),
  )
  const high = [0, 1, 2].map((k) =>
    spots.reduce(
      (most, { corners }) => Math.max(most, corners[k]!, corners[3 + k]!, corners[6 + k]!),
      Number.NEGATIVE_INFINITY,
    ),
  )
  return areaBetween(spots) / Math.hypot(...high.map((x, k) => x - low[k]!))
}

/** The cell of a grid in which the middle of a place's ball lies. */
function cellOf({ facing }: Looked, { middle, normal, across }: FacingSpot, side: number): number[] {
  return subtract(middle, scaled(normal, (facing.way * across) / 2)).map((x) => Math.floor(x / side))
}

/** Those that hang together: balls whose middles lie near each other, and large parts of the same triangles, or that face them. */
function patchesOf({ facing, fine }: Looked, spots: readonly FacingSpot[]): (readonly FacingSpot[])[] {
  const groups = new Groups(spots.length)
  const first = new Map<string, number>()
  const join = (key: string, i: number) => {
    const other = first.get(key)
    if (other === undefined) first.set(key, i)
    else groups.join(i, other)
  }
  for (const [i, spot] of spots.entries()) {
    const cell = subtract(spot.middle, scaled(spot.normal, (facing.way * spot.across) / 2)).map((x) => x / (2 * fine))
    // Each is in eight cells that overlap by half: what is near shares one of them.
    for (let corner = 0; corner < 8; corner++)
      join(cell.map((x, k) => Math.floor(x + ((corner >> k) & 1) / 2)).join(' ') + corner, i)
    if (spot.area > fine * fine) for (const triangle of [spot.triangle, spot.against]) join(`${triangle}`, i)
  }
  const numbers = new Map(spots.map((spot, i) => [spot, i]))
  return groupsOf(spots, (spot) => `${groups.of(numbers.get(spot)!)}`)
}

/** Those with the same key together, the largest first. */
export function groupsOf<Spot extends { readonly area: number }>(
  spots: readonly Spot[],
  keyOf: (spot: Spot) => string,
): (readonly Spot[])[] {
  const groups = new Map<string, Spot[]>()
  for (const spot of spots) {
    const key = keyOf(spot)
    const own = groups.get(key)
    if (own) own.push(spot)
    else groups.set(key, [spot])
  }
  const areaOf = (own: readonly Spot[]) => own.reduce((sum, { area }) => sum + area, 0)
  return [...groups.values()].sort((a, b) => areaOf(b) - areaOf(a))
}

/** Of what lies between both of its sides, mm²: each of them is looked at. */
export function areaBetween(spots: readonly FacingSpot[]): number {
  return spots.reduce((sum, { area }) => sum + area, 0) / 2
}

export function narrowest(spots: readonly FacingSpot[]): FacingSpot {
  return spots.reduce((best, spot) => (spot.across < best.across ? spot : best))
}

/** More than these are not shown. */
const mostShown = 20_000

export function spotMarks(field: string, { built }: ProofPiece, spots: readonly FacingSpot[]): Mark[] {
  const shown = spots.slice(0, mostShown)
  const points = new Float32Array(9 * shown.length)
  for (const [i, { corners }] of shown.entries()) points.set(corners, 9 * i)
  return [fieldMark(field, built.piece.id), { kind: 'triangles', points }]
}

export function fieldMark(field: string, piece: string): Mark {
  return { kind: 'field', field, pieces: [piece] }
}
