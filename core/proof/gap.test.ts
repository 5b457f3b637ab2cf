import { expect, it } from 'vitest'
import { newPiece } from '../document/index.ts'
import { builtTwice, partOf, step, testKernel } from '../testing/index.ts'
import { gapBetween, proofOf } from './index.ts'

const kernel = await testKernel()

it('a gap that no formula tells is told of the flats where the other fineness gives another solid', async () => {
  const at = (mm: number) => ({ from: 'centre', to: 'centre', by: `${mm}` }) as const
  const ball = (id: string, x: number) =>
    step(id, 'ball', { diameter: '15.3' }, { place: { across: at(x), turn: `${37.3 * x}` } })
  const part = partOf([ball('a', 0)])
  const both = { ...part, pieces: [part.pieces[0]!, { ...newPiece('p2', 'Other', 'sand'), steps: [ball('b', 15.83)] }] }
  const twice = await builtTwice(kernel, both)
  const gapIn = async (coarse: typeof twice.coarse) => {
    const found = await proofOf(kernel, twice.fine, { twice: { ...twice, coarse }, only: ['gap'] })
    return Number(/stay ([\d.]+) mm apart/.exec(found.find(({ check }) => check === 'gap')!.text)![1])
  }
  const [one, two] = twice.fine.pieces.map(({ solid }) => solid!)
  const failed = { code: 'step-failed', rank: 'fault', text: '', path: ['steps', 'a'] } as never
  const flats = gapBetween(one!, two!)!
  expect(await gapIn({ ...twice.coarse, buildProblems: [failed] })).toBeCloseTo(flats, 3)
  // What would be told otherwise comes of two that are not the same.
  expect(Math.abs((await gapIn(twice.coarse)) - flats)).toBeGreaterThan(0.002)
})
