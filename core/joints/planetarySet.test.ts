import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { closeDistance, closeInside, tipRadius } from '../gears/index.ts'
import { beside, found, train, wheel } from '../testing/wheels/index.ts'
import { betweenTips, mostPlanets, planetBetween, spacings } from './mesh/planets.ts'
import { wheelOf } from './mesh/wheels.ts'

type Texts = Record<string, string>
const setOf = (sun: Texts, ring: Texts, planets = '3', place = {}) => {
  const part = train(wheel('sun', 'gear', sun), wheel('ring', 'ring-gear', ring, place))
  const [joint] = part.joints
  return { ...part, joints: [{ ...joint!, kind: 'planetary-set', fields: { ...joint!.fields, planets } }] }
}
function wheelsOf(sun: Texts, ring: Texts) {
  const { values } = found(setOf(sun, ring))
  const { first, second } = values as Record<'first' | 'second', Parameters<typeof wheelOf>[0]>
  return [wheelOf(first), wheelOf(second)] as const
}
const factsOf = (part: ReturnType<typeof setOf>) =>
  Object.fromEntries(found(part).placed!.facts!.map(({ label, text }) => [label, text]))

describe('a planet between a sun and a ring', () => {
  it('runs with both at one distance, whatever their teeth and shifts', () => {
    const any = fc.record({
      sun: fc.integer({ min: 12, max: 40 }),
      planet: fc.integer({ min: 18, max: 40 }),
      odd: fc.boolean(),
      shift: fc.integer({ min: -2, max: 4 }),
      outer: fc.integer({ min: -2, max: 4 }),
    })
    fc.assert(
      fc.property(any, ({ sun, planet, odd, shift, outer }) => {
        const teeth = sun + 2 * planet + (odd ? 1 : 0)
        const [one, ring] = wheelsOf(
          { teeth: `${sun}`, shift: `${shift / 10}` },
          { teeth: `${teeth}`, shift: `${outer / 10}` },
        )
        const found = planetBetween(one, ring)!
        expect(closeInside(found.wheel.teeth, ring.teeth)).toBeCloseTo(found.distance, 4)
        expect(closeDistance(one.teeth, found.wheel.teeth)).toBeCloseTo(found.distance, 9)
        expect(Math.abs(found.wheel.teeth.count - planet)).toBeLessThanOrEqual(1)
        if (!odd && shift === outer && shift === 0) {
          expect(found.wheel.values).toMatchObject({ teeth: planet, shift: 0 })
          expect(found.distance).toBeCloseTo((1.27 * (sun + planet)) / 2, 9)
        }
      }),
    )
  })
  it('is the one that is shifted least, and of two alike the one with fewer teeth', () => {
    const shiftOf = (sun: number, ring: number) => {
      const { wheel } = planetBetween(...wheelsOf({ teeth: `${sun}` }, { teeth: `${ring}` }))!
      return [wheel.teeth.count, wheel.values.shift]
    }
    expect(shiftOf(18, 54)).toEqual([18, 0])
    const [count, shift] = shiftOf(18, 55) as [number, number]
    expect(count).toBe(18)
    expect(shift).toBeGreaterThan(0.2)
    expect(shift).toBeLessThan(0.6)
  })
  it('has room for as many beside each other as do not touch', () => {
    const planet = planetBetween(...wheelsOf({ teeth: '18' }, { teeth: '54' }))!
    const most = mostPlanets(planet)
    expect(betweenTips(planet, 360 / most)).toBeGreaterThan(0)
    expect(betweenTips(planet, 360 / (most + 1))).toBeLessThan(0)
    // A third of the way round, the chord is √3 radii.
    expect(betweenTips(planet, 120)).toBeCloseTo(Math.sqrt(3) * planet.distance - 2 * tipRadius(planet.wheel.teeth), 9)
  })
  it('stands where it goes in: at whole steps of 360° over the teeth of both', () => {
    const wheels = wheelsOf({ teeth: '17' }, { teeth: '53' })
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 9 }), (count) => {
        const steps = spacings(...wheels, count)
        expect(steps).toHaveLength(count)
        expect(steps.reduce((a, b) => a + b)).toBeCloseTo(360, 9)
        for (const step of steps) {
          expect((step * 70) / 360).toBeCloseTo(Math.round((step * 70) / 360), 9)
          expect(Math.abs(step - 360 / count)).toBeLessThan(360 / 70)
        }
      }),
    )
    expect(spacings(...wheels, 5)).toEqual([72, 72, 72, 72, 72])
  })
})

describe('a planetary set', () => {
  it('says what there is to know of it', () => {
    const part = setOf({ teeth: '18', module: '1' }, { teeth: '54', module: '1' })
    expect(factsOf(part)).toMatchObject({
      Planets: '18 teeth; 18 mm from the axis',
      'They stand': 'every 120°',
      'Tip to tip': '11.177 mm',
      'Ring held': 'the sun turns 4 times for one turn of the carrier',
      'Sun held': 'the ring turns 1.333 times for one turn of the carrier',
      'Carrier held': 'the sun turns 3 times for one turn of the ring, against it',
    })
    expect(found(part).told).toMatchObject([{ rank: 'advice', text: 'No planet stands in it yet.' }])
  })
  it('tells what numbers of planets stand evenly, and how many have room', () => {
    const told = (planets: string) =>
      found(setOf({ teeth: '18' }, { teeth: '54' }, planets)).told.map(({ text }) => text)
    expect(told('5')).toContain(
      '5 planets cannot stand evenly: 18 and 54 teeth together do not go into 5. 2, 3 and 4 would.',
    )
    expect(told('4')).toEqual(['No planet stands in it yet.'])
    expect(told('6')).toContain('6 planets of 18 teeth have no room beside each other: 5 have.')
    expect(factsOf(setOf({ teeth: '17' }, { teeth: '53' }, '4'))).toMatchObject({
      'They stand': '92.571, 87.429, 92.571 and 87.429° apart',
    })
    expect(found(setOf({ teeth: '17' }, { teeth: '54' }, '3')).told.map(({ text }) => text)).toContain(
      '3 planets cannot stand evenly: 17 and 54 teeth together do not go into 3. No number of them does.',
    )
  })
  it('tells what does not go together at its place, with what would', () => {
    const problem = (sun: Texts, ring: Texts) => found(setOf(sun, ring)).told.map(({ text }) => text)[0]
    expect(problem({ teeth: '18' }, { teeth: '26' })).toBe(
      'No planet has room between 18 and 26 teeth: take a ring of 37.',
    )
    expect(problem({ teeth: '18' }, { teeth: '12' })).toBe('A ring needs more than the 18 teeth of what runs in it.')
    expect(problem({ teeth: '18' }, { teeth: '54', module: '1.5' })).toContain('Modules don’t match')
    expect(problem({ teeth: '18', run: 'helical' }, { teeth: '54', run: 'helical' })).toBe(
      'Of sun and ring one must be right-hand and the other left-hand.',
    )
    const gears = { ...setOf({ teeth: '18' }, { teeth: '54' }) }
    const [sun, ring] = gears.pieces
    const asGear = { ...gears, pieces: [sun!, { ...ring!, steps: [wheel('ring', 'gear', { teeth: '54' })] }] }
    expect(found(asGear).told[0]!.text).toBe('The ring must be a ring gear, or a gear that is cut out.')
  })
  it('puts the ring about the axis of the sun, at its height and turned as it was', () => {
    const part = setOf({ teeth: '18' }, { teeth: '54' }, '3', { ...beside(3.7, -2.1), lift: '1.3', turn: '15.3' })
    const { between, values, placed, told } = found(part)
    expect(told[0]!.text).toBe('The ring stands 4.254 mm beside the axis of the sun.')
    const { second } = placed!
    expect(between!.settled(values, second!)).toEqual({ ...second, origin: [0, 0, second!.origin[2]] })
    expect(second!.origin[2]).toBeCloseTo(1.3, 9)
    const lying = setOf({ teeth: '18' }, { teeth: '54' }, '3', { tilt: '90' })
    expect(found(lying).told[0]!.text).toBe('Sun and ring must be parallel: stand them on faces that look one way.')
  })
})
