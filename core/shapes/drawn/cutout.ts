import type { Scope, Solid } from '../../kernel/index.ts'
import type { Drawn } from '../../plane/index.ts'
import { defineShape, type ShapeContext } from '../define.ts'
import { extruded } from '../prismatic.ts'
import { deep, deepened, depthField, reachField, reachWords, sunkPrism } from '../sunk.ts'
import {
  drawnReach,
  extentsOf,
  nothingIn,
  outlineField,
  prismEdges,
  prismFaces,
  prismSurfaces,
  thickField,
  type WallKind,
  wallField,
} from './common.ts'
import { type Raised, spreadOf, tapered } from './tapered.ts'
import { regionOf } from './wall.ts'

interface Values {
  readonly outline: Drawn
  readonly reach: 'through' | 'blind' | 'upto'
  readonly depth: number
  readonly taper: number
  readonly wall: WallKind
  readonly thick: number
}

/** A hole or pocket of the form of an outline, or a groove along its lines. */
export const cutout = defineShape({
  kind: 'cutout',
  label: 'cut-out',
  words: [
    'cut an outline',
    'keyhole',
    'custom hole',
    'd-hole',
    'outline',
    'profile',
    'opening',
    'outline pocket',
    'stencil',
    'engraved line',
  ],
  shelf: 'outlines',
  icon: 'M3 6 H29 V20 H3 Z M9 10 L15 9 L23 12 L20 17 H11 Z',
  operation: 'cut',
  seat: 'enters',
  drawn: true,
  upTo: deepened,
  fields: {
    outline: outlineField,
    reach: reachField,
    depth: depthField,
    taper: {
      kind: 'angle',
      label: 'Taper',
      default: '0',
      least: -80,
      most: 80,
      meaning: 'How far its walls lean inwards on the way down; negative outwards. 0 is upright.',
      rare: true,
    },
    wall: wallField,
    thick: thickField,
  },
  quick: [{ field: 'depth', with: { reach: 'blind' } }],
  sentence: (v) => [
    'cut-out of',
    { field: 'outline' },
    ...reachWords(v),
    ', tapering by',
    { field: 'taper' },
    ',',
    { field: 'wall' },
    ...(v.wall === 'filled' ? [] : [{ field: 'thick' }, 'thick']),
  ],
  impossible: (v) => nothingIn(v.outline, v.wall),
  box(v, through) {
    const depth = deep(v, through)
    const { min, max } = extentsOf(regionOf(v), spreadOf(formOf(v, depth)))
    return { min: [min[0], min[1], -depth], max: [max[0], max[1], 0] }
  },
  // Measured at its mouth.
  reach: (v, d) => drawnReach(regionOf(v), 0, -deep(v, 0), 0, d),
  prism: (v: Values, context) => (v.taper === 0 ? upright(v, context) : undefined),
  surfaces(v) {
    const [top] = prismFaces(regionOf(v), -v.depth, -v.depth)
    const bottom = v.reach === 'through' ? { name: 'bottom' } : { ...top!, name: 'bottom' }
    return prismSurfaces(regionOf(v), [bottom, { name: 'mouth' }], ['mouth', 'bottom'])
  },
  edges: (v) => prismEdges(regionOf(v)),
  dimensions(v) {
    if (v.reach !== 'blind') return []
    const { min } = extentsOf(regionOf(v))
    return [
      { kind: 'linear', field: 'depth', from: [min[0], min[1], -v.depth], to: [min[0], min[1], 0], offset: [-1, 0, 0] },
    ]
  },
  solid: (v, context) =>
    v.taper === 0 ? extruded(context.scope, upright(v, context)) : leaning(context.scope, v, context),
})

function upright(v: Values, context: Omit<ShapeContext, 'scope'>) {
  return sunkPrism(v, context, () => regionOf(v).rings(context.fineness, context.cuts))
}

/** As it is raised from the mouth, before it is turned down. */
function formOf({ taper }: Values, high: number): Raised {
  return { low: 0, high, taper, ends: 'plain', end: 0 }
}

/** Raised from the mouth and turned down; above the mouth it goes on straight for `overlap`. */
function leaning(scope: Scope, v: Values, { fineness, cuts, through, overlap }: ShapeContext): Solid {
  const rings = regionOf(v).rings(fineness, cuts)
  const down = scope.placed(tapered(scope, rings, formOf(v, deep(v, through)), fineness), {
    origin: [0, 0, 0],
    u: [1, 0, 0],
    v: [0, 1, 0],
    n: [0, 0, -1],
  })
  return overlap > 0 ? scope.union([down, scope.extrude(rings, overlap)]) : down
}
