import { describe, expect, it } from 'vitest'
import { randomDrawing, randomFrom } from '../testing/outlines.ts'
import { itInTurn } from '../testing/turns.ts'
import {
  alongChain,
  arcBetween,
  arcThrough,
  areaUnder,
  arranged,
  boxesMeet,
  boxOfSegment,
  type Chain,
  carried,
  chainLength,
  circleSegment,
  crossings,
  type DrawnCurve,
  directionAt,
  distance2,
  endOf,
  type Face,
  flattened,
  flattenedChain,
  insideRings,
  lengthOf,
  line,
  meetingPairs,
  nearestOn,
  offsetLoops,
  outlineOf,
  pointAt,
  pointInside,
  reversed,
  ringArea,
  type Segment,
  segmentReach,
  startOf,
  stretch,
  type Vec2,
  widened,
  winding,
} from './index.ts'

const ellipse: Segment = { kind: 'ellipse', centre: [3, 4], major: [5, 0], minor: [0, 2], startRad: 0.3, sweepRad: 2.1 }
const cubic: Segment = {
  kind: 'cubic',
  points: [
    [0, 0],
    [2, 6],
    [7, -3],
    [9, 4],
  ],
}
const every: readonly [string, Segment][] = [
  ['line', line([1, 2], [5, -3])],
  ['arc', arcBetween([2, 1], [7, 1], [2, 6], true)],
  ['clockwise arc', arcBetween([2, 1], [2, 6], [7, 1], false)],
  ['ellipse', ellipse],
  ['cubic', cubic],
]
const rectangle = (x: number, y: number, w: number, h: number, id = 'r'): DrawnCurve[] => {
  const p: Vec2[] = [
    [x, y],
    [x + w, y],
    [x + w, y + h],
    [x, y + h],
  ]
  return p.map((from, i) => ({ id: `${id}${i}`, segments: [line(from, p[(i + 1) % 4]!)] }))
}
const circle = (id: string, centre: Vec2, radius: number): DrawnCurve => ({
  id,
  segments: [circleSegment(centre, radius)],
})
const areaOf = (loops: readonly Chain[]) =>
  loops.flatMap(({ segments }) => segments).reduce((sum, s) => sum + areaUnder(s), 0)
const usual = (faces: readonly Face[]) => faces.filter(({ depth }) => depth % 2 === 0)

describe.each(every)('a %s', (_, s) => {
  it('run backwards or in two stretches is the same curve', () => {
    for (const t of [0, 0.2, 0.5, 1]) expect(distance2(pointAt(s, t), pointAt(reversed(s), 1 - t))).toBeLessThan(1e-12)
    const parts = [stretch(s, 0, 0.37), stretch(s, 0.37, 1)]
    expect(distance2(endOf(parts[0]!), startOf(parts[1]!))).toBeLessThan(1e-12)
    expect(areaUnder(parts[0]!) + areaUnder(parts[1]!)).toBeCloseTo(areaUnder(s), 10)
    expect(lengthOf(parts[0]!) + lengthOf(parts[1]!)).toBeCloseTo(lengthOf(s), 5)
  })
  it('has the area under it of its chords, as these grow many', () => {
    const points = Array.from({ length: 20_001 }, (_, i) => pointAt(s, i / 20_000))
    const sum = points.slice(1).reduce((total, p, i) => total + areaUnder(line(points[i]!, p)), 0)
    expect(areaUnder(s)).toBeCloseTo(sum, 6)
  })
  it('reaches as far as its farthest point, and is nearest where it is nearest', () => {
    const points = Array.from({ length: 20_001 }, (_, i) => pointAt(s, i / 20_000))
    for (const d of [
      [1, 0],
      [0, 1],
      [-0.6, 0.8],
    ] as const)
      expect(segmentReach(s, d)).toBeCloseTo(Math.max(...points.map((p) => p[0] * d[0] + p[1] * d[1])), 6)
    for (const p of [
      [0, 0],
      [4, 3],
      [9, 9],
    ] as const)
      expect(nearestOn(s, p).distance).toBeCloseTo(Math.min(...points.map((q) => distance2(p, q))), 5)
  })
  it('is broken into flats that stay within the fineness, on the side that is asked for', () => {
    for (const grow of [true, false]) {
      const flats = [...flattened(s, 0.01, grow), endOf(s)]
      for (let i = 1; i < flats.length; i++)
        for (const share of [0, 0.25, 0.5, 0.75]) {
          const p: Vec2 = [
            flats[i - 1]![0] + (flats[i]![0] - flats[i - 1]![0]) * share,
            flats[i - 1]![1] + (flats[i]![1] - flats[i - 1]![1]) * share,
          ]
          const near = nearestOn(s, p)
          expect(near.distance).toBeLessThan(0.0125)
          const q = pointAt(s, near.t)
          const ahead = pointAt(s, Math.min(1, near.t + 1e-4))
          const behind = pointAt(s, Math.max(0, near.t - 1e-4))
          const left = (ahead[0] - behind[0]) * (p[1] - q[1]) - (ahead[1] - behind[1]) * (p[0] - q[0])
          // Material lies on the left: it never loses any where it is to grow.
          if (near.distance > 1e-6) expect(left > 0).toBe(!grow)
        }
    }
  })
})

describe('a flat ellipse', () => {
  it('has the points on it at no distance', () => {
    const random = randomFrom(8)
    for (let run = 0; run < 400; run++) {
      const [long, thin, turn] = [5 + 30 * random(), 0.05 + random(), 7 * random()]
      const [c, s] = [Math.cos(turn), Math.sin(turn)]
      const flat: Segment = {
        kind: 'ellipse',
        centre: [15.3, -4.1],
        major: [long * c, long * s],
        minor: [-thin * s, thin * c],
        startRad: 0.7,
        sweepRad: 2 * Math.PI,
      }
      // On it, and so at no distance from it.
      expect(nearestOn(flat, pointAt(flat, random())).distance).toBeLessThan(1e-9)
    }
  })
})

describe('crossings', () => {
  it('of lines and arcs are exact', () => {
    expect(crossings(line([0, 0], [4, 4]), line([0, 4], [4, 0]), 1e-9)).toEqual([{ t: 0.5, u: 0.5, at: [2, 2] }])
    const met = crossings(line([-5, 3], [5, 3]), circleSegment([0, 0], 5), 1e-9)
    expect(met.map(({ at }) => at[0])).toEqual([-4, 4])
    expect(
      crossings(circleSegment([0, 0], 5), circleSegment([8, 0], 5), 1e-9)
        .map(({ at }) => Math.round(at[1] * 1e9) / 1e9)
        .sort(),
    ).toEqual([-3, 3])
  })
  it('are found where curves touch, and where an end lies on another curve', () => {
    expect(crossings(line([-5, 5], [5, 5]), circleSegment([0, 0], 5), 1e-6)).toHaveLength(1)
    expect(crossings(line([0, 0], [0, 5]), line([-5, 5], [5, 5]), 1e-9)).toHaveLength(1)
    expect(crossings(line([0, 0], [1, 0]), line([0, 1], [1, 1]), 1e-9)).toEqual([])
  })
  it('of a cubic with a line lie on both', () => {
    const l = line([0, 1], [9, 1.5])
    const met = crossings(cubic, l, 1e-9)
    expect(met).toHaveLength(3)
    for (const { t, u } of met) expect(distance2(pointAt(cubic, t), pointAt(l, u))).toBeLessThan(1e-9)
  })
  it('of cubics and ellipses are all that many chords find', () => {
    const random = randomFrom(11)
    const place = (): Vec2 => [random() * 20, random() * 20]
    const bent = (): Segment => {
      if (random() < 0.7) return { kind: 'cubic', points: [place(), place(), place(), place()] }
      const [r, q] = [2 + 8 * random(), 1 + 5 * random()]
      return {
        kind: 'ellipse',
        centre: place(),
        major: [r, 0],
        minor: [0, q],
        startRad: 6 * random(),
        sweepRad: 1 + 5 * random(),
      }
    }
    let all = 0
    for (let round = 0; round < 150; round++) {
      const [a, b] = [bent(), bent()]
      const met = crossings(a, b, 1e-7)
      for (const { t, u, at } of met) {
        expect(distance2(pointAt(a, t), pointAt(b, u))).toBeLessThan(1e-7)
        expect(distance2(pointAt(a, t), at)).toBeLessThan(1e-7)
      }
      const chords = (s: Segment) =>
        Array.from({ length: 400 }, (_, i) => line(pointAt(s, i / 400), pointAt(s, (i + 1) / 400)))
      const [p, q] = [chords(a), chords(b)]
      const boxes = [...p, ...q].map(boxOfSegment)
      for (const [i, k] of meetingPairs(boxes, 0)) {
        if (i >= 400 || k < 400) continue
        const [cross] = crossings(p[i]!, q[k - 400]!, 1e-12)
        if (!cross) continue
        all++
        expect(met.some(({ at }) => distance2(at, cross.at) < 0.05)).toBe(true)
      }
    }
    expect(all).toBeGreaterThan(100)
  })
  it('are found just beside the end of a curve, where the chords of the other one do not reach', () => {
    const round = circleSegment([13.35891385562718, 6.130543313920498], 3.8313880977220833)
    const bent: Segment = {
      kind: 'cubic',
      points: [
        [17.26624393361365, 7.223952319201626],
        [17.281962384853564, 6.924311887157788],
        [17.261592826049082, 6.634326230084669],
        [17.182863707513878, 6.3609767598092315],
      ],
    }
    // It begins 0.2 mm outside of the circle and ends 0.0005 mm within it.
    expect(crossings(round, bent, 1e-6)).toHaveLength(1)
    expect(crossings(bent, round, 1e-6)).toHaveLength(1)
  })
  it('pairs of boxes that meet are those that a comparison of all finds', () => {
    const random = randomFrom(3)
    const boxes = Array.from({ length: 120 }, () => {
      const [x, y] = [random() * 30, random() * 30]
      return { min: [x, y] as Vec2, max: [x + 3 * random(), y + 3 * random()] as Vec2 }
    })
    const wanted = boxes.flatMap((a, i) => boxes.flatMap((b, k) => (k > i && boxesMeet(a, b, 0.2) ? [[i, k]] : [])))
    expect(meetingPairs(boxes, 0.2)).toEqual(wanted)
  })
})

describe('regions', () => {
  it('have holes by nesting, and islands in holes', () => {
    const drawing = [...rectangle(0, 0, 40, 30), circle('a', [20, 15], 10), circle('b', [20, 15], 4)]
    const { faces, loose, crossed } = arranged(drawing)
    expect(loose).toEqual([])
    expect(crossed).toEqual([])
    expect(faces.map(({ depth }) => depth).sort()).toEqual([0, 1, 2])
    const filled = outlineOf(arranged(drawing), usual(faces))
    expect(areaOf(filled)).toBeCloseTo(1200 - 100 * Math.PI + 16 * Math.PI, 9)
  })
  it('that overlap are faces of their own, filled together', () => {
    const drawing = [circle('a', [0, 0], 5), circle('b', [6, 0], 5)]
    const arrangement = arranged(drawing)
    expect(arrangement.faces).toHaveLength(3)
    expect(arrangement.crossed).toHaveLength(2)
    const half = Math.acos(3 / 5)
    const lens = 2 * (25 * half - 3 * 4)
    expect(areaOf(outlineOf(arrangement, arrangement.faces))).toBeCloseTo(50 * Math.PI - lens, 9)
    expect(outlineOf(arrangement, arrangement.faces)).toHaveLength(1)
    const only = arrangement.faces.find(({ area }) => Math.abs(area - lens) < 1e-9)!
    expect(areaOf(outlineOf(arrangement, [only]))).toBeCloseTo(lens, 9)
    expect(new Set(arrangement.faces.map(({ key }) => key)).size).toBe(3)
  })
  it('of circles that touch within each other are a disc and what is left round it, whichever way they are drawn', () => {
    for (const rad of [0, Math.PI / 2, Math.PI, -Math.PI / 2, 0.651, 3.9]) {
      const [R, r] = [8.3, 3.7]
      const touch: Vec2 = [15.3 + R * Math.cos(rad), -7.1 + R * Math.sin(rad)]
      // By as little as numbers are rounded by, one may leave that point to the other side of a whole turn.
      const round = (id: string, radius: number, turned: boolean, off = 0): DrawnCurve => {
        const centre: Vec2 = [touch[0] - radius * Math.cos(rad) + off, touch[1] - radius * Math.sin(rad) + off]
        const far: Vec2 = [2 * centre[0] - touch[0], 2 * centre[1] - touch[1]]
        const halves = [arcBetween(centre, touch, far, true), arcBetween(centre, far, touch, true)]
        return { id, segments: turned ? halves.map(reversed).reverse() : halves }
      }
      for (const turned of [
        [false, false],
        [false, true],
        [true, false],
        [true, true],
      ] as const) {
        for (const off of [-8e-15, 0, 8e-15]) {
          const { faces } = arranged([round('a', R, turned[0]), round('b', r, turned[1], off)])
          const areas = faces.map(({ area }) => area).sort((one, other) => one - other)
          expect(areas, `${rad} ${turned} ${off}`).toEqual([
            expect.closeTo(Math.PI * r ** 2, 6),
            expect.closeTo(Math.PI * (R ** 2 - r ** 2), 6),
          ])
        }
      }
    }
  })
  it('that share an edge become one', () => {
    const drawing = [...rectangle(0, 0, 10, 10, 'a'), ...rectangle(10, 0, 10, 10, 'b')]
    const arrangement = arranged(drawing)
    expect(arrangement.faces).toHaveLength(2)
    const [loop, ...others] = outlineOf(arrangement, arrangement.faces)
    expect(others).toEqual([])
    expect(areaOf([loop!])).toBeCloseTo(200, 9)
  })
  it('two holes in one plate are both holes of it', () => {
    const { faces } = arranged([...rectangle(0, 0, 40, 20), circle('a', [10, 10], 3), circle('b', [30, 10], 3)])
    expect(faces.find(({ depth }) => depth === 0)!.holes).toHaveLength(2)
  })
  it('tell ends that meet nothing, and by how much they miss', () => {
    const drawing = rectangle(0, 0, 10, 10)
    const gap: DrawnCurve = { id: 'r3', segments: [line([0, 10], [0, 0.2])] }
    const { faces, loose, open } = arranged([...drawing.slice(0, 3), gap])
    expect(faces).toEqual([])
    expect(loose.map(({ near }) => near?.distance)).toEqual([expect.closeTo(0.2, 9), expect.closeTo(0.2, 9)])
    expect(open).toHaveLength(1)
    expect(open[0]!.segments).toHaveLength(4)
    expect(startOf(open[0]!.segments[0]!)).toEqual([0, 0])
  })
  it('a line across a plate divides it, and what sticks out bounds nothing', () => {
    const arrangement = arranged([...rectangle(0, 0, 10, 10), { id: 'x', segments: [line([-3, 5], [13, 5])] }])
    expect(arrangement.faces.map(({ area }) => area)).toEqual([expect.closeTo(50, 9), expect.closeTo(50, 9)])
    expect(arrangement.loose).toHaveLength(2)
    expect(areaOf(outlineOf(arrangement, arrangement.faces))).toBeCloseTo(100, 9)
  })
  it('are closed off by one curve that crosses itself, and the crossing is told', () => {
    const loop: Segment = {
      kind: 'cubic',
      points: [
        [0, 0],
        [30, 20],
        [-20, 20],
        [10, 0],
      ],
    }
    const { faces, crossed } = arranged([{ id: 'x', segments: [loop] }])
    expect(crossed.map(({ curves }) => curves)).toEqual([['x', 'x']])
    // By symmetry it crosses at x = 5.
    expect(crossed[0]!.at[0]).toBeCloseTo(5, 6)
    expect(faces).toHaveLength(1)
    const plain: Segment = {
      kind: 'cubic',
      points: [
        [0, 0],
        [3, 8],
        [7, 8],
        [10, 0],
      ],
    }
    expect(arranged([{ id: 'y', segments: [plain] }]).crossed).toEqual([])
  })
  itInTurn(2, 'do not depend on how the drawing lies, in which order and in how many pieces it was drawn', () => {
    for (let seed = 1; seed <= 60; seed++) {
      const random = randomFrom(seed)
      const drawing = randomDrawing(random)
      const { faces } = arranged(drawing)
      const area = (of: readonly Face[]) => of.reduce((sum, face) => sum + face.area, 0)
      const turn = { origin: [3, -5], u: [Math.cos(0.7), Math.sin(0.7)], v: [-Math.sin(0.7), Math.cos(0.7)] } as const
      const others = {
        shuffled: drawing
          .map((curve) => [random(), curve] as const)
          .sort(([a], [b]) => a - b)
          .map(([, curve]) => curve),
        backwards: drawing.map(({ id, segments }) => ({ id, segments: segments.map(reversed).reverse() })),
        turned: drawing.map(({ id, segments }) => ({ id, segments: segments.map((s) => carried(s, turn)) })),
        twice: [...drawing, ...drawing.map((curve) => ({ ...curve, id: `${curve.id}-again` }))],
        split: drawing.map(({ id, segments }) => ({
          id,
          segments: segments.flatMap((s) => {
            const t = 0.2 + 0.6 * random()
            return [stretch(s, 0, t), stretch(s, t, 1)]
          }),
        })),
      }
      for (const [how, other] of Object.entries(others)) {
        const found = arranged(other).faces
        expect([seed, how, found.length]).toEqual([seed, how, faces.length])
        expect(Math.abs(area(found) - area(faces))).toBeLessThan(1e-6 * area(faces))
      }
    }
  })
  it('drawn twice over one another count once', () => {
    const { faces } = arranged([...rectangle(0, 0, 10, 10, 'a'), ...rectangle(0, 0, 10, 10, 'b')])
    expect(faces).toHaveLength(1)
  })
})

describe('offsets', () => {
  const loops = (curves: readonly DrawnCurve[]) => {
    const arrangement = arranged(curves)
    return outlineOf(arrangement, usual(arrangement.faces))
  }
  it.each([
    [37.3, 'a point'],
    [21, 'a point'],
    [19, 'a round'],
    [7.1, 'a round'],
  ])('goes on at a sharp corner of %s° to %s', (degrees, end) => {
    const half = ((degrees / 2) * Math.PI) / 180
    const wide = 60 * Math.sin(half)
    const corners = [
      [0, 0],
      [60 * Math.cos(half), -wide],
      [60 * Math.cos(half), wide],
    ] as const
    const spike = loops([{ id: 's', segments: polygon(corners) }])
    const by = 1.3
    const grown = offsetLoops(spike, by, 'sharp')
    const left = Math.min(...grown.flatMap(({ segments }) => segments.map((s) => pointAt(s, 0)[0])))
    const arcs = grown.flatMap(({ segments }) => segments.filter(({ kind }) => kind === 'arc'))
    if (end === 'a point') {
      expect(arcs).toEqual([])
      expect(left).toBeCloseTo(-by / Math.sin(half), 9)
    } else {
      expect(arcs).toHaveLength(1)
      expect(arcs[0]?.kind === 'arc' && arcs[0].radius).toBeCloseTo(by, 9)
    }
  })
  it('of a rectangle outwards are rounded or sharp, inwards sharp', () => {
    const plate = loops(rectangle(0, 0, 40, 30))
    expect(areaOf(offsetLoops(plate, 2, 'round'))).toBeCloseTo(1200 + 2 * 2 * 70 + 4 * Math.PI, 9)
    expect(areaOf(offsetLoops(plate, 2, 'sharp'))).toBeCloseTo(44 * 34, 9)
    expect(areaOf(offsetLoops(plate, -2, 'round'))).toBeCloseTo(36 * 26, 9)
    expect(offsetLoops(plate, -16, 'round')).toEqual([])
  })
  it('of a plate with a hole grow the one and shrink the other', () => {
    const plate = loops([...rectangle(0, 0, 40, 30), circle('a', [20, 15], 8)])
    expect(areaOf(offsetLoops(plate, 2, 'sharp'))).toBeCloseTo(44 * 34 - 36 * Math.PI, 9)
    expect(areaOf(offsetLoops(plate, -2, 'sharp'))).toBeCloseTo(36 * 26 - 100 * Math.PI, 9)
    expect(offsetLoops(plate, 9, 'sharp')).toHaveLength(1)
  })
  it('that meet fall into two', () => {
    // A dumbbell with a neck 4 wide.
    const dumbbell = loops([
      {
        id: 'd',
        segments: polygon([
          [0, 0],
          [20, 0],
          [20, 8],
          [30, 8],
          [30, 0],
          [50, 0],
          [50, 20],
          [30, 20],
          [30, 12],
          [20, 12],
          [20, 20],
          [0, 20],
        ]),
      },
    ])
    const inner = offsetLoops(dumbbell, -3, 'round')
    expect(inner).toHaveLength(2)
    // Each square bulges into the mouth of the neck, as far as its corners are 3 away.
    const bulge = 2 * (6 - (Math.sqrt(5) + 4.5 * Math.asin(2 / 3)))
    expect(areaOf(inner)).toBeCloseTo(2 * (14 * 14 + bulge), 9)
  })
  itInTurn(2, 'of random drawings hold what lies within their distance, and nothing else', () => {
    for (let seed = 1; seed <= 40; seed++) {
      const random = randomFrom(seed)
      const drawn = loops(randomDrawing(random))
      const rings = (of: readonly Chain[]) => of.map(({ segments }) => flattenedChain(segments, true, 0.0005, false))
      const [by, own] = [[0.5, 2, -0.5, -2][seed % 4]!, rings(drawn)]
      const grown = rings(offsetLoops(drawn, by, 'round'))
      for (let i = 0; i < 150; i++) {
        const p: Vec2 = [70 * random() - 15, 70 * random() - 15]
        const far = Math.min(...drawn.flatMap(({ segments }) => segments.map((s) => nearestOn(s, p).distance)))
        // Fitted cubics lie a little beside the true parallel.
        if (Math.abs(far - Math.abs(by)) < 0.02) continue
        const inside = insideRings(own, p)
        const wanted = by > 0 ? inside || far < by : inside && far > -by
        expect([seed, by, p, insideRings(grown, p)]).toEqual([seed, by, p, wanted])
      }
    }
  })
  it('of an open line make a wall of it', () => {
    const chain: Chain = {
      segments: [line([0, 0], [20, 0]), line([20, 0], [20, 10])],
      curves: ['a', 'b'],
      closed: false,
    }
    expect(areaOf(widened(chain, 1, 1, 'square', 'sharp'))).toBeCloseTo(2 * 20 + 2 * 10 + 0, 9)
    expect(areaOf(widened(chain, 1, 1, 'round', 'sharp'))).toBeCloseTo(60 + Math.PI, 9)
    expect(areaOf(widened(chain, 0, 2, 'square', 'sharp'))).toBeCloseTo(64, 9)
  })
  it('of a circle are rings, and of a curve lie at their distance', () => {
    const round: Chain = { segments: [circleSegment([0, 0], 10)], curves: ['a'], closed: true }
    expect(areaOf(widened(round, 1, 2, 'square', 'sharp'))).toBeCloseTo(Math.PI * (144 - 81), 8)
    const wave: Segment = {
      kind: 'cubic',
      points: [
        [0, 0],
        [10, 8],
        [20, -8],
        [30, 0],
      ],
    }
    const [wall] = widened({ segments: [wave], curves: ['a'], closed: false }, 0.8, 0.8, 'square', 'sharp')
    const ring = flattenedChain(wall!.segments, true, 0.001, false)
    for (const p of ring.filter(([x]) => x > 1 && x < 29))
      expect(Math.abs(nearestOn(wave, p).distance - 0.8)).toBeLessThan(2e-3)
    expect(ringArea(ring)).toBeCloseTo(1.6 * lengthOf(wave), 1)
  })
})

describe('arcs', () => {
  it('through three points run through them in order', () => {
    const s = arcThrough([0, 0], [5, 5], [10, 0])!
    expect(s.radius).toBeCloseTo(5, 12)
    expect(distance2(pointAt(s, 0.5), [5, 5])).toBeLessThan(1e-12)
    expect(arcThrough([0, 0], [1, 1], [2, 2])).toBeUndefined()
  })
})

function polygon(points: readonly Vec2[]): Segment[] {
  return points.map((p, i) => line(p, points[(i + 1) % points.length]!))
}

describe('a point inside rings', () => {
  const bar = (wide: number, x: number) =>
    [
      [x, 0],
      [x + wide, 0],
      [x + wide, 9.1],
      [x, 9.1],
    ] as const
  it('lies in the middle of where they are widest, outside of holes', () => {
    const [x, y] = pointInside([bar(15.3, -4.2)])!
    expect(x).toBeCloseTo(-4.2 + 15.3 / 2, 9)
    expect(y).toBeGreaterThan(0)
    expect(y).toBeLessThan(9.1)
    const hole = [...bar(6, 1 / 3)].reverse().map(([p, q]) => [p, q / 2 + 2] as const)
    const both = [bar(15.3, -4.2), hole]
    const beside = pointInside(both)!
    expect(insideRings(both, beside)).toBe(true)
  })
  it('is none where they have no room', () => {
    expect(pointInside([])).toBeUndefined()
    expect(pointInside([bar(1e-8, 3)])).toBeUndefined()
    expect(
      pointInside([
        [
          [0, 1],
          [5, 1],
          [9, 1],
        ],
      ]),
    ).toBeUndefined()
  })
})

describe('how often a ring winds about a point', () => {
  it('counts each of its corners once, at whatever height that lies', () => {
    const diamond: readonly Vec2[] = [
      [1, 0],
      [0, 1],
      [-1, 0],
      [0, -1],
    ]
    for (const [x, y, turns] of [
      [0, 0, 1],
      [-2, 0, 0],
      [2, 0, 0],
      [0.3, 0, 1],
      [0, 1.5, 0],
      [-1, 1, 0],
    ] as const) {
      expect(winding(diamond, [x, y]), `${x} ${y}`).toBe(turns)
      expect(winding([...diamond].reverse(), [x, y]), `${x} ${y}`).toBe(-turns + 0)
    }
  })
})

describe('places along a chain', () => {
  it('of a curve are as far along it as was asked', () => {
    const curve: Segment = {
      kind: 'cubic',
      points: [
        [0, 0],
        [4, 9],
        [15.3, -7],
        [20, 3.1],
      ],
    }
    const chain = { segments: [line([-10, 0], [0, 0]), curve, line([20, 3.1], [30, 3.1])] }
    const long = lengthOf(curve)
    for (const share of [0.1, 1 / 3, 0.5, 0.9]) {
      const { at } = alongChain(chain, 10 + share * long)
      const t = nearestOn(curve, at).t
      expect(lengthOf(stretch(curve, 0, t)) / long).toBeCloseTo(share, 5)
      expect(nearestOn(curve, at).distance).toBeLessThan(1e-6)
    }
    expect(alongChain(chain, chainLength(chain) + 5).at).toEqual([30, 3.1])
  })
})

it('nothing drawn is no points, open or closed', () => {
  expect(flattenedChain([], false, 0.01, false)).toEqual([])
  expect(flattenedChain([], true, 0.01, false)).toEqual([])
})

it('a cubic that stands still at its ends goes on the way of what follows', () => {
  const [a, b] = [
    [1.3, -2],
    [7.9, 4.4],
  ] as const
  const way = [6.6, 6.4].map((x) => x / Math.hypot(6.6, 6.4))
  const still: Segment = { kind: 'cubic', points: [a, a, b, b] }
  for (const t of [0, 1]) for (const k of [0, 1] as const) expect(directionAt(still, t)[k]).toBeCloseTo(way[k]!, 4)
})
