import { readFileSync } from 'node:fs'
import { expect, it, vi } from 'vitest'
import { applyEdit, type Edit, type Part, readPartFile } from '../document/index.ts'
import { shippedPrinters } from '../fits/index.ts'
import { fieldKindOf, upgraded } from '../planning/index.ts'
import { BuildAborted, Builder, measuringFineness } from '../solids/index.ts'
import { seeded, testKernel } from '../testing/index.ts'
import { inTurn, sampled } from '../testing/sample.ts'
import { itInTurn } from '../testing/turns.ts'
import { checks, ProofMemory, proofOf } from './index.ts'

const kernel = await testKernel()
const demo = (name: string) =>
  upgraded(readPartFile(readFileSync(new URL(`../../demo/${name}.makrel.json`, import.meta.url), 'utf8')))

/** Tells what was found anew. */
class Watched extends ProofMemory {
  readonly anew: string[] = []
  override kept(key: string, find: Parameters<ProofMemory['kept']>[1]) {
    return super.kept(key, () => {
      this.anew.push(JSON.parse(key)[0])
      return find()
    })
  }
}

/** Anything that makers do to a part of several pieces. */
function anyEdit(part: Part, random: () => number): Edit {
  const pick = <T>(all: readonly T[]): T => all[Math.floor(random() * all.length)]!
  const piece = pick(part.pieces)
  const sized = part.pieces.flatMap(({ steps }) =>
    steps.flatMap((step) =>
      step.kind !== 'shape'
        ? []
        : Object.entries(step.fields).flatMap(([field, text]) =>
            /^\d+(\.\d+)?$/.test(text) && Number(text) > 2 ? [{ id: step.id, field, text }] : [],
          ),
    ),
  )
  const more = (text: string) => (Number(text) + 0.2 * random()).toFixed(2)
  const measured = part.measures.filter(({ expression }) => Number(expression) > 1)
  const edits: Edit[] = [
    ...(sized.length > 0 ? [pick(sized), pick(sized)] : []).map(
      ({ id, field, text }): Edit => ({ type: 'set-field', id, field, text: more(text) }),
    ),
    ...(measured.length > 0 ? [pick(measured)] : []).map(
      ({ id, expression }): Edit => ({ type: 'set-measure', id, change: { expression: more(expression) } }),
    ),
    { type: 'set-piece', id: piece.id, change: { name: `Gauge ${Math.floor(9 * random())}` } },
    { type: 'set-printer', printer: pick(shippedPrinters) },
  ]
  return pick(edits)
}

it.each(sampled(60, 1, 60))('what is known from before is what would be found anew (%i)', async (i) => {
  const random = seeded(i)
  const memory = new Watched()
  const builder = new Builder(kernel)
  const start = demo(['locker-hinge', 'cam-cleat', 'boat-hook-clip'][i % 3]!)
  const states = [start]
  for (let k = 0; k < 4; k++) {
    // Forth, and back to a state that was there.
    const next =
      random() < 0.3
        ? states[Math.floor(random() * states.length)]!
        : applyEdit(states.at(-1)!, anyEdit(states.at(-1)!, random), fieldKindOf)
    states.push(next)
    const built = await builder.build(next, { fineness: measuringFineness })
    expect(await proofOf(kernel, built, { memory })).toEqual(await proofOf(kernel, built))
  }
  builder.clear()
})

itInTurn(2, 'an edit proves what it touches, and what is taken back is known', async () => {
  const memory = new Watched()
  const builder = new Builder(kernel)
  const proof = async (part: Part) => {
    memory.anew.length = 0
    await proofOf(kernel, await builder.build(part, { fineness: measuringFineness }), { memory })
    return memory.anew.length
  }
  const part = demo('bench-vice-linkage')
  const all = await proof(part)
  expect(all).toBeGreaterThan(20)
  expect(await proof(part)).toBe(0)
  // What no solid and no name depends on.
  expect(await proof({ ...part, note: 'Made of what was there.' })).toBe(0)
  const piece = part.pieces[0]!
  const name = (text: string) =>
    applyEdit(part, { type: 'set-piece', id: piece.id, change: { name: text } }, fieldKindOf)
  const renamed = await proof(name('Bed'))
  expect(renamed).toBeGreaterThan(0)
  expect(renamed).toBeLessThan(all)
  expect(await proof(part)).toBe(0)
  builder.clear()
})

itInTurn(2, 'a flex test is run again where something that it follows from has changed', async () => {
  const memory = new Watched()
  const builder = new Builder(kernel)
  const isTested = async (part: Part) => {
    memory.anew.length = 0
    const built = await builder.build(part, { fineness: measuringFineness })
    const only = ['flex']
    expect(await proofOf(kernel, built, { memory, only })).toEqual(await proofOf(kernel, built, { only }))
    return memory.anew.includes('flex')
  }
  const part = demo('boat-hook-clip')
  const [flex] = part.flexes
  const edited = (edit: Edit) => applyEdit(part, edit, fieldKindOf)
  expect(await isTested(part)).toBe(true)
  expect(await isTested(part)).toBe(false)
  // Nothing of it hangs on the colour of a piece, or on what the part is called.
  expect(await isTested(edited({ type: 'set-piece', id: part.pieces[0]!.id, change: { colour: 'sand' } }))).toBe(false)
  expect(await isTested({ ...part, name: 'Clip' })).toBe(false)
  const changes: readonly Part[] = [
    { ...part, flexes: [{ ...flex!, distance: '1.37', by: 'distance' }] },
    { ...part, flexes: [{ ...flex!, way: '37.3' }] },
    { ...part, flexes: [{ ...flex!, name: 'Pressed' }] },
    { ...part, material: { ...part.material, stiffness: part.material.stiffness * 1.3 } },
    { ...part, material: { ...part.material, strainOften: 0.153 } },
    edited({
      type: 'set-measure',
      id: part.measures.find(({ name }) => name === 'pole')!.id,
      change: { expression: '28.3' },
    }),
    edited({ type: 'set-field', id: 'arms', field: 'height', text: 'wide / 2' }),
  ]
  for (const [i, changed] of inTurn(7, [...changes.entries()])) expect([i, await isTested(changed)]).toEqual([i, true])
  builder.clear()
})

/** They keep what they find of each pair of pieces, each flex test or load, by themselves. */
const byThemselves = ['gap', 'fused', 'leaves', 'flex', 'loads']

it('of a part that has not changed no check runs again', async () => {
  const memory = new ProofMemory()
  const builder = new Builder(kernel)
  const built = await builder.build(demo('locker-hinge'), { fineness: measuringFineness })
  const first = await proofOf(kernel, built, { memory })
  const runs = checks.map(({ id }, i) => ({ id, run: vi.spyOn(checks[i]!, 'run') }))
  expect(await proofOf(kernel, built, { memory })).toEqual(first)
  expect(runs.flatMap(({ id, run }) => (run.mock.calls.length > 0 ? [id] : []))).toEqual(byThemselves)
  vi.restoreAllMocks()
  builder.clear()
})

it('a flex test lets others in, and is left in the middle where nobody waits for it', async () => {
  const builder = new Builder(kernel)
  const built = await builder.build(demo('boat-hook-clip'), { fineness: measuringFineness })
  const signal = { aborted: false }
  let [turns, most] = [0, Number.POSITIVE_INFINITY]
  const pause = async () => {
    if (++turns === most) signal.aborted = true
  }
  const proof = () => proofOf(kernel, built, { only: ['flex'], signal, pause })
  expect((await proof()).length).toBeGreaterThan(0)
  const whole = turns
  expect(whole).toBeGreaterThan(12)
  ;[turns, most] = [0, 6]
  await expect(proof()).rejects.toThrow(BuildAborted)
  expect(turns).toBe(6)
  builder.clear()
})
