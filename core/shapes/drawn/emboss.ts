import { size } from '../../fields/index.ts'
import { type DimensionLine, defineShape } from '../define.ts'
import { wrapped, wrappedSurfaces } from '../wrapped.ts'
import { drawnReach, extentsOf, nothingIn, outlineField } from './common.ts'

/** An outline wrapped about a round, raised where it adds and sunk where it cuts. */
export const emboss = defineShape({
  kind: 'emboss',
  label: 'wrapped outline',
  words: [
    ...['emboss', 'outline', 'wrap', 'logo', 'raise'],
    ...['engrave', 'deboss', 'sink'].map((word) => ({ word, operation: 'cut' })),
  ],
  shelf: 'outlines',
  icon: 'M6 4 V20 A10 4 0 0 0 26 20 V4 M6 4 A10 4 0 0 0 26 4 A10 4 0 0 0 6 4 M11 13 L15 11 L20 14 L18 19 L13 18 Z',
  operation: 'add',
  seat: 'stands',
  fields: {
    outline: outlineField,
    depth: size('Height', '0.8', 'How far it is raised, or sunk where it cuts.'),
    wrap: {
      kind: 'choice',
      label: 'On',
      default: 'outside',
      choices: { outside: 'about a round', inside: 'inside a bore' },
      meaning: 'Bent about the axis of a round bar or bore that runs along the drawing’s upright direction.',
    },
    round: size('Diameter of the round', '30', 'Diameter of the bar or bore that it is wrapped on.'),
  },
  quick: ['depth', 'round'],
  onRound: (diameter, { inside }) => ({
    round: diameter,
    wrap: inside ? 'inside' : 'outside',
  }),
  fitted: (v, round) => ({ ...v, round: 2 * Math.abs(round), wrap: round < 0 ? 'inside' : 'outside' }),
  sentence: () => [
    'wrapped outline',
    { field: 'outline' },
    ',',
    { field: 'depth' },
    'high,',
    { field: 'wrap' },
    '⌀',
    { field: 'round' },
  ],
  impossible(v) {
    const nothing = nothingIn(v.outline)
    if (nothing) return nothing
    const { min, max } = extentsOf(v.outline)
    const wide = max[0] - min[0]
    if (wide > Math.PI * v.round)
      return {
        field: 'round',
        detail: `The outline is ${Math.round(wide * 10) / 10} mm wide and goes round this diameter more than once.`,
      }
    if (v.depth >= v.round / 2) return { field: 'depth', detail: 'It would reach the axis of what it is wrapped on.' }
    return undefined
  },
  box(v) {
    const { min, max } = extentsOf(v.outline)
    const r = v.round / 2
    // Bent by x / r about an axis r below its seat, or above it in a bore; raised or sunk.
    const turns = [min[0] / r, max[0] / r, 0, -Math.PI / 2, Math.PI / 2, -Math.PI, Math.PI].filter(
      (rad) => rad >= min[0] / r && rad <= max[0] / r,
    )
    const corners = [r - v.depth, r + v.depth].flatMap((far) =>
      turns.map((rad) => [far * Math.sin(rad), far * Math.cos(rad) - r] as const),
    )
    const [xs, zs] = [corners.map(([x]) => x), corners.map(([, z]) => (v.wrap === 'outside' ? z : -z))]
    return { min: [Math.min(...xs), min[1], Math.min(...zs)], max: [Math.max(...xs), max[1], Math.max(...zs)] }
  },
  // As it lies flat: that is how it is placed.
  reach: (v, d) => drawnReach(v.outline, 0, 0, v.depth, d),
  surfaces: (v) => wrappedSurfaces({ side: v.wrap, diameter: v.round }),
  dimensions: (): readonly DimensionLine[] => [],
  isUneven: () => true,
  solid: (v, context) =>
    wrapped(
      v.outline.rings(context.fineness, context.cuts),
      { depth: v.depth, side: v.wrap, diameter: v.round },
      context,
    ),
})
