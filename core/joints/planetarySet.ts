import { listed } from '../document/index.ts'
import type { ValuesOf } from '../fields/index.ts'
import { type Frame, world } from '../place/index.ts'
import { plainSurfaces, surfacesOf } from '../shapes/index.ts'
import { type Beside, defineJoint, type Fact, type Judged, type WantedSteps } from './define.ts'
import { parallel } from './mesh/parallel.ts'
import {
  betweenTips,
  mostPlanets,
  type Planet,
  planetBetween,
  planetFrames,
  runsInRing,
  spacings,
} from './mesh/planets.ts'
import { ownMotion, positionOf } from './mesh/turning.ts'
import { near, shown, type Wheel, wheelOf } from './mesh/wheels.ts'

const fields = {
  first: {
    kind: 'step',
    label: 'Sun',
    default: '',
    of: ['gear'],
    side: 0,
    meaning: 'The gear of the first piece that its planets go round.',
  },
  second: {
    kind: 'step',
    label: 'Ring',
    default: '',
    of: ['ring-gear', 'gear'],
    side: 1,
    meaning: 'The ring gear of the second piece, or a gear cut out of it, that its planets run in.',
  },
  planets: {
    kind: 'count',
    label: 'Planets',
    default: '3',
    least: 1,
    most: 12,
    meaning: 'How many go round between the two, each a piece of its own.',
  },
} as const

type Values = ValuesOf<typeof fields>
type Fault = Judged['faults'][number]

/** A sun, a ring on its axis, and planets that run with both. */
export const planetarySet = defineJoint({
  kind: 'planetary-set',
  label: 'planetary set',
  words: ['planetary gear', 'epicyclic', 'sun gear'],
  icon: 'M16 2 A10 10 0 1 1 15.99 2 Z M16 9.5 A2.5 2.5 0 1 1 15.99 9.5 Z M16 3.5 A2.2 2.2 0 1 1 15.99 3.5 Z M9.2 13.3 A2.2 2.2 0 1 1 9.19 13.3 Z M22.8 13.3 A2.2 2.2 0 1 1 22.79 13.3 Z',
  fields,
  sentence: () => [
    'planetary set of',
    { field: 'planets' },
    'planets about',
    { field: 'first' },
    'in',
    { field: 'second' },
  ],
  impossible(v) {
    const [sun, ring] = wheelsOf(v)
    if (sun.kind !== 'outside') return { field: 'first', detail: 'The sun must be a gear with its teeth outside.' }
    if (ring.kind !== 'inside')
      return { field: 'second', detail: 'The ring must be a ring gear, or a gear that is cut out.' }
    // Between the two there is a planet of the other hand than the sun, so that the ring has its hand as well.
    const [asSun, asRing] = [sun, ring].map(({ values }) => values)
    if (asSun!.run !== 'straight' && asSun!.run === asRing!.run && asSun!.hand === asRing!.hand)
      return { field: 'second', detail: 'Of sun and ring one must be right-hand and the other left-hand.' }
    const told = parallel.impossible({ ...sun, values: { ...sun.values, hand: asRing!.hand } }, ring)
    if (told) return { field: told.field, detail: told.detail }
    if (!planetBetween(sun, ring))
      return {
        field: 'second',
        detail: `No planet has room between ${sun.teeth.count} and ${ring.teeth.count} teeth: take a ring of ${nearestRing(sun, ring)}.`,
      }
    return undefined
  },
  box: () => ({ min: [0, 0, 0], max: [0, 0, 0] }),
  dimensions: () => [],
  surfaces: () => surfacesOf(plainSurfaces('teeth')),
  solids: () => ({ cuts: [[], []], adds: [[], []] }),
  freedoms: (v) => [
    { label: 'turning', unit: 'degrees', from: 0, to: 360, atRest: 0, period: 360 / wheelOf(v.first).teeth.count },
  ],
  motion: () => world,
  between: {
    steps: ({ first, second }) => [first.id, second.id],
    motions(v, second, [at = 0]) {
      const [sun, ring] = wheelsOf(v)
      return [ownMotion(sun, world, at), ownMotion(ring, second, at * ratioOf(v))]
    },
    positions(v, second, side, motion) {
      const [sun, ring] = wheelsOf(v)
      return [side === 0 ? positionOf(sun, world, motion) : positionOf(ring, second, motion) / ratioOf(v)]
    },
    judged,
    puts: { label: 'Put the ring on the axis of the sun', done: 'The ring stands about the sun.' },
    settled: (_, second) =>
      Math.abs(second.n[2]) < 1 - 1e-9 ? undefined : { ...second, origin: [0, 0, second.origin[2]] },
    fellows: { by: 'gear-mesh', name: 'Planet', wanted },
  },
})

function wheelsOf({ first, second }: Values): readonly [sun: Wheel, ring: Wheel] {
  return [wheelOf(first), wheelOf(second)]
}

/** Turns of the ring for one of the sun, their planets' axes held. */
function ratioOf(v: Values): number {
  const [sun, ring] = wheelsOf(v)
  return -sun.teeth.count / ring.teeth.count
}

/** How many teeth a ring must have, of which that is nearest to what it has. */
function nearestRing(sun: Wheel, ring: Wheel): number {
  const { values } = ring
  for (let more = 1; more < 400; more++)
    for (const count of [ring.teeth.count - more, ring.teeth.count + more])
      if (count > sun.teeth.count && planetBetween(sun, wheelOf(stepOf(values, count)))) return count
  return 2 * sun.teeth.count
}

/** A ring gear with these teeth, but so many of them. */
function stepOf(values: Wheel['values'], teeth: number): Values['second'] {
  return { id: '', shape: 'ring-gear', adds: true, values: { ...values, teeth } as unknown as Record<string, unknown> }
}

/** The gears that run with the sun, with whether they run in the ring too. */
function gearsBeside(v: Values, second: Frame, beside: readonly Beside[]) {
  const [sun, ring] = wheelsOf(v)
  return beside.flatMap(({ step, frame }) => {
    if (step.shape !== 'gear' || !step.adds) return []
    const wheel = wheelOf(step)
    const isRight = !parallel.impossible(sun, wheel) && runsInRing(ring, second, wheel, frame)
    return [{ id: step.id, isRight }]
  })
}

function judged(v: Values, second: Frame, beside: readonly Beside[]): Judged {
  const [sun, ring] = wheelsOf(v)
  const planet = planetBetween(sun, ring)
  const fault = (detail: string): Judged => ({ facts: [], faults: [{ detail, rank: 'fault' }] })
  // Told with its fields.
  if (!planet) return { facts: [], faults: [] }
  if (Math.abs(second.n[2]) < 1 - 1e-9)
    return fault('Sun and ring must be parallel: stand them on faces that look one way.')
  if (sun.values.run !== 'straight' && second.n[2] < 0)
    return fault('Teeth that run at an angle must stand the same way up.')
  const faults: Fault[] = []
  const off = Math.hypot(second.origin[0], second.origin[1])
  if (off > near)
    faults.push({ detail: `The ring stands ${shown(off)} mm beside the axis of the sun.`, rank: 'warning' })
  const most = mostPlanets(planet)
  const steps = spacings(sun, ring, v.planets)
  if (v.planets > most)
    faults.push({
      detail: `${v.planets} planets of ${planet.wheel.teeth.count} teeth have no room beside each other: ${most} have.`,
      rank: 'warning',
    })
  const even = Array.from({ length: most }, (_, i) => i + 1).filter(
    (n) => n > 1 && (sun.teeth.count + ring.teeth.count) % n === 0,
  )
  const isEven = Math.max(...steps) - Math.min(...steps) < 1e-9
  if (!isEven)
    faults.push({
      detail: `${v.planets} planets cannot stand evenly: ${sun.teeth.count} and ${ring.teeth.count} teeth together do not go into ${v.planets}. ${even.length > 0 ? `${listed(even.map(String))} would.` : 'No number of them does.'}`,
      rank: 'advice',
    })
  const there = gearsBeside(v, second, beside)
  const right = there.filter(({ isRight }) => isRight).length
  if (right < there.length)
    faults.push({
      detail:
        there.length - right === 1
          ? 'A gear that runs with the sun does not run in the ring.'
          : `${there.length - right} gears that run with the sun do not run in the ring.`,
      rank: 'warning',
    })
  else if (there.length === 0) faults.push({ detail: 'No planet stands in it yet.', rank: 'advice' })
  else if (there.length !== v.planets)
    faults.push({ detail: `${there.length} planets stand in it, not ${v.planets}.`, rank: 'advice' })
  const meshes = [
    { name: 'Sun and planet', ...pairJudged(sun, planet.wheel) },
    { name: 'Ring and planet', ...pairJudged(ring, planet.wheel) },
  ]
  for (const { name, faults: own } of meshes)
    faults.push(...own.map(({ detail, rank }) => ({ detail: `${name}: ${detail}`, rank })))
  return { facts: factsOf(v, planet, steps, isEven, meshes), faults }
}

/** What is known of a planet where it stands right with one of the two. */
function pairJudged(one: Wheel, planet: Wheel): Judged {
  const beside: Frame = { ...world, origin: [1, 0, 0] }
  return parallel.judged(one, planet, parallel.settled(one, planet, beside)!)
}

function factsOf(
  v: Values,
  planet: Planet,
  steps: readonly number[],
  isEven: boolean,
  meshes: readonly (Judged & { readonly name: string })[],
): readonly Fact[] {
  const [sun, ring] = wheelsOf(v).map(({ teeth }) => teeth.count) as [number, number]
  const { count } = planet.wheel.teeth
  const shift = shown(planet.wheel.values.shift)
  const spaces = isEven ? `every ${shown(steps[0]!)}°` : `${listed(steps.map(shown).map(String))}° apart`
  const room =
    v.planets < 2 ? [] : [{ label: 'Tip to tip', text: `${shown(betweenTips(planet, Math.min(...steps)))} mm` }]
  return [
    {
      label: 'Planets',
      text: `${count} teeth${shift === 0 ? '' : `, shifted by ${shift}`}; ${shown(planet.distance)} mm from the axis`,
    },
    { label: 'They stand', text: spaces },
    ...room,
    { label: 'Ring held', text: `the sun turns ${shown(1 + ring / sun)} times for one turn of the carrier` },
    { label: 'Sun held', text: `the ring turns ${shown(1 + sun / ring)} times for one turn of the carrier` },
    { label: 'Carrier held', text: `the sun turns ${shown(ring / sun)} times for one turn of the ring, against it` },
    ...meshes.flatMap(({ name, facts }) =>
      facts.filter(({ label }) => label === 'Contact ratio').map(({ text }) => ({ label: name, text })),
    ),
  ]
}

/** Planets that are there are kept, and given the teeth and the place that they need; those that are missing are made like the sun. */
function wanted(v: Values, second: Frame, beside: readonly Beside[]): WantedSteps | undefined {
  const [sun, ring] = wheelsOf(v)
  const planet = planetBetween(sun, ring)
  const isCoaxial = Math.abs(second.n[2]) > 1 - 1e-9 && Math.hypot(second.origin[0], second.origin[1]) <= near
  if (!planet || !isCoaxial || v.planets > mostPlanets(planet)) return undefined
  const there = gearsBeside(v, second, beside)
  if (there.length >= v.planets && there.every(({ isRight }) => isRight)) return undefined
  const { values, teeth } = planet.wheel
  const fields = { teeth: `${teeth.count}`, shift: `${values.shift}`, hand: values.hand }
  const plain = { bore: 'none', hub: 'none', web: 'full', screws: 'none', marks: 'none' }
  const frames = planetFrames(sun, ring, second, planet, v.planets)
  const steps = frames.map((frame, i) => {
    const own = there[i]
    return own ? { id: own.id, fields, frame } : { fields: { ...fields, ...plain }, frame }
  })
  const missing = v.planets - there.length
  const some = (n: number) => `${n} planet${n === 1 ? '' : 's'}`
  return missing === v.planets
    ? { label: `Put ${some(missing)} in`, done: `${some(missing)} were put in.`, steps }
    : { label: 'Put its planets right', done: 'Its planets stand between sun and ring.', steps }
}
