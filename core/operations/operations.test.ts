import { describe, expect, it, vi } from 'vitest'
import { applyEdit, readPartFile, writePartFile } from '../document/index.ts'
import { registered } from '../fields/index.ts'
import { fieldKindOf, resolvePart } from '../planning/index.ts'
import { Builder, renderMeshOf } from '../solids/index.ts'
import { built, bundleOf, onFace, partOf, repeat, step, testKernel, treatment } from '../testing/index.ts'
import type { OperationDefinition } from './define.ts'
import { bodyOperationOf, findTreatments, operationOf, operations } from './index.ts'

// One new kind is its definition and one line of the registry: these two are in no other place.
vi.mock('./registry.ts', async (original) => {
  const plain = await original<typeof import('./registry.ts')>()
  const { parting, capping } = await import('../testing/operations.ts')
  const all: readonly OperationDefinition[] = [...plain.operations, parting, capping]
  const find = registered(all)
  const acting = <K extends OperationDefinition['acts']>(kind: string, acts: K) => {
    const found = find(kind)
    return found?.acts === acts ? found : undefined
  }
  return {
    ...plain,
    operations: all,
    operationOf: find,
    bodyOperationOf: (kind: string) => acting(kind, 'with-body'),
    treatmentOf: (kind: string) => acting(kind, 'alone'),
  }
})

const kernel = await testKernel()

const base = step('base', 'plate', { width: '85.1', depth: '40', height: '6.35' })
const volumes = (done: Awaited<ReturnType<typeof built>>) => done.pieces.map(({ solid }) => solid?.volume() ?? 0)

describe('what acts with a body', () => {
  it('is offered in one order, and says how its bodies lie', () => {
    expect(operations.slice(0, 3).map(({ kind }) => kind)).toEqual(['add', 'cut', 'keep'])
    expect(['add', 'cut', 'keep'].map((kind) => bodyOperationOf(kind)!.rest)).toEqual(['on', 'in', 'on'])
    expect(operationOf('solder')).toBeUndefined()
  })
  it('of a kind that is not known is told, kept and left out', async () => {
    const odd = step('odd', 'plate', {}, { operation: 'solder', place: onFace('base', 'top') })
    const part = readPartFile(writePartFile(partOf([base, odd])))
    const done = await built(kernel, part)
    expect(done.problems.map(({ code, path }) => [code, path[1]])).toEqual([['operation-unknown', 'odd']])
    expect(volumes(done)[0]).toBeCloseTo(85.1 * 40 * 6.35, 6)
  })
})

describe('a treatment', () => {
  it('parts a piece into two, which what follows acts on', async () => {
    const part = treatment('parting', { at: '12.7' }, 'part')
    const hole = (id: string, x: string) =>
      step(
        id,
        'hole',
        { diameter: '6' },
        { place: { ...onFace('base', 'top'), across: { from: 'centre', to: 'centre', by: x } } },
      )
    const done = await built(kernel, partOf([base, part, hole('left', '-20'), hole('right', '30')]), 0.001)
    const [one, two] = volumes(done)
    const bore = Math.PI * 9 * 6.35
    expect(done.problems).toEqual([])
    expect(one).toBeCloseTo((85.1 / 2 + 12.7) * 40 * 6.35 - bore, 0)
    expect(two).toBeCloseTo((85.1 / 2 - 12.7) * 40 * 6.35 - bore, 0)
    expect(done.pieces.map(({ piece }) => [piece.id, piece.name])).toEqual([
      ['p1', 'Piece 1'],
      ['p1.2', 'Piece 1 (2)'],
    ])
    // A cut that misses both is told.
    const missed = await built(kernel, partOf([base, part, hole('off', '300')]))
    expect(missed.problems.map(({ code, path }) => [code, path[1]])).toEqual([['cut-removes-nothing', 'off']])
  })
  it('reads measures, follows their names, and is left out by mute and by its condition', async () => {
    const measures = [{ id: 'm', name: 'share', kind: 'length', expression: '10', note: '' }] as const
    const parting = treatment('parting', { at: 'share / 2' }, 'part')
    const part = partOf([base, parting], { measures: [...measures] })
    expect(volumes(await built(kernel, part))[1]).toBeCloseTo((85.1 / 2 - 5) * 40 * 6.35, 3)
    const renamed = applyEdit(part, { type: 'rename-measure', id: 'm', name: 'third' }, fieldKindOf)
    expect(renamed.pieces[0]!.steps[1]!.fields).toEqual({ at: 'third / 2' })
    const muted = applyEdit(part, { type: 'set-step', id: 'part', change: { mute: true } }, fieldKindOf)
    expect(volumes(await built(kernel, muted))).toHaveLength(1)
    const never = applyEdit(part, { type: 'set-step', id: 'part', change: { when: 'share > 20' } }, fieldKindOf)
    expect(volumes(await built(kernel, never))).toHaveLength(1)
    const bad = applyEdit(part, { type: 'set-field', id: 'part', field: 'at', text: 'nothing' }, fieldKindOf)
    expect(resolvePart(bad).problems.map(({ code, path }) => [code, ...path])).toEqual([
      ['unknown-name', 'steps', 'part', 'fields', 'at'],
    ])
  })
  it('keeps its place among the steps, whatever is edited last', async () => {
    const boss = step('boss', 'bar', { diameter: '8', height: '10' }, { place: onFace('base', 'top') })
    const steps = [
      base,
      boss,
      treatment('capping', { high: '10' }, 'cap'),
      step('later', 'bar', { diameter: '5', height: '20' }, { place: onFace('base', 'top') }),
    ]
    const builder = new Builder(kernel)
    const expected = volumes(await builder.build(partOf(steps), { fineness: 0.01 }))[0]!
    for (const id of ['base', 'boss', 'cap', 'later']) {
      const done = await builder.prepare(partOf(steps), [id], { fineness: 0.01 })
      expect(volumes(done)[0]).toBeCloseTo(expected, 6)
    }
    // Above 10 only what came after it.
    const { max } = (await builder.build(partOf(steps), { fineness: 0.01 })).pieces[0]!.solid!.bounds()!
    expect(max[2]).toBeCloseTo(26.35, 4)
    builder.clear()
  })
  it('has surfaces of its own, sees the edges by name, and says what it could not do', async () => {
    const done = await built(kernel, partOf([base, treatment('capping', { high: '5' }, 'cap')]))
    const faces = renderMeshOf(done, done.pieces[0]!)!.faces.map(({ owner, face }) => `${owner.id} ${face}`)
    expect(faces.sort()).toEqual(['base back', 'base bottom', 'base front', 'base left', 'base right', 'cap cap'])
    const high = await built(kernel, partOf([base, treatment('capping', { high: '50' }, 'cap')]))
    // Twelve edges were seen, by the faces on both sides of each.
    expect(high.problems.map(({ code, text }) => [code, text])).toEqual([
      ['shape-impossible', expect.stringContaining('12 edges, step/base/1/')],
    ])
  })
  it('within a bundle acts on what the bundle holds alone', async () => {
    const post = step('post', 'bar', { diameter: '6', height: '30' })
    const bundle = bundleOf('group', [post, treatment('capping', { high: '12' }, 'cap')], {
      place: { across: { from: 'centre', to: 'own', by: '20' } },
      repeats: [repeat('row', { count: '2', spacing: '9' })],
    })
    const tall = step('tall', 'plate', { width: '5', depth: '5', height: '40' })
    const done = await built(kernel, partOf([tall, bundle]), 0.002)
    expect(done.problems).toEqual([])
    expect(volumes(done)[0]).toBeCloseTo(25 * 40 + 2 * Math.PI * 9 * 12, 0)
  })
})

describe('what is typed', () => {
  it.each([
    ['split', 'split'],
    ['split along', 'splitAlong'],
    ['Split al', 'splitAlong'],
    ['dovetail', 'split'],
    ['chamfer 0.6', 'bevel'],
    ['fillet 2', 'round'],
    ['shell 1.5', 'hollow'],
  ])('“%s” finds %s first', (typed, kind) => {
    expect(findTreatments(typed)[0]?.treatment.kind).toBe(kind)
  })
})
