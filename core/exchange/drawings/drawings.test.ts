import { describe, expect, it } from 'vitest'
import { type OutlineValues, solveOutline } from '../../outline/index.ts'
import {
  arcBetween,
  areaUnder,
  arranged,
  type Chain,
  endOf,
  outlineOf,
  type Segment,
  segmentReach,
  startOf,
} from '../../plane/index.ts'
import { codeOf } from '../../testing/index.ts'
import { circleCurve, emptyOutline, randomFrom, rectangleCurves } from '../../testing/outlines.ts'
import { unsoundNote } from './define.ts'
import { drawingFormats, drawnInto, type ReadDrawing } from './index.ts'

const [svg, dxf] = drawingFormats
const empty = emptyOutline()
const given: OutlineValues = { values: new Map(), taken: new Map(), fields: new Map() }

/** The area of the regions that nesting fills. */
function area(chains: readonly (readonly Segment[])[]): number {
  const arrangement = arranged(chains.map((segments, i) => ({ id: `c${i}`, segments })))
  const loops: readonly Chain[] = outlineOf(
    arrangement,
    arrangement.faces.filter(({ depth }) => depth % 2 === 0),
  )
  return loops.flatMap(({ segments }) => segments).reduce((sum, s) => sum + areaUnder(s), 0)
}
const page = (body: string, size = 'width="100mm" height="80mm" viewBox="0 0 100 80"') =>
  `<svg xmlns="http://www.w3.org/2000/svg" ${size}>${body}</svg>`
const entities = (body: string, units = '4') =>
  `0\nSECTION\n2\nHEADER\n9\n$INSUNITS\n70\n${units}\n0\nENDSEC\n0\nSECTION\n2\nENTITIES\n${body}0\nENDSEC\n0\nEOF\n`
const pairs = (...list: (number | string)[]) => `${list.join('\n')}\n`

describe('SVG', () => {
  it('reads simple shapes and paths in mm, y up', () => {
    const { chains, notes } = svg.read(page('<rect x="10" y="10" width="40" height="20"/>'))
    expect(notes).toEqual([])
    expect(area(chains)).toBeCloseTo(800, 9)
    expect(Math.max(...chains[0]!.map((s) => segmentReach(s, [0, 1])))).toBeCloseTo(-10, 9)
    expect(area(svg.read(page('<circle cx="50" cy="40" r="10"/>')).chains)).toBeCloseTo(100 * Math.PI, 9)
    expect(area(svg.read(page('<ellipse cx="50" cy="40" rx="10" ry="5"/>')).chains)).toBeCloseTo(50 * Math.PI, 6)
    expect(area(svg.read(page('<rect x="0" y="0" width="40" height="20" rx="5"/>')).chains)).toBeCloseTo(
      800 - (4 - Math.PI) * 25,
      9,
    )
    expect(area(svg.read(page('<polygon points="0,0 10,0 10,10"/>')).chains)).toBeCloseTo(50, 9)
    // The area under a parabola is two thirds of its box.
    expect(area(svg.read(page('<path d="M0 0 Q 10 20 20 0 Z"/>')).chains)).toBeCloseTo((2 / 3) * 20 * 10, 9)
    expect(area(svg.read(page('<path d="m0,0 h10 v10 h-10 z m2,2 h2 v2 h-2 z"/>')).chains)).toBeCloseTo(96, 9)
  })
  it('carries transforms and groups, and what is used again', () => {
    const turned = svg.read(
      page('<g transform="translate(20 20)"><g transform="rotate(30) scale(2)"><rect width="10" height="5"/></g></g>'),
    )
    expect(area(turned.chains)).toBeCloseTo(200, 9)
    const skewed = svg.read(page('<circle r="5" transform="matrix(2 0 0 1 30 30)"/>'))
    expect(area(skewed.chains)).toBeCloseTo(50 * Math.PI, 6)
    const used = svg.read(
      page(
        '<defs><rect id="a" width="4" height="4"/></defs><use href="#a" x="10"/><use href="#a" x="20" transform="scale(2)"/>',
      ),
    )
    expect(area(used.chains)).toBeCloseTo(16 + 64, 9)
  })
  it('makes arcs as large as they must be to reach their ends', () => {
    const half = (path: string) => area(svg.read(page(`<path d="${path}"/>`)).chains)
    // A half circle over its chord, whichever way that lies; of an ellipse, half of one with the same proportion.
    expect(half('M10 10 A5 5 0 0 1 40 30 Z')).toBeCloseTo((Math.PI * (30 ** 2 + 20 ** 2)) / 8, 6)
    expect(half('M10 40 A5 5 0 0 0 25.3 13.1 Z')).toBeCloseTo((Math.PI * (15.3 ** 2 + 26.9 ** 2)) / 8, 6)
    const grown = Math.hypot(15 / 4, 10 / 2)
    expect(half('M10 10 A4 2 0 0 1 40 30 Z')).toBeCloseTo((Math.PI * 4 * 2 * grown ** 2) / 2, 6)
  })
  it('knows units and what is shown of the drawing', () => {
    expect(
      area(svg.read(page('<rect width="10" height="10"/>', 'width="2in" height="2in" viewBox="0 0 20 20"')).chains),
    ).toBeCloseTo(25.4 ** 2, 6)
    // As wide as an inch, in each unit that a drawing may be measured in.
    for (const size of ['25.4mm', '2.54cm', '1in', '72pt', '6pc', '96px', '96', '101.6q']) {
      const inch = svg.read(
        page('<rect width="10" height="10"/>', `width="${size}" height="${size}" viewBox="0 0 10 10"`),
      )
      expect(area(inch.chains), size).toBeCloseTo(25.4 ** 2, 6)
    }
    const bare = svg.read(page('<rect width="96" height="96"/>', ''))
    expect(area(bare.chains)).toBeCloseTo(25.4 ** 2, 6)
    expect(bare.notes[0]).toMatch(/96 of its units/)
    // A view of no width shows nothing, so that it tells no scale.
    for (const box of ['0 0 0 20', '0 0 20 -1', '0 0 20', '0 0 20 x']) {
      const plain = svg.read(page('<rect width="96" height="96"/>', `width="2in" height="2in" viewBox="${box}"`))
      expect(area(plain.chains), box).toBeCloseTo(25.4 ** 2, 6)
    }
    expect(area(svg.read(page('<rect width="96" height="96"/>', ''), { mmPerUnit: 1 }).chains)).toBeCloseTo(9216, 6)
  })
  it('leaves out what is not to be seen, and says what it cannot take over', () => {
    const { chains, notes } = svg.read(
      page('<rect width="9" height="9" style="display:none"/><text>Port</text><line x1="0" y1="0" x2="5" y2="0"/>'),
    )
    expect(chains).toHaveLength(1)
    expect(notes[0]).toMatch(/Words/)
  })
  it('reads what is nested as deep as drawings are, and says how much it left out', () => {
    const nested = (deep: number) => `${'<g>'.repeat(deep)}<rect width="9" height="8"/>${'</g>'.repeat(deep)}`
    for (const deep of [1, 19, 35]) expect(svg.read(page(nested(deep))).chains).toHaveLength(1)
    expect(unsoundNote(1)).toMatch(/^1 stretch was left out/)
    expect(unsoundNote(3)).toMatch(/^3 stretches were left out/)
  })
  it('leaves out lines that lead nowhere, and with nothing but these there is no drawing', () => {
    const nowhere = '<line x1="3.1" y1="4" x2="3.1" y2="4"/><path d="M 1 1 L 9e30 2"/>'
    const { chains, notes } = svg.read(page(`${nowhere}<line x1="0" y1="0" x2="5" y2="0"/>`))
    expect(chains.map((chain) => chain.length)).toEqual([1])
    expect(notes).toEqual([unsoundNote(1)])
    expect(codeOf(() => svg.read(page(nowhere)))).toBe('drawing-empty')
  })
  it('refuses bombs and nonsense with plain words', () => {
    const deep = `${'<g>'.repeat(200)}<rect width="1" height="1"/>${'</g>'.repeat(200)}`
    expect(() => svg.read(page(deep))).toThrow(/nested|cannot be read/)
    expect(() => svg.read(page('<rect width="1" height="1"/>'.repeat(25_000)))).toThrow(/more than/)
    expect(() => svg.read(`<!DOCTYPE svg [<!ENTITY a "aaaa"><!ENTITY b "&a;&a;">]>${page('')}`)).toThrow(/entities/)
    const loop = page('<g id="a"><use href="#b"/></g><g id="b"><use href="#a"/></g>')
    expect(() => svg.read(loop)).toThrow(/nested/)
    expect(() => svg.read('<svg')).toThrow(/well formed/)
    expect(() => svg.read('<html></html>')).toThrow(/no svg/)
    expect(() => svg.read(page(''))).toThrow(/no lines/)
    expect(svg.read(page('<path d="M0 0 L10 0 nonsense"/><rect width="1" height="1"/>')).chains.length).toBeGreaterThan(
      0,
    )
  })
})

describe('DXF', () => {
  it('reads lines, arcs, circles and polylines with bulges', () => {
    const square = [
      [0, 0, 10, 0],
      [10, 0, 10, 10],
      [10, 10, 0, 10],
      [0, 10, 0, 0],
    ]
      .map(([a, b, c, d]) => pairs(0, 'LINE', 8, 0, 10, a!, 20, b!, 11, c!, 21, d!))
      .join('')
    expect(area(dxf.read(entities(square)).chains)).toBeCloseTo(100, 9)
    expect(area(dxf.read(entities(pairs(0, 'CIRCLE', 8, 0, 10, 5, 20, 5, 40, 3))).chains)).toBeCloseTo(9 * Math.PI, 9)
    const half =
      pairs(0, 'ARC', 8, 0, 10, 0, 20, 0, 40, 5, 50, 0, 51, 180) + pairs(0, 'LINE', 8, 0, 10, -5, 20, 0, 11, 5, 21, 0)
    expect(area(dxf.read(entities(half)).chains)).toBeCloseTo(12.5 * Math.PI, 6)
    const slot = pairs(
      0,
      'LWPOLYLINE',
      8,
      0,
      90,
      4,
      70,
      1,
      10,
      0,
      20,
      0,
      10,
      20,
      20,
      0,
      42,
      1,
      10,
      20,
      20,
      8,
      10,
      0,
      20,
      8,
      42,
      1,
    )
    expect(area(dxf.read(entities(slot)).chains)).toBeCloseTo(160 + 16 * Math.PI, 6)
  })
  it('knows its units, and says where none are stated', () => {
    const circle = pairs(0, 'CIRCLE', 8, 0, 10, 0, 20, 0, 40, 1)
    expect(area(dxf.read(entities(circle, '1')).chains)).toBeCloseTo(Math.PI * 25.4 ** 2, 6)
    const bare = dxf.read(entities(circle, '0'))
    expect(bare.notes[0]).toMatch(/taken as millimetres/)
    expect(area(bare.chains)).toBeCloseTo(Math.PI, 9)
    expect(area(dxf.read(entities(circle, '0'), { mmPerUnit: 25.4 }).chains)).toBeCloseTo(Math.PI * 25.4 ** 2, 6)
  })
  it('refuses what it cannot read', () => {
    expect(() => dxf.read('hello')).toThrow()
    expect(() => dxf.read(entities(''))).toThrow(/no lines/)
    expect(() => dxf.read('AutoCAD Binary DXF\r\n')).toThrow(/binary/)
    expect(() => dxf.read(entities(pairs(0, 'POINT', 8, 0, 10, 0, 20, 0)))).toThrow(/no lines/)
  })
})

describe('an SVG that asks for more work than it is long', () => {
  const moves = `M0 0L9 0L9 9Z${'M1 1'.repeat(20_000)}`
  it.each([
    ['one path used 2,000 times', `<path id="p" d="${moves}"/>${'<use href="#p" x="3"/>'.repeat(2000)}`],
    ['300,000 transforms', `<path d="M0 0L9 0L9 9Z" transform="${'rotate(1)'.repeat(300_000)}"/>`],
    ['one path of a million curves', `<path d="M0 0${'C1 1 2 2 3 3'.repeat(400_000)}"/>`],
  ])(
    'is refused at once: %s',
    (_, body) => {
      expect(codeOf(() => svg.read(page(body)))).toBe('drawing-too-much')
    },
    30_000,
  )
})

it('numbers that are none, or lie beyond all parts, are left out and told', () => {
  const inSvg = svg.read(page('<path d="M0 0L10 0L10 10Z M1 1C1e300 1e300 2 2 3 3L4 4Z"/>'))
  expect(inSvg.notes.join()).toMatch(/left out/)
  const inDxf = dxf.read(
    entities(
      pairs(0, 'LINE', 10, 0, 20, 0, 11, 9, 21, 0) +
        pairs(0, 'CIRCLE', 10, 0, 20, 0, 40, '1e300') +
        pairs(0, 'ARC', 10, 'x', 20, 0, 40, 3, 50, 0, 51, 90),
    ),
  )
  expect(inDxf.notes.join()).toMatch(/left out/)
  const numbers = (value: unknown): number[] =>
    typeof value === 'number'
      ? [value]
      : value && typeof value === 'object'
        ? Object.values(value).flatMap(numbers)
        : []
  for (const { chains } of [inSvg, inDxf]) for (const each of numbers(chains)) expect(Math.abs(each)).toBeLessThan(1e7)
})

describe('a DXF that is long, or says what is not so', () => {
  const corner = (x: number, y: number, ...more: (number | string)[]) => pairs(10, x, ...more, 20, y)
  const polyline = (count: number | string, ...corners: string[]) =>
    entities(pairs(0, 'LWPOLYLINE', 8, 0, 90, count, 70, 1) + corners.join(''))
  const square = [corner(0, 0), corner(20, 0), corner(20, 10), corner(0, 10)]

  it.each([
    ['more corners than it has', polyline(1_000_000_000, ...square)],
    ['fewer', polyline(2, ...square)],
    ['no number', polyline('many', ...square)],
    [
      'something unknown within a corner',
      polyline(4, corner(0, 0, 1234, 'x'), corner(20, 0), corner(20, 10, 999, 'y'), corner(0, 10)),
    ],
    ['something behind each corner', polyline(4, ...square.map((each) => each + pairs(91, 0)))],
    ['half a corner at the end', polyline(5, ...square, pairs(10, 7))],
  ])(
    'is read by what is there: %s',
    (_, text) => {
      expect(area(dxf.read(text).chains)).toBeCloseTo(200, 9)
    },
    30_000,
  )
  it('holds as many lines as it may', () => {
    const lines = Array.from({ length: 12_000 }, (_, i) =>
      pairs(0, 'LINE', 8, 0, 62, 7, 6, 'solid', 10, i, 20, 0, 30, 0, 11, i, 21, 5, 31, 0),
    )
    expect(dxf.read(entities(lines.join(''))).chains).toHaveLength(12_000)
  }, 30_000)
  it('has many empty blocks', () => {
    const blocks = Array.from({ length: 60_000 }, (_, i) =>
      pairs(0, 'BLOCK', 2, `B${i}`, 10, 0, 20, 0, 0, 'ENDBLK'),
    ).join('')
    const text = `0\nSECTION\n2\nBLOCKS\n${blocks}0\nENDSEC\n${entities(pairs(0, 'LINE', 10, 0, 20, 0, 11, 9, 21, 0))}`
    expect(dxf.read(text).chains).toHaveLength(1)
  }, 30_000)
})

describe('what is drawn in', () => {
  const far = (x: number, y: number, size: number): ReadDrawing => ({
    chains: [rectangleCurves(x, y, size, size).flatMap(({ segments }) => segments)],
    notes: [],
  })
  it('is brought to the origin where it lies kilometres away, and told', () => {
    const { outline, notes } = drawnInto(empty, far(4_512_300, 5_400_100, 40))
    expect(outline.points.map(({ at }) => at)).toContainEqual([-20, -20])
    expect(notes).toEqual([
      expect.stringContaining(`${Math.round(Math.hypot(4_512_320, 5_400_120)).toLocaleString('en')} mm away`),
    ])
    expect(drawnInto(empty, far(300, 0, 40)).notes).toEqual([])
    expect(drawnInto(empty, far(3000, 0, 4000)).notes).toEqual([])
  })
  it('is refused where it is larger than any part', () => {
    expect(() => drawnInto(empty, far(0, 0, 250_000))).toThrow('250,000 × 250,000 mm large')
  })
  it('has straight lines for arcs that are all but straight', () => {
    const [a, b] = [[0, 0] as const, [30, 0] as const]
    const flat = arcBetween([15, -1e9], b, a, true)
    expect(drawnInto(empty, { chains: [[flat]], notes: [] }).outline.curves).toMatchObject([{ kind: 'line' }])
  })
})

describe.each(drawingFormats.map((format) => [format.label, format] as const))(
  '%s, written and read again',
  (_, format) => {
    const curves = [
      ...rectangleCurves(0, 0, 60, 40),
      circleCurve([15, 20], 8),
      {
        id: 'e',
        segments: [
          { kind: 'ellipse', centre: [45, 20], major: [4, 3], minor: [-1.8, 2.4], startRad: 0, sweepRad: 2 * Math.PI },
        ] as Segment[],
      },
      {
        id: 'n',
        segments: [
          {
            kind: 'cubic',
            points: [
              [26, 4],
              [34, 4],
              [34, 12],
              [26, 12],
            ],
          },
          { kind: 'line', from: [26, 12], to: [26, 4] },
        ] as Segment[],
      },
    ]
    const whole = area(curves.map(({ segments }) => segments))
    it('has the same area', () => {
      const back = format.read(format.write(curves, 'Sample <1>'))
      expect(back.notes).toEqual([])
      expect(area(back.chains)).toBeCloseTo(whole, 3)
    })
    it('has arcs of ellipses that run either way, and as far', () => {
      for (const minor of [
        [-1.8, 2.4],
        [1.8, -2.4],
      ] as const)
        for (const sweepRad of [1.1, -1.1, 4.2, -4.2]) {
          const arc: Segment = { kind: 'ellipse', centre: [45, 20], major: [4, 3], minor, startRad: 0.4, sweepRad }
          const closed = [
            { id: 'a', segments: [arc, { kind: 'line', from: endOf(arc), to: startOf(arc) }] as Segment[] },
          ]
          const back = format.read(format.write(closed, 'Sample'))
          expect(area(back.chains), `${minor} ${sweepRad}`).toBeCloseTo(area([closed[0]!.segments]), 3)
        }
    })
    it('is an outline with the same area once it is drawn in', () => {
      const { outline, ids } = drawnInto(empty, format.read(format.write(curves, 'Sample')))
      expect(ids.length).toBeGreaterThan(6)
      const solved = solveOutline(outline, given)
      expect(solved.problems).toEqual([])
      expect(solved.arrangement.loose).toEqual([])
      expect(solved.drawn!.area()).toBeCloseTo(whole, 2)
    })
    it('never fails other than by saying so, whatever is changed in the file', () => {
      const text = format.write(curves, 'Sample')
      const random = randomFrom(7)
      for (let i = 0; i < 120; i++) {
        const at = Math.floor(random() * text.length)
        const broken =
          text.slice(0, at) +
          String.fromCharCode(32 + Math.floor(random() * 90)) +
          text.slice(at + Math.floor(random() * 40))
        try {
          format.read(broken)
        } catch (error) {
          expect((error as Error).name).toBe('ProblemError')
        }
      }
    })
  },
)

it('rational splines of a DXF keep their weights: a quarter circle is one', () => {
  const groups = (weights: readonly number[], more: readonly (readonly [number, number | string])[] = []) =>
    [
      ...([
        [0, 'SECTION'],
        [2, 'ENTITIES'],
      ] as const),
      ...([
        [0, 'LINE'],
        [10, 0],
        [20, 10],
        [11, 0],
        [21, 0],
        [0, 'LINE'],
        [10, 0],
        [20, 0],
        [11, 10],
        [21, 0],
      ] as const),
      ...([
        [0, 'SPLINE'],
        [70, weights.length > 0 ? 12 : 8],
        [71, 2],
        [72, 6],
        [73, 3],
      ] as const),
      ...[0, 0, 0, 1, 1, 1].map((knot) => [40, knot] as const),
      ...weights.map((weight) => [41, weight] as const),
      ...([
        [10, 10],
        [20, 0],
        [30, 0],
        [10, 10],
        [20, 10],
        [30, 0],
        [10, 0],
        [20, 10],
        [30, 0],
      ] as const),
      ...more,
      ...([
        [0, 'ENDSEC'],
        [0, 'EOF'],
      ] as const),
    ]
      .map(([code, value]) => `${code}\n${value}`)
      .join('\n')
  const areaOf = (text: string) => area(dxf.read(text).chains)
  expect(areaOf(groups([1, Math.SQRT1_2, 1]))).toBeCloseTo(Math.PI * 25, 3)
  expect(areaOf(groups([2, Math.SQRT2, 2]))).toBeCloseTo(Math.PI * 25, 3)
  expect(areaOf(groups([]))).toBeCloseTo(250 / 3, 6)
  // One that weighs nothing, or less, is none.
  for (const wrong of [0, -0.7]) {
    const text = groups([1, wrong, 1])
    expect(areaOf(text)).toBeCloseTo(250 / 3, 6)
    expect(dxf.read(text).notes.join()).toContain('Weights of a rational spline could not be read')
  }
})

describe('a block of a DXF that holds a circle', () => {
  const circle = pairs(
    0,
    'BLOCK',
    8,
    0,
    2,
    'tab',
    10,
    0,
    20,
    0,
    0,
    'CIRCLE',
    8,
    0,
    10,
    3.1,
    20,
    1.7,
    40,
    4.4,
    0,
    'ENDBLK',
  )
  const drawn = (...insert: (number | string)[]) => {
    const blocks = `0\nSECTION\n2\nBLOCKS\n${circle}0\nENDSEC\n`
    const body = pairs(0, 'INSERT', 8, 0, 2, 'tab', 10, 20, 20, 30, ...insert)
    return dxf.read(entities(body).replace('0\nSECTION\n2\nENTITIES', `${blocks}0\nSECTION\n2\nENTITIES`)).chains.flat()
  }
  it.each([
    ['turned', [50, 37.3]],
    ['turned and as large both ways', [41, 1.7, 42, 1.7, 50, 137.3]],
    ['turned and mirrored', [41, 1.7, 42, -1.7, 50, 85.1]],
  ])('%s is one still', (_, insert) => {
    expect(drawn(...insert).map(({ kind }) => kind)).toEqual(drawn().map(({ kind }) => kind))
    expect(drawn().every(({ kind }) => kind === 'arc')).toBe(true)
  })
  it('larger one way than the other is no circle', () => {
    const uneven = drawn(41, 1.7, 42, 1.3, 50, 37.3)
    expect(uneven.length).toBeGreaterThan(0)
    expect(uneven.some(({ kind }) => kind === 'arc')).toBe(false)
  })
})

it('a block that is inserted with a scale each way, turned, is as large as both say', () => {
  const square = pairs(0, 'LWPOLYLINE', 8, 0, 90, 4, 70, 1, 10, 0, 20, 0, 10, 4, 20, 0, 10, 4, 20, 3, 10, 0, 20, 3)
  const block = `0\nSECTION\n2\nBLOCKS\n${pairs(0, 'BLOCK', 8, 0, 2, 'tab', 70, 0, 10, 1, 20, 1, 30, 0)}${square}${pairs(0, 'ENDBLK', 8, 0)}0\nENDSEC\n`
  const insert = pairs(0, 'INSERT', 8, 0, 2, 'tab', 10, 20, 20, 30, 41, 1.5, 42, 0.4, 50, 37.3)
  const text = entities(insert).replace('0\nSECTION\n2\nENTITIES\n', `${block}0\nSECTION\n2\nENTITIES\n`)
  const { chains } = dxf.read(text)
  expect(area(chains)).toBeCloseTo(4 * 3 * 1.5 * 0.4, 9)
  // Its base point lies where it is inserted: a quarter along and a third up.
  const rad = (37.3 * Math.PI) / 180
  const along = Math.max(...chains[0]!.map((s) => segmentReach(s, [Math.cos(rad), Math.sin(rad)])))
  const up = Math.max(...chains[0]!.map((s) => segmentReach(s, [-Math.sin(rad), Math.cos(rad)])))
  expect(along).toBeCloseTo(20 * Math.cos(rad) + 30 * Math.sin(rad) + 3 * 1.5, 9)
  expect(up).toBeCloseTo(-20 * Math.sin(rad) + 30 * Math.cos(rad) + 2 * 0.4, 9)
})
