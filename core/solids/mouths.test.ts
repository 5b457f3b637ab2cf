import { describe, expect, it } from 'vitest'
import type { Place, Step } from '../document/index.ts'
import { meshFigures } from '../mesh/index.ts'
import { built, onFace, partOf, seeded, step, testKernel } from '../testing/index.ts'
import { sampled } from '../testing/sample.ts'

const kernel = await testKernel()

/** What the only piece of these steps comes to. */
async function figures(steps: readonly Step[]) {
  const { pieces, problems } = await built(kernel, partOf(steps), 0.03)
  expect(problems.filter(({ rank }) => rank === 'fault')).toEqual([])
  const solid = pieces[0]!.solid!
  return { ...meshFigures(solid.mesh()), volume: solid.volume() }
}

const by = (mm: number) => ({ from: 'centre', to: 'centre', by: mm.toFixed(3) }) as const

/** A block anywhere, something cut into one of its faces, and something that stands there over a part of it, or all. */
function overMouth(random: () => number) {
  const size = (low: number, high: number) => (low + (high - low) * random()).toFixed(3)
  const face = ['top', 'bottom', 'left', 'front'][Math.floor(4 * random())]!
  const turned: Partial<Place> =
    random() < 0.3 ? {} : { turn: size(-60, 60), tilt: size(-40, 40), lift: size(20, 40), across: by(20 * random()) }
  const base = step('a', 'plate', { width: size(30, 40), depth: size(30, 40), height: size(30, 40) }, { place: turned })
  const lean = random() < 0.5 ? { tilt: size(3, 25), turn: size(0, 90) } : {}
  const at = { ...onFace('a', face), across: by(4 * random() - 2), along: by(4 * random() - 2) }
  const hole = { diameter: size(3, 6), reach: 'blind', depth: size(4, 9) }
  const kinds: (() => Step)[] = [
    () => step('c', 'hole', hole, { place: { ...at, ...lean } }),
    () => step('c', 'hole', { ...hole, mouth: 'countersink', head: '7.3' }, { place: at }),
    () =>
      step('c', 'plate', { width: size(4, 7), depth: size(4, 7), height: size(3, 8) }, { place: at, operation: 'cut' }),
  ]
  const cut = kinds[Math.floor(kinds.length * random())]!()
  const wide = random() < 0.5 ? size(12, 20) : size(3, 6)
  const boss = step(
    'b',
    'plate',
    { width: wide, depth: size(12, 20), height: size(3, 9) },
    { place: onFace('a', face) },
  )
  return { base, cut, boss, isTurned: turned.turn !== undefined }
}

describe('a cut ends where it begins', () => {
  it.each(sampled(120))('what stands over it is the same whether it is cut before or after (%i)', async (i) => {
    const { base, cut, boss, isTurned } = overMouth(seeded(i))
    const before = await figures([base, cut, boss])
    const after = await figures([base, boss, cut])
    // Oblique ones end a millionth of a mm beyond the face.
    expect(Math.abs(after.volume - before.volume)).toBeLessThan(isTurned ? 1e-4 : 1e-6)
    expect([after.solids, after.cavities.length]).toEqual([before.solids, before.cavities.length])
    for (const k of [0, 1, 2])
      expect([after.min[k], after.max[k]]).toEqual([
        expect.closeTo(before.min[k]!, 9),
        expect.closeTo(before.max[k]!, 9),
      ])
  })

  it('to the last digit: what hangs below a cut as wide as it is stands on the bed', async () => {
    const foot = step('a', 'plate', { width: '20.3', depth: '15.3', height: '4.7' })
    const over = step('b', 'plate', { width: '30.1', depth: '30.7', height: '10.1' }, { place: onFace('a', 'top') })
    const pocket = { place: onFace('b', 'bottom'), operation: 'cut' } as const
    const cut = step('c', 'plate', { width: '24.1', depth: '18.7', height: '3.3' }, pocket)
    const walls = (part: Awaited<ReturnType<typeof figures>>) => [part.min[2], part.volume, part.solids]
    const expected = 20.3 * 15.3 * 4.7 + 30.1 * 30.7 * 10.1 - 24.1 * 18.7 * 3.3
    for (const steps of [
      [foot, over, cut],
      [foot, over, { ...cut, name: 'again' }],
    ])
      expect(walls(await figures(steps))).toEqual([0, expect.closeTo(expected, 5), 2])
  })

  it('as deep as its body it leaves what stands beyond that', async () => {
    const low = step('a', 'plate', { width: '40.1', depth: '30.3', height: '5.3' })
    const high = step('b', 'plate', { width: '33.3', depth: '21.7', height: '1/3 in' }, { place: onFace('a', 'top') })
    const cut = step(
      'c',
      'plate',
      { width: '9.1', depth: '7.3', height: '1/3 in' },
      { place: onFace('b', 'top'), operation: 'cut' },
    )
    const { volume } = await figures([low, high, cut])
    expect(volume).toBeCloseTo(40.1 * 30.3 * 5.3 + ((33.3 * 21.7 - 9.1 * 7.3) * 25.4) / 3, 6)
  })
})
