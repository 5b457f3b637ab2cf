import { describe, expect, it } from 'vitest'
import { applyEdit, type Place, type Step } from '../document/index.ts'
import { add, dot, type Vec3 } from '../place/index.ts'
import { fieldKindOf, heldPlaces, treatmentsStoodOn, workOut } from '../planning/index.ts'
import { built, bundleOf, onFace, partOf, step, testKernel, treatment } from '../testing/index.ts'
import { Builder } from './index.ts'

const kernel = await testKernel()
const [w, d, h] = [40.3, 30.1, 20.7]
const block = step('b', 'plate', { width: `${w}`, depth: `${d}`, height: `${h}` })
const bevel = (size: string) => treatment('bevel', { edges: 'where b/top meets b/right', size })
const off = (by: number) => ({ from: 'centre', to: 'centre', by: `${by}` }) as const
const pinOn = (id: string, face: string, more: Partial<Place> = {}) =>
  step('p', 'bar', { diameter: '3', height: '7' }, { place: { ...onFace(id, face), ...more } })

async function made(steps: readonly Step[]) {
  const done = await built(kernel, partOf(steps), 0.02)
  return { done, at: done.plan.geometry.get('p')?.frame, told: done.problems.map(({ code }) => code) }
}

describe('what stands on a face that a treatment made', () => {
  it('on the flat of a bevel leans as that does, in its middle, and goes with it', async () => {
    for (const size of [3, 5.3]) {
      const { at, told, done } = await made([block, bevel(`${size}`), pinOn('t', 'bevel of right and top')])
      expect(told).toEqual([])
      for (const [i, x] of [w / 2 - size / 2, 0, h - size / 2].entries()) expect(at!.origin[i]).toBeCloseTo(x, 7)
      for (const [i, x] of [Math.SQRT1_2, 0, Math.SQRT1_2].entries()) expect(at!.n[i]).toBeCloseTo(x, 8)
      const solid = done.pieces[0]!.solid!
      const plain = (await built(kernel, partOf([block, bevel(`${size}`)]))).pieces[0]!.solid!.volume()
      // A bar of flats, all of it outside.
      expect((solid.volume() - plain) / (Math.PI * 1.5 ** 2 * 7)).toBeCloseTo(1, 2)
      expect(solid.bodies()).toBe(1)
    }
  })
  it('is measured from the sides of that face', async () => {
    const { at } = await made([
      block,
      bevel('4'),
      pinOn('t', 'bevel of right and top', { across: { from: 'low', to: 'centre', by: '2.2' } }),
    ])
    // Seen from the right, the front is to the left.
    expect(at!.origin[1]).toBeCloseTo(-d / 2 + 2.2, 8)
  })
  it('on the floor of a hollow stands inside, as high as the floor is thick', async () => {
    for (const thick of [2, 3.1]) {
      const hollow = treatment('hollow', { thick: `${thick}`, open: 'b/top' })
      const boss = step(
        'p',
        'plate',
        { width: '6', depth: '5', height: '4' },
        { place: onFace('t', 'inside of bottom') },
      )
      const { done, at, told } = await made([block, hollow, boss])
      expect(told).toEqual([])
      expect(at!.origin[2]).toBeCloseTo(thick, 8)
      const inside = (w - 2 * thick) * (d - 2 * thick) * (h - thick)
      expect(done.pieces[0]!.solid!.volume()).toBeCloseTo(w * d * h - inside + 6 * 5 * 4, 3)
    }
  })
  it('lies along the sides of a face that is turned on its bed', async () => {
    const turned = step('b', 'plate', block.fields, { place: { turn: '37.3', across: off(31.1) } })
    const hollow = treatment('hollow', { thick: '2', open: 'b/top' })
    const corner = { from: 'low', to: 'near', by: '0' } as const
    const boss = step(
      'p',
      'plate',
      { width: '6', depth: '5', height: '4' },
      {
        place: { ...onFace('t', 'inside of bottom'), across: corner, along: corner },
      },
    )
    const { done, told } = await made([turned, hollow, boss])
    expect(told).toEqual([])
    // In the corner of the floor, flush with two walls: no more of it lies in them than flats are off.
    const inside = (w - 4) * (d - 4) * (h - 2)
    expect(done.pieces[0]!.solid!.volume()).toBeCloseTo(w * d * h - inside + 6 * 5 * 4, 3)
  })
  it('on either half of what was split belongs to that half', async () => {
    const split = treatment('split', { at: 'x, 4.4', gap: '9' })
    const first = await made([block, split, pinOn('t', 'parting')])
    expect(first.at!.n).toEqual([1, 0, 0])
    expect(first.done.pieces[0]!.solid!.bounds()!.max[0]).toBeCloseTo(4.4 - 4.5 + 7, 5)
    const second = await made([block, split, pinOn('t', 'parting 2')])
    expect(second.at!.n[0]).toBe(-1)
    expect(second.done.pieces[1]!.solid!.bounds()!.min[0]).toBeCloseTo(4.4 + 4.5 - 7, 5)
  })
  it('in a bundle goes where the bundle goes', async () => {
    const bundle = bundleOf('g', [block, bevel('4'), pinOn('t', 'bevel of right and top')], {
      place: { turn: '90', across: off(50), lift: '3' },
    })
    const { done, at, told } = await made([bundle])
    expect(told).toEqual([])
    expect(at!.n[1]).toBeCloseTo(Math.SQRT1_2, 8)
    expect(done.pieces[0]!.solid!.bodies()).toBe(1)
    const end = add(at!.origin, at!.n.map((x) => 7 * x) as unknown as Vec3)
    expect(done.pieces[0]!.solid!.bounds()!.max[1]).toBeGreaterThan(end[1])
  })
  it('may be a plane that is split along, or what is read off', async () => {
    const hollow = treatment('hollow', { thick: '2.3' })
    const along = treatment('split', { at: 't/inside of bottom, 3' }, 's')
    const part = partOf([block, hollow, along], {
      readouts: [
        {
          id: 'r',
          name: 'deep',
          kind: 'distance',
          of: [
            { step: 't', face: 'inside of bottom' },
            { step: 'b', face: 'top' },
          ],
          note: '',
        },
      ],
    })
    const done = await built(kernel, part)
    expect(done.problems).toEqual([])
    expect(done.pieces[0]!.solid!.bounds()!.max[2]).toBeCloseTo(5.3, 6)
    expect(done.readouts[0]!.value).toBeCloseTo(h - 2.3, 6)
  })
  it('is told where that is round, gone or not there, and stands nowhere', async () => {
    const round = treatment('round', { edges: 'where b/top meets b/right', radius: '4' })
    const on = async (steps: readonly Step[]) => (await made(steps)).told
    expect(await on([block, round, pinOn('t', 'round of right and top')])).toEqual(['face-missing'])
    expect(await on([block, bevel('4'), pinOn('t', 'bevel of back and top')])).toEqual(['face-missing'])
    expect(await on([block, { ...bevel('4'), mute: true }, pinOn('t', 'bevel of right and top')])).toEqual([
      'reference-broken',
    ])
    expect(await on([block, pinOn('t', 'bevel of right and top'), bevel('4')])).toEqual(['reference-later'])
    const part = partOf([block, bevel('4'), pinOn('t', 'bevel of right and top')])
    // What stood on what is removed stays where it is.
    const { solidReadings } = await built(kernel, part)
    const held = heldPlaces(part, new Set(['t']), solidReadings)
    const without = applyEdit(part, { type: 'remove-steps', ids: ['t'], held }, fieldKindOf)
    const left = await built(kernel, without)
    expect(left.problems.map(({ code, rank }) => [code, rank])).toEqual([['reference-missing', 'warning']])
    expect(left.plan.geometry.get('p')!.frame.origin[0]).toBeCloseTo(w / 2 - 2, 7)
  })
  it('is known on the page once the worker has told it, and asked for only where something stands there', async () => {
    const part = partOf([block, bevel('4'), pinOn('t', 'bevel of right and top')])
    expect([...treatmentsStoodOn(part)]).toEqual(['t'])
    expect([...treatmentsStoodOn(partOf([block, bevel('4'), pinOn('b', 'top')]))]).toEqual([])
    expect(workOut(part).problems.map(({ code }) => code)).toEqual(['reference-unbuilt'])
    const { solidReadings } = await built(kernel, part)
    const { plan, problems } = workOut(part, JSON.parse(JSON.stringify(solidReadings)))
    expect(problems).toEqual([])
    expect(plan.geometry.get('p')!.frame.origin[0]).toBeCloseTo(w / 2 - 2, 7)
  })
  it('comes to the same with one builder after any change as with a new one', async () => {
    const builder = new Builder(kernel)
    const sizes = ['3', '5.3', '1/8 in', '3']
    for (const size of sizes) {
      const part = partOf([block, bevel(size), pinOn('t', 'bevel of right and top')])
      const [known, fresh] = [await builder.build(part, { fineness: 0.02 }), await built(kernel, part, 0.02)]
      expect(known.pieces[0]!.solid!.volume()).toBe(fresh.pieces[0]!.solid!.volume())
    }
    builder.clear()
  })
})

describe('what stands on a face that was shifted', () => {
  const shift = (faces: string, by: string) => treatment('shift', { faces, by })
  it('is there where the face is now, and what came before stays', async () => {
    for (const by of [2.3, -4.1]) {
      const before = step('q', 'plate', { width: '4', depth: '4', height: '2' }, { place: onFace('b', 'left') })
      const { at, told, done } = await made([block, before, shift('b/right', `${by}`), pinOn('b', 'right')])
      expect(told).toEqual([])
      expect(at!.origin).toEqual([w / 2 + by, expect.closeTo(0, 9), expect.closeTo(h / 2, 9)])
      expect(done.plan.geometry.get('q')!.frame.origin[0]).toBeCloseTo(-w / 2, 9)
      expect(done.pieces[0]!.solid!.bounds()!.max[0]).toBeCloseTo(w / 2 + by + 7, 5)
    }
  })
  it('on a bar or in a bore lies as far out as that is now', async () => {
    const bar = step('b', 'bar', { diameter: '20', height: '30' })
    const pin = (id: string, face: string) => pinOn(id, face)
    const out = await made([bar, shift('b/side', '1.7'), pin('b', 'side')])
    expect(Math.hypot(out.at!.origin[0], out.at!.origin[1])).toBeCloseTo(11.7, 8)
    const bore = step('o', 'hole', { diameter: '12' }, { place: onFace('b', 'top') })
    const within = await made([block, bore, shift('o/wall', '1.2'), pin('o', 'wall')])
    expect(Math.hypot(within.at!.origin[0], within.at!.origin[1])).toBeCloseTo(4.8, 8)
    expect(dot(within.at!.n, within.at!.origin)).toBeLessThan(0)
  })
  it('is where it was without the shift', async () => {
    const muted = { ...shift('b/right', '2.3'), mute: true }
    expect((await made([block, muted, pinOn('b', 'right')])).at!.origin[0]).toBeCloseTo(w / 2, 9)
  })
})
