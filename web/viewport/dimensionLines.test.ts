import { newPart, type Part, type Step } from '@makrel/core/document'
import { dot, subtract, type Vec3 } from '@makrel/core/place'
import { workOut } from '@makrel/core/planning'
import { bundleOf, onFace, step, treatment } from '@makrel/core/testing'
import { describe, expect, it } from 'vitest'
import { type DrawnDimension, dimensionEdit, selectedDimensions } from './dimensionLines.ts'
import { gripsOf } from './resize.ts'

function partOf(steps: readonly Step[]): Part {
  const part = newPart({ part: 'p', piece: 'piece' }, 'Sample')
  return { ...part, pieces: [{ ...part.pieces[0]!, steps }] }
}
const box = { min: [-20.1, -15.3, 0] as Vec3, max: [20.1, 15.3, 10.7] as Vec3 }
const plate = step('b', 'plate', { width: '40.2', depth: '30.6', height: '10.7' })
const dimensionsOf = (steps: readonly Step[], id: string): readonly DrawnDimension[] => {
  const { resolved, plan } = workOut(partOf(steps))
  return selectedDimensions(resolved.part, resolved, plan, { kind: 'step', id }, box)
}

describe('dimensions of a plane that a treatment names', () => {
  it.each([
    ['x, 12.7', [1, 0, 0], 0],
    ['y, -4.1', [0, 1, 0], 0],
    ['z, 1/3', [0, 0, 1], 0],
    ['b/top, -3.2', [0, 0, 1], 10.7],
    ['b/left, 0', [-1, 0, 0], 20.1],
  ] as const)('%s lies as far off as it says, beside the part, and its end is dragged', (at, n, off) => {
    const mm = { 'z, 1/3': 1 / 3 }[at as string] ?? Number(at.split(', ')[1])
    const [dimension, ...more] = dimensionsOf([plate, treatment('split', { at }, 't')], 't')
    expect(more).toEqual([])
    const { from, to, value, text, target } = dimension!
    expect([value, text]).toEqual([expect.closeTo(mm, 9), at.split(', ')[1]])
    expect(dot(subtract(to, from), n)).toBeCloseTo(mm, 9)
    expect(dot(to, n)).toBeCloseTo(off + mm, 9)
    // Not within the part: nothing of it lies under the line.
    const inside = [0, 1, 2].every((i) => to[i]! > box.min[i]! + 1e-6 && to[i]! < box.max[i]! - 1e-6)
    expect(inside).toBe(false)
    const [grip] = gripsOf([dimension!])
    expect(grip!.direction.map((x) => x + 0)).toEqual(n)
    // Typing keeps what the plane is measured from.
    const part = partOf([plate, treatment('split', { at }, 't')])
    expect(dimensionEdit(part, target!, 'wide / 3')).toMatchObject({ text: `${at.split(',')[0]}, wide / 3` })
  })
})

describe('dimensions of a plane in a bundle', () => {
  it('go with the bundle', () => {
    const place = { across: { from: 'centre', to: 'centre', by: '31.3' }, turn: '90' } as const
    const steps = [plate, bundleOf('g', [step('c', 'plate'), treatment('split', { at: 'x, 4.2' }, 't')], { place })]
    const { resolved, plan } = workOut(partOf(steps))
    const [dimension] = selectedDimensions(resolved.part, resolved, plan, { kind: 'step', id: 't' })
    const way = subtract(dimension!.to, dimension!.from)
    expect(way).toEqual([0, 4.2, 0].map((x) => expect.closeTo(x, 9)))
    expect(dimension!.from[0]).toBeCloseTo(31.3, 9)
  })
})

describe('dimensions of a face that a treatment moves', () => {
  it('lead from where it was to where it is', () => {
    const [dimension] = dimensionsOf([plate, treatment('shift', { faces: 'b/right', by: '-2.3' }, 't')], 't')
    expect(dimension).toMatchObject({ value: -2.3, signed: 'but-nothing' })
    expect([dimension!.from[0], dimension!.to[0]]).toEqual([expect.closeTo(20.1, 9), expect.closeTo(17.8, 9)])
  })
})

describe('dimensions of a step that stands somewhere', () => {
  it('have its own sizes and the distances that place it, and say what typing changes', () => {
    const across = { from: 'centre', to: 'centre', by: '-7.3' } as const
    const hole = step('h', 'hole', { diameter: '4.4' }, { place: { ...onFace('b', 'top'), across, lift: '2.5' } })
    const all = dimensionsOf([plate, hole], 'h')
    expect(all.map(({ label }) => label)).toEqual(expect.arrayContaining(['Distance across', 'Lift']))
    const part = partOf([plate, hole])
    const edits = all.flatMap(({ target }) => (target ? [dimensionEdit(part, target, '9.1')] : []))
    expect(edits).toContainEqual({ type: 'set-field', id: 'h', field: 'diameter', text: '9.1' })
    expect(edits).toContainEqual({ type: 'set-offset', id: 'h', axis: 'across', change: { by: '9.1' } })
    expect(edits).toContainEqual({ type: 'set-place', id: 'h', change: { lift: '9.1' } })
    const placed = all.find(({ label }) => label === 'Distance across')!
    expect(subtract(placed.to, placed.from)[0]).toBeCloseTo(-7.3, 9)
  })
  it('say how far off something stands beside another step, as the sheet does', () => {
    for (const [from, by] of [
      ['high', '-10'],
      ['low', '-(wall + 1)'],
    ] as const) {
      const across = { of: 'b', from, to: 'far', by } as const
      const post = step('p', 'bar', { diameter: '4.4' }, { place: { across } })
      const measures = [{ id: 'm', name: 'wall', kind: 'length', expression: '9', note: '' } as const]
      const part = { ...partOf([plate, post]), measures }
      const { resolved, plan } = workOut(part)
      const drawn = selectedDimensions(part, resolved, plan, { kind: 'step', id: 'p' })
      const placed = drawn.find(({ label }) => label === 'Distance across')!
      expect(placed).toMatchObject({ text: from === 'high' ? '10' : 'wall + 1', value: expect.closeTo(10, 9) })
      expect(Math.abs(placed.to[0] - placed.from[0])).toBeCloseTo(10, 9)
      expect(dimensionEdit(part, placed.target!, '7.5')).toMatchObject({ change: { by: '-7.5' } })
    }
  })
})
