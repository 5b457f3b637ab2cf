import type { Drawn } from '../../plane/index.ts'
import { defineShape } from '../define.ts'
import { extruded } from '../prismatic.ts'
import { deep, deepened, depthField, reachField, reachWords, sunkPrism } from '../sunk.ts'
import { drawnReach, extentsOf, nothingIn, outlineField, prismFaceAt, prismFaces } from './common.ts'

interface Values {
  readonly outline: Drawn
  readonly reach: 'through' | 'blind' | 'upto'
  readonly depth: number
}

/** A hole or pocket of the form of an outline. */
export const cutout = defineShape({
  kind: 'cutout',
  label: 'cut-out',
  words: ['outline', 'pocket', 'profile', 'opening', 'window', 'recess'],
  shelf: 'outlines',
  drawing: 'M3 6 H29 V20 H3 Z M9 10 L15 9 L23 12 L20 17 H11 Z',
  effect: 'cut',
  seat: 'enters',
  upTo: deepened,
  fields: { outline: outlineField, reach: reachField, depth: depthField },
  quick: [{ field: 'depth', with: { reach: 'blind' } }],
  sentence: (v) => ['cut-out of', { field: 'outline' }, ...reachWords(v)],
  impossible: (v) => nothingIn(v.outline),
  box(v, through) {
    const { min, max } = extentsOf(v.outline)
    return { min: [min[0], min[1], -deep(v, through)], max: [max[0], max[1], 0] }
  },
  reach: (v, d) => drawnReach(v.outline, 0, -deep(v, 0), 0, d),
  prism: (v: Values, context) => sunkPrism(v, context, () => v.outline.rings(context.fineness, context.cuts)),
  faces(v) {
    if (v.reach === 'through') return []
    const [top] = prismFaces(v.outline, -v.depth, -v.depth)
    return [{ ...top!, name: 'bottom' }]
  },
  faceAt: (v, p, normal) => (Math.abs(normal[2]) > 0.999 ? 'bottom' : prismFaceAt(v.outline, p, normal)),
  dimensions(v) {
    if (v.reach !== 'blind') return []
    const { min } = extentsOf(v.outline)
    return [
      { kind: 'linear', field: 'depth', from: [min[0], min[1], -v.depth], to: [min[0], min[1], 0], offset: [-1, 0, 0] },
    ]
  },
  solid: (v, context) =>
    extruded(
      context.scope,
      sunkPrism(v, context, () => v.outline.rings(context.fineness, context.cuts)),
    ),
})
