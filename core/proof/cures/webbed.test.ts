import { expect, it } from 'vitest'
import { applyEdit, type Part } from '../../document/index.ts'
import { fieldKindOf } from '../../planning/index.ts'
import { Builder } from '../../solids/index.ts'
import { built, partOf, seeded, step, testKernel } from '../../testing/index.ts'
import { sampled } from '../../testing/sample.ts'
import { type Finding, proofOf } from '../index.ts'

const kernel = await testKernel()
const trials = new Builder(kernel)
const only = ['sheet', 'closed', 'bodies', 'walls', 'islands', 'overhangs', 'bridges', 'necks']

async function proof(part: Part): Promise<readonly Finding[]> {
  const build = (changed: Part) => trials.build(changed, { fineness: 0.02 })
  return proofOf(kernel, await built(kernel, part, 0.02), { only, build })
}

/** Two posts with a beam over them, so far apart, turned and off the origin; on a foot or on the bed. */
function portal(span: number, wide: number, high: number, turn: number, foot: number) {
  const out = (far: number) => {
    const [x, y] = [Math.cos, Math.sin].map((of) => of((turn * Math.PI) / 180) * far)
    const off = (by: number) => ({ from: 'centre', to: 'centre', by: `${by}` })
    return { turn: `${turn}`, across: off(x! + 13.3), along: off(y! - 7.1) }
  }
  const block = (id: string, [w, d, h]: readonly number[], far: number, lift: number) =>
    step(id, 'plate', { width: `${w}`, depth: `${d}`, height: `${h}` }, {
      place: { ...out(far), lift: `${lift}` },
    } as never)
  return partOf([
    ...(foot > 0 ? [block('foot', [span + 12.6, wide, foot], 0, 0)] : []),
    block('left', [6.3, wide, high], -(span + 6.3) / 2, foot),
    block('right', [6.3, wide, high], (span + 6.3) / 2, foot),
    block('beam', [span + 12.6, wide, 4.1], 0, foot + high),
  ])
}

it.each(sampled(20))('a bridge that is too long gets webs to be cut away, as many as it needs (%i)', async (i) => {
  const random = seeded(71 * i)
  const { bridge, lineWidth } = partOf([]).printer
  const span = bridge * (1.1 + 2.4 * random())
  const foot = random() < 0.5 ? 0 : 2.3
  const part = portal(span, 9 + 8 * random(), 6 + 9 * random(), 360 * random(), foot)
  const found = await proof(part)
  expect(found.filter(({ rank }) => rank !== 'pass').map(({ check }) => check)).toEqual(['bridges'])
  const cures = found.flatMap(({ cures: own = [] }) => own)
  const count = Math.ceil((span - bridge) / (bridge + 2 * lineWidth))
  expect(cures.length).toBe(1)
  expect([count, count + 1]).toContain(cures[0]!.edits.length)
  const after = cures[0]!.edits.reduce((so, edit) => applyEdit(so, edit, fieldKindOf), part)
  expect((await proof(after)).every(({ rank }) => rank === 'pass')).toBe(true)
})
it('the roof of a closed cavity gets none: nobody gets at them', async () => {
  const block = (id: string, size: readonly number[], lift: number, operation: string) =>
    step(id, 'plate', { width: `${size[0]}`, depth: `${size[1]}`, height: `${size[2]}` }, {
      ...{ operation, place: { lift: `${lift}`, rest: 'on' } },
    } as never)
  const found = await proof(
    partOf([block('a', [44.7, 41.3, 19.1], 0, 'add'), block('b', [33.3, 31.9, 9.7], 4.3, 'cut')]),
  )
  expect(found.some(({ check, rank }) => check === 'bridges' && rank === 'warning')).toBe(true)
  expect(
    found.flatMap(({ cures = [], tried = [] }) => [...cures.map(({ label }) => label), ...tried]).join(),
  ).not.toContain('web')
})
it('one that has no room for a knife below it gets none', async () => {
  const found = await proof(portal(24.7, 11.3, 1.4, 15.3, 2.3))
  expect(found.some(({ check, rank }) => check === 'bridges' && rank === 'warning')).toBe(true)
  expect(found.flatMap(({ cures = [] }) => cures.map(({ label }) => label)).join()).not.toContain('web')
})
