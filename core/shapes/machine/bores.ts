import { type SentencePart, size } from '../../fields/index.ts'
import { circumradius, type Ring, segmentsFor } from '../../kernel/index.ts'
import type { ImpossibleBy } from '../define.ts'
import { regularCorners } from '../prismatic.ts'
import { floored, largest } from './nearest.ts'

/** How a wheel sits on its shaft. */
export const boreForms = {
  none: 'no bore',
  round: 'a round bore',
  keyed: 'a bore with a keyway',
  flatted: 'a bore with a flat',
  square: 'a square bore',
  hex: 'a hexagonal bore',
} as const

export interface Bore {
  readonly bore: keyof typeof boreForms
  readonly hole: number
  /** between opposite sides of a square or hexagonal one */
  readonly across: number
  /** from the flat to the round opposite it */
  readonly flat: number
  readonly keyWidth: number
  /** how far the keyway reaches beyond the round */
  readonly keyDepth: number
}

export const boreFields = {
  bore: {
    kind: 'choice',
    label: 'Bore',
    default: 'round',
    choices: boreForms,
    meaning: 'How it sits on its shaft.',
  },
  hole: { ...size('Bore size', '5', 'Diameter of the bore.'), takes: 'round' },
  across: { ...size('Bore across flats', '5', 'Between opposite sides of the bore.'), takes: 'flat' },
  flat: { ...size('Over the flat', '4.5', 'From the flat to the round opposite it.'), takes: 'round' },
  keyWidth: { ...size('Keyway width', '2', 'Width of the keyway.'), takes: 'flat' },
  keyDepth: size('Keyway depth', '1', 'How far the keyway reaches beyond the round of the bore.'),
} as const

export function boreSaid(v: Bore): readonly SentencePart[] {
  return [
    ', with',
    { field: 'bore' },
    ...(v.bore === 'none' ? [] : [{ field: boreSize(v) }]),
    ...(v.bore === 'flatted' ? [',', { field: 'flat' }, 'over the flat'] : []),
    ...(v.bore === 'keyed' ? [', keyway', { field: 'keyWidth' }, 'wide and', { field: 'keyDepth' }, 'deep'] : []),
  ]
}

/** The field that tells how large it is. */
export function boreSize({ bore }: Pick<Bore, 'bore'>): 'hole' | 'across' {
  return bore === 'square' || bore === 'hex' ? 'across' : 'hole'
}

/** In files of before, square and hexagonal bores had the field of the round ones. */
export function withAcross(fields: Readonly<Record<string, string>>): Record<string, string> {
  const { hole, bore } = fields
  return hole !== undefined && (bore === 'square' || bore === 'hex') ? { ...fields, across: hole } : { ...fields }
}

/** The radius that it reaches to. */
export function boreReach({ bore, hole, across, keyWidth, keyDepth }: Bore): number {
  switch (bore) {
    case 'none':
      return 0
    case 'keyed':
      return Math.hypot(hole / 2 + keyDepth, keyWidth / 2)
    case 'square':
      return across * Math.SQRT1_2
    case 'hex':
      return across / Math.sqrt(3)
    default:
      return hole / 2
  }
}

/** Why these sizes make no bore, in plain words; undefined where they do. */
function impossibleBore(v: Bore): { field: 'flat' | 'keyWidth'; detail: string } | undefined {
  if (v.bore === 'flatted' && (v.flat <= v.hole / 2 || v.flat >= v.hole))
    return { field: 'flat', detail: `Over the flat it must be between ${v.hole / 2} mm and ${v.hole} mm.` }
  if (v.bore === 'keyed' && v.keyWidth >= v.hole)
    return { field: 'keyWidth', detail: `The keyway must be narrower than the bore (${v.hole} mm).` }
  return undefined
}

/**
 * Why there can be no such bore in what is so far from its axis to its roots, of which so much must stay, with what can; undefined
 * where there can. `below`: what it would come out at.
 */
export function impossibleBoreIn(
  v: Bore,
  { root, wall, below }: { readonly root: number; readonly wall: number; readonly below: string },
): ImpossibleBy<'flat' | 'keyWidth' | 'hole' | 'across'> | undefined {
  const own = impossibleBore(v)
  if (own) return own
  const sized = boreSize(v)
  const fits = (size: number) => root - boreReach({ ...v, hole: size, across: size }) > wall
  if (v.bore === 'none' || fits(v[sized])) return undefined
  const most = largest(v[sized], fits)
  return {
    field: sized,
    detail: `The bore must leave a wall below ${below} at ⌀ ${floored(2 * root)} mm.`,
    nearest: most > 0 ? { field: sized, value: most } : undefined,
  }
}

/**
 * The outline of a bore about the origin, its keyway or flat to the back. Its flats lie outside of its rounds, so that a shaft of its
 * size goes in. None where there is no bore.
 */
export function boreRing(v: Bore, fineness: number): Ring | undefined {
  const radius = v.hole / 2
  const round = () =>
    regularCorners(segmentsFor(radius, fineness, true), circumradius(radius, segmentsFor(radius, fineness, true)))
  switch (v.bore) {
    case 'none':
      return undefined
    case 'round':
      return round()
    case 'square':
      return regularCorners(4, v.across * Math.SQRT1_2, 45)
    case 'hex':
      return regularCorners(6, v.across / Math.sqrt(3), 0)
    case 'flatted':
      return clippedAt(round(), v.flat - radius)
    case 'keyed':
      return keyedAt(round(), v.keyWidth / 2, radius + v.keyDepth)
  }
}

/** What of a convex ring lies in front of a line across it. */
function clippedAt(ring: Ring, y: number): Ring {
  return ring.flatMap((p, i) => {
    const q = ring[(i + 1) % ring.length]!
    const own = p[1] <= y ? [p] : []
    if (p[1] <= y === q[1] <= y) return own
    const share = (y - p[1]) / (q[1] - p[1])
    return [...own, [p[0] + (q[0] - p[0]) * share, y] as const]
  })
}

/** A round with a slot to the back: so far to each side, and so far from the middle. */
function keyedAt(ring: Ring, side: number, reach: number): Ring {
  // From the left edge of the slot on, counter-clockwise, to its right one.
  const start = ring.findIndex(([x, y], i) => {
    const [before] = ring[(i + ring.length - 1) % ring.length]!
    return y > 0 && x <= -side && before > -side
  })
  const turned = [...ring.slice(start), ...ring.slice(0, start)].filter(([x, y]) => y < 0 || Math.abs(x) >= side)
  const mouth = (x: number) => {
    // Where the edge of the slot leaves the flats of the round.
    for (let i = 0; i < ring.length; i++) {
      const [p, q] = [ring[i]!, ring[(i + 1) % ring.length]!]
      if (p[1] <= 0 && q[1] <= 0) continue
      if ((p[0] - x) * (q[0] - x) > 0 || p[0] === q[0]) continue
      return p[1] + ((q[1] - p[1]) * (x - p[0])) / (q[0] - p[0])
    }
    return 0
  }
  return [
    [side, mouth(side)] as const,
    [side, reach] as const,
    [-side, reach] as const,
    [-side, mouth(-side)] as const,
    ...turned,
  ].filter(([x, y], i, all) => {
    const [px, py] = all[(i + all.length - 1) % all.length]!
    return Math.hypot(x - px, y - py) > 1e-9
  })
}
