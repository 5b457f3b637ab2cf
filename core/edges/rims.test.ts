import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import type { Step } from '../document/index.ts'
import { meshFigures } from '../mesh/index.ts'
import { built, onFace, partOf, step, testKernel, treatment } from '../testing/index.ts'
import { inTurn, runs } from '../testing/sample.ts'
import { itInTurn } from '../testing/turns.ts'

const kernel = await testKernel()

async function made(steps: readonly Step[], fineness = 0.02) {
  const { pieces, problems } = await built(kernel, partOf(steps), fineness)
  const solid = pieces[0]!.solid!
  return { solid, volume: solid.volume(), problems, told: problems.map(({ code }) => code) }
}
/** Volumes the finer it is: of two finenesses the error of one is four times the other's. */
async function limit(steps: readonly Step[]) {
  const [fine, coarse] = [await made(steps, 0.005), await made(steps, 0.02)]
  expect(fine.told).toEqual([])
  return (4 * fine.volume - coarse.volume) / 3
}
const round = (edges: string, radius: number) => treatment('round', { edges, radius: `${radius}` })
const bevel = (edges: string, size: number) => treatment('bevel', { edges, size: `${size}` })

/** A rectangle with rounded corners, and what is left of it `by` inside: corners that are tighter than that are sharp there. */
const areaAt = (w: number, d: number, corner: number, by: number) =>
  (w - 2 * by) * (d - 2 * by) - (4 - Math.PI) * Math.max(0, corner - by) ** 2
/** What a profile takes that has gone in by `inAt` at each height, mm³. */
function takenBy(w: number, d: number, corner: number, tall: number, inAt: (u: number) => number) {
  const steps = 4000
  let sum = 0
  // Simpson's rule.
  for (let i = 0; i <= steps; i++) {
    const weight = i === 0 || i === steps ? 1 : i % 2 === 1 ? 4 : 2
    sum += weight * (areaAt(w, d, corner, 0) - areaAt(w, d, corner, inAt((i / steps) * tall)))
  }
  return (sum * tall) / steps / 3
}
const roundIn = (r: number) => (up: number) => r - Math.sqrt(Math.max(0, r * r - up * up))
const block = (w: number, d: number, h: number, corner: number) =>
  step('b', 'plate', { width: `${w}`, depth: `${d}`, height: `${h}`, corner: `${corner}` })

describe('a rim whose corners are tighter than its round', () => {
  it('comes to its form: rounded at the top', async () => {
    const [w, d, h, corner, r] = [40.3, 30.1, 12.7, 0.9, 2.6]
    const plain = await limit([block(w, d, h, corner)])
    const volume = await limit([block(w, d, h, corner), round('of b/top', r)])
    // The profile leaves the wall at the height r below the top.
    expect((plain - volume) / takenBy(w, d, corner, r, roundIn(r))).toBeCloseTo(1, 3)
  })
  it('comes to its form: bevelled, in closed form', async () => {
    const [w, d, h, corner, c] = [40.3, 30.1, 12.7, 0.9, 2.6]
    const plain = await limit([block(w, d, h, corner)])
    const volume = await limit([block(w, d, h, corner), bevel('of b/top', c)])
    const frustum = (w + d) * c ** 2 - (4 / 3) * c ** 3 - (4 - Math.PI) * (corner ** 2 * c - corner ** 3 / 3)
    expect((plain - volume) / frustum).toBeCloseTo(1, 5)
    expect((plain - volume) / takenBy(w, d, corner, c, (up) => up)).toBeCloseTo(1, 5)
  })
  it('comes to its form: the floor of a pocket filled', async () => {
    const [w, d, deep, corner, r] = [20.3, 14.1, 6.2, 0.7, 1.9]
    const pocket = step(
      'p',
      'plate',
      { width: `${w}`, depth: `${d}`, height: `${deep}`, corner: `${corner}` },
      {
        operation: 'cut',
        place: onFace('b', 'top'),
      },
    )
    const steps = [block(40, 30, 12, 0), pocket]
    const plain = await limit(steps)
    const volume = await limit([...steps, round('of p/bottom', r)])
    expect((volume - plain) / takenBy(w, d, corner, r, roundIn(r))).toBeCloseTo(1, 3)
  })
  it('is the same turned, off the middle, and at a hole whose corners bend the other way', async () => {
    const [r, corner] = [2.2, 0.6]
    const hole = step(
      'p',
      'plate',
      { width: '16', depth: '9', height: '20', corner: `${corner}` },
      {
        operation: 'cut',
        place: { ...onFace('b', 'top'), turn: '37.3', across: { from: 'centre', to: 'centre', by: '5.1' } },
      },
    )
    const steps = [block(60, 40, 12.7, 0), hole]
    const plain = await limit(steps)
    // Round a hole the round goes outwards: its corners grow.
    const grown = (by: number) => areaAt(16 + 2 * by, 9 + 2 * by, corner + by, 0) - areaAt(16, 9, corner, 0)
    const volume = await limit([...steps, round('where p meets b/top', r)])
    let sum = 0
    const n = 4000
    for (let i = 0; i <= n; i++) sum += (i === 0 || i === n ? 1 : i % 2 === 1 ? 4 : 2) * grown(roundIn(r)((i / n) * r))
    expect((plain - volume) / ((sum * r) / n / 3)).toBeCloseTo(1, 3)
  })
  it('fits any plate, however tight its corners are, and takes what it should', async () => {
    const cases = fc.record({
      w: fc.integer({ min: 120, max: 500 }).map((tenths) => tenths / 10),
      d: fc.integer({ min: 120, max: 500 }).map((tenths) => tenths / 10),
      corner: fc.integer({ min: 5, max: 250 }).map((hundredths) => hundredths / 100),
      r: fc.integer({ min: 20, max: 500 }).map((hundredths) => hundredths / 100),
      turn: fc.integer({ min: 0, max: 359 }),
    })
    await fc.assert(
      fc.asyncProperty(cases, async ({ w, d, corner, r, turn }) => {
        const plate = { ...block(w, d, 9, corner) }
        const turned = { ...plate, place: { ...plate.place, turn: `${turn}` } }
        const [plain, done] = [await made([turned]), await made([turned, bevel('of b/top', r)])]
        expect(done.told).toEqual([])
        expect(meshFigures(done.solid.mesh())).toMatchObject({ closed: true, oriented: true, solids: 1 })
        expect((plain.volume - done.volume) / takenBy(w, d, corner, r, (up) => up)).toBeCloseTo(1, 2)
      }),
      { numRuns: runs(25) },
    )
  })
})

describe('lettering', () => {
  const plate = step('b', 'plate', { width: '130', depth: '40', height: '4' })
  const text = step('x', 'text', { text: 'Makrel 7S&g', size: '14', depth: '2' }, { place: onFace('b', 'top') })
  it.each(inTurn(2, ['0.2', '0.8']))('has its upper edges rounded and bevelled by %s', async (size) => {
    const plain = await made([plate, text])
    for (const last of [round('of x/face', Number(size)), bevel('of x/face', Number(size))]) {
      const { solid, volume, told } = await made([plate, text, last])
      expect(told).toEqual([])
      expect(meshFigures(solid.mesh())).toMatchObject({ closed: true, oriented: true, solids: 1 })
      expect(volume).toBeLessThan(plain.volume)
      expect(solid.bounds()).toEqual(plain.solid.bounds())
    }
  })
  itInTurn(2, 'is filled at its foot, but where two letters come too near for it, which is told', async () => {
    const plain = await made([plate, text])
    const { solid, volume, problems } = await made([plate, text, round('where x meets b', 0.4)])
    expect(meshFigures(solid.mesh())).toMatchObject({ closed: true, oriented: true, solids: 1 })
    expect(volume).toBeGreaterThan(plain.volume + 10)
    expect(problems).toEqual([])
    const large = await made([plate, text, round('where x meets b', 1.5)])
    expect(large.problems.map(({ code, offer }) => [code, offer?.field])).toEqual([['round-no-room', 'radius']])
    expect(meshFigures(large.solid.mesh())).toMatchObject({ closed: true, oriented: true, solids: 1 })
    expect(large.volume).toBeGreaterThan(volume)
  })
  it('too narrow for what is made along it is told, with what fits, and all else is done', async () => {
    const thin = step('x', 'text', { text: 'I', size: '14', depth: '4' }, { place: onFace('b', 'top') })
    const { problems, solid } = await made([plate, thin, bevel('of x/face', 3)])
    expect(problems.map(({ code }) => code)).toEqual(['round-no-room'])
    const most = problems[0]!.offer!.value
    const wide = solid.bounds()!
    expect(wide.max[2]).toBeCloseTo(8, 6)
    expect((await made([plate, thin, bevel('of x/face', most)])).told).toEqual([])
    expect((await made([plate, thin, bevel('of x/face', most + 0.05)])).told).toEqual(['round-no-room'])
  })
})
