import { describe, expect, it } from 'vitest'
import { onBed, type Step } from '../document/index.ts'
import { built, partOf, seeded, step, testKernel } from '../testing/index.ts'
import { sampled } from '../testing/sample.ts'
import { hangingRegions, laidGroups, Sections } from './index.ts'

const kernel = await testKernel()
const heights = { firstLayer: 0.24, layerHeight: 0.2 }
const lineWidth = 0.44

const ledgesOf = async (steps: readonly Step[], overhang: number) => {
  const { pieces } = await built(kernel, partOf([...steps]), 0.03)
  return new Sections(kernel, pieces[0]!.solid!).ledges(overhang)
}
const at = (mm: number) => ({ from: 'centre', to: 'centre', by: `${mm}` }) as const
const place = (x: number, y: number, lift: number, more: object = {}) => ({
  ...{ across: at(x), along: at(y), lift: `${lift}`, rest: 'on' as const },
  ...more,
})

describe('the heights at which a solid may reach out', () => {
  it('are those of faces that lean more than they may, to a degree', async () => {
    // 45° all round, from 3.7 mm on.
    const cone = { form: 'tapered', diameter: '9.3', end: '21.9', height: '6.3' }
    const steps = [
      step('a', 'bar', { diameter: '9.3', height: '3.7' }, { place: place(3.3, -7.7, 0) }),
      step('c', 'bar', cone, { place: place(3.3, -7.7, 3.7) }),
    ]
    const [less, more] = [await ledgesOf(steps, 44), await ledgesOf(steps, 46)]
    for (const own of [less, more]) expect(own.areBetween(-0.1, 0.1), 'its foot').toBe(true)
    for (const z of [4.1, 7.3, 9.7]) {
      expect(less.areBetween(z, z + 0.2)).toBe(true)
      expect(more.areBetween(z, z + 0.2)).toBe(false)
    }
    for (const z of [0.5, 2.9, 10.2]) expect(less.areBetween(z, z + 0.2)).toBe(false)
  })
  it('are those of a keel between two steep faces, and of a tip, which no face tells', async () => {
    // A block on one of its edges, which rises by 12.3° from end to end: its faces lean by 45° and less.
    const keel = step(
      'k',
      'plate',
      { width: '6.1', depth: '40', height: '6.1' },
      { place: { ...onBed, lean: '45', tilt: '12.3' } },
    )
    for (const z of [1.3, 4.1, 7.9]) {
      expect((await ledgesOf([keel], 50)).areBetween(z, z + 0.2)).toBe(true)
      expect((await ledgesOf([keel], 78)).areBetween(z, z + 0.2)).toBe(false)
    }
    const post = step('p', 'plate', { width: '3.1', depth: '3.1', height: '21.3' }, { place: place(0, 0, 0) })
    const spike = step(
      's',
      'bar',
      { form: 'tapered', diameter: '0.01', end: '4.1', height: '9.3' },
      { place: place(9.3, 0, 5.3) },
    )
    const roof = step('r', 'plate', { width: '30', depth: '9', height: '3' }, { place: place(0, 0, 14.1) })
    expect((await ledgesOf([post, spike, roof], 50)).areBetween(5.2, 5.4)).toBe(true)
    expect((await ledgesOf([post, spike, roof], 50)).areBetween(6.1, 13.9)).toBe(false)
  })
})

describe('what hangs', () => {
  it.each(sampled(80))('is what it is where every layer is looked at (%i)', async (i) => {
    const random = seeded(7907 + i)
    const between = (low: number, high: number) => low + (high - low) * random()
    const one = (k: number): Step => {
      const [kind, fields] = (
        [
          ['plate', { width: `${between(3, 16)}`, depth: `${between(3, 9)}`, height: `${between(2, 9)}` }],
          [
            'bar',
            { form: 'tapered', diameter: `${between(1, 9)}`, end: `${between(1, 9)}`, height: `${between(3, 9)}` },
          ],
          ['ball', { diameter: `${between(3, 9)}` }],
        ] as const
      )[Math.floor(3 * random())]!
      const turned = { turn: `${between(-180, 180)}`, lean: `${between(-60, 60)}`, tilt: `${between(-60, 60)}` }
      const where = place(between(-9, 9), between(-9, 9), between(0.5, 9), random() < 0.3 ? {} : turned)
      return step(`s${k}`, kind, fields, { place: where, operation: random() < 0.2 ? 'cut' : 'add' })
    }
    const foot = step('foot', 'plate', { width: '24', depth: '24', height: '1.4' })
    const { pieces } = await built(kernel, partOf([foot, ...[1, 2, 3, 4].map(one)]), 0.05)
    const solid = pieces[0]!.solid!
    const overhang = between(20, 70)
    const sections = new Sections(kernel, solid)
    const height = solid.bounds()!.max[2]
    const places = (await laidGroups(kernel, sections, { heights, lineWidth, height })).flat()
    const options = { heights, lineWidth, overhang, places, others: [] }
    const everywhere = { at: sections.at.bind(sections), ledges: () => ({ areBetween: () => true }) }
    expect(await hangingRegions(kernel, sections, options)).toEqual(await hangingRegions(kernel, everywhere, options))
  })
})
