import { expect, it } from 'vitest'
import { fieldKindOf } from '../planning/index.ts'
import { bundleOf, partOf, seeded, step } from '../testing/index.ts'
import { applyEdit, type Edit, type Part, patchBetween, patched } from './index.ts'

const start = partOf(
  Array.from({ length: 40 }, (_, i) =>
    i % 9 === 5
      ? bundleOf(`b${i}`, [step(`in${i}`, 'plate'), step(`too${i}`, 'bar')])
      : step(`s${i}`, 'plate', { width: String(i) }),
  ),
  { measures: [{ id: 'm', name: 'wall', kind: 'length', expression: '3', note: '' }] },
)

function randomEdit(part: Part, random: () => number, i: number): Edit {
  const steps = part.pieces[0]!.steps
  const id = steps[Math.floor(random() * steps.length)]!.id
  const edits: readonly Edit[] = [
    { type: 'set-field', id, field: 'width', text: `${i}` },
    { type: 'set-field', id: 'in5', field: 'width', text: `${i}` },
    { type: 'move-step', id, to: Math.floor(random() * steps.length) },
    { type: 'remove-steps', ids: [id], held: {} },
    { type: 'add-step', piece: 'p1', step: step(`n${i}`, 'bar'), after: id },
    { type: 'set-place', id, change: { pivot: { of: '', line: 'normal', by: `${i}` } } },
    { type: 'set-place', id, change: { pivot: undefined } },
    { type: 'set-measure', id: 'm', change: { expression: `${i}` } },
    { type: 'omit-copy', id, copy: 1 + (i % 4), omitted: random() < 0.5 },
    { type: 'rename', name: `Part ${i}` },
    { type: 'add-piece', piece: { id: `p${i}x`, name: 'More', colour: 'sand', steps: [] } },
  ]
  return edits[Math.floor(random() * edits.length)]!
}

it('brings one part to the next, and to any other state of it, by way of messages', () => {
  const random = seeded(8)
  const states: Part[] = [start]
  // The other side has a copy of its own.
  let there: Part = structuredClone(start)
  for (let i = 0; i < 300; i++) {
    const now = states.at(-1)!
    // Now and then back to what was.
    const next =
      random() < 0.15
        ? states[Math.floor(random() * states.length)]!
        : applyEdit(now, randomEdit(now, random, i), fieldKindOf)
    const patch = structuredClone(patchBetween(now, next))
    const before = there
    there = patched(there, patch)
    expect(there).toEqual(next)
    // What did not change is the same object, so that what is known of it stands.
    for (const [k, own] of next.pieces[0]!.steps.entries()) {
      const at = now.pieces[0]!.steps.indexOf(own)
      if (at >= 0) expect(there.pieces[0]!.steps[k]).toBe(before.pieces[0]!.steps[at])
    }
    if (now.measures === next.measures) expect(there.measures).toBe(before.measures)
    states.push(next)
  }
})
it('is small where little has changed', () => {
  const next = applyEdit(start, { type: 'set-field', id: 's3', field: 'width', text: '15.3' }, fieldKindOf)
  expect(JSON.stringify(patchBetween(start, next)).length).toBeLessThan(JSON.stringify(start).length / 8)
  const inner = applyEdit(start, { type: 'set-field', id: 'in5', field: 'width', text: '15.3' }, fieldKindOf)
  expect(JSON.stringify(patchBetween(start, inner)).length).toBeLessThan(JSON.stringify(start).length / 8)
  expect(patchBetween(start, start)).toEqual({ kind: 'same' })
})
it('of something else is refused', () => {
  expect(() => patched(7, { kind: 'list', items: [] })).toThrow(/something else/)
  expect(() => patched([], { kind: 'record', fields: {}, gone: [] })).toThrow(/something else/)
})
