import { applyEdit, findBody, type Part, type Place, type ShapeStep } from '@makrel/core/document'
import { fieldKindOf, workOut } from '@makrel/core/planning'
import { beside, found, train, wheel } from '@makrel/core/testing/wheels'
import fc from 'fast-check'
import { expect, it } from 'vitest'
import { settlingEdits } from './settle.ts'

const settled = (part: Part) =>
  settlingEdits(part, workOut(part), 'j1').reduce((now, edit) => applyEdit(now, edit, fieldKindOf), part)
const distanceOf = (part: Part) => found(part).placed!.facts!.find(({ label }) => label === 'Distance')!.text

/** How far the second still is from where it should be, mm. */
function off(part: Part): number {
  const { between, values, placed } = found(part)
  const { origin, u, n } = placed!.second!
  const right = between!.settled(values, placed!.second!)!
  return Math.hypot(
    ...right.origin.map((x, k) => x - origin[k]!),
    ...right.u.map((x, k) => 20 * (x - u[k]!)),
    ...right.n.map((x, k) => 20 * (x - n[k]!)),
  )
}
const lies = ['0', '90', '-90'] as const

it('puts the second wheel of any pair where it runs, however it stands, in one go', () => {
  const any = fc.record({
    from: fc.constantFrom('low', 'centre', 'high'),
    to: fc.constantFrom('near', 'centre', 'far', 'own'),
    turn: fc.integer({ min: -1800, max: 1800 }).map((x) => `${x / 10}`),
    x: fc.integer({ min: 200, max: 320 }).map((x) => x / 10),
    kind: fc.constantFrom(
      'gears',
      'bevel gears',
      'worm second, upright',
      'worm second',
      'gear second',
      'gear second, on its side',
    ),
    hand: fc.constantFrom('right', 'left'),
    lift: fc.constantFrom('3', '-2.5', 'wall + 1'),
    isBeside: fc.boolean(),
  })
  fc.assert(
    fc.property(any, ({ from, to, turn, x, kind, hand, lift, isBeside }) => {
      const across = isBeside
        ? ({ of: 'a', from: 'high', to: 'far', by: '-10' } as const)
        : { from, to, by: `${from === 'high' ? -x : x}` }
      const place: Partial<Place> = { across, lift }
      const worm = { starts: '2', diameter: '15.3', bore: 'none', height: '30', hand }
      const helix = `${(Math.asin((2 * 1.27) / 15.3) * 180) / Math.PI}`
      const gear = { teeth: '25', run: 'helical', helix, hand }
      const gears: Record<string, readonly [ShapeStep, ShapeStep]> = {
        gears: [wheel('a', 'gear', { teeth: '24' }), wheel('b', 'gear', { teeth: '17' }, { ...place, turn })],
        'worm second': [
          wheel('a', 'gear', gear, { turn }),
          wheel('b', 'worm', worm, { ...place, turn: hand === 'left' ? '0' : '180', tilt: lies[1] }),
        ],
        'gear second': [wheel('a', 'worm', worm, { tilt: lies[2] }), wheel('b', 'gear', gear, { ...place, turn })],
        'worm second, upright': [wheel('a', 'gear', gear, { turn }), wheel('b', 'worm', worm, place)],
        'bevel gears': [
          wheel('a', 'bevel-gear', { mate: '31' }, { turn }),
          wheel('b', 'bevel-gear', { teeth: '31', mate: '24' }, place),
        ],
        'gear second, on its side': [
          wheel('a', 'worm', worm, { turn }),
          wheel('b', 'gear', gear, { ...place, lift: '9', tilt: lies[1] }),
        ],
      }
      const measures = [{ id: 'm', name: 'wall', kind: 'length', expression: '2.1', note: '' } as const]
      const part = { ...train(...gears[kind]!), measures }
      const after = settled(part)
      expect(off(after)).toBeLessThan(2e-3)
      if (kind !== 'bevel gears') expect(distanceOf(after)).not.toMatch(/is right/)
      expect(settlingEdits(after, workOut(after), 'j1')).toEqual([])
      expect(
        found(after)
          .told.map(({ text }) => text)
          .filter((text) => /overlap|beside|apart|is right/.test(text)),
      ).toEqual([])
    }),
    { numRuns: 100 },
  )
})

it('changes nothing where they stand right, or are no pair', () => {
  const right = train(
    wheel('a', 'gear', { teeth: '24', module: '1.5' }),
    wheel('b', 'gear', { teeth: '17', module: '1.5' }, beside(30.75, 0)),
  )
  expect(settled(settled(right))).toEqual(settled(right))
  const [joint] = right.joints
  const none = { ...right, joints: [{ ...joint!, fields: { first: 'a', second: '' } }] }
  expect(settlingEdits(none, workOut(none), 'j1')).toEqual([])
})

it('has the distance of both axes in the sheet, which can be typed', () => {
  for (const [teeth, other] of [
    ['24', '17'],
    ['18', '23'],
  ] as const) {
    const place = { across: { of: 'a', from: 'high', to: 'far', by: '-10' } } as const
    const after = settled(
      train(wheel('a', 'gear', { teeth, module: '1.5' }), wheel('b', 'gear', { teeth: other, module: '1.5' }, place)),
    )
    const { across } = findBody(after, 'b')!.place
    expect(across).toMatchObject({ of: 'a', from: 'axis', to: 'own' })
    expect(Number(across.by)).toBeCloseTo(((Number(teeth) + Number(other)) * 1.5) / 2, 3)
    const typed = applyEdit(after, { type: 'set-offset', id: 'b', axis: 'across', change: { by: '44.3' } }, fieldKindOf)
    const [a, b] = ['a', 'b'].map((id) => workOut(typed).plan.geometry.get(id)!.frame.origin[0])
    expect(b! - a!).toBeCloseTo(44.3, 9)
  }
})
