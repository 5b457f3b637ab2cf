import type { Kernel, Ring, Solid } from '../kernel/index.ts'
import { type LayerHeights, layerAt, layerBottom, layerMiddle, type Sections } from '../layers/index.ts'
import type { Box } from '../place/index.ts'
import { ringArea } from '../plane/index.ts'
import { type Check, type Found, findingOf, type Mark, type ProofContext, type ProofPiece } from './define.ts'
import { mm2 } from './phrase.ts'

/** What is found. */
const texts = {
  'fused-none': '{pieces} leave {needed} empty wherever one is above the other.',
  'fused-loose': '{pieces} leave {needed} empty wherever one is above the other, but for {area} that will break free.',
  'fused-right':
    '{pieces} are printed right above each other over {area}, {layers}: they would fuse; the {printer} needs {needed} to keep them apart.',
  'fused-near':
    '{pieces} are only {near} apart above each other over {area}, {layers}; the {printer} needs {needed} to keep them apart.',
} as const

/** Smaller places than this break loose by themselves, mm². */
const smallest = 2

/**
 * In so many layers strips that are narrower than a line lie beside each other on a slope, and hold together as one place that is as
 * large; a strip in one layer or two breaks loose by itself.
 */
const onSlope = 3

/** Whether pieces that are printed above each other come apart. */
export const fusedCheck: Check = {
  id: 'fused',
  label: 'Above each other',
  meaning: 'Where one piece is printed above another, enough layers are left empty between them.',
  texts,
  scope: 'part',
  async run(context) {
    const { built, pieces, kept } = context
    const findings: Found[] = []
    for (const [i, a] of pieces.entries())
      for (const b of pieces.slice(i + 1)) {
        // What a step has split can be printed one by one.
        if (!a.built.solid || !b.built.solid || a.built.of === b.built.of) continue
        findings.push(...(await kept('fused', [a, b], built.resolved.printer, () => between(context, a, b))))
      }
    return findings
  },
}

async function between(
  { kernel, built, pause, sections }: ProofContext,
  a: ProofPiece,
  b: ProofPiece,
): Promise<readonly Found[]> {
  const { leastLayers, lineWidth, name } = built.resolved.printer
  if (leastLayers === 0) return []
  const places = await placesBetween(kernel, [a, b].map(sections), [a.built.solid!, b.built.solid!], {
    heights: built.resolved.printer,
    leastLayers,
    lineWidth,
    pause,
  })
  if (!places) return []
  const about = [a, b].map(({ built: { piece } }) => ({ kind: 'piece', id: piece.id }) as const)
  const finding = findingOf('fused', texts, about)
  const told = { pieces: [a, b].map(({ built: { piece } }) => piece.name), needed: layersWord(leastLayers) }
  const near = places.findIndex(({ fused }) => fused.area >= smallest)
  const place = places[near]?.fused
  if (!place) {
    const little = places.reduce((sum, { fused, loose }) => sum + fused.area + loose, 0)
    const isClean = little <= negligible
    return [
      isClean ? finding('pass', 'fused-none', told) : finding('pass', 'fused-loose', { ...told, area: mm2(little) }),
    ]
  }
  const where = { ...told, printer: name, area: mm2(place.area), layers: layersAt(place.layers) }
  const { marks } = place
  return [
    near === 0
      ? finding('warning', 'fused-right', where, { marks })
      : finding('advice', 'fused-near', { ...where, near: layersWord(near) }, { marks }),
  ]
}

/** A smaller area that breaks loose is not worth a word, mm². */
const negligible = 0.01

interface Place {
  /** seen from above, mm² */
  area: number
  /** in which layers the upper piece begins there, from 0 */
  readonly layers: Set<number>
  readonly marks: Mark[]
}

/** How much of two pieces lies above each other, with so many layers between: all of it, and what of that breaks loose. */
interface Together {
  readonly fused: Place
  /** mm² */
  readonly loose: number
}

interface Printing {
  readonly heights: LayerHeights
  readonly leastLayers: number
  readonly lineWidth: number
  pause(): Promise<void>
}

/**
 * Where one of two solids is above the other, by how many layers are empty between; undefined where neither is, as near as that, and where they
 * run through each other, which is told by their gap: what lies in one another is not above it. As a slicer has it, a layer is filled where the
 * solid is at its middle.
 */
async function placesBetween(
  kernel: Kernel,
  sections: readonly Sections[],
  solids: readonly [Solid, Solid],
  { heights, leastLayers, lineWidth, pause }: Printing,
): Promise<Together[] | undefined> {
  const range = rangeOf(
    solids[0].bounds()!,
    solids[1].bounds()!,
    leastLayers * Math.max(heights.firstLayer, heights.layerHeight),
  )
  if (!range) return undefined
  const [from, to] = range.map((z) => layerAt(z, heights))
  const sectionOf = (which: 0 | 1, layer: number) => sections[which]!.at(layerMiddle(layer, heights))
  /** what was found of the same sections in other layers */
  const known = new Map<string, Fused | 'overlap' | undefined>()
  const numbers = new Map<readonly Ring[], number>()
  const numberOf = (section: readonly Ring[]) => {
    const number = numbers.get(section) ?? numbers.size
    numbers.set(section, number)
    return number
  }
  const none = (): Place => ({ area: 0, layers: new Set(), marks: [] })
  const places = Array.from({ length: leastLayers }, () => ({ wide: none(), narrow: none() }))
  for (let layer = from!; layer <= to!; layer++) {
    await pause()
    for (const lower of [0, 1] as const)
      for (let empty = 0; empty < leastLayers; empty++) {
        const upper = (1 - lower) as 0 | 1
        const between = Array.from({ length: empty }, (_, i) => layer + 1 + i)
        const [below, above] = [sectionOf(lower, layer), sectionOf(upper, layer + 1 + empty)]
        if (below.length === 0 || above.length === 0) continue
        const z = layerBottom(layer + 1 + empty, heights)
        const filled = between.flatMap((at) => [sectionOf(0, at), sectionOf(1, at)])
        const own = empty === 0 ? sectionOf(upper, layer) : []
        const key = [below, above, own, ...filled].map(numberOf).join(' ')
        if (!known.has(key)) known.set(key, fusedOf(kernel, { below, above, own, filled: filled.flat() }, lineWidth))
        const found = known.get(key)
        if (found === 'overlap') return undefined
        if (!found) continue
        const place = places[empty]![found.isNarrow ? 'narrow' : 'wide']
        place.area += found.area
        place.layers.add(layer + 1 + empty)
        const points = found.triangles.flatMap(([x, y]) => [x, y, z])
        place.marks.push({ kind: 'triangles', points: Float32Array.from(points) })
      }
  }
  return places.map(({ wide, narrow }) =>
    narrow.layers.size < onSlope
      ? { fused: wide, loose: narrow.area }
      : {
          fused: {
            area: wide.area + narrow.area,
            layers: new Set([...wide.layers, ...narrow.layers]),
            marks: [...wide.marks, ...narrow.marks],
          },
          loose: 0,
        },
  )
}

interface Fused {
  /** mm² */
  readonly area: number
  /** whether it is narrower than a line that the printer lays */
  readonly isNarrow: boolean
  /** the corners of triangles that fill it */
  readonly triangles: readonly (readonly [number, number])[]
}

/**
 * What of one section is above another one, with nothing of `filled` between; undefined where nothing is. `own`: the upper one's own section
 * at the height of the lower one; where that is in the lower one as well, they overlap.
 */
function fusedOf(
  kernel: Kernel,
  { below, above, own, filled }: Readonly<Record<'below' | 'above' | 'own' | 'filled', readonly Ring[]>>,
  lineWidth: number,
): Fused | 'overlap' | undefined {
  return kernel.scope((scope) => {
    const common = scope.commonRegions(below, above)
    const both = common.length > 0 && own.length > 0 ? scope.commonRegions(common, own) : []
    if (both.reduce((sum, ring) => sum + ringArea(ring), 0) > negligible) return 'overlap'
    const rings = filled.length > 0 && common.length > 0 ? scope.withoutRegions(common, filled) : common
    const area = rings.reduce((sum, ring) => sum + ringArea(ring), 0)
    if (area < 1e-6) return undefined
    const corners = rings.flat()
    const triangles = scope.triangulated(rings).flatMap((t) => t.map((i) => corners[i]!))
    return { area, isNarrow: scope.inset(rings, lineWidth / 2).length === 0, triangles }
  })
}

/** Heights between which both could be above each other so near; undefined where they are apart. */
function rangeOf(a: Box, b: Box, within: number): readonly [number, number] | undefined {
  for (const i of [0, 1]) if (a.min[i]! > b.max[i]! || b.min[i]! > a.max[i]!) return undefined
  const low = Math.max(a.min[2], b.min[2]) - within
  const high = Math.min(a.max[2], b.max[2]) + within
  return low <= high ? [low, high] : undefined
}

const layersWord = (count: number) => (count === 1 ? 'one layer' : `${count} layers`)

/** "at layer 12", "from layer 12 to 31" */
function layersAt(layers: ReadonlySet<number>): string {
  const [first, last] = [Math.min(...layers) + 1, Math.max(...layers) + 1]
  return first === last ? `at layer ${first}` : `from layer ${first} to ${last}`
}
