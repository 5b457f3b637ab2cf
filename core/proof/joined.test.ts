import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { onBed, type Part, type Place, type Step } from '../document/index.ts'
import { shippedPrinters } from '../fits/index.ts'
import { built, partOf, pointsOf, step, testKernel, treatment } from '../testing/index.ts'
import { real, runs } from '../testing/sample.ts'
import { proofOf } from './index.ts'

const kernel = await testKernel()
const { lineWidth: fine, firstLayer } = shippedPrinters[0]!

/** What the three checks of what is laid say, by their ids; those that say nothing are not there. */
async function laid(steps: readonly Step[], more: Partial<Part> = {}) {
  const only = ['lines', 'joined', 'foot']
  const findings = await proofOf(kernel, await built(kernel, { ...partOf([...steps]), ...more }, 0.02), { only })
  // A check that fails has found nothing.
  expect(findings.filter(({ code }) => code === 'check-failed')).toEqual([])
  return Object.fromEntries(findings.map(({ check, rank }) => [check, rank]))
}
const sound = { lines: 'pass', joined: 'pass', foot: 'pass' }

const off = (by: number) => ({ from: 'centre', to: 'centre', by: `${by}` }) as const
const block = (id: string, [w, d, h]: readonly number[], [x, y, z]: readonly number[] = [0, 0, 0], turn = 0): Step =>
  step(
    id,
    'plate',
    { width: `${w}`, depth: `${d}`, height: `${h}` },
    { place: { ...onBed, across: off(x!), along: off(y!), lift: `${z}`, turn: `${turn}` } as Place },
  )
const size = fc.integer({ min: 500, max: 3000 }).map((n) => n / 97)
const turn = fc.integer({ min: -1790, max: 1800 }).map((n) => n / 10)
/** Turned about the middle of the bed, as a whole. */
const turnedWhole = (angle: number, [x, y, z]: readonly [number, number, number]): [number, number, number] => {
  const [c, s] = [Math.cos((angle * Math.PI) / 180), Math.sin((angle * Math.PI) / 180)]
  return [c * x - s * y, s * x + c * y, z]
}

describe('what hangs together', () => {
  it('by a bar is joined where that is as wide as a line, however all of it is turned', async () => {
    const wide = fc.oneof(real(0.001, 0.94 * fine), real(1.06 * fine, 4 * fine))
    await fc.assert(
      fc.asyncProperty(size, size, size, wide, turn, async (w, d, h, bar, angle) => {
        const apart = 7.3
        const at = (x: number) => turnedWhole(angle, [x, 0, 0])
        const long = w / 2 + apart + w / 2
        const found = await laid([
          block('a', [w, d, h], at(0), angle),
          block('b', [w, d, h], at(w + apart), angle),
          block('c', [long, Number(bar.toFixed(4)), h], at((w + apart) / 2), angle),
        ])
        expect(found).toEqual({ ...sound, joined: bar < fine ? 'fault' : 'pass' })
      }),
      { numRuns: runs(60) },
    )
  })
  it('in a corner alone is not, and by a film neither', async () => {
    const [w, d, h] = [15.3, 12.7, 9.1]
    for (const into of [0.001, 0.05, 0.3])
      expect(await laid([block('a', [w, d, h]), block('b', [w, d, h], [w - into, d - into, 0])])).toEqual({
        ...sound,
        joined: 'fault',
      })
    expect(await laid([block('a', [w, d, h]), block('b', [w, d, h], [w - 0.9, d - 0.9, 0])])).toEqual(sound)
    const film = (thick: number, up: number) => [
      block('a', [w, d, h]),
      block('b', [w + 5, d, thick], [(w + 5) / 2, 0, up]),
      block('c', [w, d, h], [w + 5, 0, 0]),
    ]
    expect(await laid(film(0.01, 0))).toEqual({ ...sound, joined: 'fault' })
    expect(await laid(film(0.01, 4.37))).toEqual({ ...sound, joined: 'fault' })
    expect(await laid(film(0.61, 0))).toEqual(sound)
    // Wherever the middle of a layer lies, and whatever else is there.
    await fc.assert(
      fc.asyncProperty(real(0.002, 0.09), real(0, 8.9), async (thick, up) => {
        const found = await laid(film(Number(thick.toFixed(4)), Number(up.toFixed(4))))
        expect(found).toEqual({ ...sound, joined: 'fault' })
      }),
      { numRuns: runs(100), examples: [[0.0189, 4.335]] },
    )
  })
  it('one above the other is, where they share a line', async () => {
    const low = block('a', [20.3, 20.3, 6.1])
    const over = (shared: number) => block('b', [15.3, 15.3, 8.3], [20.3 / 2 + 15.3 / 2 - shared, 0, 6.1])
    expect(await laid([low, over(0.001)])).toMatchObject({ joined: 'fault' })
    expect(await laid([low, over(0.9 * fine)])).toMatchObject({ joined: 'fault' })
    expect(await laid([low, over(1.3 * fine)])).toMatchObject({ joined: 'pass' })
  })
  it('leaning by so much that each layer lies on the one below by more than a quarter of a line is', async () => {
    // A wall of one line, leaning.
    const wall = (lean: number) =>
      step(
        'a',
        'plate',
        { width: `${(1.1 * fine) / Math.cos((lean * Math.PI) / 180)}`, depth: '21.7', height: '15.3' },
        { place: { ...onBed, tilt: '0', lean: `${lean}` } },
      )
    const foot = block('f', [14.3, 25.3, 2.3])
    expect(await laid([foot, { ...wall(37.3), place: { ...wall(37.3).place, lift: '-1' } } as Step])).toMatchObject({
      joined: 'pass',
    })
  })
  it('by bars that lie across each other is joined, wherever they cross', async () => {
    for (const [x, y] of [
      [0, 0],
      [17.3, 0.3],
      [-16.1, 11.9],
    ] as const)
      expect(await laid([block('a', [40.3, 3.1, 5.3]), block('b', [3.3, 30.7, 4.1], [x, y, 5.3], 0)])).toEqual(sound)
  })
  it('hollowed, rounded and bored as well', async () => {
    expect(
      await laid([
        block('a', [40.3, 30.1, 20.7], [3.3, -7.7, 0], 37.3),
        treatment('round', { edges: 'upright of a', radius: '3.1' }, 'r'),
        treatment('hollow', { thick: '1.3', open: 'a/top' }, 'h'),
      ]),
    ).toEqual(sound)
  })
  it('of what hangs in one another on purpose each by itself', async () => {
    const mail = step('m', 'chain-mail', {})
    expect(await laid([mail])).toMatchObject({ lines: 'pass', joined: 'pass' })
  })
  it('is shown where it is joined by too little', async () => {
    const findings = await proofOf(
      kernel,
      await built(kernel, partOf([block('a', [10, 10, 5]), block('b', [10, 10, 5], [9.9, 9.9, 0])]), 0.02),
      { only: ['joined'] },
    )
    const { marks, text } = findings.find(({ check }) => check === 'joined')!
    expect(text).toContain('joined by less than a line of 0.44 mm')
    const points = [...marks!.flatMap((mark) => [...pointsOf(mark)])]
    for (const [i, at] of points.entries()) if (i % 3 < 2) expect(at).toBeCloseTo(4.95, 0)
  })
})

describe('what hangs in one another', () => {
  it('stays apart by what the printer needs, or is told with how near it comes', async () => {
    const said = async (leastGap: number) => {
      const part = partOf([step('m', 'chain-mail', { across: '3', along: '2' })])
      const findings = await proofOf(
        kernel,
        await built(kernel, { ...part, printer: { ...part.printer, leastGap } }, 0.02),
        { only: ['within'] },
      )
      return findings
    }
    const [near] = await said(3)
    const gap = Number(/are ([\d.]+) mm apart/.exec(near!.text)![1])
    expect([near!.rank, gap > 0.1 && gap < 3]).toEqual(['fault', true])
    const [line] = near!.marks!
    const [x, y, z, u, v, w] = [...pointsOf(line)] as [number, number, number, number, number, number]
    expect(Math.hypot(x - u, y - v, z - w)).toBeCloseTo(gap, 2)
    expect((await said(gap + 0.01)).map(({ rank }) => rank)).toEqual(['fault'])
    expect((await said(gap - 0.01)).map(({ rank }) => rank)).toEqual(['pass'])
  })
})

describe('what has room for a line', () => {
  it.each([
    ['a plate of half a first layer', [15.3, 20.1, 0.55 * firstLayer], sound],
    ['a plate lower than that', [15.3, 20.1, 0.45 * firstLayer], { lines: 'fault' }],
    ['a wall of one line', [fine, 20.1, 15.3], sound],
    ['a wall of less', [0.9 * fine, 20.1, 15.3], { lines: 'fault' }],
    ['a needle of less', [0.3, 0.3, 15.3], { lines: 'fault' }],
  ] as const)('%s', async (_, sizes, found) => {
    for (const angle of [0, 37.3]) expect(await laid([block('a', sizes, [0, 0, 0], angle)])).toEqual(found)
  })
})

describe('what stands', () => {
  const tilted = (tilt: number, lean = 0) =>
    step(
      'a',
      'plate',
      { width: '15.3', depth: '12.1', height: '9.7' },
      { place: { ...onBed, tilt: `${tilt}`, lean: `${lean}` } },
    )
  it('on a face is sound; on an edge, a corner or a point it is not', async () => {
    for (const angle of [25.3, 45, 60.7]) {
      const [part, corner] = [tilted(angle), tilted(angle, 33.3)]
      expect(await lowered(part)).toMatchObject({ foot: 'fault' })
      expect(await lowered(corner)).toMatchObject({ foot: 'fault' })
    }
    for (const diameter of ['3.3', '8.1', '19.7']) {
      expect(await laid([step('b', 'ball', { diameter })])).toMatchObject({ foot: 'fault' })
      expect(
        await lowered(step('b', 'bar', { diameter, height: '21.3' }, { place: { ...onBed, tilt: '90' } })),
      ).toEqual(sound)
    }
    const cone = step('c', 'bar', { form: 'tapered', diameter: '0.2', end: '15.3', height: '12' })
    expect(await laid([cone])).toMatchObject({ foot: 'fault' })
    expect(await laid([step('c', 'bar', { form: 'tapered', diameter: '15.3', end: '0', height: '12' })])).toEqual(sound)
  })
  /** Set down on the bed, as its cure does. */
  async function lowered(own: Step) {
    const { pieces } = await built(kernel, partOf([own]), 0.02)
    const low = pieces[0]!.solid!.bounds()!.min[2]
    return laid([{ ...own, place: { ...(own as { place: Place }).place, lift: `${-low}` } } as Step])
  }
})

it.each([
  [0.17, true],
  [0.23, false],
])('a neck that is longer than the shortest by %s is shown: %s', async (longer, isShown) => {
  const [w, d, h] = [15.3, 12.7, 12]
  /** so far beside the first block, half as high, from one height on */
  const beside = (id: string, gap: number, from: number) => {
    const wide = w + 1 - gap
    return block(id, [wide, d, h / 2], [w / 2 + gap + wide / 2, 0, from])
  }
  const steps = [
    block('a', [w, d, h]),
    beside('low', 1, 0),
    beside('high', 1 + longer, h / 2),
    block('film', [w, 0.05, h], [w / 2 + 1, 0, 0]),
  ]
  const findings = await proofOf(kernel, await built(kernel, partOf(steps), 0.02), { only: ['joined'] })
  const marks = findings.find(({ check }) => check === 'joined')!.marks!
  const heights = [...pointsOf(marks[0])].filter((_, i) => i % 3 === 2)
  expect(heights.some((z) => z < h / 2)).toBe(true)
  expect(heights.some((z) => z > h / 2 + 0.5)).toBe(isShown)
})
