import { applyEdit, type Joint, newPiece, onBed, type Part } from '@makrel/core/document'
import { defaultFields } from '@makrel/core/fields'
import { jointOf } from '@makrel/core/joints'
import { fieldKindOf, workOut } from '@makrel/core/planning'
import { partOf, step } from '@makrel/core/testing'
import { describe, expect, it } from 'vitest'
import { type ChainWay, chainEdits } from './chain.ts'

const at = (x: string, y = '0') => ({
  ...onBed,
  across: { from: 'centre', to: 'centre', by: x } as const,
  along: { from: 'centre', to: 'centre', by: y } as const,
})
const bar = (id: string, x: string) => step(id, 'plate', { width: '13', depth: '5', height: '10' }, { place: at(x) })
const joint: Joint = {
  ...{ id: 'j', name: '', kind: 'link', pieces: ['p1', 'q'], fields: defaultFields(jointOf('link')!.fields) },
  place: at('15.3', '2'),
}
function twoLinks(more: Part['pieces'][number]['steps'] = []): Part {
  const part = partOf([bar('a', '0')], {
    measures: [{ id: 'm', name: 'pitch', kind: 'length', expression: '31.7', note: '' }],
  })
  const second = { ...newPiece('q', 'Link 7', 'sand'), steps: [bar('b', 'pitch'), ...more] }
  return { ...part, pieces: [part.pieces[0]!, second], joints: [joint] }
}
const after = (part: Part, edits: NonNullable<ReturnType<typeof chainEdits>>) =>
  edits.reduce((state, edit) => applyEdit(state, edit, fieldKindOf), part)

describe('more links', () => {
  it.each<[ChainWay, string, number, number]>([
    ['right', 'pitch', 31.7, 0],
    ['left', '1/3 in', -25.4 / 3, 0],
    ['back', 'pitch - 2', 0, 29.7],
    ['front', '8.1', 0, -8.1],
  ])('go on %s by %s, each with the shape of the one before and a joint like its own', (way, pitch, dx, dy) => {
    for (const extra of [[], [step('boss', 'bar', { diameter: '3', height: '4' }, { place: at('pitch + 2') })]]) {
      const chain = after(twoLinks(extra), chainEdits(twoLinks(extra), joint, { count: 4, pitch, way })!)
      expect(chain.pieces.map(({ name }) => name).slice(1)).toEqual([
        'Link 7',
        'Link 8',
        'Link 9',
        'Link 10',
        'Link 11',
      ])
      const { plan, problems } = workOut(chain)
      expect(problems).toEqual([])
      const origin = (id: string) => plan.geometry.get(id)!.frame.origin
      const start = origin(chain.pieces[1]!.steps[0]!.id)
      chain.pieces.slice(2).forEach(({ steps }, i) => {
        const [x, y] = origin(steps[0]!.id)
        expect(x - start[0]).toBeCloseTo((i + 1) * dx, 9)
        expect(y - start[1]).toBeCloseTo((i + 1) * dy, 9)
      })
      expect(chain.joints.map(({ pieces }) => pieces)).toEqual(
        chain.pieces.slice(1).map(({ id }, i) => [chain.pieces[i]!.id, id]),
      )
      chain.joints.forEach(({ id, fields }, i) => {
        expect(fields).toEqual(joint.fields)
        const [x, y] = plan.joints.get(id)!.frame.origin
        expect([x, y].map((value, k) => value - [15.3, 2][k]!)).toEqual([
          expect.closeTo(i * dx, 9),
          expect.closeTo(i * dy, 9),
        ])
      })
    }
  })
  it.each([
    ['high', 'far', '-10'],
    ['high', 'near', '3.3'],
    ['low', 'near', '12.1'],
    ['centre', 'own', '-4.7'],
  ] as const)('go on the same way where the second is measured from the %s side to its %s by %s', (from, to, by) => {
    const beside = { ...bar('b', '0'), place: { ...at('0'), across: { of: 'a', from, to, by } } }
    const two = twoLinks()
    const part = { ...two, pieces: [two.pieces[0]!, { ...two.pieces[1]!, steps: [beside] }] }
    for (const [way, sign] of [
      ['right', 1],
      ['left', -1],
    ] as const) {
      const chain = after(part, chainEdits(part, joint, { count: 3, pitch: '31.7', way })!)
      const { plan, problems } = workOut(chain)
      expect(problems).toEqual([])
      const x = chain.pieces.slice(1).map(({ steps }) => plan.geometry.get(steps[0]!.id)!.frame.origin[0])
      x.forEach((each, i) => void expect(each - x[0]!).toBeCloseTo(sign * i * 31.7, 9))
    }
  })
  it('are as long as their measure has them, and follow the first', () => {
    const chain = after(twoLinks(), chainEdits(twoLinks(), joint, { count: 3, pitch: 'pitch', way: 'right' })!)
    const longer = applyEdit(chain, { type: 'set-measure', id: 'm', change: { expression: '40.1' } }, fieldKindOf)
    const wider = applyEdit(longer, { type: 'set-field', id: 'b', field: 'depth', text: '7.3' }, fieldKindOf)
    const { plan } = workOut(wider)
    const last = wider.pieces.at(-1)!.steps[0]!.id
    expect(plan.geometry.get(last)!.frame.origin[0]).toBeCloseTo(4 * 40.1, 9)
    const { min, max } = plan.operands.get(last)!.box
    expect(max[1] - min[1]).toBeCloseTo(7.3, 9)
  })
  it('are as many as a measure says, with their joints, now and later', () => {
    const links = { id: 'n', name: 'links', kind: 'count', expression: '2', note: '' } as const
    const two = { ...twoLinks(), measures: [...twoLinks().measures, links] }
    const wanted = { count: 5, pitch: 'pitch', way: 'right', shown: 'links + 1' } as const
    const chain = after(two, chainEdits(two, joint, wanted)!)
    const there = (expression: string) => {
      const part = applyEdit(chain, { type: 'set-measure', id: 'n', change: { expression } }, fieldKindOf)
      const { plan, resolved, problems } = workOut(part)
      expect(problems).toEqual([])
      expect(part.joints.filter(({ id }) => resolved.joints.get(id)!.present).map(({ id }) => id)).toEqual([
        ...plan.joints.keys(),
      ])
      return [plan.pieces.filter(({ operands }) => operands.length > 0).length, plan.joints.size]
    }
    // The first two and their joint, and one more than the measure says.
    expect([there('2'), there('4'), there('0')]).toEqual([
      [5, 4],
      [7, 6],
      [3, 2],
    ])
    // A joint of its own makes a piece without steps.
    const bare = { ...twoLinks(), pieces: [twoLinks().pieces[0]!, newPiece('q', 'Link', 'sand')] }
    expect(workOut(bare).resolved.joints.get('j')!.present).toBe(true)
  })
  it('cannot follow a piece that has no shape of its own', () => {
    const bare = { ...twoLinks(), pieces: [twoLinks().pieces[0]!, newPiece('q', 'Link', 'sand')] }
    expect(chainEdits(bare, joint, { count: 2, pitch: '30', way: 'right' })).toBeUndefined()
  })
})
