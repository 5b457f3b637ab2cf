import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import type { Place } from '../../document/index.ts'
import { poseOf } from '../../planning/index.ts'
import { testKernel } from '../../testing/index.ts'
import { runs } from '../../testing/sample.ts'
import { beside, found, runInMesh, train, wheel } from '../../testing/wheels/index.ts'

const kernel = await testKernel()

function pair(
  fields: Record<string, string>,
  other: Record<string, string>,
  place: Partial<Place> = {},
  first: Partial<Place> = {},
) {
  const own = { bore: 'none', play: '0.12', width: '4.3', ...fields }
  const { teeth = '24', mate = '24' } = own as Record<string, string>
  return train(
    wheel('a', 'bevel-gear', own, { ...beside(-4.1, 7.7), ...first }),
    wheel(
      'b',
      'bevel-gear',
      { ...own, teeth: mate, mate: teeth, ...other },
      { ...beside(21.3, 2.9), tilt: '90', ...place },
    ),
  )
}
const texts = (part: ReturnType<typeof pair>) => found(part).told.map(({ text }) => text)

describe('two bevel gears', () => {
  const any = fc.record({
    teeth: fc.integer({ min: 12, max: 34 }),
    mate: fc.integer({ min: 12, max: 34 }),
    axes: fc.integer({ min: 600, max: 1100 }).map((x) => x / 10),
    side: fc.constantFrom(1, -1),
    turn: fc.integer({ min: -1800, max: 1800 }).map((x) => x / 10),
    own: fc.integer({ min: -1800, max: 1800 }).map((x) => x / 10),
    lift: fc.integer({ min: 0, max: 90 }).map((x) => x / 10),
  })
  it('run without touching once they are settled, wherever they stood', () => {
    fc.assert(
      fc.property(any, ({ teeth, mate, axes, side, turn, own, lift }) => {
        const fields = { teeth: `${teeth}`, mate: `${mate}`, axes: `${axes}` }
        const part = pair(fields, {}, { turn: `${turn}`, tilt: `${side * axes}`, lift: `${lift}` }, { turn: `${own}` })
        // A cone that opens too far has no teeth, which is told.
        fc.pre(!texts(part).some((text) => text.includes('has a problem of its own')))
        const { overlap, least, most, settled } = runInMesh(kernel, part, 6)
        expect(overlap).toBe(0)
        expect(least).toBeGreaterThan(0.05)
        expect(most).toBeLessThan(0.13)
        const { placed } = found(part)
        for (const k of [0, 1, 2] as const) expect(settled.n[k]).toBeCloseTo(placed!.second!.n[k], 9)
      }),
      { numRuns: runs(8) },
    )
  })
  it('are leaned over to the angle that they are made for, from wherever they stood', () => {
    for (const tilt of ['0', '180', '20', '-75.3']) {
      const { overlap, least, settled } = runInMesh(
        kernel,
        pair({ teeth: '17', mate: '23', axes: '80' }, {}, { tilt }),
        3,
      )
      expect(overlap).toBe(0)
      expect(least).toBeGreaterThan(0.05)
      expect(settled.n[2]).toBeCloseTo(Math.cos((80 * Math.PI) / 180), 9)
    }
  })
  it('turn by their numbers of teeth about their own axes', () => {
    const part = pair({ teeth: '15', mate: '40' }, {}, { turn: '33' })
    const { resolved, plan } = found(part)
    const joints = part.joints.map((joint) => ({ joint, ...plan.joints.get(joint.id)! }))
    const { motions } = poseOf({ resolved, joints }, { j1: [37.3] })
    const [first, second] = part.pieces.map(({ id }) => motions.get(id)!)
    const turned = ({ u, v, n }: NonNullable<typeof first>) => (Math.acos((u[0] + v[1] + n[2] - 1) / 2) * 180) / Math.PI
    expect(turned(first!)).toBeCloseTo(37.3, 6)
    expect(turned(second!)).toBeCloseTo((37.3 * 15) / 40, 6)
    // Where both meet they go the same way.
    const { n } = plan.joints.get('j1')!.second!
    expect(Math.abs(n[2])).toBeLessThan(1e-9)
  })
  it('say what there is to know of them, and where they do not stand right', () => {
    const { placed, told } = found(pair({ teeth: '17', mate: '31' }, {}))
    const facts = Object.fromEntries(placed!.facts!.map(({ label, text }) => [label, text]))
    expect(facts).toMatchObject({ Axes: '90°', Play: '0.24 mm along the pitch circles', Ratio: '31 : 17 = 1.824' })
    const distance = (1.27 / 2) * Math.hypot(17, 31)
    expect(Number.parseFloat(facts['Cone distance']!)).toBeCloseTo(distance, 3)
    expect(Number.parseFloat(facts['Contact ratio']!)).toBeGreaterThan(1.4)
    expect(Number.parseFloat(facts['Contact ratio']!)).toBeLessThan(1.9)
    expect(told).toMatchObject([
      { rank: 'warning', text: expect.stringMatching(/points of their cones are [\d.]+ mm apart/) },
    ])
  })
  it.each([
    [{}, {}, { tilt: '84.3' }, /cross at 84\.3°; their teeth are made for 90°/],
    [{}, { teeth: '25' }, {}, /one with 24 teeth for 24, the other with 25 for 24/],
    [{}, { module: '1.5' }, {}, /Modules don’t match: 1\.27 at 20°, and 1\.5/],
    [{}, { axes: '75' }, {}, /axes at 90°, and at 75°/],
  ] as const)('are told what is wrong: %o %o %o', (fields, other, place, text) => {
    expect(texts(pair(fields, other, place)).join(' | ')).toMatch(text)
  })
  it('run with nothing that was cut', () => {
    const cut = wheel('b', 'bevel-gear', { bore: 'none' }, { ...beside(30, 0), tilt: '90' }, 'cut')
    const part = train(wheel('a', 'bevel-gear', { bore: 'none' }), cut)
    expect(texts(part).join()).toMatch(/cut from has no teeth/)
  })
  it('run with no other wheel', () => {
    const part = train(wheel('a', 'gear', { teeth: '24' }), wheel('b', 'bevel-gear', { bore: 'none' }, beside(30, 0)))
    expect(texts(part).join()).toMatch(/runs with another one only/)
  })
})
