import { expect, it } from 'vitest'
import type { Step } from '../document/index.ts'
import { defaultFields } from '../fields/index.ts'
import { treatmentOf } from '../operations/index.ts'
import { built, onFace, partOf, step, testKernel, treatment } from '../testing/index.ts'
import { changedMarks, type Mark } from './index.ts'

const kernel = await testKernel()

async function changed(before: readonly Step[], after: readonly Step[]): Promise<readonly Mark[]> {
  return changedMarks(kernel, await built(kernel, partOf(before), 0.02), await built(kernel, partOf(after), 0.02))
}
const plate = (width: number) =>
  step('a', 'plate', { width: `${width}`, depth: '17.9', height: '6.1' }, {
    place: { across: { from: 'centre', to: 'near', by: '3.3' } },
  } as never)
const hole = (diameter: number) => step('h', 'hole', { diameter: `${diameter}` }, { place: onFace('a', 'top') })

/** What marks show, by what is done there: how far they reach along x, mm. */
const reaches = (marks: readonly Mark[]) =>
  marks.map((mark) => {
    if (mark.kind !== 'triangles') throw new Error(mark.kind)
    const xs = [...mark.points].filter((_, i) => i % 3 === 0)
    return [mark.as, Number(Math.min(...xs).toFixed(2)), Number(Math.max(...xs).toFixed(2))]
  })

it('what a change puts there and what it takes away are shown by themselves', async () => {
  expect(reaches(await changed([plate(31.3)], [plate(34.6)]))).toEqual([['added', 34.6, 37.9]])
  expect(reaches(await changed([plate(34.6)], [plate(31.3)]))).toEqual([['removed', 34.6, 37.9]])
  const wider = reaches(await changed([plate(31.3), hole(5.3)], [plate(31.3), hole(9.7)]))
  expect(wider.map(([as]) => as)).toEqual(['removed'])
  expect((wider[0]![2] as number) - (wider[0]![1] as number)).toBeCloseTo(9.7, 1)
})
it('nothing is shown of what stays, nor of flats that are laid another way', async () => {
  expect(await changed([plate(31.3), hole(5.3)], [plate(31.3), hole(5.3)])).toEqual([])
  expect(await changed([plate(31.3), hole(5.3)], [plate(31.3), hole(5.302)])).toEqual([])
})
it('a piece that is there only then is shown as a whole', async () => {
  expect(reaches(await changed([], [plate(31.3)]))).toEqual([['added', 3.3, 34.6]])
})
it('where a piece comes to be two, what parts them is shown, not the second one', async () => {
  const split = treatment('split', { ...defaultFields(treatmentOf('split')!.fields), at: 'x, 21.7' })
  // Nothing is taken away but between the two: square to x.
  expect(reaches(await changed([plate(31.3)], [plate(31.3), split]))).toEqual([['removed', 21.7, 21.72]])
  expect(await changed([plate(31.3), split], [plate(31.3), split])).toEqual([])
})
