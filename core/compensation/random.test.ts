import { expect, it } from 'vitest'
import { meshFigures } from '../mesh/index.ts'
import { asPrinted } from '../solids/index.ts'
import { built, partOf, seeded, testKernel } from '../testing/index.ts'
import { offSideways, randomToPrint } from '../testing/printed.ts'
import { sampled } from '../testing/sample.ts'
import type { Compensation } from './index.ts'

const kernel = await testKernel()
const by = 0.03
const walls: Compensation = {
  ...{ walls: by, rounds: by, flare: 0, shrinkage: 0, firstLayer: 0.24, lineWidth: 0.44 },
  ...{ printer: 'Tern 220', material: 'PLA', origins: [] },
}

/** A part may be off in so much of its outlines, and all of them together, as a share. */
const mostOff = { one: 0.05, all: 0.005 }

it('moves the walls of random parts by what is asked, at three finenesses, and tells what stays', async () => {
  let [off, length, looked] = [0, 0, 0]
  for (const number of sampled(100, 1, 50)) {
    const steps = randomToPrint(seeded(number))
    const before = await built(kernel, partOf(steps), [0.05, 0.02, 0.01][number % 3]!)
    const drawn = before.pieces[0]!.solid
    if (!drawn) continue
    const after = asPrinted(kernel, before, walls)
    const made = after.built.pieces[0]!.solid!
    const stayed = after.stayed.get('p1')!
    const found = offSideways(kernel, drawn, made, by)
    const figures = meshFigures(made.mesh())
    after.release()
    const at = `part ${number}: ${JSON.stringify(found.places.slice(0, 3))}`
    expect(figures, at).toMatchObject({ closed: true, oriented: true })
    // Thin walls, and those that face another body of their piece, stay as a whole.
    if (stayed.some(({ why }) => why === 'gap' || why === 'thin')) continue
    expect(found.share, at).toBeLessThan(mostOff.one)
    if (found.share > 0.001)
      expect(
        stayed.map(({ why }) => why),
        at,
      ).toContain('folds')
    off += found.share * found.length
    length += found.length
    looked++
  }
  expect(looked).toBeGreaterThan(0)
  expect(off / length).toBeLessThan(mostOff.all)
})
