import { defaultFields } from '../../fields/index.ts'
import { isOutside, type Shell, shellsOf, subMesh } from '../../mesh/index.ts'
import { Cutter, planeThrough } from '../../necks/index.ts'
import { bodiesOf, pointInside, type Ring, RingSides, ringArea, type Vec2 } from '../../plane/index.ts'
import { newStep, shapeOf } from '../../shapes/index.ts'
import type { BuiltPiece } from '../../solids/index.ts'
import { formatLength } from '../../units/index.ts'
import type { FoundCure } from '../define.ts'
import { clause, mm } from '../phrase.ts'
import type { CureKind } from './define.ts'
import { freeId } from './freeId.ts'

/** What is said of a hole into a cavity. */
const texts = {
  'drain-one': 'Drill a hole of {wide} into it from below',
  'drain-several': 'Drill {count} holes of {wide} into them from below',
  'drain-then': 'Open below by {wide}: what is in it comes out.',
} as const

/** As wide as that where there is room, else as far as it is to its walls; narrower than the least no hole is of use, mm. */
const [usual, least] = [4, 2]
/** It begins so far below the bed, and goes so far into the cavity at least, mm. */
const sunk = 1

/** A closed cavity is opened by a hole from below, through the middle of where it is lowest. */
export const drained: CureKind = ({ resolved, pieces }, { code, about, pattern, values: found }) => {
  const bar = shapeOf('bar')
  if (!bar || (code !== 'bodies-cavity' && code !== 'bodies-cavities')) return []
  const { part, printer } = resolved
  const piece = pieces.find(({ piece: { id } }) => about.some((each) => each.id === id))
  if (!piece?.solid) return []
  const cavities = cavitiesOf(piece)
  const spots = cavities.map(spotIn)
  const narrowest = Math.min(usual, ...spots.map((spot) => 2 * ((spot?.room ?? 0) - printer.lineWidth)))
  if (spots.length === 0 || !(narrowest >= least)) return []
  const wide = Number(narrowest.toFixed(1))
  const size = (value: number) => formatLength(value, part.unit)
  const offset = (by: number) => ({ from: 'centre', to: 'centre', by: size(by) }) as const
  const edits = spots.flatMap((spot, i): FoundCure['edits'][number][] => {
    if (!spot) return []
    const fields = { ...defaultFields(bar.fields), diameter: size(wide), height: size(spot.high + sunk) }
    const place = { across: offset(spot.at[0]), along: offset(spot.at[1]), lift: size(-sunk) }
    const step = {
      ...newStep(freeId(part, 'drain', i), { shape: bar, fields }, place),
      name: 'drain',
      operation: 'cut',
    }
    return [{ type: 'add-step', piece: piece.of, step }]
  })
  const told = { count: spots.length, wide: mm(wide) }
  return [
    {
      label: clause(texts, spots.length === 1 ? 'drain-one' : 'drain-several', told),
      ...{ edits, free: 'all', before: { code, pattern, values: found } },
      after: clause(texts, 'drain-then', told),
    },
  ]
}

interface Cavity {
  readonly mesh: ReturnType<typeof subMesh>
  readonly shell: Shell
}

function cavitiesOf({ solid }: BuiltPiece): readonly Cavity[] {
  const mesh = solid!.mesh()
  const { shells, shellOf } = shellsOf(mesh)
  return shells.flatMap((shell, i) =>
    isOutside(shell) ? [] : [{ shell, mesh: subMesh(mesh, (t) => shellOf[t] === i) }],
  )
}

/** Where a cavity is entered from below: with the most room round it in its lowest part; how far in the hole goes, mm. */
function spotIn({ mesh }: Cavity): { readonly at: Vec2; readonly room: number; readonly high: number } | undefined {
  let [low, high] = [Number.POSITIVE_INFINITY, Number.NEGATIVE_INFINITY]
  for (let i = 2; i < mesh.positions.length; i += 3) {
    low = Math.min(low, mesh.positions[i]!)
    high = Math.max(high, mesh.positions[i]!)
  }
  const level = low + Math.min(sunk, (high - low) / 2)
  const { rings } = new Cutter(mesh).by(planeThrough([0, 0, level], [0, 0, 1]))
  // The surface of a cavity looks into it: its sections go round the other way.
  const bodies = bodiesOf(rings.map((ring) => ring.toReversed()))
  const largest = bodies.reduce<readonly Ring[] | undefined>(
    (best, body) => (best && areaOf(best) >= areaOf(body) ? best : body),
    undefined,
  )
  if (!largest) return undefined
  const places = [middleOf(largest[0]!), pointInside(largest)].filter((p) => p !== undefined)
  const [best] = places.map((at) => ({ at, room: roomAt(largest, at) })).sort((a, b) => b.room - a.room)
  const plane = planeThrough([0, 0, level], [0, 0, 1])
  if (!best) return undefined
  const at: Vec2 = [
    best.at[0] * plane.u[0] + best.at[1] * plane.v[0],
    best.at[0] * plane.u[1] + best.at[1] * plane.v[1],
  ]
  return { at, room: best.room, high: level }
}

const areaOf = (rings: readonly Ring[]) => rings.reduce((sum, ring) => sum + ringArea(ring), 0)

function middleOf(ring: Ring): Vec2 {
  const [x, y] = ring.reduce<Vec2>((sum, p) => [sum[0] + p[0], sum[1] + p[1]], [0, 0])
  return [x / ring.length, y / ring.length]
}

/** How far it is from a place to the nearest side; 0 where it lies outside. */
function roomAt(rings: readonly Ring[], p: Vec2): number {
  const sides = new RingSides(rings)
  return sides.isFilledAt(p) ? sides.distanceFrom(p) : 0
}
