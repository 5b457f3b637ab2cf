import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { applyEdit, type Part, type Step } from '../document/index.ts'
import { defaultFields } from '../fields/index.ts'
import { itemOf } from '../hardware/index.ts'
import { pauseFor } from '../layers/index.ts'
import { fieldKindOf, itemsIn, toBuy } from '../planning/index.ts'
import { repeatOf } from '../repeats/index.ts'
import { built, bundleOf, onFace, partOf, seeded, step, testKernel } from '../testing/index.ts'
import { real, runs, sampled } from '../testing/sample.ts'
import { type Finding, proofOf } from './index.ts'

const kernel = await testKernel()

async function told(part: Part): Promise<readonly Finding[]> {
  return proofOf(kernel, await built(kernel, part, 0.03), { only: ['hardware'] })
}
const codes = async (part: Part) => (await told(part)).map(({ code }) => code)
const off = (by: number) => ({ from: 'centre', to: 'centre', by: `${by}` }) as const
/** A plate of 50 × 40, turned and off the origin. */
const plate = (height: number, turn = 15.3) =>
  step('a', 'plate', { width: '50', depth: '40', height: `${height}` }, {
    place: { across: off(13.3), turn: `${turn}` },
  } as never)
const on = (kind: string, fields: Record<string, string>, x = 0, y = 0, more: object = {}, id: string = kind) =>
  step(id, kind, fields, { place: { ...onFace('a', 'top'), across: off(x), along: off(y) }, ...more } as never)
const of = (...steps: readonly Step[]) => partOf([plate(12.7), ...steps])

describe('what is bought', () => {
  it('goes in where it was given its room, wherever that is', async () => {
    for (const turn of [0, 37.3, -85.1]) {
      const findings = await told(
        partOf(
          [
            plate(12.7, turn),
            on('screw-hole', { item: 'iso-4762 M4' }, -17.3, 11.1),
            on('screw-hole', { item: 'iso-10642 M5', sunk: '0.37' }, 17.3, 11.1),
            on('screw-hole', { item: 'iso-4017 M4', seat: 'none' }, 0, 13),
            on('nut-pocket', { item: 'iso-4032 M4', sunk: '2.1' }, -17.3, -9),
            on('insert-hole', { item: 'usual-insert M3' }, 0, -9),
            on('bearing-seat', { item: 'usual-bearing 688', gap: '-0.05' }, 14, -8.3),
            on('magnet-pocket', {}, 0, 2),
            on('pin-hole', { item: 'iso-2338 ⌀ 3' }, -9, 2),
          ].map((each, i) => (i === 0 ? each : { ...each, id: `s${i}` })) as Step[],
        ),
      )
      expect(findings.map(({ code, text }) => `${code} ${text}`)).toEqual([
        expect.stringMatching(/^hardware-goes-in .* 8 in all/),
      ])
    }
  })
  it('does not where something was put there after it', async () => {
    const block = on('bar', { diameter: '3', height: '2' }, 3.1, 0, {
      place: { ...onFace('nut-pocket', 'floor'), across: off(3.1), along: off(0) },
    })
    expect(await codes(of(on('nut-pocket', { screw: 'none' }), block))).toEqual(['hardware-clash'])
  })
  it('cannot be put in where a roof is over it, and is let in by what is offered', async () => {
    const roof = on('plate', { width: '20', depth: '20', height: '3' })
    const lidded = of(on('nut-pocket', { sunk: '1.3', screw: 'none' }), roof)
    const [finding] = await told(lidded)
    expect(finding).toMatchObject({ code: 'hardware-blocked', rank: 'warning' })
    const cured = finding!.cures![0]!.edits.reduce((part, edit) => applyEdit(part, edit, fieldKindOf), lidded)
    expect(await codes(cured)).toEqual(['hardware-goes-in'])
  })
  it.each(sampled(8, 1, 10))('slides in as far as its slot goes on, and is let in by a longer one (%i)', async (i) => {
    const random = seeded(31 * i)
    const x = 10 * random() - 5
    const short = of(
      on('nut-pocket', { item: 'iso-4032 M5', from: 'side', sunk: '3.1', out: `${9 + 5 * random()}` }, x, 7 * random()),
    )
    const [finding] = await told(short)
    expect(finding).toMatchObject({ code: 'hardware-blocked' })
    const [cure] = finding!.cures!
    // The plate's side is 25 mm from its middle.
    expect(Number.parseFloat((cure!.edits[0] as { text: string }).text)).toBeGreaterThan(25 - x)
    expect(Number.parseFloat((cure!.edits[0] as { text: string }).text)).toBeLessThan(25 - x + 3)
    expect(await codes(cure!.edits.reduce((part, edit) => applyEdit(part, edit, fieldKindOf), short))).toEqual([
      'hardware-goes-in',
    ])
  })
  it('is reached by its tool, or it is told', async () => {
    const hood = (x: number) => on('plate', { width: '4', depth: '40', height: '20' }, x, 0)
    const screw = on('screw-hole', { item: 'iso-4017 M6', seat: 'none' })
    // A wrench for M6 is 15 mm across: its room ends 7.5 mm from the axis, the corners of the head 5.8 mm.
    expect(await codes(of(screw, hood(9.7)))).toEqual(['hardware-goes-in'])
    expect(await codes(of(screw, hood(9.1)))).toEqual(['hardware-tool'])
    expect(await codes(of(screw, hood(6.9)))).toEqual(['hardware-clash', 'hardware-blocked'])
  })
  it('has wall enough, or a smaller one is offered that has', async () => {
    await fc.assert(
      fc.asyncProperty(real(1.8, 9), async (from) => {
        const insert = itemOf('usual-insert M4')!.sizes
        const need = Math.max(1.6, 0.35 * insert.outside!)
        // So far from the plate's right-hand side.
        const part = of(on('insert-hole', { item: 'usual-insert M4' }, 25 - from - insert.outside! / 2))
        const [finding] = await told(part)
        if (from > need + 0.05) {
          expect(finding!.code).toBe('hardware-goes-in')
          return
        }
        if (from > need - 0.05) return
        expect(finding!.code).toBe('hardware-thin')
        const wall = (finding!.values.wall as { of: readonly number[] }).of[0]!
        expect(Math.abs(wall - from)).toBeLessThan(0.06)
        const cure = finding!.cures?.[0]
        if (!cure) return
        const cured = cure.edits.reduce((so, edit) => applyEdit(so, edit, fieldKindOf), part)
        expect(await codes(cured)).toEqual(['hardware-goes-in'])
      }),
      { numRuns: runs(10) },
    )
  })
  it('bites far enough in a blind hole, or its depth is asked for', async () => {
    const tapped = (depth: number, way = 'tapped') =>
      of(on('screw-hole', { item: 'iso-4762 M4', way, seat: 'none', reach: 'blind', depth: `${depth}` }))
    // 1.5 times the thread, and the fineness of a tube of material.
    expect(await codes(tapped(6.1))).toEqual(['hardware-goes-in'])
    for (const way of ['tapped', 'formed']) {
      const [finding] = await told(tapped(4.3, way))
      expect(finding).toMatchObject({ code: 'hardware-short', rank: 'warning' })
      expect((finding!.values.bites as { of: readonly number[] }).of[0]).toBeCloseTo(4.3, 1)
    }
    // Through a plate that is thinner than that.
    const thin = partOf([plate(5.3), on('screw-hole', { item: 'iso-4762 M4', way: 'tapped', seat: 'none' })])
    expect(await codes(thin)).toEqual(['hardware-short'])
  })
  it('does not run into something else that is bought, but for what is on its axis', async () => {
    const cross = step('b', 'pin-hole', { item: 'iso-2338 ⌀ 3' }, {
      place: { ...onFace('a', 'right'), across: off(2.1), along: off(0) },
    } as never)
    const screw = on('screw-hole', { item: 'iso-4762 M4' }, 0, 2.6)
    expect(await codes(of(screw, cross))).toEqual(['hardware-each-other'])
    expect(await codes(of(on('screw-hole', { item: 'iso-4762 M4' }, 0, 9), cross))).toEqual(['hardware-goes-in'])
    const nut = step('n', 'nut-pocket', { item: 'iso-4032 M4' }, {
      place: { ...onFace('a', 'bottom'), across: off(0), along: off(2.6) },
    } as never)
    const both = await codes(of(screw, nut))
    expect(both).not.toContain('hardware-each-other')
  })
})

describe('what is closed in', () => {
  it('pauses the print below the first layer that closes over it, and is told where it stands out of that', async () => {
    await fc.assert(
      fc.asyncProperty(real(0.7, 4.3), real(0, 0.4), async (roof, gap) => {
        const part = of(
          on('magnet-pocket', { item: 'usual-magnet 10 × 3', gap: `${gap}`, sunk: `${roof}`, open: 'closed' }),
        )
        const made = await built(kernel, part, 0.1)
        const [held] = itemsIn(made.resolved, made.plan)
        const { printer } = made.resolved
        const { layer, height, proud } = pauseFor(held!, held!.frame, printer)
        // Layers are filled where their middle lies in material.
        const top = 12.7 - roof
        const middle = (i: number) => printer.firstLayer + (i - 0.5) * printer.layerHeight
        expect(middle(layer)).toBeGreaterThan(top - 1e-5)
        expect(middle(layer - 1)).toBeLessThanOrEqual(top + 1e-5)
        expect(height).toBeCloseTo(printer.firstLayer + (layer - 1) * printer.layerHeight, 9)
        expect(proud).toBeCloseTo(Math.max(0, top - gap - height), 4)
        if (Math.abs(proud - 0.02) > 1e-3)
          expect(await codes(part)).toEqual([proud > 0.02 ? 'hardware-proud' : 'hardware-goes-in'])
      }),
      { numRuns: runs(12) },
    )
  })
})

describe('copies', () => {
  it('that are mirrored or turned round take theirs as well', async () => {
    for (const [kind, fields, count] of [
      ['mirror', {}, 2],
      ['ring', { count: '3' }, 3],
    ] as const) {
      const repeats = [{ kind, fields: { ...defaultFields(repeatOf(kind)!.fields), ...fields } }]
      const findings = await told(of(on('nut-pocket', { screw: 'none', sunk: '1.3' }, 11.3, 7.9, { repeats })))
      expect(findings).toMatchObject([{ code: 'hardware-goes-in', values: { count } }])
    }
  })
})

describe('what to buy', () => {
  const bought = async (part: Part) => {
    const { resolved, plan } = await built(kernel, part, 0.1)
    return toBuy(itemsIn(resolved, plan)).map(({ item, count }) => `${count} ${item.id}`)
  }
  it('counts copies, those in bundles and bundles of bundles, and none of what is muted or left out', async () => {
    const row = { repeats: [{ kind: 'row', fields: { count: '3', spacing: '9' } }] }
    const holes = on('screw-hole', { item: 'iso-4762 M3' }, 0, 0, row)
    expect(await bought(of(holes))).toEqual(['3 iso-4762 M3'])
    expect(await bought(of({ ...holes, omit: [2] } as Step))).toEqual(['2 iso-4762 M3'])
    expect(await bought(of({ ...holes, mute: true } as Step))).toEqual([])
    expect(await bought(of(holes, on('nut-pocket', { item: 'iso-4032 M3' }, 0, 12, row)))).toEqual([
      '3 iso-4762 M3',
      '3 iso-4032 M3',
    ])
    // What springs into a groove has no body to try, and is bought all the same; a key is its shaft's.
    const shaft = (kind: string, item: string) =>
      partOf([
        step('a', 'bar', { diameter: '20', height: '40' }),
        step('g', kind, { item }, { place: onFace('a', 'side') } as never),
      ])
    for (const [kind, item] of [
      ['ring-groove', 'din-471 ⌀ 20'],
      ['seal-groove', 'usual-o-ring 16 × 2'],
      ['key-way', 'din-6885-1 6 × 6'],
    ] as const) {
      expect(await bought(shaft(kind, item))).toEqual([`1 ${item}`])
      expect(await codes(shaft(kind, item))).toEqual([])
    }
    const boss = bundleOf('c', [
      step('boss', 'bar', { diameter: '12.3', height: '9' }),
      step('in', 'insert-hole', { item: 'usual-insert M3' }, { place: onFace('boss', 'end') } as never),
    ])
    const placed = { ...boss, place: { ...boss.place, on: onFace('a', 'top').on }, repeats: row.repeats } as Step
    expect(await bought(of(placed))).toEqual(['3 usual-insert M3'])
  })
})
