import { describe, expect, it } from 'vitest'
import { fieldKindOf, resolvePart } from '../planning/index.ts'
import { bodied, bundleOf, onFace, partOf, step, treatment } from '../testing/index.ts'
import { clipOf, pasteEdits } from './clip.ts'
import {
  applyEdit,
  contentOf,
  copiedStep,
  findStep,
  kindWord,
  newPart,
  onBed,
  type Part,
  readPartFile,
  writePartFile,
} from './index.ts'

const source = partOf(
  [
    step('base', 'plate', { width: 'wide' }),
    bundleOf(
      'pair',
      [
        step('boss', 'bar', { diameter: 'pin * 2' }, { place: onFace('base', 'top') }),
        step('bore', 'hole', { diameter: 'pin' }, { place: onFace('boss', 'end') }),
      ],
      { place: { ...onBed, ...onFace('base', 'top') } },
    ),
    step('other', 'plate', { width: 'long' }),
  ],
  {
    measures: [
      { id: 'a', name: 'wide', kind: 'length', expression: '60', note: '' },
      { id: 'b', name: 'pin', kind: 'length', expression: 'wall * 2', note: '' },
      { id: 'c', name: 'wall', kind: 'length', expression: '2', note: '' },
      { id: 'd', name: 'long', kind: 'length', expression: '9', note: '' },
    ],
  },
)
const ids = () => {
  let i = 0
  return () => `n${++i}`
}
const pasted = (part: Part, clip: Part, after?: string) =>
  pasteEdits(part, clip, { piece: part.pieces[0]!.id, after }, ids(), fieldKindOf).reduce(
    (state, edit) => applyEdit(state, edit, fieldKindOf),
    part,
  )

describe('a clip', () => {
  it('holds the steps with the measures they need, and those that these need', () => {
    const clip = clipOf(source, ['pair'], fieldKindOf)
    expect(clip.pieces[0]!.steps.map(({ id }) => id)).toEqual(['pair'])
    expect(clip.measures.map(({ name }) => name)).toEqual(['pin', 'wall'])
    expect(readPartFile(writePartFile(clip))).toEqual(clip)
  })
  it('comes into another part with its measures, on the bed', () => {
    const after = pasted(newPart({ part: 'x', piece: 'p' }, 'X'), clipOf(source, ['pair'], fieldKindOf))
    expect(after.measures.map(({ name }) => name)).toEqual(['pin', 'wall'])
    const [pair] = after.pieces[0]!.steps
    expect(bodied(pair).place.on).toEqual({ kind: 'bed' })
    expect(contentOf(pair!).map((step) => bodied(step).place.on)).toEqual([
      { kind: 'bed' },
      { kind: 'face', step: contentOf(pair!)[0]!.id, face: 'end' },
    ])
    expect(resolvePart(after).problems).toEqual([])
    expect(resolvePart(after).steps.get(contentOf(pair!)[0]!.id)!.values).toMatchObject({ diameter: 8 })
  })
  it('keeps its places in its own part, and among its own steps', () => {
    const both = pasted(source, clipOf(source, ['base', 'pair'], fieldKindOf), 'base')
    expect(both.measures).toEqual(source.measures)
    const steps = both.pieces[0]!.steps
    expect(steps.map(kindWord)).toEqual(['plate', 'plate', 'bundle', 'bundle', 'plate'])
    expect(bodied(steps[2]).place.on).toMatchObject({ step: steps[1]!.id })
    const one = pasted(source, clipOf(source, ['pair'], fieldKindOf))
    expect(bodied(one.pieces[0]!.steps.at(-1)).place.on).toMatchObject({ step: 'base' })
  })
  it('uses the measures that are there under their names, and keeps its sizes in another unit', () => {
    const mine = partOf([], {
      unit: 'in',
      measures: [{ id: 'm', name: 'wall', kind: 'length', expression: '1', note: '' }],
    })
    const after = pasted(mine, clipOf(source, ['base', 'boss'], fieldKindOf))
    expect(after.measures.map(({ name, expression }) => [name, expression])).toEqual([
      ['wall', '1'],
      ['wide', '60\u00a0mm'],
      ['pin', 'wall * 2'],
    ])
    const base = after.pieces[0]!.steps[0]!
    expect(findStep(after, base.id)!.step.fields.depth).toBe('30\u00a0mm')
    expect(resolvePart(after).steps.get(base.id)!.values).toMatchObject({ width: 60, depth: 30 })
  })
  it('brings what treatments name along under its new name, in another part and in its own', () => {
    const base = step('base', 'plate')
    const edges = 'of base/top; edge step/base/1/left|step/base/1/front||'
    const steps = [
      base,
      treatment('round', { edges, radius: '1' }, 'r'),
      treatment('hollow', { thick: '2', open: 'base/top', other: 'base/left, 3' }, 'h'),
      treatment('split', { at: 'base/right, -4' }, 's'),
    ]
    const mine = partOf(steps)
    const there = pasted(newPart({ part: 'x', piece: 'p' }, 'X'), clipOf(mine, ['base', 'r', 'h', 's'], fieldKindOf))
    const fieldsOf = (part: Part) => part.pieces[0]!.steps.map(({ fields }) => fields)
    const id = there.pieces[0]!.steps[0]!.id
    const renamed = edges.replaceAll('base', id)
    expect(fieldsOf(there).slice(1)).toEqual([
      { edges: renamed, radius: '1' },
      { thick: '2', open: `${id}/top`, other: `${id}/left, 3` },
      { at: `${id}/right, -4` },
    ])
    // Without what it names it says so where it is shown, as it was.
    const alone = pasted(newPart({ part: 'x', piece: 'p' }, 'X'), clipOf(mine, ['r'], fieldKindOf))
    expect(fieldsOf(alone)[0]!.edges).toBe(edges)
    const bundle = bundleOf('g', steps)
    const copy = copiedStep(bundle, 'copy', fieldKindOf)
    const inner = contentOf(copy)
    expect(inner[1]!.fields.edges).toBe(edges.replaceAll('base', inner[0]!.id))
    expect(inner[3]!.fields.at).toBe(`${inner[0]!.id}/right, -4`)
  })
})
