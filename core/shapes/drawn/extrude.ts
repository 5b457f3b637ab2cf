import { size } from '../../fields/index.ts'
import type { Ring, Scope, Solid } from '../../kernel/index.ts'
import { segmentsFor } from '../../kernel/index.ts'
import type { Vec3 } from '../../place/index.ts'
import { type Drawn, flatsInUse } from '../../plane/index.ts'
import { type DimensionLine, defineShape, discReach } from '../define.ts'
import { extruded } from '../prismatic.ts'
import {
  drawnReach,
  extentsOf,
  farthestOf,
  nothingIn,
  outlineField,
  prismEdges,
  prismFaces,
  prismSurfaces,
  thickField,
  type WallKind,
  wallField,
} from './common.ts'
import { skinned } from './skin.ts'
import { type RaisedEnds, spreadOf, tapered } from './tapered.ts'
import { regionOf } from './wall.ts'

interface Values {
  readonly outline: Drawn
  readonly reach: 'up' | 'both' | 'upto'
  readonly height: number
  readonly taper: number
  readonly twist: number
  readonly ends: RaisedEnds
  readonly end: number
  readonly wall: WallKind
  readonly thick: number
}

/** An outline made as high as wanted. */
export const extrude = defineShape({
  kind: 'extrude',
  label: 'extrude',
  words: [
    'plate of an outline',
    'cookie cutter',
    'custom shape',
    'freeform',
    'outline',
    'profile',
    'raise',
    'prism',
    'pull',
    'silhouette',
  ],
  shelf: 'outlines',
  icon: 'M4 15 L10 12 L16 16 L24 11 V18 L16 23 L10 19 L4 22 Z M4 15 V22 M10 12 V19 M16 16 V23',
  operation: 'add',
  seat: 'stands',
  deep: 'height',
  drawn: true,
  straddles: (v) => v.reach === 'both',
  upTo: { wanted: (v) => v.reach === 'upto', to: (v, depth) => ({ ...v, height: depth }), rises: true },
  fields: {
    outline: outlineField,
    reach: {
      kind: 'choice',
      label: 'Reach',
      default: 'up',
      choices: { up: 'high', both: 'high, half of it to each side', upto: 'up to' },
      meaning: 'From the plane of the outline up, to both sides of it, or as far as a face or datum.',
    },
    height: size('Height', '10', 'How high it is in all.'),
    taper: {
      kind: 'angle',
      label: 'Taper',
      default: '0',
      least: -80,
      most: 80,
      meaning: 'How far its sides lean inwards on the way up; negative outwards. 0 is upright.',
      rare: true,
    },
    twist: {
      kind: 'angle',
      label: 'Twist',
      default: '0',
      least: -3600,
      most: 3600,
      meaning: 'How far its top is turned about the origin of the outline against its foot.',
      rare: true,
    },
    ends: {
      kind: 'choice',
      label: 'Ends',
      default: 'plain',
      choices: {
        plain: 'plain',
        round: 'rounded at the top',
        bevel: 'bevelled at the top',
        'both-round': 'rounded at both ends',
        'both-bevel': 'bevelled at both ends',
      },
      meaning: 'The edges round its ends.',
      rare: true,
    },
    end: size('Size of the edges', '1', 'Radius of rounded ends, or what a bevel takes from both faces.'),
    wall: wallField,
    thick: thickField,
  },
  quick: ['height'],
  sentence: (v) => [
    'extrusion of',
    { field: 'outline' },
    ',',
    ...(v.reach === 'upto' ? [] : [{ field: 'height' }]),
    { field: 'reach' },
    ', tapering by',
    { field: 'taper' },
    ', twisted by',
    { field: 'twist' },
    ', its ends',
    { field: 'ends' },
    ...(v.ends === 'plain' ? [] : ['by', { field: 'end' }]),
    ',',
    { field: 'wall' },
    ...(v.wall === 'filled' ? [] : [{ field: 'thick' }, 'thick']),
  ],
  impossible(v) {
    const nothing = nothingIn(v.outline, v.wall)
    if (nothing) return nothing
    const tall = endsTaken(v)
    if (tall >= v.height - 1e-9)
      return { field: 'end', detail: `Its edges take ${tall} mm of the height, and it is ${v.height} mm high.` }
    if (v.taper !== 0 && v.twist !== 0) return { field: 'twist', detail: 'It can taper or be twisted, not both.' }
    if (v.twist !== 0 && v.ends !== 'plain')
      return { field: 'ends', detail: 'A twisted extrusion has plain ends; cut it with another step.' }
    return undefined
  },
  box(v) {
    const [low, high] = heights(v)
    if (v.twist !== 0) {
      // Turned about the origin of the outline.
      const r = farthestOf(regionOf(v))
      return { min: [-r, -r, low], max: [r, r, high] }
    }
    const { min, max } = extentsOf(regionOf(v), spreadOf({ ...v, low, high }))
    return { min: [min[0], min[1], low], max: [max[0], max[1], high] }
  },
  reach(v, d) {
    const [low, high] = heights(v)
    if (v.twist !== 0) return discReach(farthestOf(regionOf(v)), d[2] > 0 ? high : low, d)
    return drawnReach(regionOf(v), spreadOf({ ...v, low, high }), low, high, d)
  },
  sheet: (v) => (v.taper === 0 && v.twist === 0 ? { region: regionOf(v), thickness: v.height } : undefined),
  prism(v, { fineness, cuts }) {
    if (!isPlain(v)) return undefined
    const [low, high] = heights(v)
    return { low, high, rings: () => regionOf(v).rings(fineness, cuts) }
  },
  surfaces(v) {
    const [low, high] = heights(v)
    const faces = prismFaces(regionOf(v), low, high)
    // Sides that lean or turn are no upright faces, and of a wall each curve has two.
    return prismSurfaces(regionOf(v), isPlain(v) && v.wall === 'filled' ? faces : faces.slice(0, 2))
  },
  edges: (v) => (v.twist === 0 ? prismEdges(regionOf(v)) : []),
  dimensions(v): readonly DimensionLine[] {
    // Up to a face it is as high as that says.
    if (v.reach === 'upto') return []
    const { min } = extentsOf(regionOf(v))
    const [low, high] = heights(v)
    return [
      { kind: 'linear', field: 'height', from: [min[0], min[1], low], to: [min[0], min[1], high], offset: [-1, 0, 0] },
    ]
  },
  solid(v, { scope, fineness, cuts }) {
    const [low, high] = heights(v)
    const rings = regionOf(v).rings(fineness, cuts)
    if (isPlain(v)) return extruded(scope, { low, high, rings: () => rings })
    return v.twist !== 0 ? twisted(scope, v, rings, fineness) : tapered(scope, rings, { ...v, low, high }, fineness)
  },
})

function isPlain({ taper, twist, ends }: Values): boolean {
  return taper === 0 && twist === 0 && ends === 'plain'
}

function heights({ reach, height }: Values): readonly [number, number] {
  return reach === 'both' ? [-height / 2, height / 2] : [0, height]
}

function endsTaken({ ends, end }: Values): number {
  return ends === 'plain' ? 0 : ends.startsWith('both') ? 2 * end : end
}

function twisted(scope: Scope, v: Values, rings: readonly Ring[], fineness: number): Solid {
  const [low, high] = heights(v)
  const far = Math.max(...rings.flat().map(([x, y]) => Math.hypot(x, y)))
  // An upright line becomes a helix; its chords leave it by the sagitta of the turn of one step.
  const steps = flatsInUse((segmentsFor(far, fineness) * Math.abs(v.twist)) / 360)
  const sections = Array.from({ length: steps + 1 }, (_, k) => {
    const rad = ((v.twist * Math.PI) / 180) * (k / steps)
    const [c, s] = [Math.cos(rad), Math.sin(rad)]
    const z = low + ((high - low) * k) / steps
    return rings.flat().map(([x, y]): Vec3 => [c * x - s * y, s * x + c * y, z])
  })
  const turned = (rad: number) =>
    rings.map((ring) =>
      ring.map(([x, y]) => [Math.cos(rad) * x - Math.sin(rad) * y, Math.sin(rad) * x + Math.cos(rad) * y] as const),
    )
  return skinned(scope, { flat: rings, lastFlat: turned((v.twist * Math.PI) / 180), sections, fineness })
}
