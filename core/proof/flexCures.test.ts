import { describe, expect, it } from 'vitest'
import { applyEdit, type Derived, type Part } from '../document/index.ts'
import { flexTesting } from '../flex/index.ts'
import { atOnce } from '../pacing/index.ts'
import { fieldKindOf, workOut } from '../planning/index.ts'
import { built, partOf, step, testKernel } from '../testing/index.ts'
import { emptyOutline } from '../testing/outlines.ts'
import { itInTurn } from '../testing/turns.ts'
import { proofOf } from './index.ts'

const kernel = await testKernel()

/** A leg on a block, off the origin: held below, pushed at its end. */
function leg(derived: readonly Derived[], distance: string, finer = 0): Part {
  const corners = [
    [3, 0],
    [33, 0],
    [33, 10],
    [15.1, 10],
    [15.1, 41.7],
    [13, 41.7],
    [13, 10],
    [3, 10],
  ] as const
  const points = corners.map((at, i) => ({ id: `p${i}`, at: [...at] as [number, number] }))
  const curves = points.map(({ id }, i) => ({
    ...{ id: `c${i}`, kind: 'line', helper: false },
    points: [id, points[(i + 1) % points.length]!.id],
  }))
  return partOf([step('leg', 'extrude', { outline: 'o', height: '7.3' })], {
    outlines: [{ ...emptyOutline('o'), points, curves, derived: [...derived] }],
    flexes: [
      {
        ...{ id: 'f', name: 'Press', of: 'leg', held: ['c0'], pushed: ['c4'], way: '0', by: 'distance', distance },
        ...{ force: '1', finer },
      },
    ],
  })
}
const round = (of: readonly string[], size: string): Derived => ({
  ...{ id: 'r1', kind: 'corner', of: [...of] },
  fields: { form: 'round', size },
})
const strainOf = (part: Part) => {
  const found = atOnce(flexTesting(workOut(part).resolved, part.flexes[0]!))
  if (found.fault !== undefined) throw new Error(found.fault)
  return Math.abs(found.strain)
}
async function findingOf(part: Part) {
  const [finding] = await proofOf(kernel, await built(kernel, part), { only: ['flex'] })
  return finding!
}
/** A distance that strains it by so much of what its material takes again and again. */
function pushedTo(share: number, derived: readonly Derived[]): string {
  const plain = strainOf(leg(derived, '1'))
  return String((share * partOf([]).material.strainOften) / 100 / plain)
}

describe('a leg that is strained too much at its corner', () => {
  itInTurn(2, 'is cured by a round there, which is tried before it is offered', async () => {
    const part = leg([], pushedTo(1.15, []))
    const finding = await findingOf(part)
    expect(finding.rank).toBe('warning')
    const [cure] = finding.cures!
    expect(cure!.label).toMatch(/^Round that corner by /)
    const cured = cure!.edits.reduce((so, edit) => applyEdit(so, edit, fieldKindOf), part)
    expect(strainOf(cured)).toBeLessThan(0.93 * strainOf(part))
    expect(cure!.after).toContain(`Strain ${Number((100 * strainOf(cured)).toPrecision(2))} %`)
    // The corner that is pushed open or closed, not one further away.
    expect(['p3', 'p6']).toContain(cured.outlines[0]!.derived[0]!.of[0])
  })
  itInTurn(2, 'has the round that is there made larger', async () => {
    const rounds = [round(['p3', 'p6'], '0.3')]
    const part = leg(rounds, pushedTo(1.15, rounds))
    const [cure] = (await findingOf(part)).cures!
    const cured = cure!.edits.reduce((so, edit) => applyEdit(so, edit, fieldKindOf), part)
    expect(cured.outlines[0]!.derived).toHaveLength(1)
    expect(Number(cured.outlines[0]!.derived[0]!.fields.size)).toBeGreaterThan(0.3)
    expect((await findingOf(cured)).rank).toBe('pass')
  })
  it('has no cure where nothing is wrong', async () => {
    const rounds = [round(['p3', 'p6'], '1.5')]
    expect((await findingOf(leg(rounds, pushedTo(0.8, rounds)))).cures).toBeUndefined()
  })
})

it('a wall that is strained too much is made thinner', async () => {
  const outline = {
    ...emptyOutline('o'),
    points: [
      { id: 'a', at: [0, 0] as [number, number] },
      { id: 'b', at: [37.3, 0] as [number, number] },
    ],
    curves: [{ id: 'l', kind: 'line', points: ['a', 'b'], helper: false }],
  }
  const part = (distance: string) =>
    partOf([step('w', 'extrude', { outline: 'o', height: '6.1', wall: 'middle', thick: '2.1' })], {
      outlines: [outline],
      flexes: [
        {
          ...{ id: 'f', name: 'Press', of: 'w', held: ['l#2'], pushed: ['l#4'], way: '90', by: 'distance', distance },
          ...{ force: '1', finer: 0 },
        },
      ],
    })
  // Strain at the root of a bar: 3 t d / 2 L²
  const distance = ((1.3 * part('1').material.strainOften) / 100) * ((2 * 37.3 ** 2) / (3 * 2.1))
  const own = part(String(distance))
  const finding = await findingOf(own)
  const cure = finding.cures!.find(({ label }) => /thick$/.test(label))!
  const cured = cure.edits.reduce((so, edit) => applyEdit(so, edit, fieldKindOf), own)
  expect((await findingOf(cured)).rank).toBe('pass')
})

it('a round is strained alike in finer triangles', () => {
  const rounds = [round(['p3', 'p6'], '0.7')]
  const [plain, fine] = [0, 1].map((finer) => strainOf(leg(rounds, '1.3', finer)))
  expect(fine! / plain!).toBeGreaterThan(0.96)
  expect(fine! / plain!).toBeLessThan(1.04)
})
