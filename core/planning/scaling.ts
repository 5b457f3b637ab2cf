import type { AnyValues, Fields, NumberField, SentencePart, ValuesOf } from '../fields/index.ts'
import { size } from '../fields/index.ts'
import { type Frame, pointIn, pointOut, type SupportFunction, type Vec3 } from '../place/index.ts'

function factor(label: string): NumberField & { readonly kind: 'ratio' } {
  return {
    kind: 'ratio',
    label,
    default: '1',
    least: 0.001,
    most: 1000,
    meaning: 'How many times its size it becomes.',
  }
}

/** How large a bundle, or the shape of another step, is made: what bundles and "same as" have for fields. */
export const scaleFields = {
  scale: {
    kind: 'choice',
    label: 'Size',
    default: 'none',
    choices: {
      none: 'as large as made',
      even: 'scaled by',
      each: 'scaled in each direction by',
      wide: 'scaled evenly to a width of',
      deep: 'scaled evenly to a depth of',
      high: 'scaled evenly to a height of',
      sizes: 'scaled to sizes of',
    },
    meaning: 'Whether it keeps its size, is scaled by a factor, or to a size that was measured.',
  },
  factor: factor('Factor'),
  across: factor('Factor across'),
  along: factor('Factor along'),
  up: factor('Factor up'),
  size: size('Size', '20', 'The size that it has afterwards.'),
  width: size('Width', '20', 'The size across that it has afterwards.'),
  depth: size('Depth', '20', 'The size along that it has afterwards.'),
  height: size('Height', '20', 'The height that it has afterwards.'),
} as const satisfies Fields

type ScaleValues = ValuesOf<typeof scaleFields>

/** The words and values behind its name: "scaled by 1.2". */
export function scaleSentence({ scale }: Pick<ScaleValues, 'scale'>): readonly SentencePart[] {
  const field = { field: 'scale' }
  switch (scale) {
    case 'none':
      return [field]
    case 'even':
      return [field, { field: 'factor' }]
    case 'each':
      return [field, { field: 'across' }, '×', { field: 'along' }, '×', { field: 'up' }]
    case 'wide':
    case 'deep':
    case 'high':
      return [field, { field: 'size' }]
    case 'sizes':
      return [field, { field: 'width' }, '×', { field: 'depth' }, '×', { field: 'height' }]
  }
}

/** Factors along the three directions of what reaches as `reach` says; undefined where it is left as it is. */
export function factorsOf(values: AnyValues, reach: SupportFunction): Vec3 | undefined {
  const v = values as unknown as ScaleValues
  const extent = (axis: 0 | 1 | 2): number => {
    const d: [number, number, number] = [0, 0, 0]
    d[axis] = 1
    return reach(d) + reach(d.map((x) => -x) as unknown as Vec3)
  }
  const even = (f: number): Vec3 => [f, f, f]
  switch (v.scale) {
    case 'even':
      return even(v.factor)
    case 'each':
      return [v.across, v.along, v.up]
    case 'wide':
      return even(v.size / extent(0))
    case 'deep':
      return even(v.size / extent(1))
    case 'high':
      return even(v.size / extent(2))
    case 'sizes':
      return [v.width / extent(0), v.depth / extent(1), v.height / extent(2)]
    default:
      return undefined
  }
}

/** How far something reaches once it is scaled about its origin: the support function of a linear image. */
export function scaledReach(reach: SupportFunction, factors: Vec3): SupportFunction {
  return (d) => {
    const pulled: Vec3 = [d[0] * factors[0], d[1] * factors[1], d[2] * factors[2]]
    const far = Math.hypot(...pulled)
    return far === 0 ? 0 : far * reach([pulled[0] / far, pulled[1] / far, pulled[2] / far])
  }
}

/** A point of the space that a bundle was planned in, scaled with the bundle. */
export function scaledPoint(p: Vec3, home: Frame, [x, y, z]: Vec3): Vec3 {
  const own = pointIn(home, p)
  return pointOut(home, [own[0] * x, own[1] * y, own[2] * z])
}
