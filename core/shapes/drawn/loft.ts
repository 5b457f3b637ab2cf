import type { Section } from '../../fields/index.ts'
import type { Vec3 } from '../../place/index.ts'
import { type Drawn, flattenedChain, type Ring, ringArea, type Vec2 } from '../../plane/index.ts'
import { ProblemError } from '../../problems/index.ts'
import { type DimensionLine, defineShape } from '../define.ts'
import { cloudBox, cloudOf, cloudReach, placingFineness } from './cloud.ts'
import { extentsOf } from './common.ts'
import { liesWell } from './inset.ts'
import { skinned } from './skin.ts'

/** A solid through outlines that lie above each other. */
export const loft = defineShape({
  kind: 'loft',
  label: 'loft',
  words: ['outline', 'blend', 'transition', 'adapter', 'funnel', 'hull', 'sections'],
  shelf: 'outlines',
  drawing:
    'M5 21 H27 L23 17 H9 Z M12 6 A4 1.6 0 1 0 20 6 A4 1.6 0 1 0 12 6 M5 21 C8 16 11 12 12 6 M27 21 C24 16 21 12 20 6',
  effect: 'add',
  seat: 'stands',
  fields: {
    sections: {
      kind: 'sections',
      label: 'Sections',
      default: '',
      least: 2,
      most: 20,
      meaning: 'The outlines from below to above, each with its height; each has one closed region.',
    },
    way: {
      kind: 'choice',
      label: 'Sides',
      default: 'straight',
      choices: { straight: 'straight from one to the next', smooth: 'running smoothly through all' },
      meaning: 'Straight between each two sections, or curved through three and more.',
    },
    twist: {
      kind: 'angle',
      label: 'Guided round by',
      default: '0',
      least: -720,
      most: 720,
      meaning: 'Corners are matched by where they begin; this leads them round on the way up.',
      rare: true,
    },
  },
  quick: [],
  sentence: () => [
    'loft through',
    { field: 'sections' },
    ',',
    { field: 'way' },
    ', guided round by',
    { field: 'twist' },
  ],
  impossible(v) {
    for (const [i, { outline, height }] of v.sections.entries()) {
      if (outline.loops.length !== 1)
        return {
          field: 'sections',
          detail: `“${outline.name}” has ${outline.loops.length} closed lines; each section needs exactly one.`,
        }
      if (i > 0 && height <= v.sections[i - 1]!.height + 1e-9)
        return { field: 'sections', detail: 'Each section must lie higher than the one before it.' }
    }
    return undefined
  },
  box: (v) => cloudBox(cloud(v)),
  reach: (v, d) => cloudReach(cloud(v), d),
  faces(v) {
    const ends = [v.sections[0]!, v.sections.at(-1)!]
    return ends.map(({ outline, height }, i) => {
      const { min, max } = extentsOf(outline)
      const origin: Vec3 = [(min[0] + max[0]) / 2, (min[1] + max[1]) / 2, height]
      const size = [max[0] - min[0], max[1] - min[1]] as const
      return i === 1
        ? {
            name: 'top',
            frame: { origin, u: [1, 0, 0], v: [0, 1, 0], n: [0, 0, 1] },
            size,
            sides: { across: ['left', 'right'], along: ['front', 'back'] },
          }
        : {
            name: 'bottom',
            frame: { origin, u: [-1, 0, 0], v: [0, 1, 0], n: [0, 0, -1] },
            size,
            sides: { across: ['right', 'left'], along: ['front', 'back'] },
          }
    })
  },
  faceAt: (_, __, normal) => (Math.abs(normal[2]) > 0.9999 ? (normal[2] > 0 ? 'top' : 'bottom') : 'side'),
  dimensions: (): readonly DimensionLine[] => [],
  solid(v, { scope, fineness, cuts }) {
    const guided = lofted(v, fineness, cuts)
    const bad = guided.rings.findIndex((ring) => ringArea(ring) <= 0 || !liesWell([ring], [guided.rings[0]!]))
    if (bad >= 0) throw new ProblemError('loft-overlaps', { height: Math.round(guided.heights[bad]! * 100) / 100 })
    return skinned(scope, {
      flat: [guided.rings[0]!],
      lastFlat: [guided.rings.at(-1)!],
      sections: guided.rings.map((ring, i) => ring.map(([x, y]): Vec3 => [x, y, guided.heights[i]!])),
      fineness,
    })
  },
})

interface Values {
  readonly sections: readonly Section[]
  readonly way: 'straight' | 'smooth'
  readonly twist: number
}

function lofted(v: Values, fineness: number, cuts: boolean): Ways {
  const rings = matched(v.sections.map(({ outline }) => ringOf(outline, fineness, cuts)))
  const heights = v.sections.map(({ height }) => height)
  const ways = v.way === 'smooth' && rings.length > 2 ? smoothed(rings, heights, fineness) : { rings, heights }
  return v.twist === 0 ? ways : twisted(ways, v.twist, fineness)
}

const cloud = (v: Values) =>
  cloudOf(v, () => {
    const { rings, heights } = lofted(v, placingFineness, false)
    return rings.flatMap((ring, i) => ring.map(([x, y]): Vec3 => [x, y, heights[i]!]))
  })

function ringOf(outline: Drawn, fineness: number, cuts: boolean): Ring {
  return flattenedChain(outline.loops[0]!.segments, true, fineness, cuts)
}

interface Marked {
  readonly ring: Ring
  /** share of the way round of each corner, from 0 */
  readonly shares: readonly number[]
}

/**
 * Rings with the same number of corners: each begins where its direction from its middle is that of the first one's
 * beginning, and has a corner wherever any of them has one, by the share of the way round.
 */
function matched(rings: readonly Ring[]): Ring[] {
  const first = started(rings[0]!, startAngle(rings[0]!))
  const angle = startAngle(first)
  const marked = rings.map((ring, i): Marked => shared(i === 0 ? first : started(ring, angle)))
  const all = [...new Set(marked.flatMap(({ shares }) => shares.map((share) => Math.round(share * 1e9) / 1e9)))].sort(
    (a, b) => a - b,
  )
  return marked.map((each) => all.map((share) => along(each, share)))
}

function middle(ring: Ring): Vec2 {
  return [ring.reduce((sum, [x]) => sum + x, 0) / ring.length, ring.reduce((sum, [, y]) => sum + y, 0) / ring.length]
}

/** The direction of the corner that lies nearest to straight ahead (+x) of the middle, radians. */
function startAngle(ring: Ring): number {
  const [cx, cy] = middle(ring)
  const angles = ring.map(([x, y]) => Math.atan2(y - cy, x - cx))
  return angles.reduce((best, angle) => (Math.abs(angle) < Math.abs(best) - 1e-9 ? angle : best))
}

/** The ring begun at the place in that direction; a corner is put there if none is near. */
function started(ring: Ring, angle: number): Ring {
  const [cx, cy] = middle(ring)
  const off = ring.map(([x, y]) => {
    const turn = Math.atan2(y - cy, x - cx) - angle
    return Math.abs(Math.atan2(Math.sin(turn), Math.cos(turn)))
  })
  const start = off.indexOf(Math.min(...off))
  return [...ring.slice(start), ...ring.slice(0, start)]
}

function shared(ring: Ring): Marked {
  const gone = [0]
  ring.forEach((p, i) => {
    const next = ring[(i + 1) % ring.length]!
    gone.push(gone[i]! + Math.hypot(next[0] - p[0], next[1] - p[1]))
  })
  const total = gone.pop()!
  return { ring, shares: gone.map((far) => far / total) }
}

function along({ ring, shares }: Marked, share: number): Vec2 {
  let i = shares.findLastIndex((own) => own <= share + 1e-9)
  if (i < 0) i = 0
  const next = i + 1 < shares.length ? shares[i + 1]! : 1
  const t = Math.min(1, Math.max(0, (share - shares[i]!) / (next - shares[i]! || 1)))
  const [a, b] = [ring[i]!, ring[(i + 1) % ring.length]!]
  return t < 1e-8 ? a : [a[0] + (b[0] - a[0]) * t, a[1] + (b[1] - a[1]) * t]
}

interface Ways {
  readonly rings: readonly Ring[]
  readonly heights: readonly number[]
}

/** Each corner on a curve through its places, which grows with the height (Catmull and Rom, for uneven steps). */
function smoothed(rings: readonly Ring[], heights: readonly number[], fineness: number): Ways {
  const out: Ring[] = []
  const at: number[] = []
  const bend = Math.max(...rings[0]!.map((_, c) => Math.max(...rings.map((ring) => Math.hypot(...ring[c]!)))))
  const steps = Math.min(48, Math.max(6, Math.ceil(Math.sqrt(bend / (8 * fineness)))))
  const slope = (i: number, c: number, k: 0 | 1) => {
    const [a, b] = [Math.max(0, i - 1), Math.min(rings.length - 1, i + 1)]
    return (rings[b]![c]![k] - rings[a]![c]![k]) / (heights[b]! - heights[a]!)
  }
  for (let i = 0; i + 1 < rings.length; i++) {
    const h = heights[i + 1]! - heights[i]!
    for (let s = 0; s < steps; s++) {
      const t = s / steps
      const hermite = (c: number, k: 0 | 1) =>
        rings[i]![c]![k] * (2 * t ** 3 - 3 * t ** 2 + 1) +
        rings[i + 1]![c]![k] * (3 * t ** 2 - 2 * t ** 3) +
        h * slope(i, c, k) * (t ** 3 - 2 * t ** 2 + t) +
        h * slope(i + 1, c, k) * (t ** 3 - t ** 2)
      out.push(rings[i]!.map((_, c) => [hermite(c, 0), hermite(c, 1)] as const))
      at.push(heights[i]! + h * t)
    }
  }
  return { rings: [...out, rings.at(-1)!], heights: [...at, heights.at(-1)!] }
}

/** Led round about the origin, evenly with the height. */
function twisted({ rings, heights }: Ways, twist: number, fineness: number): Ways {
  const far = Math.max(...rings.flat().map((p) => Math.hypot(...p)), fineness * 2)
  const step = 2 * Math.acos(Math.max(0, 1 - fineness / far))
  const [low, high] = [heights[0]!, heights.at(-1)!]
  const whole = (twist * Math.PI) / 180
  const out: Ring[] = []
  const at: number[] = []
  const push = (ring: Ring, height: number) => {
    const rad = (whole * (height - low)) / (high - low)
    const [c, s] = [Math.cos(rad), Math.sin(rad)]
    out.push(ring.map(([x, y]) => [c * x - s * y, s * x + c * y] as const))
    at.push(height)
  }
  for (let i = 0; i + 1 < rings.length; i++) {
    const share = (heights[i + 1]! - heights[i]!) / (high - low)
    const parts = Math.max(1, Math.ceil((Math.abs(whole) * share) / step))
    for (let k = 0; k < parts; k++) {
      const t = k / parts
      const mixed = rings[i]!.map(
        (p, c): Vec2 => [p[0] + (rings[i + 1]![c]![0] - p[0]) * t, p[1] + (rings[i + 1]![c]![1] - p[1]) * t],
      )
      push(mixed, heights[i]! + (heights[i + 1]! - heights[i]!) * t)
    }
  }
  push(rings.at(-1)!, high)
  return { rings: out, heights: at }
}
