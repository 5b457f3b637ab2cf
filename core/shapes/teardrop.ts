import { size } from '../fields/index.ts'
import type { Vec3 } from '../place/index.ts'
import { defineShape, discReach, type ShapeContext } from './define.ts'
import { mouthDimension } from './dimensions.ts'
import { dropOutline, isLevel, pointOfDrop, turnedUp } from './dropOutline.ts'
import { arcEdge, circleEdge, lineEdge, type ShapeEdge } from './edges.ts'
import { extruded } from './prismatic.ts'
import { deep, deepened, depthField, reachField, reachWords, type Sunk, sunkPrism, sunkSurfaces } from './sunk.ts'
import { plainSurfaces } from './surfaces.ts'

/**
 * A round hole that prints without support when it lies level: its roof rises to a point at 45°, straight up from the
 * bed whatever face it is in. In a level face there is nothing to hold up, and it is round.
 *
 *         /\        point at r·√2
 *       /    \      flanks touch the circle at 45°
 *      |  ()  |
 *       \____/
 */
export const teardrop = defineShape({
  kind: 'teardrop',
  label: 'teardrop hole',
  words: ['horizontal hole', 'drop hole', 'self-supporting hole'],
  shelf: 'holes',
  icon: 'M4 21 V7 L9 4 H28 V18 L23 21 Z M14 8 L18 12 A5.4 5.4 0 1 1 10 12 Z',
  operation: 'cut',
  seat: 'enters',
  knowsUp: true,
  fields: {
    diameter: { ...size('Diameter', '6', 'Diameter of the hole; a pin of this size enters it.'), takes: 'round' },
    roof: {
      kind: 'choice',
      label: 'Roof',
      default: 'pointed',
      choices: { pointed: 'pointed', flat: 'flat' },
      meaning: 'Pointed rises to a tip; flat is cut off at the height of the circle and leaves a short bridge.',
    },
    reach: reachField,
    depth: depthField,
  },
  quick: ['diameter', { field: 'depth', with: { reach: 'blind' } }],
  sentence: (v) => ['teardrop hole ⌀', { field: 'diameter' }, ', its roof', { field: 'roof' }, ',', ...reachWords(v)],
  box: (v, through) => {
    // Whichever way is up.
    const far = (v.diameter / 2) * (v.roof === 'pointed' ? pointOfDrop : flatRoofReach)
    return { min: [-far, -far, -deep(v, through)], max: [far, far, 0] }
  },
  // Measured at its round, at its mouth.
  reach: (v, d) => discReach(v.diameter / 2, 0, d),
  surfaces: (v) => sunkSurfaces(v, v.diameter, v.diameter, plainSurfaces('wall')),
  edges: (v, up) => dropEdges(v, up),
  upTo: deepened,
  dimensions: (v) => [mouthDimension('diameter', v.diameter)],
  prism,
  solid: (v, context) => extruded(context.scope, prism(v, context)),
})

interface Drop extends Sunk {
  readonly diameter: number
  readonly roof: 'pointed' | 'flat'
}

function prism(v: Drop, context: Omit<ShapeContext, 'scope'>) {
  return sunkPrism(v, context, () => [
    dropOutline(
      v.diameter / 2,
      (v.diameter / 2) * (v.roof === 'pointed' ? pointOfDrop : 1),
      context.up,
      context.fineness,
    ),
  ])
}

/** How far the ends of a flat roof lie from the axis, in radii: the flanks at the height of the circle. */
const flatRoofReach = Math.hypot(1, Math.SQRT2 - 1)

function dropEdges({ diameter, roof }: Drop, up: Vec3): ShapeEdge[] {
  const r = diameter / 2
  if (isLevel(up)) return [circleEdge('wall', diameter)]
  const towards = (Math.atan2(up[1], up[0]) * 180) / Math.PI
  const touch = (turn: number) => turnedUp(up, r * Math.SQRT1_2, turn * r * Math.SQRT1_2)
  const flat = r * (Math.SQRT2 - 1)
  const [left, right] =
    roof === 'flat'
      ? [turnedUp(up, r, flat), turnedUp(up, r, -flat)]
      : [1, 1].map(() => turnedUp(up, r * Math.SQRT2, 0))
  return [
    arcEdge('wall', [0, 0], r, towards + 45, towards + 315),
    lineEdge('right flank', touch(-1), right!),
    ...(roof === 'flat' ? [lineEdge('roof', right!, left!)] : []),
    lineEdge('left flank', left!, touch(1)),
  ]
}
