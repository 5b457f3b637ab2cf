import { describe, expect, it } from 'vitest'
import { applyEdit, type Part } from '../../document/index.ts'
import { fieldKindOf } from '../../planning/index.ts'
import { Builder } from '../../solids/index.ts'
import { built, onFace, partOf, seeded, step, testKernel } from '../../testing/index.ts'
import { sampled } from '../../testing/sample.ts'
import { type Finding, proofOf } from '../index.ts'

const kernel = await testKernel()
const trials = new Builder(kernel)
const only = ['sheet', 'closed', 'bodies', 'walls', 'islands', 'overhangs', 'bridges']

async function proof(part: Part): Promise<readonly Finding[]> {
  const build = (changed: Part) => trials.build(changed, { fineness: 0.02 })
  return proofOf(kernel, await built(kernel, part, 0.02), { only, build })
}
/** A block with a level hole through its front, so far below its top. */
const holed = (diameter: number, above: number, deep = 17.3, fields: Record<string, string> = {}, name = '') => {
  const high = 6.1 + diameter + above
  const along = { from: 'centre', to: 'centre', by: `${6.1 + diameter / 2 - high / 2}` } as const
  return partOf([
    step('block', 'plate', { width: `${diameter + 21.3}`, depth: `${deep}`, height: `${high}` }),
    {
      ...step(
        'bore',
        'hole',
        { diameter: `${diameter}`, ...fields },
        { place: { ...onFace('block', 'front'), along } },
      ),
      name,
    },
  ])
}
const labels = (found: readonly Finding[]) => found.flatMap(({ cures = [] }) => cures.map(({ label }) => label))

describe('a level hole whose roof droops', () => {
  it.each(sampled(20))('is made a teardrop as large, which carries itself (%i)', async (i) => {
    const random = seeded(53 * i)
    const diameter = Number((9 + 14 * random()).toFixed(2))
    const part = holed(diameter, 9 + 5 * random())
    const found = await proof(part)
    expect(found.some(({ check, rank }) => check === 'overhangs' && rank !== 'pass')).toBe(true)
    expect(labels(found)).toEqual(['Make round hole a teardrop with a pointed roof'])
    const [cure] = found.flatMap(({ cures = [] }) => cures)
    const after = cure!.edits.reduce((so, edit) => applyEdit(so, edit, fieldKindOf), part)
    expect(after.pieces[0]!.steps[1]).toMatchObject({
      shape: 'teardrop',
      fields: { diameter: `${diameter}`, roof: 'pointed' },
    })
    expect((await proof(after)).every(({ rank }) => rank === 'pass')).toBe(true)
  })
  it('gets a flat roof where a point would break through, and keeps what is told of it', async () => {
    const found = await proof(holed(15.3, 2.4, 17.3, { reach: 'blind', depth: '11.7' }, 'rod'))
    expect(labels(found)).toEqual(['Make rod a teardrop with a flat roof'])
    const [cure] = found.flatMap(({ cures = [] }) => cures)
    expect(cure!.edits).toEqual([
      {
        type: 'set-shape',
        id: 'bore',
        shape: 'teardrop',
        fields: { diameter: '15.3', reach: 'blind', depth: '11.7', roof: 'flat' },
      },
    ])
  })
  it('says what was tried where nothing helps: at a printer that lays less than 45°', async () => {
    const part = holed(15.3, 12.1)
    const found = await proof({ ...part, printer: { ...part.printer, overhang: 30 } })
    expect(labels(found)).toEqual([])
    expect(found.flatMap(({ tried = [] }) => tried)).toEqual([
      'Make round hole a teardrop with a pointed roof',
      'Make round hole a teardrop with a flat roof',
    ])
  })
  it('is not offered one where it has a head for a screw', async () => {
    const found = await proof(holed(15.3, 12.1, 17.3, { mouth: 'countersink', head: '19.7' }))
    expect(found.some(({ check, rank }) => check === 'overhangs' && rank !== 'pass')).toBe(true)
    expect(labels(found)).toEqual([])
    expect(found.flatMap(({ tried = [] }) => tried)).toEqual([])
  })
})
