import { expect, it } from 'vitest'
import type { KeptFlex } from '../document/index.ts'
import { atOnce } from '../pacing/index.ts'
import { endOf, startOf } from '../plane/index.ts'
import { proofOf } from '../proof/index.ts'
import { built, onFace, partOf, step, testKernel } from '../testing/index.ts'
import { edgesOf, flexTesting, sheetOfSolid } from './index.ts'

const kernel = await testKernel()
const off = (by: number) => ({ from: 'centre', to: 'centre', by: `${by}` }) as const
const plate = (id: string, width: number, depth: number, height: number, x: number) =>
  step(id, 'plate', { width: `${width}`, depth: `${depth}`, height: `${height}` }, { place: { across: off(x) } })

/** A bar of two plates with a hole at its thick end, off the origin. */
const steps = [
  plate('a', 37.3, 2.1, 6.1, 40),
  plate('b', 12, 15.3, 6.1, 16),
  step('h', 'hole', { diameter: '5' }, { operation: 'cut', place: onFace('b', 'top') }),
]

it('a piece of several steps is a prism where all of it is as high and upright, and no other', async () => {
  const solidOf = async (more: typeof steps) => (await built(kernel, partOf(more), 0.01)).pieces[0]!.solid!
  const sheet = sheetOfSolid(kernel, await solidOf(steps))!
  expect(sheet.thickness).toBeCloseTo(6.1, 9)
  expect(sheet.region.loops).toHaveLength(2)
  const overlap = 22 - (40 - 37.3 / 2)
  expect(sheet.region.area()).toBeCloseTo(37.3 * 2.1 + 12 * 15.3 - overlap * 2.1 - Math.PI * 2.5 ** 2, 1)
  expect(sheetOfSolid(kernel, await solidOf([...steps, plate('c', 5, 5, 6.2, 16)]))).toBeUndefined()
  expect(sheetOfSolid(kernel, await solidOf([step('ball', 'ball', {})]))).toBeUndefined()
})
it('is bent as the bar that it is, and that is a finding', async () => {
  const part = partOf(steps)
  const done = await built(kernel, part, 0.01)
  const sheet = sheetOfSolid(kernel, done.pieces[0]!.solid!)!
  const edgeAt = (x: number) =>
    edgesOf(sheet.region)
      .flat()
      .find(({ segment }) => [startOf(segment), endOf(segment)].every((p) => Math.abs(p[0] - x) < 1e-6))!.edge
  const flex: KeptFlex = {
    ...{ id: 'f', name: 'Press', of: part.pieces[0]!.id, held: [edgeAt(10)], pushed: [edgeAt(40 + 37.3 / 2)] },
    ...{ way: '90', by: 'distance', distance: '0.5', force: '1', finer: 0 },
  }
  const found = atOnce(flexTesting(done.resolved, flex, () => sheet))
  if (found.fault !== undefined) throw new Error(found.fault)
  // From where it leaves the block; that gives a little.
  const long = 40 + 37.3 / 2 - 22
  const bar = (3 * part.material.stiffness * ((6.1 * 2.1 ** 3) / 12)) / long ** 3
  expect(found.stiffness / bar).toBeGreaterThan(0.85)
  expect(found.stiffness / bar).toBeLessThan(1)
  const findings = await proofOf(kernel, await built(kernel, { ...part, flexes: [flex] }, 0.01), { only: ['flex'] })
  expect(findings.find(({ check }) => check === 'flex')).toMatchObject({
    ...{ rank: 'pass', about: [{ kind: 'piece', id: part.pieces[0]!.id }] },
  })
  // Of what has more than one thickness, in words.
  const round = { ...partOf([step('ball', 'ball', {})]), flexes: [flex] }
  const told = await proofOf(kernel, await built(kernel, round), { only: ['flex'] })
  expect(told.find(({ check }) => check === 'flex')!.text).toMatch(/A flex test needs one thickness/)
})
