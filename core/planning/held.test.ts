import { describe, expect, it } from 'vitest'
import type { HeldPlaces, Place } from '../document/index.ts'
import { bundleOf, onFace, partOf, step } from '../testing/index.ts'
import { dissolvedPlaces, heldPlaces, workOut } from './index.ts'

const base = step('base', 'plate', { width: '40.3', depth: '30.1', height: '8' })
const across = (by: number) => ({ from: 'centre', to: 'centre', by: `${by}` }) as const
const foot = step('foot', 'plate', { width: '10', depth: '8', height: '5.3' })
const knob = step('knob', 'bar', { diameter: '4', height: '3' }, { place: onFace('base', 'top') })
const pin = step('pin', 'bar', { diameter: '2', height: '3' }, { place: onFace('foot', 'top') })

/** The place that a step is given. */
function placeOf(held: HeldPlaces, id: string): Place {
  const own = held[id]
  if (!own || !('place' in own)) throw new Error(`${id} is not held`)
  return own.place
}

describe('the places of what a bundle holds, once it is dissolved', () => {
  const moved = bundleOf('g', [foot, knob, pin], { place: { across: across(15.3), turn: '37.3', lift: '2' } })
  const part = partOf([base, moved])
  const held = dissolvedPlaces(part, moved)
  it('are held where the bundle was moved, and say on what that was', () => {
    expect(placeOf(held, 'foot').on).toMatchObject({ kind: 'held', was: 'bed' })
    expect(placeOf(held, 'knob').on).toMatchObject({ kind: 'held', was: 'top' })
    // What stands within the bundle goes on standing there.
    expect(held.pin).toBeUndefined()
  })
  it('are those that it had', () => {
    const { plan } = workOut(part)
    const loose = partOf([
      base,
      { ...foot, place: placeOf(held, 'foot') },
      { ...knob, place: placeOf(held, 'knob') },
      pin,
    ])
    const after = workOut(loose).plan
    for (const id of ['foot', 'knob', 'pin'])
      for (const axis of ['origin', 'u', 'n'] as const)
        expect(after.geometry.get(id)!.frame[axis]).toEqual(
          plan.geometry.get(id)!.frame[axis].map((x) => expect.closeTo(x, 9)),
        )
  })
  it('stay as they are where it was not moved', () => {
    const still = bundleOf('g', [foot, knob, pin])
    expect(dissolvedPlaces(partOf([base, still]), still)).toEqual({})
  })
})

describe('the places of what stands on a step that goes', () => {
  it('are held, and say what they stood on; of all others nothing is said', () => {
    const held = heldPlaces(partOf([base, foot, knob, pin]), new Set(['base']))
    expect(Object.keys(held)).toEqual(['knob'])
    expect(placeOf(held, 'knob').on).toMatchObject({
      kind: 'held',
      was: 'top',
      frame: { origin: [0, 0, 8], u: [1, 0, 0] },
    })
  })
  it('keep by numbers only what was told by the one that goes, not what another one tells', () => {
    const away = { from: 'centre', to: 'far', by: '3.3' } as const
    const told = step(
      'told',
      'bar',
      { diameter: '4', height: '3' },
      { place: { across: { ...away, of: 'foot' }, along: { ...away, of: 'base' } } },
    )
    const part = partOf([base, foot, told])
    const place = placeOf(heldPlaces(part, new Set(['base'])), 'told')
    expect(place.across).toEqual({ ...away, of: 'foot' })
    expect(place.along.of).toBeUndefined()
    const { plan } = workOut(part)
    const after = workOut(partOf([foot, { ...told, place }])).plan
    expect(after.geometry.get('told')!.frame.origin).toEqual(
      plan.geometry.get('told')!.frame.origin.map((x) => expect.closeTo(x, 9)),
    )
  })
})
