import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import type { Place, ShapeStep } from '../../document/index.ts'
import { turnOf } from '../../mechanism/index.ts'
import { poseOf, workOut } from '../../planning/index.ts'
import { testKernel } from '../../testing/index.ts'
import { runs } from '../../testing/sample.ts'
import { found, runInMesh, train, wheel } from '../../testing/wheels/index.ts'

const kernel = await testKernel()
const asin = (x: number) => (Math.asin(x) * 180) / Math.PI
const own = (x: number, y: number, more: Partial<Place> = {}): Partial<Place> => ({
  across: { from: 'centre', to: 'own', by: `${x}` },
  along: { from: 'centre', to: 'own', by: `${y}` },
  ...more,
})

/** A worm that lies on its side, its middle near the x axis at `distance` from the origin, and the gear that it runs with. */
function pair(
  {
    starts = 1,
    diameter = 13.7,
    hand = 'right',
    teeth = 23,
    height = '6.3',
    lead = asin((starts * 1.27) / diameter),
  }: {
    starts?: number
    diameter?: number
    hand?: string
    teeth?: number
    height?: string
    lead?: number
  },
  places: { worm?: Partial<Place>; gear?: Partial<Place> },
  wormFirst = false,
) {
  const worm = wheel(
    'w',
    'worm',
    { starts: `${starts}`, diameter: `${diameter}`, height: '20', hand, bore: 'none' },
    own(25, 0, { tilt: '90', ...places.worm }),
  )
  const gear = wheel(
    'g',
    'gear',
    { teeth: `${teeth}`, run: 'helical', helix: `${lead}`, hand, height },
    own(0, 0, places.gear),
  )
  return train(...(wormFirst ? [worm, gear] : [gear, worm]))
}
const texts = (part: ReturnType<typeof pair>) => found(part).told.map(({ text }) => text)

describe('a worm and its gear', () => {
  it.each([
    ['ring-gear', {}, 'A worm runs with a gear whose teeth are outside.'],
    ['gear', { run: 'herringbone', helix: '15.3' }, 'not with a herringbone'],
  ])('are none where the other is a %s of %o: that one is told of, whichever comes first', (kind, fields, words) => {
    const sizes = { starts: '1', diameter: '13.7', height: '20', hand: 'right', bore: 'none' }
    const worm = wheel('w', 'worm', sizes, own(25, 0, { tilt: '90' }))
    const other = wheel('g', kind, { teeth: '41', ...fields }, own(0, 0))
    for (const [wheels, field] of [
      [[worm, other], 'second'],
      [[other, worm], 'first'],
    ] as const) {
      const { problems } = workOut(train(...wheels)).resolved.joints.get('j1')!
      expect(problems.map(({ path, text }) => [path.at(-1), text])).toEqual([[field, expect.stringContaining(words)]])
    }
  })
  const any = fc.record({
    starts: fc.integer({ min: 1, max: 3 }),
    diameter: fc.integer({ min: 120, max: 190 }).map((x) => x / 10),
    hand: fc.constantFrom('right', 'left'),
    teeth: fc.integer({ min: 19, max: 41 }),
    wormFirst: fc.boolean(),
    /** where the worm lies, seen from the gear, and which way it looks */
    angle: fc.integer({ min: -1800, max: 1800 }).map((x) => x / 10),
    over: fc.boolean(),
    lift: fc.integer({ min: 0, max: 60 }).map((x) => x / 10),
    turn: fc.integer({ min: -1800, max: 1800 }).map((x) => x / 10),
  })
  it('run without touching once they are settled, wherever they stood', () => {
    fc.assert(
      fc.property(any, ({ angle, over, lift, turn, wormFirst, ...sizes }) => {
        const rad = (angle * Math.PI) / 180
        const along = over ? angle : angle + 180
        const far = sizes.teeth * 0.7 + 9
        const worm = {
          ...own(
            far * Math.cos(rad) + 7 * Math.sin(rad) * (over ? 1 : -1),
            far * Math.sin(rad) - 7 * Math.cos(rad) * (over ? 1 : -1),
          ),
          ...{ turn: `${along}`, tilt: '-90', lift: `${lift}` },
        }
        const part = pair(sizes, { worm, gear: { turn: `${turn}` } }, wormFirst)
        const { overlap, least, most, settled } = runInMesh(kernel, part, 5)
        expect(overlap).toBe(0)
        expect(least).toBeGreaterThan(0.09)
        expect(most).toBeLessThan(0.16)
        // Only straight moves, but for the gear about its own axis.
        const { placed } = found(part)
        for (const k of [0, 1, 2] as const) expect(settled.n[k]).toBeCloseTo(placed!.second!.n[k], 9)
      }),
      { numRuns: runs(6) },
    )
  })
  it('turn by their numbers of teeth, from either side', () => {
    for (const wormFirst of [true, false]) {
      const part = pair({ starts: 2, teeth: 31 }, {}, wormFirst)
      const { resolved, plan } = found(part)
      const standing = part.joints.map((joint) => ({ joint, ...plan.joints.get(joint.id)! }))
      const { motions, positions } = poseOf({ resolved, joints: standing }, { j1: [37.3] })
      const [first, second] = part.pieces.map(({ id }) => motions.get(id)!)
      const turned = ({ u, v, n }: typeof first & {}) => (Math.acos((u[0] + v[1] + n[2] - 1) / 2) * 180) / Math.PI
      expect(turned(first!)).toBeCloseTo(37.3, 6)
      // Fifteen and a half times as far, which is a turn and 218.15°.
      expect(turned(second!)).toBeCloseTo(wormFirst ? (37.3 * 2) / 31 : 360 - 218.15, 6)
      expect(positions.j1![0]).toBeCloseTo(37.3, 9)
    }
  })
  it('are laid across each other where they stand side by side, or one in the other', () => {
    for (const wormFirst of [true, false])
      for (const place of [own(25, 3), own(0, 0), own(0, 0, { tilt: '90' })]) {
        const { overlap, least, settled } = runInMesh(kernel, pair({}, { worm: { tilt: '0', ...place } }, wormFirst), 2)
        expect(overlap).toBe(0)
        expect(least).toBeGreaterThan(0.09)
        expect(Math.abs(settled.n[2])).toBeLessThan(1e-9)
      }
  })
  it('turn by their numbers of teeth even where these do not fit yet', () => {
    for (const wormFirst of [true, false]) {
      const part = pair({}, {}, wormFirst)
      const straight = {
        ...part,
        pieces: part.pieces.map((piece) => ({
          ...piece,
          steps: piece.steps.map((each) => ({ ...each, fields: { ...each.fields, run: 'straight' } })),
        })),
      }
      const { resolved, plan, placed, between, values } = found(straight as never)
      const joints = part.joints.map((joint) => ({ joint, ...plan.joints.get(joint.id)! }))
      const { motions } = poseOf({ resolved, joints }, { j1: [2] })
      const turns = [...motions.values()].map((motion) => turnOf(motion, [0, 0, 1]))
      expect(Math.abs(turns[0]!)).toBeCloseTo(2, 9)
      expect(Math.abs(turns[1]!)).toBeCloseTo(wormFirst ? 2 / 23 : 46, 9)
      expect(between!.settled(values, placed!.second!)!.origin.every(Number.isFinite)).toBe(true)
    }
  })
  it('stand still as long as their axes do not cross', () => {
    for (const wormFirst of [true, false]) {
      const part = pair({}, { worm: { tilt: '0' } }, wormFirst)
      const { resolved, plan, between, values, placed } = found(part)
      const joints = part.joints.map((joint) => ({ joint, ...plan.joints.get(joint.id)! }))
      const { motions, positions } = poseOf({ resolved, joints }, { j1: [37.3] })
      expect(positions.j1![0]).toBeCloseTo(37.3, 9)
      for (const { origin, u } of motions.values()) expect([...origin, ...u].every(Number.isFinite)).toBe(true)
      expect(between!.positions(values, placed!.second!, 1, motions.get(part.pieces[1]!.id)!)).toEqual([0])
    }
  })
  it('say what there is to know of them', () => {
    const near = pair({ teeth: 30, lead: asin(1.27 / 13.7) }, {})
    const { placed } = found(near)
    const facts = Object.fromEntries(placed!.facts!.map(({ label, text }) => [label, text]))
    const lead = asin(1.27 / 13.7)
    const right = 13.7 / 2 + (30 * 1.27) / Math.cos((lead * Math.PI) / 180) / 2
    expect(facts).toMatchObject({
      Distance: `25 mm between their axes; ${Number(right.toFixed(3))} is right`,
      Ratio: '30 : 1 = 30',
      'Lead angle': `${Number(lead.toFixed(3))}°: the gear can turn it back`,
    })
    // In the plane of the worm's axis it is a rack: so much of the line of action on either side of the pitch point.
    expect(Number.parseFloat(facts['Contact ratio']!)).toBeGreaterThan(1.5)
    expect(Number.parseFloat(facts['Contact ratio']!)).toBeLessThan(2.3)
    const slow = found(pair({ diameter: 18.2 }, {})).placed!.facts!
    expect(slow.find(({ label }) => label === 'Lead angle')!.text).toMatch(/holds what it carries/)
  })
  it.each([
    [{}, { worm: own(26, -15, { tilt: '-90', lift: '-3.7' }) }, /mm; 21\.5\d+ mm is right/],
    [{}, { worm: own(18, -15, { tilt: '-90', lift: '-3.7' }) }, /teeth overlap/],
    [{ lead: 9.1 }, {}, /cross at 3\.78\d*°: on these axes the gear needs teeth at 5\.319°, right-hand/],
    [{ lead: 5.319, hand: 'left' }, { worm: { tilt: '-86' } }, /the gear needs teeth at/],
    [{}, { worm: { tilt: '95.319' } }, /needs straight teeth/],
    [{}, { worm: { tilt: '0' } }, /must cross that of the gear/],
    [{}, { worm: own(25, 40) }, /ends beside the gear/],
    [{}, { worm: { lift: '12' } }, /passes beside the teeth/],
  ] as [Parameters<typeof pair>[0], Parameters<typeof pair>[1], RegExp][])(
    'are told what is wrong: %o %o',
    (sizes, places, text) => {
      expect(texts(pair(sizes, places)).join(' | ')).toMatch(text)
    },
  )
  it('offer the teeth that the gear needs, with which they run', () => {
    for (const wormFirst of [true, false])
      for (const [sizes, place] of [
        [{ lead: 9.1 }, {}],
        [{ lead: 9.1, hand: 'left' }, { tilt: '-83' }],
        [{}, { tilt: '95.319' }],
      ] as const) {
        const part = pair(sizes, { worm: place }, wormFirst)
        const { between, values, placed } = found(part)
        const { side, fields, label } = between!.fitting!(values, placed!.second!)!
        expect(side).toBe(wormFirst ? 1 : 0)
        expect(label).toMatch(/^Give the gear /)
        const better = {
          ...part,
          pieces: part.pieces.map((piece, i) => ({
            ...piece,
            steps: piece.steps.map((each) => (i === side ? { ...each, fields: { ...each.fields, ...fields } } : each)),
          })),
        }
        const after = found(better as never)
        expect(after.told.map(({ text }) => text).join()).not.toMatch(/teeth cross/)
        expect(after.between!.fitting!(after.values, after.placed!.second!)).toBeUndefined()
      }
    const none = found(pair({}, {}))
    expect(none.between!.fitting!(none.values, none.placed!.second!)).toBeUndefined()
  })
  it('are refused where they can never run', () => {
    const worm = (fields: Record<string, string> = {}) =>
      wheel('w', 'worm', { bore: 'none', height: '30', ...fields }, own(25, 0, { tilt: '90' }))
    const told = (...wheels: readonly ShapeStep[]) => texts(train(...wheels)).join()
    expect(told(wheel('r', 'rack', { teeth: '9' }), worm())).toMatch(/teeth are outside/)
    expect(told(worm(), { ...worm(), id: 'v' })).toMatch(/teeth are outside/)
    expect(told(wheel('g', 'gear', { run: 'herringbone' }), worm())).toMatch(/herringbone/)
    expect(told(wheel('g', 'gear', { module: '1.5' }), worm())).toMatch(/Modules don’t match: 1\.41 and 1\.193/)
  })
})
