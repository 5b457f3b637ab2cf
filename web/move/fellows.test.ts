import { applyEdit, type Part } from '@makrel/core/document'
import { seenFrom, turnOf } from '@makrel/core/mechanism'
import { fieldKindOf, poseOf, workOut } from '@makrel/core/planning'
import { swingAt } from '@makrel/core/proof'
import { builtTwice, testKernel } from '@makrel/core/testing'
import { beside, train, wheel } from '@makrel/core/testing/wheels'
import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { fellowEdits, fellowsWanted } from './fellows.ts'

const kernel = await testKernel()

/** A sun and a ring of which a set is made. */
function setOf(
  sun: Record<string, string>,
  ring: Record<string, string>,
  planets: string,
  { turns = ['0', '0'], at = [0, 0] as readonly number[] } = {},
): Part {
  const [x, y] = at as [number, number]
  const place = { ...beside(x, y), lift: '1.3' }
  const part = train(
    wheel('sun', 'gear', sun, { ...place, turn: turns[0]! }),
    wheel('ring', 'ring-gear', ring, { ...place, turn: turns[1]! }),
  )
  const [joint] = part.joints
  return { ...part, joints: [{ ...joint!, kind: 'planetary-set', fields: { ...joint!.fields, planets } }] }
}
const edited = (part: Part, edits: Parameters<typeof applyEdit>[1][]) =>
  edits.reduce((now, edit) => applyEdit(now, edit, fieldKindOf), part)

function filled(part: Part): Part {
  const worked = workOut(part)
  const wanted = fellowsWanted(worked, 'j1')
  return wanted ? edited(part, [...fellowEdits(part, worked, part.joints[0]!, wanted)]) : part
}
const told = (part: Part) => workOut(part).problems.map(({ text }) => text)

describe('planets', () => {
  const sets: readonly (readonly [string, Record<string, string>, Record<string, string>, number])[] = [
    ['evenly', { teeth: '18' }, { teeth: '54' }, 3],
    ['as evenly as goes', { teeth: '17' }, { teeth: '53' }, 4],
    ['of a shift of their own', { teeth: '16' }, { teeth: '51' }, 3],
    ['about a shifted sun', { teeth: '14', shift: '0.3' }, { teeth: '49', shift: '0.1' }, 3],
    [
      'that lean',
      { teeth: '18', run: 'helical', helix: '17.3' },
      { teeth: '54', run: 'helical', helix: '17.3', hand: 'left' },
      2,
    ],
    [
      'of herringbones',
      { teeth: '20', run: 'herringbone', hand: 'left' },
      { teeth: '58', run: 'herringbone', hand: 'right' },
      3,
    ],
  ]
  it.each(sets)('are put in with one press, %s, and run at every place', async (_, sun, ring, planets) => {
    const turn = () => fc.integer({ min: -1800, max: 1800 }).map((x) => `${x / 10}`)
    const place = fc.tuple(turn(), turn(), fc.integer({ min: -300, max: 300 }))
    await fc.assert(
      fc.asyncProperty(place, async ([one, two, x]) => {
        const before = setOf(sun, ring, `${planets}`, { turns: [one, two], at: [x / 10, 3.7] })
        expect(fellowsWanted(workOut(before), 'j1')!.label).toBe(`Put ${planets} planets in`)
        const part = filled(before)
        expect(part.pieces.map(({ name }) => name).slice(2)).toEqual(
          Array.from({ length: planets }, (_, i) => `Planet ${i + 1}`),
        )
        expect(told(part).filter((text) => !text.includes('cannot stand evenly'))).toEqual([])
        expect(fellowsWanted(workOut(part), 'j1')).toBeUndefined()
        const twice = await builtTwice(kernel, part)
        const pitch = 360 / Number(sun.teeth)
        for (let i = 0; i < 2; i++) {
          const { gap, collisions } = swingAt(kernel, twice, { j1: [(i * pitch) / 2.7] })
          expect(collisions).toEqual([])
          expect(gap).toBeGreaterThan(0.08)
          expect(gap).toBeLessThan(0.16)
        }
      }),
      { numRuns: 1 },
    )
  })
  it('turn as Willis has it, whatever is held', () => {
    const part = filled(setOf({ teeth: '18' }, { teeth: '54' }, '3'))
    const { resolved, plan } = workOut(part)
    const joints = [...resolved.joints.values()].map(({ joint }) => ({ joint, ...plan.joints.get(joint.id)! }))
    const { motions } = poseOf({ resolved, joints }, { j1: [9] })
    const [sun, ring, planet] = part.pieces.map(({ id }) => id) as [string, string, string]
    const turned = seenFrom(motions, ring)
    const of = (id: string) => turnOf(turned.get(id)!, [0, 0, 1])
    // With the ring held the carrier turns a quarter as far as the sun, and planets against it by 54 / 18.
    expect(of(sun)).toBeCloseTo(12, 9)
    expect(of(planet)).toBeCloseTo(-6, 9)
    expect(turnOf(motions.get(ring)!, [0, 0, 1])).toBeCloseTo(-3, 9)
  })
  it('that are there are given other teeth and put right after a change, with those that are missing', () => {
    const first = filled(setOf({ teeth: '18' }, { teeth: '54' }, '3'))
    const bored = edited(first, [
      { type: 'set-field', id: first.pieces[2]!.steps[0]!.id, field: 'bore', text: 'round' },
      { type: 'set-field', id: 'ring', field: 'teeth', text: '62' },
      { type: 'set-field', id: 'j1', field: 'planets', text: '4' },
    ])
    expect(told(bored)).toContain('3 gears that run with the sun do not run in the ring.')
    expect(fellowsWanted(workOut(bored), 'j1')!.label).toBe('Put its planets right')
    const part = filled(bored)
    expect(part.pieces).toHaveLength(6)
    expect(told(part)).toEqual([])
    expect(part.pieces[2]!.steps[0]).toMatchObject({ fields: { teeth: '22', bore: 'round' } })
    expect(part.joints).toHaveLength(5)
  })
  it('are wanted only where the ring stands about the sun', () => {
    const part = setOf({ teeth: '18' }, { teeth: '54' }, '3')
    const off = edited(part, [{ type: 'set-offset', id: 'ring', axis: 'along', change: { by: '2.5' } }])
    expect(told(off)).toContain('The ring stands 2.5 mm beside the axis of the sun.')
    expect(fellowsWanted(workOut(off), 'j1')).toBeUndefined()
  })
})
