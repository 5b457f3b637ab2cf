import { describe, expect, it } from 'vitest'
import { type KeptLoad, newPiece, type Part, type Step } from '../document/index.ts'
import { motionsIn, movedBy } from '../solids/index.ts'
import { built, onFace, partOf, seeded, step, testKernel } from '../testing/index.ts'
import { sampled } from '../testing/sample.ts'
import { type Finding, proofOf } from './index.ts'
import type { Size } from './phrase.ts'

const kernel = await testKernel()
const { material } = partOf([])
/** MPa */
const along = (material.stiffness * material.strainOnce) / 100
const across = (along * material.acrossLayers!) / 100

const block = (id: string, [w, d, h]: readonly number[], place: object = {}, more: object = {}) =>
  step(id, 'plate', { width: `${w}`, depth: `${d}`, height: `${h}` }, { place, ...more } as never)
const load = (change: Partial<KeptLoad> = {}): KeptLoad => ({
  ...{ id: 'l', name: 'Pull', way: 'up', force: '50' },
  ...{ held: { step: 'foot', face: 'bottom' }, at: { step: 'head', face: 'top' } },
  ...change,
})
const stacked = (wide = 4.3) => [
  block('foot', [25.3, 21.7, 5.1]),
  block('stalk', [wide, 5.3, 20.1], onFace('foot', 'top')),
  block('head', [19.7, 15.3, 6.1], onFace('stalk', 'top')),
]
const part = (steps: readonly Step[], loads: readonly KeptLoad[], change: Partial<Part> = {}) =>
  partOf(steps, { loads, ...change })
const told = async (of: Part): Promise<readonly Finding[]> =>
  proofOf(kernel, await built(kernel, of, 0.02), { only: ['loads'] })
const codes = async (of: Part) => (await told(of)).map(({ code }) => code)

describe('a load', () => {
  it.each(sampled(20))('is a share of what its neck bears across layers, and ranks by that (%i)', async (i) => {
    const random = seeded(89 * i)
    const [wide, force] = [2.5 + 3 * random(), 40 + 2500 * random()]
    const [found] = await told(part(stacked(wide), [load({ force: force.toFixed(1) })]))
    const use = force / (wide * 5.3) / across
    const share = (found!.values.share as number) / 100
    expect(share / use).toBeGreaterThan(0.9)
    expect(share / use).toBeLessThan(1.25)
    expect(found!.rank).toBe(share > 2 ? 'warning' : share > 0.5 ? 'advice' : 'pass')
    expect(found!.about[0]).toEqual(share > 0.5 ? { kind: 'step', id: 'stalk' } : { kind: 'step', id: 'head' })
  })
  it('asks less of layers that lie along it: a part that is laid on its side', async () => {
    const of = part(stacked(), [load({ force: '600' })])
    const drawn = await built(kernel, of, 0.02)
    const [upright] = await proofOf(kernel, drawn, { only: ['loads'] })
    const laid = { piece: of.pieces[0]!.id, down: 'back', turn: 15.3, at: [3, 4] } as const
    const posed = movedBy(kernel, drawn, motionsIn(kernel, drawn, { id: 'p', name: 'P', set: [], laid: [laid] }))
    const [lying] = await proofOf(kernel, posed.built, { only: ['loads'] })
    posed.release()
    const share = (finding: Finding | undefined) => finding!.values.share as number
    expect(share(lying) / share(upright)).toBeGreaterThan(0.85 * (across / along))
    expect(share(lying) / share(upright)).toBeLessThan(1.2 * (across / along))
  })
  it('is a number by name as well', async () => {
    const weight = { id: 'm', name: 'weight', kind: 'ratio', expression: '25', note: '' } as const
    const [one] = await told(part(stacked(), [load({ force: 'weight * 2' })], { measures: [weight] }))
    const [other] = await told(part(stacked(), [load()]))
    expect(one!.values.share).toBe(other!.values.share)
  })
})

describe('what is not known is no pass', () => {
  it.each([
    ['a force that cannot be read', { force: 'heavy' }, 'load-no-force'],
    ['a force of nothing', { force: '0' }, 'load-none'],
    ['one that pushes the other way by its sign', { force: '-5' }, 'load-none'],
    ['a face that nothing is left of', { at: { step: 'head', face: 'bottom left' } }, 'load-gone'],
    ['a step that is gone', { held: { step: 'gone', face: 'bottom' } }, 'load-gone'],
    ['one that is held where it is loaded', { at: { step: 'foot', face: 'bottom' } }, 'load-beside'],
  ] as const)('%s', async (_, change, code) => {
    const found = await told(part(stacked(), [load(change)]))
    expect(found.map(({ code: own, rank }) => [own, rank])).toEqual([[code, 'warning']])
  })
  it('pieces that are not tied to each other', async () => {
    const of = part([block('foot', [25.3, 21.7, 5.1])], [load()])
    const other = {
      ...newPiece('p2', 'Other', 'sand'),
      steps: [block('head', [9.3, 8.7, 5.1], { across: { from: 'centre', to: 'centre', by: '40' } })],
    }
    expect(await codes({ ...of, pieces: [...of.pieces, other] })).toEqual(['load-apart'])
  })
  it.each(sampled(10))('a beam on two legs, of which nobody knows how much it is bent between them (%i)', async (i) => {
    const random = seeded(101 * i)
    const [span, thick] = [40 + 30 * random(), 2.5 + 5 * random()]
    const off = (by: number) => ({ across: { from: 'centre', to: 'centre', by: `${by}` } })
    const leg = (id: string, by: number) => block(id, [6.3, 10.7, 15.1], { ...onFace('foot', 'top'), ...off(by) })
    const bent = ((10.7 * thick ** 2) / 6) * along
    // Even with its ends held fast it would break.
    const force = (1.1 * bent * 8) / (span - 6.3)
    const table = [
      block('foot', [span + 6.3, 10.7, 4.1]),
      ...[leg('left', -span / 2), leg('right', span / 2)],
      block('head', [span + 6.3, 10.7, thick], { lift: '19.2' }),
    ]
    const [found] = await told(part(table, [load({ force: force.toFixed(1), way: 'down' })]))
    expect(['load-shared', 'load-unmeasured', 'load-breaks']).toContain(found!.code)
    expect(found!.rank).not.toBe('pass')
  })
  it('nothing is told where no load is', async () => {
    expect(await told(part(stacked(), []))).toEqual([])
  })
})

describe('a least wall', () => {
  const finned = (thick: number, leastWall: string, turn = 37.3) =>
    partOf(
      [block('a', [31.3, 25.7, 6.1]), block('b', [17.3, thick, 9.1], { ...onFace('a', 'top'), turn: `${turn}` })],
      { leastWall },
    )
  const walls = async (of: Part) => proofOf(kernel, await built(kernel, of, 0.02), { only: ['leastWall'] })
  it.each(sampled(20))('is kept by walls that are as thick, and by no other (%i)', async (i) => {
    const random = seeded(97 * i)
    const least = 1 + 3 * random()
    const thick = least * (0.7 + 0.6 * random())
    const found = await walls(finned(thick, least.toFixed(3), 360 * random()))
    if (Math.abs(thick / least - 1) < 0.01) return
    expect(found.map(({ code }) => code)).toEqual([thick < least ? 'least-wall-thin' : 'least-wall-kept'])
    if (thick < least) expect((found[0]!.values.thick as Size).of[0]).toBeCloseTo(thick, 2)
  })
  it('just as thick as asked for is kept', async () => {
    expect((await walls(finned(1.7, '1.7'))).map(({ code }) => code)).toEqual(['least-wall-kept'])
  })
  it('that cannot be read, or is none, is no pass', async () => {
    for (const text of ['thick', '0', '-1'])
      expect((await walls(finned(1.7, text))).map(({ code, rank }) => [code, rank])).toEqual([
        ['least-wall-unread', 'warning'],
      ])
  })
  it('that is not asked for is not looked at', async () => {
    expect(await walls(finned(0.9, ''))).toEqual([])
  })
})
