import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { type Joint, newPiece, onBed, type Part, type Place } from '../document/index.ts'
import { defaultFields } from '../fields/index.ts'
import { lengthFrom } from '../hardware/index.ts'
import { itemsIn, mobilityIn, toBuy } from '../planning/index.ts'
import { proofOf } from '../proof/index.ts'
import { built, onFace, partOf, step, testKernel } from '../testing/index.ts'
import { real, runs } from '../testing/sample.ts'
import { jointOf } from './index.ts'

const kernel = await testKernel()
const bolted = jointOf('bolted')!

const off = (by: number) => ({ from: 'centre', to: 'centre', by: `${by}` }) as const
/** Two plates, the first one lying on the second, anywhere and turned; bolted through off their middle. */
function bolt(first: number, second: number, fields: Record<string, string>, turn = 37.3): Part {
  const place = { across: off(9.1), turn: `${turn}` } as Partial<Place>
  const lower = step('low', 'plate', { width: '41.3', depth: '33.7', height: `${second}` }, { place } as never)
  const upper = step('up', 'plate', { width: '41.3', depth: '33.7', height: `${first}` }, {
    place: { ...place, lift: `${second}` },
  } as never)
  const joint: Joint = {
    ...{ id: 'j', name: 'Bolt', kind: 'bolted', pieces: ['p1', 'p2'] },
    fields: { ...defaultFields(bolted.fields), first: `${first}`, second: `${second}`, ...fields },
    place: { ...onBed, ...onFace('up', 'top'), across: off(5.3), along: off(-4.7) } as Place,
  }
  const part = partOf([upper], { joints: [joint] })
  return { ...part, pieces: [part.pieces[0]!, { ...newPiece('p2', 'Lower', 'sand'), steps: [lower] }] }
}
async function looked(part: Part) {
  const made = await built(kernel, part, 0.03)
  const findings = await proofOf(kernel, made, { only: ['hardware'] })
  return {
    problems: made.problems.map(({ text }) => text),
    found: findings.map(({ code, text }) => `${code}: ${text}`),
    buy: toBuy(itemsIn(made.resolved, made.plan)).map(({ item, length }) => [item.id, length] as const),
    volumes: made.pieces.map(({ solid }) => solid!.volume()),
  }
}

describe('a bolt through two pieces', () => {
  it('goes in with its nut, and takes the shortest screw that is long enough, whatever they are', async () => {
    await fc.assert(
      fc.asyncProperty(
        real(6.1, 21.3),
        real(5.2, 21.3),
        fc.constantFrom('seated', 'none'),
        fc.constantFrom('pocket', 'nut'),
        fc.constantFrom(
          ['iso-4762 M4', 'iso-4032 M4'],
          ['iso-10642 M5', 'iso-4032 M5'],
          ['iso-4017 M3', 'iso-4161 M3'],
        ),
        real(0, 0.4),
        async (first, second, seat, end, [item, nut], sunk) => {
          if (item === 'iso-10642 M5' && seat === 'none') return
          const fields = { seat, end, item: item!, nut: nut === 'iso-4161 M3' ? 'iso-4032 M3' : nut!, sunk: `${sunk}` }
          const { problems, found, buy } = await looked(bolt(first, second, fields, 100 * sunk - 20))
          expect(problems).toEqual([])
          expect(found).toEqual([expect.stringMatching(/^hardware-goes-in: .* 2 in all/)])
          const [[, length]] = buy as [[string, number]]
          const values = { M3: [2, 0.5, 2.4], M4: [4, 0.7, 3.2], M5: [3.1, 0.8, 4.7] }[item!.split(' ')[1]!]!
          // A countersunk one is measured from the top of its head, all others from below it.
          const under = seat === 'none' ? 0 : sunk + (item!.startsWith('iso-10642') ? 0 : values[0]!)
          const least = first + second - under + (end === 'nut' ? values[2]! + 2 * values[1]! : 0)
          expect(length).toBe(lengthFrom(least))
          expect(length).toBeGreaterThanOrEqual(least - 1e-6)
        },
      ),
      { numRuns: runs(8) },
    )
  })
  it('cuts from both pieces what its holes take, and nothing else', async () => {
    const [first, second, across] = [8.3, 9.7, 4.5]
    const { volumes } = await looked(bolt(first, second, { end: 'nut', seat: 'none' }))
    const hole = (Math.PI * across ** 2) / 4
    expect(Math.abs(volumes[0]! - first * (41.3 * 33.7 - hole))).toBeLessThan(0.7)
    expect(Math.abs(volumes[1]! - second * (41.3 * 33.7 - hole))).toBeLessThan(0.7)
  })
  it('is screwed into an insert, or into a thread in the second piece, which keeps its other face', async () => {
    for (const end of ['insert', 'tapped', 'formed']) {
      const { problems, found, buy } = await looked(bolt(9.3, 14.7, { end }))
      expect(problems).toEqual([])
      expect(found).toEqual([expect.stringMatching(/^hardware-goes-in/)])
      const [, length] = buy[0]!
      // Its head lies 4 mm deep: so far it comes into the second.
      const into = length! + 4 - 9.3
      expect(into).toBeGreaterThanOrEqual(end === 'insert' ? 4 : 6)
      expect(into).toBeLessThan(end === 'insert' ? 8.1 : 13.7)
    }
  })
  it('holds its pieces, as often as it is there, without asking anything to be exact', async () => {
    const part = bolt(8.3, 9.7, {})
    const [joint] = part.joints
    const across = { ...joint!.place.across, by: '-9.1' }
    const twice = { ...part, joints: [joint!, { ...joint!, id: 'k', place: { ...joint!.place, across } }] }
    for (const each of [part, twice]) {
      const made = await built(kernel, each, 0.1)
      expect(mobilityIn(made, { positions: {} })).toMatchObject({ free: 0, overHeld: 0 })
    }
  })
  it('tells where the pieces are not as thick as it was told', async () => {
    const wrong = bolt(8.3, 9.7, {})
    const told = (first: string, second: string): Part => ({
      ...wrong,
      joints: wrong.joints.map((joint) => ({ ...joint, fields: { ...joint.fields, first, second } })),
    })
    expect((await looked(told('8.3', '14.9'))).found.join()).toContain('hardware-loose')
    // Too thin: the pocket for the nut lies inside, where no nut comes.
    expect((await looked(told('8.3', '6.1'))).found.join()).toContain('hardware-blocked')
  })
  it.each([
    [{ nut: 'iso-4032 M5' }, 'nut'],
    [{ end: 'insert', insert: 'usual-insert M3' }, 'insert'],
    [{ sunk: '9' }, 'first'],
    [{ second: '3' }, 'second'],
    [{ end: 'tapped', second: '4' }, 'second'],
    [{ gap: '0.9' }, 'gap'],
  ] as const)('says at its field what cannot be: %o', async (fields, field) => {
    const made = await built(kernel, bolt(8.3, 9.7, fields), 0.1)
    const [problem] = made.problems
    expect(problem!.path.at(-1)).toBe(field)
    if (problem!.instead) {
      const put = { ...fields, [problem!.instead.field]: problem!.instead.text }
      expect((await built(kernel, bolt(8.3, 9.7, put), 0.1)).problems).toEqual([])
    }
  })
})
