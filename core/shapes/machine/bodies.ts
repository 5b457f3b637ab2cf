import { type SentencePart, size } from '../../fields/index.ts'
import { circumradius, type Ring, type Scope, type Solid, segmentsFor } from '../../kernel/index.ts'
import type { Frame, Vec3 } from '../../place/index.ts'
import { flatsInUse } from '../../plane/index.ts'
import { fonts, lettering } from '../../text/index.ts'
import { toDecimals } from '../../units/index.ts'
import type { ImpossibleBy } from '../define.ts'
import { roundFace, topFace } from '../faces.ts'
import { regularCorners } from '../prismatic.ts'
import type { Surface } from '../surfaces.ts'
import { type Bore, boreFields, boreReach, boreRing, boreSaid, boreSize, impossibleBoreIn } from './bores.ts'
import { floored } from './nearest.ts'

/** What a wheel is between its shaft and its teeth. */
export interface WheelBody extends Bore {
  readonly hub: 'none' | 'above'
  readonly hubWidth: number
  /** how far the hub stands above the teeth */
  readonly hubHeight: number
  readonly web: 'full' | 'thin' | 'holes' | 'spokes'
  readonly webDepth: number
  /** from the roots of the teeth to the web */
  readonly rim: number
  readonly openings: number
  readonly opening: number
  readonly spoke: number
  readonly screws: 'none' | 'one' | 'two'
  readonly screw: number
  readonly marks: 'none' | 'sunk'
  readonly markDepth: number
}

/** What carries the teeth that a body is for: the radius of their roots, how wide they are, and what is to be read on it. */
export interface Carried {
  readonly root: number
  readonly height: number
  readonly words: string
}

export const bodyFields = {
  ...boreFields,
  hub: {
    kind: 'choice',
    label: 'Hub',
    default: 'none',
    choices: { none: 'no hub', above: 'a hub' },
    meaning: 'A round boss about the bore, which may stand above the teeth.',
    rare: true,
  },
  hubWidth: size('Hub diameter', '12', 'Diameter of the hub.'),
  hubHeight: {
    kind: 'length',
    label: 'Hub height',
    default: '5',
    least: 0,
    most: 10_000,
    meaning: 'How far the hub stands above the teeth; 0 makes it flush.',
  },
  web: {
    kind: 'choice',
    label: 'Web',
    default: 'full',
    choices: { full: 'a full web', thin: 'a thinner web', holes: 'a web with holes', spokes: 'spokes' },
    meaning:
      'What lies between the hub and the rim below the teeth. It lies at the bottom, where it prints without support.',
    rare: true,
  },
  webDepth: size('Web thickness', '3', 'Thickness of the web or the spokes, from the bottom.'),
  rim: size('Rim', '3', 'Thickness of the rim below the roots of the teeth.'),
  openings: {
    kind: 'count',
    label: 'Openings',
    default: '5',
    least: 3,
    most: 60,
    meaning: 'Number of holes or spokes.',
  },
  opening: size('Hole size', '5', 'Diameter of the holes in the web.'),
  spoke: size('Spoke width', '3', 'Width of each spoke.'),
  screws: {
    kind: 'choice',
    label: 'Set screws',
    default: 'none',
    choices: { none: 'no set screw', one: 'one set screw', two: 'two set screws' },
    meaning: 'Radial holes to the bore, through the hub where one stands above the teeth; two stand at a right angle.',
    rare: true,
  },
  screw: { ...size('Set screw hole', '3', 'Diameter of the holes for set screws.'), takes: 'round' },
  marks: {
    kind: 'choice',
    label: 'Marks',
    default: 'none',
    choices: { none: 'no marks', sunk: 'teeth and module engraved' },
    meaning: 'Number and size of its teeth, engraved on its upper face.',
    rare: true,
  },
  markDepth: size('Depth of the marks', '0.4', 'How deep the marks are engraved.'),
} as const

export function bodySaid(v: WheelBody): readonly SentencePart[] {
  const isThin = v.web !== 'full'
  return [
    ...boreSaid(v),
    ',',
    { field: 'hub' },
    ...(v.hub === 'none' ? [] : ['⌀', { field: 'hubWidth' }, 'and', { field: 'hubHeight' }, 'above the teeth']),
    ',',
    { field: 'web' },
    ...(v.web === 'holes' ? [',', { field: 'openings' }, 'of ⌀', { field: 'opening' }, ', all'] : []),
    ...(v.web === 'spokes' ? [',', { field: 'openings' }, 'of them,', { field: 'spoke' }, 'wide,'] : []),
    ...(isThin ? [{ field: 'webDepth' }, 'thick, inside a rim of', { field: 'rim' }] : []),
    ',',
    { field: 'screws' },
    ...(v.screws === 'none' ? [] : ['⌀', { field: 'screw' }]),
    ',',
    { field: 'marks' },
    ...(v.marks === 'none' ? [] : [{ field: 'markDepth' }, 'deep']),
  ]
}

/** Whether it is nothing but what its teeth and its bore leave. */
export function isPlain({ hub, web, screws, marks }: WheelBody): boolean {
  return hub === 'none' && web === 'full' && screws === 'none' && marks === 'none'
}

/** From the bottom to its highest point. */
export function bodyHeight({ hub, hubHeight }: WheelBody, height: number): number {
  return hub === 'none' ? height : height + hubHeight
}

/** What is left between two walls at least, mm. */
const leastWall = 0.5
/** Of capital letters, as large as can be read and be printed. */
const leastLetters = 1.5
const largestLetters = 5

/** Round what holds the shaft: from there the web begins. */
function coreRadius(v: WheelBody): number {
  return v.hub === 'none' ? boreReach(v) : v.hubWidth / 2
}

/** Between which radii the openings of a web lie: a ledge stays at the rim, and about the hub. */
function openBand(v: WheelBody, root: number): readonly [low: number, high: number] {
  const [low, high] = [coreRadius(v) + (v.hub === 'none' ? Math.max(leastWall, v.rim) : 0), root - v.rim]
  const ledge = Math.min(1, 0.1 * (high - low))
  return [low + ledge, high - ledge]
}

/** Between which radii the upper face is free for words. */
function markBand(v: WheelBody, root: number): readonly [low: number, high: number] {
  return [v.web === 'full' ? coreRadius(v) : root - v.rim, root]
}

interface Marks {
  readonly rings: readonly Ring[]
}

/** Undefined where there is no room for what can be read. */
function marksOf(v: WheelBody, { root, words }: Carried, fineness: number): Marks | undefined {
  const [low, high] = markBand(v, root)
  const { data } = fonts.sans
  const laid = (capHeight: number) =>
    lettering(words, data, {
      ...{ capHeight, spacing: 0.08 * capHeight, align: 'centre', fineness },
      bend: { side: 'over', diameter: low + high - capHeight },
    })
  const room = Math.min(largestLetters, 0.6 * (high - low))
  if (room < leastLetters) return undefined
  // All the way round at most, with a gap between the end and the beginning.
  const long = laid(room).width / (0.9 * Math.PI * (low + high - room))
  const capHeight = long > 1 ? room / long : room
  return capHeight < leastLetters ? undefined : laid(capHeight)
}

/** Why there can be no such body, with what would do; undefined where there can. */
export function impossibleBody(v: WheelBody, carried: Carried): ImpossibleBy<keyof WheelBody> | undefined {
  const { root, height } = carried
  const own = impossibleBoreIn(v, { root, wall: 0.05 * root, below: 'the teeth, whose roots are' })
  if (own) return own
  if (v.hub !== 'none') {
    const [least, most] = [raised(2 * (boreReach(v) + leastWall)), floored(2 * root)]
    if (v.hubWidth < least)
      return {
        field: 'hubWidth',
        detail: `The hub must leave a wall about the bore: ${least} mm or more.`,
        nearest: { field: 'hubWidth', value: least },
      }
    if (v.hubWidth > most)
      return {
        field: 'hubWidth',
        detail: `The hub must stay below the roots of the teeth: ${most} mm or less.`,
        nearest: most >= least ? { field: 'hubWidth', value: most } : undefined,
      }
  }
  return impossibleWeb(v, carried) ?? impossibleScrews(v, height) ?? impossibleMarks(v, carried)
}

function impossibleWeb(v: WheelBody, { root, height }: Carried): ImpossibleBy<keyof WheelBody> | undefined {
  if (v.web === 'full') return undefined
  if (v.webDepth > height)
    return {
      field: 'webDepth',
      detail: `The web cannot be thicker than the teeth are wide (${toDecimals(height, 2)} mm).`,
      nearest: { field: 'webDepth', value: height },
    }
  const room = root - coreRadius(v) - (v.web === 'thin' || v.hub !== 'none' ? 0 : v.rim)
  if (v.rim > room - 2 * leastWall) {
    const value = floored(root - coreRadius(v) - 2 * leastWall)
    const most = v.web === 'thin' || v.hub !== 'none' ? value : floored(value / 2)
    return {
      field: 'rim',
      detail: 'A rim that thick leaves no web between itself and the bore or hub.',
      nearest: most > 0 ? { field: 'rim', value: most } : undefined,
    }
  }
  const [low, high] = openBand(v, root)
  if (v.web === 'holes') {
    const most = floored(Math.min(high - low, (low + high) * Math.sin(Math.PI / v.openings) - leastWall))
    if (v.opening > most)
      return {
        field: 'opening',
        detail: `${v.openings} holes of this size have no room in the web.`,
        nearest: most > 0 ? { field: 'opening', value: most } : undefined,
      }
  }
  if (v.web === 'spokes') {
    const most = floored(2 * low * Math.sin(Math.PI / v.openings) - leastWall)
    if (v.spoke > most)
      return {
        field: 'spoke',
        detail: `${v.openings} spokes of this width leave nothing between them at the hub.`,
        nearest: most > 0 ? { field: 'spoke', value: most } : undefined,
      }
  }
  return undefined
}

function impossibleScrews(v: WheelBody, height: number): ImpossibleBy<keyof WheelBody> | undefined {
  if (v.screws === 'none') return undefined
  if (v.bore === 'none') return { field: 'screws', detail: 'Set screws hold a shaft: there is no bore for one.' }
  const { low, high } = screwRoom(v, height)
  const most = floored(Math.min(high - low - 2 * leastWall, v[boreSize(v)]))
  if (v.screw <= most) return undefined
  return {
    field: 'screw',
    detail: `A set screw of this size has no room: ${Math.max(0, most)} mm at most, as wide as the bore and within the hub.`,
    nearest: most > 0 ? { field: 'screw', value: most } : undefined,
  }
}

function impossibleMarks(v: WheelBody, carried: Carried): ImpossibleBy<keyof WheelBody> | undefined {
  if (v.marks === 'none') return undefined
  const [low, high] = markBand(v, carried.root)
  if (!marksOf(v, carried, 0.1))
    return {
      field: 'marks',
      detail: `There is no room for marks: the face below the teeth is only ${toDecimals(high - low, 2)} mm wide.`,
    }
  const most = floored(carried.height - leastWall)
  if (v.markDepth <= most) return undefined
  return {
    field: 'markDepth',
    detail: 'The marks would come out below.',
    nearest: most > 0 ? { field: 'markDepth', value: most } : undefined,
  }
}

/** The heights that a set screw has to itself: the hub above the teeth where it is high enough, or all of the wheel. */
function screwRoom(v: WheelBody, height: number): { readonly low: number; readonly high: number } {
  const isAbove = v.hub !== 'none' && v.hubHeight >= v.screw + 2 * leastWall
  return isAbove ? { low: height, high: height + v.hubHeight } : { low: 0, high: height }
}

/** Set screws stand across the flat or the keyway, which is to the back, and beside it to the right. */
function screwFrames(v: WheelBody, height: number): readonly Frame[] {
  const { low, high } = screwRoom(v, height)
  const origin: Vec3 = [0, 0, (low + high) / 2]
  const back: Frame = { origin, u: [1, 0, 0], v: [0, 0, -1], n: [0, 1, 0] }
  const right: Frame = { origin, u: [0, 1, 0], v: [0, 0, 1], n: [1, 0, 0] }
  return v.screws === 'none' ? [] : v.screws === 'one' ? [back] : [back, right]
}

/** A wheel made of what carries its teeth, a solid from z = 0 to its height without a bore; `far` is beyond all of it. */
export function bodied(
  scope: Scope,
  v: WheelBody,
  toothed: Solid,
  { far, fineness, ...carried }: Carried & { readonly far: number; readonly fineness: number },
): Solid {
  const { root, height } = carried
  const top = bodyHeight(v, height)
  const circle = (r: number) => regularCorners(segmentsFor(r, fineness), r)
  const from = (z: number, rings: readonly Ring[], high: number) =>
    scope.placed(scope.extrude(rings, high - z), { origin: [0, 0, z], u: [1, 0, 0], v: [0, 1, 0], n: [0, 0, 1] })
  const isThin = v.web !== 'full' && v.webDepth < height
  let solid = isThin ? scope.difference(toothed, [from(v.webDepth, [circle(root - v.rim)], height + 1)]) : toothed
  // From within the web or the teeth, so that no two faces fall together.
  if (v.hub !== 'none' && (isThin || top > height))
    solid = scope.union([solid, from((isThin ? v.webDepth : height) / 2, [circle(v.hubWidth / 2)], top)])
  const cuts: Solid[] = []
  const openings = openingRings(v, root, fineness)
  if (openings.length > 0) cuts.push(from(-1, openings, Math.min(v.webDepth, height) + (isThin ? 0.5 : 1)))
  const bore = boreRing(v, fineness)
  if (bore) cuts.push(from(-1, [bore], top + 1))
  for (const frame of screwFrames(v, height)) {
    const radius = v.screw / 2
    const segments = segmentsFor(radius, fineness, true)
    const round = circumradius(radius, segments)
    cuts.push(scope.placed(scope.cylinder(far + 1, round, round, segments), frame))
  }
  const marks = v.marks === 'none' ? undefined : marksOf(v, carried, fineness)
  if (marks) cuts.push(from(height - v.markDepth, scope.filled(marks.rings), height + 1))
  return cuts.length > 0 ? scope.difference(solid, cuts) : solid
}

/** The outlines of what is open in the web. */
function openingRings(v: WheelBody, root: number, fineness: number): readonly Ring[] {
  if (v.web !== 'holes' && v.web !== 'spokes') return []
  const [low, high] = openBand(v, root)
  const pitch = (2 * Math.PI) / v.openings
  return Array.from({ length: v.openings }, (_, i) => {
    if (v.web === 'holes') {
      const segments = segmentsFor(v.opening / 2, fineness, true)
      const middle = [Math.cos(i * pitch), Math.sin(i * pitch)].map((x) => (x * (low + high)) / 2) as [number, number]
      return regularCorners(segments, circumradius(v.opening / 2, segments)).map(
        ([x, y]) => [x + middle[0], y + middle[1]] as const,
      )
    }
    const arc = (r: number) => {
      const beside = Math.asin(v.spoke / 2 / r)
      const [start, end] = [i * pitch + beside, (i + 1) * pitch - beside]
      const count = flatsInUse((segmentsFor(r, fineness) * (end - start)) / (2 * Math.PI))
      return Array.from({ length: count + 1 }, (_, k) => {
        const rad = start + ((end - start) * k) / count
        return [r * Math.cos(rad), r * Math.sin(rad)] as const
      })
    }
    return [...arc(high), ...arc(low).reverse()]
  })
}

/** Its surfaces other than its teeth, its bottom and the face that these end at. */
export function bodySurfaces(v: WheelBody, { root, height }: Pick<Carried, 'root' | 'height'>): readonly Surface[] {
  const top = bodyHeight(v, height)
  const isThin = v.web !== 'full' && v.webDepth < height
  const low = isThin ? v.webDepth : height
  const across = 2 * (root - v.rim)
  return [
    ...(v.bore === 'none'
      ? []
      : [v.bore === 'round' ? roundFace('bore', -v.hole / 2, 0, top) : ({ name: 'bore' } as const)]),
    ...(v.hub !== 'none' && top > low ? [roundFace('hub', v.hubWidth / 2, low, top)] : []),
    ...(v.hub !== 'none' && (isThin || top > height) ? [topFace(top, v.hubWidth, v.hubWidth, 'hub top')] : []),
    ...(isThin ? [topFace(v.webDepth, across, across, 'web'), roundFace('rim', -(root - v.rim), low, height)] : []),
    ...(v.web === 'holes' || v.web === 'spokes'
      ? Array.from({ length: v.openings }, (_, i) => ({ name: `opening ${i + 1}` }))
      : []),
    ...screwFrames(v, height).map((_, i) => ({ name: `set screw ${i + 1}` })),
    ...(v.marks === 'none' ? [] : [{ name: 'marks' }]),
  ]
}

/**
 * Which of them, or of "top" and "bottom", holds a point; undefined for the teeth. Asked of each triangle, so that what all share
 * is worked out once.
 */
export function bodySurfaceFinder(
  v: WheelBody,
  { root, height }: Pick<Carried, 'root' | 'height'>,
): (point: Vec3, normal: Vec3) => string | undefined {
  const top = bodyHeight(v, height)
  const isThin = v.web !== 'full' && v.webDepth < height
  const isOpen = v.web === 'holes' || v.web === 'spokes'
  const [inner, core, screws, band] = [boreReach(v), coreRadius(v), screwFrames(v, height), markBand(v, root)]
  const bored = inner + 0.5 * Math.min(leastWall, Math.max(0, core - inner) || leastWall)
  const pitch = (2 * Math.PI) / v.openings
  const level = ([x, y, z]: Vec3, n: Vec3): string => {
    if (n[2] < 0) return 'bottom'
    const near = (at: number) => Math.abs(z - at) < 0.01
    const onHub = v.hub !== 'none' && Math.hypot(x, y) < v.hubWidth / 2 + 0.01 && near(top)
    if (onHub) return top > height || isThin ? 'hub top' : 'top'
    if (near(height)) return 'top'
    return isThin && near(v.webDepth) ? 'web' : v.marks !== 'none' ? 'marks' : 'top'
  }
  const screwAt = ([x, y, z]: Vec3, n: Vec3) =>
    screws.findIndex(({ origin, n: axis }) => {
      const along = x * axis[0] + y * axis[1]
      const [dx, dy, dz] = [x - along * axis[0], y - along * axis[1], z - origin[2]]
      const away = Math.hypot(dx, dy, dz)
      const isRound = along > 0 && Math.abs(away - v.screw / 2) < 0.06 * v.screw
      return isRound && dx * n[0] + dy * n[1] + dz * n[2] < -0.9 * away
    })
  return (point, n) => {
    const screw = screwAt(point, n)
    if (screw >= 0) return `set screw ${screw + 1}`
    if (Math.abs(n[2]) > 0.9) return level(point, n)
    const [x, y, z] = point
    const r = Math.sqrt(x * x + y * y)
    if (z <= height && r > root + 1e-3) return undefined
    if (inner > 0 && (r < inner + 1e-3 || (r < bored && x * n[0] + y * n[1] <= 0))) return 'bore'
    if (z > height) return 'hub'
    const isMarked = v.marks !== 'none' && z > height - v.markDepth - 1e-3 && z < height + 1e-3
    if (isMarked && r > band[0] + 0.1 && r < band[1] - 0.1) return 'marks'
    if (isThin && z > v.webDepth) {
      if (v.hub !== 'none' && r < core + 0.01) return 'hub'
      return r < root - v.rim / 2 ? 'rim' : undefined
    }
    if (!isOpen || r >= root - v.rim / 2) return undefined
    const turns = Math.atan2(y, x) / pitch
    const i = v.web === 'holes' ? Math.round(turns) : Math.floor(turns)
    return `opening ${(((i % v.openings) + v.openings) % v.openings) + 1}`
  }
}

const raised = (value: number) => Math.ceil(value * 100 - 1e-9) / 100
