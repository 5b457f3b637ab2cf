import { findBody } from '@makrel/core/document'
import { pointIn, type Vec3 } from '@makrel/core/place'
import { onFace, partOf, step } from '@makrel/core/testing'
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { workedOf } from '../state/build.ts'
import { usePart } from '../state/part.ts'
import { nudge } from './drag.ts'
import { companionsOf, turnedAlong } from './together.ts'

const base = step('base', 'plate', { width: '80', depth: '60', height: '10' })
const at = (x: string, y: string) => ({
  across: { from: 'low', to: 'centre', by: x } as const,
  along: { from: 'high', to: 'centre', by: y } as const,
})
const peg = step(
  'peg',
  'bar',
  { diameter: '8', height: '10' },
  { place: { ...onFace('base', 'top'), ...at('20', '15') } },
)
const knob = step('knob', 'bar', { diameter: '4', height: '3' }, { place: onFace('peg', 'end') })
const boss = step(
  'boss',
  'bar',
  { diameter: '8', height: '4' },
  { place: { ...onFace('base', 'right'), ...at('30', '5') } },
)
const lid = step(
  'lid',
  'plate',
  { width: '9', depth: '9', height: '2' },
  { place: { ...onFace('base', 'top'), ...at('60', 'wide') } },
)
const part = partOf([base, peg, knob, boss, lid], {
  measures: [{ id: 'w', name: 'wide', kind: 'length', expression: '20', note: '' }],
})
const state = () => usePart.getState()
const origin = (id: string) => workedOf(state().part!).plan.geometry.get(id)!.frame.origin
const select = (...ids: string[]) => {
  state().select({ kind: 'step', id: ids[0]! })
  for (const id of ids.slice(1)) state().alsoSelect(id)
}
const shifted = (before: Vec3, by: Vec3) => before.map((x, i) => expect.closeTo(x + by[i]!, 9))

beforeEach(() => {
  vi.useFakeTimers()
  vi.stubGlobal('fetch', async () => new Response('{}'))
  vi.stubGlobal(
    'Worker',
    class {
      postMessage() {}
    },
  )
  state().open(part, 1, new Date(0))
})
afterEach(() => {
  state().close()
  vi.useRealTimers()
  vi.unstubAllGlobals()
})

describe('several selected steps', () => {
  it('move the same way in space, each in the directions of its own face', () => {
    select('peg', 'boss', 'lid')
    const before = ['peg', 'boss', 'lid'].map(origin)
    nudge(3, -2, 1)
    // The right face's own directions are other ones: across is to the back, along is up.
    expect(origin('peg')).toEqual(shifted(before[0]!, [3, -2, 1]))
    expect(origin('boss')).toEqual(shifted(before[1]!, [3, -2, 1]))
    expect(origin('lid')).toEqual(shifted(before[2]!, [3, -2, 1]))
    expect(findBody(state().part!, 'lid')!.place.along.by).toBe('wide + 2')
    state().undo()
    expect(state().part).toBe(part)
  })
  it('carry what stands on them once', () => {
    select('peg', 'knob', 'lid')
    expect(companionsOf('peg').map((each) => each.step.id)).toEqual(['lid'])
    const before = origin('knob')
    nudge(5, 0, 0)
    expect(origin('knob')).toEqual(shifted(before, [5, 0, 0]))
  })
  it('turn about the one that is turned; one on a face that looks another way stays', () => {
    select('peg', 'boss', 'lid')
    const point = origin('peg')
    const edits = turnedAlong(companionsOf('peg'), { point, axis: [0, 0, 1] }, 90, 'mm')
    const before = pointIn({ origin: point, u: [1, 0, 0], v: [0, 1, 0], n: [0, 0, 1] }, origin('lid'))
    const still = origin('boss')
    state().editAll(edits)
    expect(origin('lid')).toEqual(shifted(point, [-before[1], before[0], before[2]]))
    expect(workedOf(state().part!).plan.geometry.get('lid')!.frame.u).toEqual([0, 1, 0])
    expect(origin('boss')).toEqual(still)
  })
})
