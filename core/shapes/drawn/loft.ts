import type { Section } from '../../fields/index.ts'
import { segmentsFor } from '../../kernel/index.ts'
import type { Vec3 } from '../../place/index.ts'
import {
  areaUnder,
  between2,
  carried,
  cross2,
  type Drawn,
  directionAt,
  distance2,
  dot2,
  endOf,
  flatsInUse,
  flattenedChain,
  liesWell,
  minus,
  type Ring,
  ringArea,
  type Vec2,
} from '../../plane/index.ts'
import { ProblemError } from '../../problems/index.ts'
import { type DimensionLine, defineShape } from '../define.ts'
import { surfacesOf } from '../surfaces.ts'
import { cloudBox, cloudOf, cloudReach, placingFineness } from './cloud.ts'
import { extentsOf, prismEdges } from './common.ts'
import { skinned } from './skin.ts'

/** A solid through outlines that lie above each other. */
export const loft = defineShape({
  kind: 'loft',
  label: 'loft',
  words: ['outline', 'blend', 'transition', 'adapter', 'funnel', 'duct', 'sections'],
  shelf: 'outlines',
  icon: 'M5 21 H27 L23 17 H9 Z M12 6 A4 1.6 0 1 0 20 6 A4 1.6 0 1 0 12 6 M5 21 C8 16 11 12 12 6 M27 21 C24 16 21 12 20 6',
  operation: 'add',
  seat: 'stands',
  drawn: true,
  fields: {
    sections: {
      kind: 'sections',
      label: 'Sections',
      default: '',
      least: 2,
      most: 20,
      meaning:
        'The outlines from below to above, each with its height; all with as many closed lines, and as many of them round holes.',
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
    const [first] = v.sections
    for (const [i, { outline, height }] of v.sections.entries()) {
      if (outline.loops.length === 0)
        return { field: 'sections', detail: `“${outline.name}” has no closed line; each section needs one.` }
      const [own, wanted] = [outline, first!.outline].map(({ loops }) => ({ all: loops.length, holes: holesIn(loops) }))
      if (own!.all !== wanted!.all || own!.holes !== wanted!.holes)
        return {
          field: 'sections',
          detail: `“${outline.name}” has ${own!.all} closed lines, ${own!.holes} of them round holes, and “${first!.outline.name}” ${wanted!.all} and ${wanted!.holes}; all sections need as many.`,
        }
      if (i > 0 && height <= v.sections[i - 1]!.height + 1e-9)
        return { field: 'sections', detail: 'Each section must lie higher than the one before it.' }
    }
    return undefined
  },
  box: (v) => cloudBox(cloud(v)),
  reach: (v, d) => cloudReach(cloud(v), d),
  surfaces(v) {
    const ends = [v.sections[0]!, v.sections.at(-1)!]
    const faces = ends.map(({ outline, height }, i) => {
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
    return surfacesOf([...faces, { name: 'side' }])
  },
  edges(v) {
    const rad = (v.twist * Math.PI) / 180
    const [c, s] = [Math.cos(rad), Math.sin(rad)]
    const led = { origin: [0, 0], u: [c, s], v: [-s, c] } as const
    return [
      ...prismEdges(v.sections[0]!.outline, 'bottom'),
      ...prismEdges(v.sections.at(-1)!.outline, 'top').map((edge) => ({
        ...edge,
        segment: carried(edge.segment, led),
      })),
    ]
  },
  dimensions: (): readonly DimensionLine[] => [],
  solid(v, { scope, fineness, cuts }) {
    const { sections, heights, counts } = lofted(v, fineness, cuts)
    const first = parted(sections[0]!, counts)
    const check = (corners: Ring, height: number) => {
      if (!liesWell(parted(corners, counts), first))
        throw new ProblemError('loft-overlaps', { height: Math.round(height * 100) / 100 })
    }
    sections.forEach((corners, i) => {
      check(corners, heights[i]!)
      const next = sections[i + 1]
      // What stays apart in two sections can still run into itself between them; a bent way has levels enough.
      if (!next || sections.length > v.sections.length) return
      for (const t of [0.25, 0.5, 0.75]) {
        const between = corners.map((p, c) => between2(p, next[c]!, t))
        check(between, heights[i]! + (heights[i + 1]! - heights[i]!) * t)
      }
    })
    return skinned(scope, {
      flat: first,
      lastFlat: parted(sections.at(-1)!, counts),
      sections: sections.map((corners, i) => corners.map(([x, y]): Vec3 => [x, y, heights[i]!])),
      fineness,
    })
  },
})

interface Values {
  readonly sections: readonly Section[]
  readonly way: 'straight' | 'smooth'
  readonly twist: number
}

/** `counts`: how many corners each loop has, the same in all sections. */
function lofted(v: Values, fineness: number, cuts: boolean): Ways & { readonly counts: readonly number[] } {
  const loops = paired(v.sections.map(({ outline }) => loopsOf(outline, fineness, cuts)))
  const heights = v.sections.map(({ height }) => height)
  const ways = loops.map(matched)
  const plain = { sections: heights.map((_, i) => ways.flatMap((rings) => rings[i]!)), heights }
  const bent = v.way === 'smooth' && heights.length > 2 ? smoothed(plain, fineness) : plain
  const counts = ways.map((rings) => rings[0]!.length)
  return { ...(v.twist === 0 ? bent : twisted(bent, v.twist, fineness)), counts }
}

const cloud = (v: Values) =>
  cloudOf(v, () => {
    const { sections, heights } = lofted(v, placingFineness, false)
    return sections.flatMap((corners, i) => corners.map(([x, y]): Vec3 => [x, y, heights[i]!]))
  })

function holesIn(loops: Drawn['loops']): number {
  return loops.filter(({ segments }) => segments.reduce((sum, s) => sum + areaUnder(s), 0) < 0).length
}

function parted(corners: Ring, counts: readonly number[]): Ring[] {
  let start = 0
  return counts.map((count) => {
    start += count
    return corners.slice(start - count, start)
  })
}

/** A closed line as flats, and which of its corners are drawn as such. */
interface Loop {
  readonly ring: Ring
  readonly sharp: readonly boolean[]
}

function loopsOf({ loops }: Drawn, fineness: number, cuts: boolean): Loop[] {
  return loops.map(({ segments }) => {
    const corners = segments.flatMap((segment, i) => {
      const next = segments[(i + 1) % segments.length]!
      return dot2(directionAt(segment, 1), directionAt(next, 0)) < 0.98 ? [endOf(segment)] : []
    })
    const ring = flattenedChain(segments, true, fineness, cuts)
    return { ring, sharp: ring.map((p) => corners.some((corner) => distance2(p, corner) < 1e-7)) }
  })
}

/** The loops of each section that go on from one another, a list for each of the first one's: the nearest of the same sense. */
function paired(sections: readonly (readonly Loop[])[]): Loop[][] {
  const ways = sections[0]!.map((loop): Loop[] => [loop])
  for (const section of sections.slice(1)) {
    const pairs = ways.flatMap((way) => {
      const last = way.at(-1)!.ring
      return section
        .filter(({ ring }) => ringArea(ring) > 0 === ringArea(last) > 0)
        .map((loop) => ({ way, loop, away: distance2(middle(loop.ring), middle(last)) }))
    })
    const done = new Set<unknown>()
    for (const { way, loop } of pairs.sort((a, b) => a.away - b.away)) {
      if (done.has(way) || done.has(loop)) continue
      way.push(loop)
      done.add(way).add(loop)
    }
  }
  return ways
}

interface Marked {
  readonly ring: Ring
  /** share of the way round of each corner, from 0 */
  readonly shares: readonly number[]
}

/**
 * Rings with the same number of corners: each begins where its direction from its middle is that of the first one's
 * beginning, and has a corner wherever any of them has one, by the share of the way round. Where all have as many drawn
 * corners, these go on from one another, and the shares are those of the ways between them.
 */
function matched(loops: readonly Loop[]): Ring[] {
  const drawn = loops.map(({ sharp }) => sharp.filter(Boolean).length)
  const anchored = drawn[0]! > 0 && drawn.every((count) => count === drawn[0])
  // The first one begins at its drawn corner that is next to straight ahead of its middle (+x); a smooth one, straight ahead.
  const begun = loops[0]!
  const rad = drawn[0]! > 0 ? directionOf(begun, cornerTowards(begun, 0)) : 0
  const marked = loops.map(
    (loop): Marked => shared(anchored ? begunAt(loop, cornerTowards(loop, rad)) : begunTowards(loop, rad), anchored),
  )
  const all = [...new Set(marked.flatMap(({ shares }) => shares.map((share) => Math.round(share * 1e9) / 1e9)))].sort(
    (a, b) => a - b,
  )
  return marked.map((each) => all.map((share) => along(each, share)))
}

/** The direction from the middle of a loop to one of its corners, radians. */
function directionOf({ ring }: Loop, corner: number): number {
  const [cx, cy] = middle(ring)
  const [x, y] = ring[corner]!
  return Math.atan2(y - cy, x - cx)
}

/** The drawn corner of a loop whose direction from its middle is nearest to `rad`. */
function cornerTowards(loop: Loop, rad: number): number {
  const off = (i: number) => turnTo(directionOf(loop, i), rad)
  const corners = [...loop.ring.keys()].filter((i) => loop.sharp[i])
  return corners.reduce((best, i) => (off(i) < off(best) - 1e-9 ? i : best))
}

/**
 * A loop that begins where it is met from its middle in a direction, where that is farthest out, so that it begins there however fine
 * its flats are.
 */
function begunTowards(loop: Loop, rad: number): Loop {
  const { ring, sharp } = loop
  const from = middle(ring)
  const way: Vec2 = [Math.cos(rad), Math.sin(rad)]
  let far = -Infinity
  let [edge, place, share] = [0, ring[0]!, 0]
  ring.forEach((a, i) => {
    const b = ring[(i + 1) % ring.length]!
    const [sideA, sideB] = [a, b].map((p) => cross2(way, minus(p, from))) as [number, number]
    if (sideA > 0 === sideB > 0) return
    const t = sideA / (sideA - sideB)
    const met = between2(a, b, t)
    const out = dot2(way, minus(met, from))
    if (out > far) [far, edge, place, share] = [out, i, met, t]
  })
  if (share * distance2(ring[edge]!, ring[(edge + 1) % ring.length]!) < 1e-7) return begunAt(loop, edge)
  if (distance2(place, ring[(edge + 1) % ring.length]!) < 1e-7) return begunAt(loop, (edge + 1) % ring.length)
  const [at, cornered] = [[...ring], [...sharp]]
  at.splice(edge + 1, 0, place)
  cornered.splice(edge + 1, 0, false)
  return begunAt({ ring: at, sharp: cornered }, edge + 1)
}

/** The middle of what a ring encloses, which is the same however its corners are strewn. */
function middle(ring: Ring): Vec2 {
  const [ox, oy] = ring[0]!
  let [area, x, y] = [0, 0, 0]
  ring.forEach((p, i) => {
    const q = ring[(i + 1) % ring.length]!
    const [ax, ay, bx, by] = [p[0] - ox, p[1] - oy, q[0] - ox, q[1] - oy]
    const own = ax * by - ay * bx
    area += own
    x += own * (ax + bx)
    y += own * (ay + by)
  })
  return area === 0 ? [ox, oy] : [ox + x / (3 * area), oy + y / (3 * area)]
}

/** How far two directions lie apart, radians. */
function turnTo(a: number, b: number): number {
  return Math.abs(Math.atan2(Math.sin(a - b), Math.cos(a - b)))
}

function begunAt({ ring, sharp }: Loop, start: number): Loop {
  return {
    ring: [...ring.slice(start), ...ring.slice(0, start)],
    sharp: [...sharp.slice(start), ...sharp.slice(0, start)],
  }
}

/** By the way round as a whole; `anchored`, by the way from each drawn corner to the next. */
function shared({ ring, sharp }: Loop, anchored: boolean): Marked {
  const gone = [0]
  ring.forEach((p, i) => {
    const next = ring[(i + 1) % ring.length]!
    gone.push(gone[i]! + distance2(p, next))
  })
  const total = gone.at(-1)!
  const anchors = anchored ? [...gone.keys()].filter((i) => sharp[i]).map((i) => gone[i]!) : [0]
  const ends = [...anchors.slice(1), total]
  return {
    ring,
    shares: gone.slice(0, -1).map((far) => {
      const span = anchors.findLastIndex((anchor) => anchor <= far)
      return (span + (far - anchors[span]!) / (ends[span]! - anchors[span]!)) / anchors.length
    }),
  }
}

function along({ ring, shares }: Marked, share: number): Vec2 {
  let i = shares.findLastIndex((own) => own <= share + 1e-9)
  if (i < 0) i = 0
  const next = i + 1 < shares.length ? shares[i + 1]! : 1
  const t = Math.min(1, Math.max(0, (share - shares[i]!) / (next - shares[i]! || 1)))
  const [a, b] = [ring[i]!, ring[(i + 1) % ring.length]!]
  return t < 1e-8 ? a : [a[0] + (b[0] - a[0]) * t, a[1] + (b[1] - a[1]) * t]
}

/** The corners of all loops, section by section. */
interface Ways {
  readonly sections: readonly Ring[]
  readonly heights: readonly number[]
}

/** At this fineness, mm, a bent way has six levels at least between two sections, and 48 at most. */
const boundFineness = 0.03

/** Each corner on a curve through its places, which grows with the height (Catmull and Rom, for uneven steps). */
function smoothed({ sections: rings, heights }: Ways, fineness: number): Ways {
  const out: Ring[] = []
  const at: number[] = []
  const bend = Math.max(...rings[0]!.map((_, c) => Math.max(...rings.map((ring) => Math.hypot(...ring[c]!)))))
  // Half as many at four times the fineness, these bounds as well.
  const [fewest, most] = [6, 48].map((count) => count * Math.sqrt(boundFineness / fineness)) as [number, number]
  const steps = flatsInUse(Math.min(most, Math.max(fewest, Math.sqrt(bend / (8 * fineness)))))
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
  return { sections: [...out, rings.at(-1)!], heights: [...at, heights.at(-1)!] }
}

/** Led round about the origin, evenly with the height. */
function twisted({ sections: rings, heights }: Ways, twist: number, fineness: number): Ways {
  const far = Math.max(...rings.flat().map((p) => Math.hypot(...p)), fineness * 2)
  const round = segmentsFor(far, fineness)
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
    const parts = flatsInUse((round * Math.abs(whole) * share) / (2 * Math.PI))
    for (let k = 0; k < parts; k++) {
      const t = k / parts
      const mixed = rings[i]!.map(
        (p, c): Vec2 => [p[0] + (rings[i + 1]![c]![0] - p[0]) * t, p[1] + (rings[i + 1]![c]![1] - p[1]) * t],
      )
      push(mixed, heights[i]! + (heights[i + 1]! - heights[i]!) * t)
    }
  }
  push(rings.at(-1)!, high)
  return { sections: out, heights: at }
}
