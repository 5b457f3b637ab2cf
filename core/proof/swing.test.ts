import fc from 'fast-check'
import { expect, it } from 'vitest'
import { newPiece, onBed, type Part } from '../document/index.ts'
import { defaultFields } from '../fields/index.ts'
import { jointOf } from '../joints/index.ts'
import { builtTwice, partOf, step, testKernel } from '../testing/index.ts'
import { runs } from '../testing/sample.ts'
import { Swing, swingAt } from './index.ts'

const kernel = await testKernel()

/** Links on pins, each as far to the right as a pitch. */
function chain(count: number): Part {
  const at = (x: number) => ({ ...onBed, across: { from: 'centre', to: 'centre', by: `${x}` } as const })
  const body = (i: number) =>
    step(`b${i}`, 'plate', { width: '9', depth: '5', height: '10' }, { place: at(i * 27 + 13.5) })
  const part = partOf([body(0)])
  const pieces = Array.from({ length: count - 1 }, (_, i) => ({
    ...newPiece(`l${i + 1}`, `Link ${i + 1}`, 'sand'),
    steps: [body(i + 1)],
  }))
  const ids = ['p1', ...pieces.map(({ id }) => id)]
  const fields = { ...defaultFields(jointOf('link')!.fields), reach: '10' }
  const joints = pieces.map((_, i) => ({
    ...{
      id: `j${i}`,
      name: '',
      kind: 'link',
      pieces: [ids[i]!, ids[i + 1]!] as const,
      fields,
      place: at((i + 1) * 27),
    },
  }))
  return { ...part, pieces: [part.pieces[0]!, ...pieces], joints }
}

it('finds the same at each position, whatever it has looked at before', async () => {
  const made = await builtTwice(kernel, chain(4))
  expect(made.fine.problems).toEqual([])
  // As a link is dragged: one joint after another, some positions again.
  const move = fc.record({ joint: fc.integer({ min: 0, max: 2 }), to: fc.constantFrom(-90, -37.3, 0, 15.3, 61.9, 90) })
  fc.assert(
    fc.property(fc.array(move, { minLength: 4, maxLength: 9 }), (moves) => {
      const swing = new Swing(kernel)
      let wanted: Record<string, number[]> = {}
      for (const { joint, to } of moves) {
        wanted = { ...wanted, [`j${joint}`]: [to] }
        const kept = swing.at(made, wanted, 'j1')
        const fresh = swingAt(kernel, made, wanted)
        expect(kept.collisions).toEqual(fresh.collisions)
        if (fresh.gap === undefined) expect(kept.gap).toBeUndefined()
        else expect(kept.gap).toBeCloseTo(fresh.gap, 6)
        expect(kept.own).toBeCloseTo(0.35, 1)
      }
    }),
    { numRuns: runs(12), seed: 6 },
  )
})
