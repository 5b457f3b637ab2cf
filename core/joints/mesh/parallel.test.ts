import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { applyEdit, findBody, type Part, type Place } from '../../document/index.ts'
import type { Frame } from '../../place/index.ts'
import { fieldKindOf, poseOf, workOut } from '../../planning/index.ts'
import { Swing, swingAt } from '../../proof/index.ts'
import { builtTwice, testKernel } from '../../testing/index.ts'
import { runs } from '../../testing/sample.ts'
import { beside, found, runInMesh, train, wheel } from '../../testing/wheels/index.ts'

const kernel = await testKernel()

describe('wheels in mesh', () => {
  const place = fc.record({
    angle: fc.integer({ min: -1800, max: 1800 }),
    turn: fc.integer({ min: -1800, max: 1800 }),
    lift: fc.integer({ min: 0, max: 12 }),
  })
  const pairs: readonly [
    string,
    readonly [string, Record<string, string>],
    readonly [string, Record<string, string>],
  ][] = [
    ['two gears', ['gear', { teeth: '24' }], ['gear', { teeth: '17' }]],
    [
      'two that lean',
      ['gear', { teeth: '21', run: 'helical', helix: '17.3' }],
      ['gear', { teeth: '30', run: 'helical', helix: '17.3', hand: 'left' }],
    ],
    ['with profile shift', ['gear', { teeth: '12', shift: '0.4' }], ['gear', { teeth: '19', shift: '0.1' }]],
    ['a gear in a ring', ['gear', { teeth: '25' }], ['ring-gear', { teeth: '62' }]],
    ['a ring round a gear', ['ring-gear', { teeth: '61' }], ['gear', { teeth: '24' }]],
    ['a gear in what a gear was cut from', ['gear', { teeth: '25' }], ['cut', { teeth: '62' }]],
    ['a gear on a rack', ['gear', { teeth: '19' }], ['rack', { teeth: '6' }]],
    [
      'a rack under a gear',
      ['rack', { teeth: '7', run: 'helical' }],
      ['gear', { teeth: '18', run: 'helical', hand: 'left' }],
    ],
  ]
  it.each(pairs)('run without touching once they are settled, wherever they stood: %s', (_, one, two) => {
    fc.assert(
      fc.property(place, ({ angle, turn, lift }) => {
        const rad = (angle * Math.PI) / 1800
        const far = two[0] === 'gear' && one[0] !== 'ring-gear' ? 30 : 20
        const own = (id: string, [kind, fields]: readonly [string, Record<string, string>], where: Partial<Place>) =>
          kind === 'cut' ? wheel(`cut ${id}`, 'gear', fields, where, 'cut') : wheel(id, kind, fields, where)
        const isRack = two[0] === 'rack' || one[0] === 'rack'
        const first = own('a', one, { ...beside(3.7, -11.3), turn: `${turn / 10}` })
        const second = own('b', two, {
          ...beside(3.7 + far * Math.cos(rad), -11.3 + far * Math.sin(rad)),
          turn: isRack ? `${angle / 10 + 90}` : `${angle / 7}`,
          lift: `${lift / 10}`,
        })
        // A rack looks at the gear, whichever of both stands first.
        const turned = one[0] === 'rack' ? { ...first, place: { ...first.place, turn: `${angle / 10 - 90}` } } : first
        const { overlap, least, most } = runInMesh(kernel, train(turned, second))
        expect(overlap).toBe(0)
        expect(least).toBeGreaterThan(0.08)
        expect(most).toBeLessThan(0.155)
      }),
      { numRuns: runs(4) },
    )
  })
  it('say what there is to know of them, with advice where they do not stand right', () => {
    const part = (x: number) =>
      train(
        wheel('a', 'gear', { teeth: '24', module: '1.5' }),
        wheel('b', 'gear', { teeth: '17', module: '1.5' }, beside(x, 0)),
      )
    const right = found(part(30.75))
    expect(right.told).toEqual([])
    expect(Object.fromEntries(right.placed!.facts!.map(({ label, text }) => [label, text]))).toMatchObject({
      Distance: '30.75 mm between their axes',
      Play: '0.3 mm along the pitch circles',
      Ratio: '24 : 17 = 1.412',
      Wear: 'each tooth meets all of the other one',
    })
    const contact = right.placed!.facts!.find(({ label }) => label === 'Contact ratio')!
    expect(Number.parseFloat(contact.text)).toBeCloseTo(1.6, 1)
    expect(found(part(31)).told).toMatchObject([{ rank: 'advice', text: 'They stand at 31 mm; 30.75 mm is right.' }])
    expect(found(part(29)).told[0]).toMatchObject({
      rank: 'warning',
      text: expect.stringMatching(/teeth overlap\. 30\.75 mm is right/),
    })
    expect(found(part(33.4)).told.some(({ text }) => /they disengage/.test(text))).toBe(true)
    expect(found(part(20)).told[0]).toMatchObject({
      rank: 'warning',
      text: expect.stringMatching(/30\.75 mm is right/),
    })
  })
  it.each([
    [{ teeth: '17', module: '1.5' }, {}, /Modules don’t match: 1\.193 and 1\.41/],
    [{ teeth: '17', run: 'helical' }, {}, /run alike/],
    [{ teeth: '17' }, { tilt: '20' }, /axes must be parallel/],
  ] as const)('are told where they cannot run: %o', (fields, place, text) => {
    const { told } = found(
      train(wheel('a', 'gear', { teeth: '24' }), wheel('b', 'gear', fields, { ...beside(30, 0), ...place })),
    )
    expect(told.map((each) => each.text).join()).toMatch(text)
  })
  it('say which of both does what is wrong, whichever is named first', () => {
    const ring = wheel('r', 'ring-gear', { teeth: '62' })
    const small = wheel('g', 'gear', { teeth: '13' }, beside(((62 - 13) * 1.27) / 2, 0))
    const told = (part: Part) =>
      found(part)
        .told.map(({ text }) => text)
        .join()
    expect(told(train(ring, small))).toMatch(/Tips of the first reach below/)
    expect(told(train(small, ring))).toMatch(/Tips of the second reach below/)
  })
  it('run at no distance where both are shifted far inward', () => {
    const shifted = (id: string, x: number) => wheel(id, 'gear', { teeth: '17', shift: '-0.5' }, beside(x, 0))
    const { told } = found(train(shifted('a', 0), shifted('b', 20)))
    expect(told.map(({ text }) => text).join()).toMatch(/too far below 0 together/)
  })
  it('keep a distance that is demanded by a profile shift that leaves no undercut, where one does', () => {
    for (const [x, run, shifts] of [
      [31.2, {}, 1],
      // The second would be undercut.
      [30.4, {}, 0],
      [33, { run: 'helical', helix: '17.3' }, 1],
    ] as const) {
      const hand: Record<string, string> = 'run' in run ? { hand: 'left' } : {}
      const wheels = [
        wheel('a', 'gear', { teeth: '24', module: '1.5', ...run }),
        wheel('b', 'gear', { teeth: '17', module: '1.5', ...run, ...hand }, beside(x, 0)),
      ] as const
      const { between, values, placed } = found(train(...wheels))
      const { side, fields, label } = between!.fitting!(values, placed!.second!)!
      expect(side).toBe(shifts)
      expect(label).toMatch(/^Keep the distance: shift the (first|second) by -?0\.\d+$/)
      const better = wheels.map((each, i) => (i === side ? { ...each, fields: { ...each.fields, ...fields } } : each))
      const after = found(train(...better))
      const undercut = after.placed!.facts!.find((fact) => fact.label === 'Undercut')?.text ?? ''
      expect(undercut).not.toContain(side === 0 ? 'the first' : 'the second')
      expect(after.told.filter(({ text }) => /is right/.test(text))).toEqual([])
      expect(after.between!.fitting!(after.values, after.placed!.second!)).toBeUndefined()
    }
    // Too far off for any.
    for (const x of [25, 40]) {
      const far = found(train(wheel('a', 'gear', { teeth: '24' }), wheel('b', 'gear', { teeth: '17' }, beside(x, 0))))
      expect(far.between!.fitting!(far.values, far.placed!.second!)).toBeUndefined()
    }
  })
  it('say whose teeth are undercut, and what avoids it', () => {
    const facts = (teeth: string, shift: string) =>
      found(train(wheel('a', 'gear', { teeth, shift }), wheel('b', 'gear', { teeth: '40' }, beside(30, 0)))).placed!
        .facts!
    const told = facts('10', '0').find(({ label }) => label === 'Undercut')!
    const least = Number.parseFloat(told.text.replace(/^.* of /, ''))
    expect(told.text).toMatch(/^the first, below a profile shift of 0\.4/)
    expect(facts('10', `${least + 0.002}`).some(({ label }) => label === 'Undercut')).toBe(false)
    expect(facts('10', `${least - 0.002}`).some(({ label }) => label === 'Undercut')).toBe(true)
  })
  it('choose their wheels where there are such, and say so where there are none', () => {
    const part = train(wheel('a', 'gear', { teeth: '24' }), wheel('b', 'gear', { teeth: '17' }, beside(30, 0)))
    const without = (fields: Record<string, string>) => {
      const [joint] = part.joints
      return found({ ...part, joints: [{ ...joint!, fields: { ...joint!.fields, ...fields } }] }).told.map(
        ({ code }) => code,
      )
    }
    expect(without({ second: '' })).toContain('step-choose')
    expect(without({ second: 'gone' })).toContain('step-missing')
    // One of the other piece.
    expect(without({ second: 'a' })).toContain('step-missing')
  })
})

it('tells the gap that flanks are meant to have, not that of their flats', async () => {
  const part = train(
    wheel('a', 'gear', { teeth: '24', module: '1.5', play: '0.1', height: '4' }),
    wheel('b', 'gear', { teeth: '17', module: '1.5', play: '0.1', height: '4' }, beside(30.75, 0)),
  )
  const twice = await builtTwice(kernel, part)
  // Both are thinner by 0.1 mm along the pitch circle: half of the 0.2 is to each side, along the normal.
  const meant = 0.1 * Math.cos((20 * Math.PI) / 180)
  for (const at of [0, 2.3, 7.5, 11.9]) {
    const { gap, collisions } = swingAt(kernel, twice, { j1: [at] })
    expect(Math.abs(gap! - meant)).toBeLessThan(0.004)
    expect(collisions).toEqual([])
  }
  // Both have moved, the other way round each.
  const { motions } = poseOf(twice.fine, { j1: [7.5] })
  const [one, two] = [...motions.values()]
  expect((Math.atan2(one!.u[1], one!.u[0]) * 180) / Math.PI).toBeCloseTo(7.5, 9)
  expect((Math.atan2(two!.u[1], two!.u[0]) * 180) / Math.PI).toBeCloseTo((-7.5 * 24) / 17, 9)
})

it('has the clearance of each mesh by itself, beside the smallest of all', async () => {
  const gear = (id: string, x: number, play: string) => wheel(id, 'gear', { teeth: '20', play }, beside(x, 0))
  const at = 1.27 * 20
  const raw = train(gear('a', 0, '0.1'), gear('b', at, '0.1'), gear('c', 2 * at, '0.5'))
  // Each turned into the spaces of the one before.
  const settled = ['j1', 'j2'].reduce((part, id) => {
    const { between, values, placed } = found(part, id)
    const { u } = between!.settled(values, placed!.second!)!
    const turn = `${(Math.atan2(u[1], u[0]) * 180) / Math.PI + Number(firstTurn(part, id))}`
    const [, second] = between!.steps(values)
    return applyEdit(part, { type: 'set-place', id: second, change: { turn } }, fieldKindOf)
  }, raw)
  const twice = await builtTwice(kernel, settled)
  const swing = new Swing(kernel)
  const [one, two] = ['j1', 'j2'].map((id) => swing.at(twice, { j1: [3.7] }, id))
  const cosine = Math.cos((20 * Math.PI) / 180)
  expect(one!.own).toBeCloseTo(0.1 * cosine, 2)
  expect(two!.own).toBeCloseTo(0.3 * cosine, 2)
  expect(two!.gap).toBeCloseTo(one!.own!, 6)
})
/** How far the first wheel of a joint is turned as it is placed. */
function firstTurn(part: Part, id: string): string {
  const { between, values } = found(part, id)
  return findBody(part, between!.steps(values)[0])!.place.turn
}

describe('a train of wheels', () => {
  const turns = ({ u }: Frame) => (Math.atan2(u[1], u[0]) * 180) / Math.PI
  const part = train(
    wheel('a', 'gear', { teeth: '24' }),
    wheel('b', 'gear', { teeth: '12', shift: '0.3' }, beside(23, 0)),
    wheel('c', 'gear', { teeth: '36' }, beside(23, 31)),
  )
  const posed = (positions: Record<string, readonly number[]>) => {
    const { resolved, plan } = workOut(part)
    const joints = part.joints.map((joint) => ({
      joint,
      frame: plan.joints.get(joint.id)!.frame,
      second: plan.joints.get(joint.id)!.second,
    }))
    return poseOf({ resolved, joints }, positions)
  }
  it('turns as a whole, from whichever pair is moved', () => {
    for (const [joint, position, first] of [
      ['j1', 20, 20],
      ['j2', 31.4, -15.7],
    ] as const) {
      const { motions, positions } = posed({ [joint]: [position] })
      expect(turns(motions.get(part.pieces[0]!.id)!)).toBeCloseTo(first, 9)
      expect(turns(motions.get('p2')!)).toBeCloseTo(-2 * first, 9)
      expect(turns(motions.get('p3')!)).toBeCloseTo((2 * first) / 3, 9)
      expect(positions.j1![0]).toBeCloseTo(first, 9)
      expect(positions.j2![0]).toBeCloseTo(-2 * first, 9)
    }
  })
  it('leaves each wheel on its axis', () => {
    const { motions } = posed({ j1: [37.3] })
    const middle = motions.get('p2')!
    const [x, y] = [23, 0]
    expect(middle.origin[0] + middle.u[0] * x + middle.v[0] * y).toBeCloseTo(23, 9)
    expect(middle.origin[1] + middle.u[1] * x + middle.v[1] * y).toBeCloseTo(0, 9)
  })
})
