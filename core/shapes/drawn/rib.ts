import { size } from '../../fields/index.ts'
import type { Ring, Scope, Solid } from '../../kernel/index.ts'
import { type Drawn, flattenedChain, type Vec2 } from '../../plane/index.ts'
import { ProblemError } from '../../problems/index.ts'
import { boxReach, type DimensionLine, defineShape } from '../define.ts'
import { plainSurfaces, surfacesOf } from '../surfaces.ts'
import { drawnReach, extentsOf, outlineField } from './common.ts'

const ways = { down: [0, -1], up: [0, 1], left: [-1, 0], right: [1, 0] } as const

/** A thin wall from an open line to what it meets, as thick to both sides of the drawing. */
export const rib = defineShape({
  kind: 'rib',
  label: 'rib',
  words: ['gusset', 'stiffener', 'stiffening rib', 'open line', 'outline'],
  shelf: 'outlines',
  icon: 'M4 22 H28 V18 H8 V4 H4 Z M8 6 L22 18 M8 10 L17 18',
  operation: 'add',
  seat: 'stands',
  straddles: () => true,
  meets: true,
  fields: {
    outline: { ...outlineField, lines: true, meaning: 'The drawing with the open line of its free edge.' },
    thick: size('Thickness', '3', 'How thick it is, half to each side of the drawing.'),
    towards: {
      kind: 'choice',
      label: 'Towards',
      default: 'down',
      choices: { down: 'downwards', up: 'upwards', left: 'to the left', right: 'to the right' },
      meaning: 'The way from the line to what it meets, in the drawing.',
    },
  },
  quick: ['thick'],
  sentence: () => [
    'rib',
    { field: 'thick' },
    'thick from the line of',
    { field: 'outline' },
    { field: 'towards' },
    'to what it meets',
  ],
  impossible: (v) =>
    v.outline.open.length === 0
      ? { field: 'outline', detail: 'This outline has no open line; draw the free edge of the rib.' }
      : undefined,
  box(v) {
    const { min, max } = extentsOf(v.outline)
    return { min: [min[0], min[1], -v.thick / 2], max: [max[0], max[1], v.thick / 2] }
  },
  reach: (v, d) => drawnReach(v.outline, 0, -v.thick / 2, v.thick / 2, d),
  surfaces: () =>
    surfacesOf(plainSurfaces('edge', 'front', 'back'), {
      at: (_, normal) => (Math.abs(normal[2]) > 0.999 ? (normal[2] > 0 ? 'front' : 'back') : 'edge'),
    }),
  dimensions: (): readonly DimensionLine[] => [],
  solid(v, { scope, fineness, material }) {
    const way = ways[v.towards]
    const bounds = material?.bounds()
    // Past all that there is.
    const far = bounds
      ? Math.hypot(...bounds.max.map((x, i) => x - bounds.min[i]!)) +
        farthest(bounds.max, bounds.min) +
        extentSize(v.outline)
      : extentSize(v.outline)
    const lines = v.outline.open.map((chain) => flattenedChain(chain.segments, false, fineness, false))
    const band = banded(scope, lines, way, far, v.thick)
    if (!material) return band
    const parts = scope.parts(scope.difference(band, [material]))
    // What begins at the line; what lies behind the first thing that is met does not.
    const kept = parts.filter((part) => lines.some((line) => startsIn(part, line, way)))
    if (kept.length === 0) throw new ProblemError('rib-meets-nothing', {})
    // What met nothing runs on to the end of the band.
    const ahead = (solid: Solid) => boxReach(solid.bounds()!, [way[0], way[1], 0])
    if (kept.some((part) => ahead(part) > ahead(material) + 1e-6)) throw new ProblemError('rib-meets-nothing', {})
    return scope.union(kept)
  },
})

function farthest(max: readonly number[], min: readonly number[]): number {
  return Math.max(...max.map(Math.abs), ...min.map(Math.abs))
}

function extentSize(outline: Drawn): number {
  const { min, max } = extentsOf(outline)
  return Math.hypot(max[0] - min[0], max[1] - min[1]) + 1
}

/** The lines moved along, and all that they pass. */
function banded(scope: Scope, lines: readonly Ring[], [dx, dy]: Vec2, far: number, thick: number): Solid {
  const rings = lines.flatMap((line) =>
    line.slice(1).map((b, i): Ring => {
      const a = line[i]!
      const [c, d] = [[b[0] + dx * far, b[1] + dy * far] as const, [a[0] + dx * far, a[1] + dy * far] as const]
      const left = (b[0] - a[0]) * dy - (b[1] - a[1]) * dx
      // Counter-clockwise, whichever way the line runs; a stretch along the way itself passes nothing.
      return left > 0 ? [a, b, c, d] : [d, c, b, a]
    }),
  )
  const region = scope.filled(rings)
  return scope.placed(scope.extrude(region, thick), {
    origin: [0, 0, -thick / 2],
    u: [1, 0, 0],
    v: [0, 1, 0],
    n: [0, 0, 1],
  })
}

/** Whether a body holds a place just behind the line. */
function startsIn(part: Solid, line: Ring, [dx, dy]: Vec2): boolean {
  return line.slice(1).some((b, i) => {
    const a = line[i]!
    return [0.1, 0.35, 0.5, 0.8].some((t) => {
      const at = [a[0] + (b[0] - a[0]) * t + dx * 0.02, a[1] + (b[1] - a[1]) * t + dy * 0.02, 1e-4] as const
      return part.crossings(at, [0.2672612419124244, 0.5345224838248488, 0.8017837257372732]).length % 2 === 1
    })
  })
}
