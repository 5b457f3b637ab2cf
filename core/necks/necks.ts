import { isOutside, isSliver, shellsOf, subMesh, type TriangleMesh } from '../mesh/index.ts'
import { dot, norm, subtract, type Vec3 } from '../place/index.ts'
import { insideRings, pointInside } from '../plane/index.ts'
import { type Cells, middleOf, sizeOfCells } from './cells.ts'
import { narrowestAt, type Section } from './narrowest.ts'
import { type Joint, type Parted, type PartedSearch, partedInto } from './parted.ts'
import { laidIn, liftedFrom, type SectionFigures, sectionFigures } from './section.ts'
import { wayThrough } from './ways.ts'

/** What joins two sides of a solid that are much thicker than it. */
export interface Neck {
  readonly section: Section
  readonly figures: SectionFigures
  /** the middle of the largest ball on either side, the smaller side first */
  readonly sides: readonly [Vec3, Vec3]
  /** of the smaller side, as its cells have it, mm³; 0 where something else joins the two as well */
  readonly volume: number
  /** from the neck to the farthest of the smaller side, mm; 0 where something else joins the two as well */
  readonly arm: number
}

/** What a neck bears is bounded by this: no less than what is told of it. */
export type Bounds = Pick<SectionFigures, 'area' | 'modulus'> & Pick<Neck, 'arm'>

export interface NeckSearch extends PartedSearch {
  /** into about so many cells the boxes round all solids are cut, each into as many */
  readonly cells: number
  /** whether a neck that bears no more than this is wanted: only those are measured */
  isWanted(bounds: Bounds): boolean
}

export interface Necks {
  readonly necks: readonly Neck[]
  /** the side of the largest cells that were looked at, mm */
  readonly cell: number
  /** where a neck is sure to be that is too narrow for cells, or of which no section was found */
  readonly unmeasured: readonly Vec3[]
}

/** Into fewer cells no solid is cut. */
const fewest = 30_000

/** The necks of the solids of a closed mesh: where balls that fit inside on both sides go through much smaller only. */
export async function necksOf(mesh: TriangleMesh, search: NeckSearch): Promise<Necks> {
  const necks: Neck[] = []
  const unmeasured: Vec3[] = []
  let cell = 0
  const solids = solidsOf(mesh)
  const cells = Math.max(fewest, search.cells / solids.length)
  for (const solid of solids) {
    const parted = await partedInto(solid, Math.max(search.least, sizeOfCells(solid, cells)), search)
    cell = Math.max(cell, parted.cells.size)
    unmeasured.push(...parted.apart.map((at) => middleOf(parted.cells, at)))
    for (const joint of parted.joints) {
      const own = await measured(solid, parted, joint, search)
      necks.push(...own.necks)
      unmeasured.push(...own.unmeasured)
    }
  }
  return { necks, cell, unmeasured }
}

/** The solids of a mesh, each with its cavities. */
function solidsOf(mesh: TriangleMesh): readonly TriangleMesh[] {
  const { shells, shellOf } = shellsOf(mesh)
  const bodyOf = shells.map((shell, i) => (isOutside(shell) ? i : shell.within))
  const bodies = [...new Set(bodyOf)].filter((body) => shells[body] && !isSliver(shells[body]!))
  if (bodies.length === 1) return [mesh]
  return bodies.map((body) => subMesh(mesh, (t) => bodyOf[shellOf[t]!] === body))
}

/** The sections of a joint that are wanted. Several of one joint brace each other: none breaks by its arm alone. */
async function measured(
  solid: TriangleMesh,
  parted: Parted,
  { rooms: pair, doors, smaller }: Joint,
  { isWanted, pause }: NeckSearch,
): Promise<Pick<Necks, 'necks' | 'unmeasured'>> {
  const necks: Neck[] = []
  const unmeasured: Vec3[] = []
  const { cells, placeOf, depths, rooms } = parted
  const sides = [rooms.rooms[pair[0]]!, rooms.rooms[pair[1]]!] as const
  const [volume, arm] = smaller ? sizeOfSide(cells, rooms.roomOf, smaller, middleOf(cells, doors[0]!)) : [0, 0]
  for (const door of doors) {
    await pause?.()
    const deep = Math.sqrt(depths[door]!)
    // No place is deeper than another one by more than it is away from it: a ball goes through, and what cuts it in its middle bears no less.
    const radius = Math.max(0, (deep - 1) * cells.size)
    if (!isWanted({ area: Math.PI * radius ** 2, modulus: (Math.PI * radius ** 3) / 4, arm })) continue
    const at = placeOf(door)
    const within = (Math.ceil(deep) + 2) * cells.size
    const section = narrowestAt(solid, { at, within, way: wayThrough(parted, door, sides).map(placeOf) })
    const middles = sides.map(({ deepest }) => middleOf(cells, deepest)) as unknown as [Vec3, Vec3]
    if (!section) unmeasured.push(at)
    // What is ragged by its cells may be one all the same.
    else if (!necks.some((neck) => isSame(neck.section, section)))
      necks.push({ section, figures: sectionFigures(section.rings), sides: middles, volume, arm })
  }
  const own = necks.length > 1 ? necks.map((neck) => ({ ...neck, volume: 0, arm: 0 })) : necks
  return { necks: own.filter((neck) => isWanted({ ...neck.figures, arm: neck.arm })), unmeasured }
}

/** Whether two sections of a joint are of the same neck: a place well inside of one lies in the other, or right above it. */
function isSame(a: Section, b: Section): boolean {
  const within = (one: Section, other: Section) => {
    const inside = pointInside(one.rings)
    if (!inside) return false
    const place = liftedFrom(one.plane, inside)
    const away = Math.abs(dot(other.plane.normal, subtract(place, other.plane.at)))
    return away * away < other.area && insideRings(other.rings, laidIn(other.plane, place))
  }
  return within(a, b) || within(b, a)
}

/** The volume of some rooms, and how far the farthest of them is from a place; mm³, mm. */
function sizeOfSide(
  cells: Cells,
  roomOf: Int32Array,
  side: ReadonlySet<number>,
  from: Vec3,
): readonly [number, number] {
  let [count, arm] = [0, 0]
  for (let cell = 0; cell < roomOf.length; cell++) {
    const room = roomOf[cell]!
    if (room < 0 || !side.has(room)) continue
    count++
    arm = Math.max(arm, norm(subtract(middleOf(cells, cell), from)))
  }
  return [count * cells.size ** 3, arm + cells.size / 2]
}
