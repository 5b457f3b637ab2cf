import { describe, expect, it } from 'vitest'
import { allSteps, applyEdit, clipOf, type Edit, inUnitOf, onBed, type Part, pasteEdits } from '../document/index.ts'
import { dissolvedPlaces, fieldKindOf, heldPlaces, movedBetween, workOut } from '../planning/index.ts'
import { bodied, bundleOf, partOf, repeat, seeded, step } from '../testing/index.ts'
import { among, comesTo, randomPart } from '../testing/parts.ts'
import { sampled } from '../testing/sample.ts'

function expectSame(one: Part, two: Part, seed: number): void {
  const [a, b] = [comesTo(workOut(one)), comesTo(workOut(two))]
  expect(b.length, `part ${seed}`).toBe(a.length)
  a.forEach((value, i) => {
    const other = b[i]!
    if (typeof value !== 'number') expect(other, `part ${seed}`).toBe(value)
    else
      expect(Math.abs((other as number) - value), `part ${seed}: ${value}`).toBeLessThan(
        1e-9 * Math.max(1, Math.abs(value)),
      )
  })
}

/** Where every copy of each step stands. */
function standsOf(part: Part): Map<string, readonly number[]> {
  return new Map(
    [...workOut(part).plan.geometry].map(([id, { frames }]) => [
      id,
      frames.flatMap(({ origin, u, v, n }) => [...origin, ...u, ...v, ...n]),
    ]),
  )
}

/** What stood before stands where it did. */
function expectStill(
  before: Part,
  after: Part,
  label: string,
  ids: (id: string) => string | undefined = (id) => id,
): number {
  const [was, now] = [standsOf(before), standsOf(after)]
  let compared = 0
  for (const [id, numbers] of was) {
    const other = ids(id)
    const there = other === undefined ? undefined : now.get(other)
    if (other === undefined) continue
    expect(there?.length, `${label}: ${id}`).toBe(numbers.length)
    numbers.forEach((value, i) => {
      expect(Math.abs(there![i]! - value), `${label}: ${id} ${value} ${there![i]}`).toBeLessThan(
        1e-9 * Math.max(1, Math.abs(value)),
      )
    })
    compared++
  }
  return compared
}

describe('other edits that write expressions', () => {
  const apply = (part: Part, edit: Edit) => applyEdit(part, edit, fieldKindOf)

  /** What moves all the same, which is told before: what has copies, each with a place or a depth of its own by what goes. */
  const toldToMove = (before: Part, after: Part, goes: (id: string) => boolean, label: string): string[] => {
    const moved = movedBetween(before, after)
    for (const id of moved) {
      const { place, repeats } = bodied(allSteps(before).find((step) => step.id === id))
      expect(repeats.length, `${label}: ${id}`).toBeGreaterThan(0)
      expect(
        [place.level?.of, place.pivot?.of, place.until?.step].some((of) => of && goes(of)),
        `${label}: ${id}`,
      ).toBe(true)
    }
    return moved
  }

  it('renaming changes nothing but the name', () => {
    for (const seed of sampled(120, 1, 20)) {
      const part = randomPart(seed)
      const names = { m1: 'side', m2: 'base_2', m4: 'count_of', m7: 'bolt', m3: 'slope' }
      const renamed = Object.entries(names).reduce(
        (so, [id, name]) => apply(so, { type: 'rename-measure', id, name }),
        apply(part, { type: 'rename-readout', id: 'r1', name: 'space' }),
      )
      expectSame(part, renamed, seed)
    }
  }, 400_000)

  it('a choice that is called like a measure stays that choice when the measure is renamed', () => {
    const part = randomPart(4)
    const named: Part = {
      ...part,
      measures: [...part.measures, { id: 'm9', name: 'M5', kind: 'length', expression: '4 + M5', note: '' }],
      pieces: [
        { ...part.pieces[0]!, steps: [{ ...step('a', 'plate', { width: '2 * M5' }), when: 'size = M5 and M5 > 3' }] },
      ],
    }
    const renamed = apply(named, { type: 'rename-measure', id: 'm9', name: 'bolt' })
    const { when, fields } = renamed.pieces[0]!.steps[0]!
    expect([when, fields.width]).toEqual(['size = M5 and bolt > 3', '2 * bolt'])
  })

  it('removing what tells each copy its own place is found out before it is done', () => {
    const place = { ...onBed, turn: 'copy * 15.3', pivot: { of: 'base', line: 'normal' as const, by: '12 + 3.3' } }
    const made = (turn: string): Part =>
      partOf([
        { ...step('base', 'plate', { width: '85.1' }), place: { ...onBed, across: { ...onBed.across, by: '37.3' } } },
        {
          ...step('fin', 'plate', { width: '5' }),
          place: { ...place, turn },
          repeats: [repeat('row', { count: '4' })],
        },
        step('other', 'plate', {}),
      ])
    const without = (part: Part, ids: string[]) =>
      movedBetween(part, apply(part, { type: 'remove-steps', ids, held: heldPlaces(part, new Set(ids)) }))
    expect(without(made('copy * 15.3'), ['base'])).toEqual(['fin'])
    expect(without(made('37.3'), ['base'])).toEqual([])
    expect(without(made('copy * 15.3'), ['other'])).toEqual([])
    expect(without(made('copy * 15.3'), ['base', 'fin'])).toEqual([])
  })

  it('removing what others stand on leaves them where they are, or is told before', () => {
    let [compared, told] = [0, 0]
    // Part 56 is one of those in which something moves.
    for (const seed of new Set([56, ...sampled(80, 1, 20)])) {
      const part = randomPart(seed)
      for (const id of ['base', 's0', 's1']) {
        const held = heldPlaces(part, new Set([id]))
        const without = apply(part, { type: 'remove-steps', ids: [id], held })
        const label = `part ${seed} without ${id}`
        const gone = [id, ...toldToMove(part, without, (each) => each === id, label)]
        compared += expectStill(part, without, label, (each) => (gone.includes(each) ? undefined : each))
        told += gone.length - 1
      }
    }
    expect(compared).toBeGreaterThan(20)
    expect(told).toBeGreaterThan(0)
  }, 400_000)

  it('steps that are copied into a part of another unit have the sizes that they had', () => {
    let compared = 0
    for (const seed of sampled(300, 1, 20)) {
      const part = randomPart(seed)
      const clip = clipOf({ ...part, variant: '' }, ['base', 's0', 's1', 's2', 's3'], fieldKindOf)
      const empty: Part = { ...partOf([], { readouts: part.readouts }), unit: 'in' }
      let count = 0
      const there = pasteEdits(empty, clip, { piece: 'p1' }, () => `n${++count}`, fieldKindOf).reduce(apply, empty)
      const ids = new Map(part.pieces[0]!.steps.map(({ id }, i) => [id, there.pieces[0]!.steps[i]!.id]))
      // Read-outs of their names are another part's own.
      const reads = JSON.stringify([clip.pieces, clip.outlines, clip.measures]).includes('gap')
      if (!reads) compared += expectStill({ ...part, variant: '' }, there, `part ${seed}`, (id) => ids.get(id))
    }
    expect(compared).toBeGreaterThan(5)
  }, 400_000)

  it('a bundle that is dissolved leaves its steps where they are, or tells before', () => {
    let compared = 0
    for (const seed of sampled(100, 1, 20)) {
      const part = randomPart(seed)
      const [base, ...rest] = part.pieces[0]!.steps
      const random = seeded(seed)
      const content = rest.slice(0, 2).map((each) => ({ ...each, operation: 'add' as const }))
      const own = { from: 'centre', to: 'own', by: among(random, '0', '12.7') } as const
      const bundle = bundleOf('b', content, {
        place: { across: own, along: own, turn: among(random, '0', '37.3'), lift: among(random, '0', 'wall') },
      })
      const bundled: Part = {
        ...part,
        pieces: [{ ...part.pieces[0]!, steps: [base!, bundle, ...rest.slice(2)] }, part.pieces[1]!],
      }
      const held = dissolvedPlaces(bundled, bundle)
      const after = apply(bundled, { type: 'dissolve-bundle', id: 'b', held })
      const inside = new Set(content.map(({ id }) => id))
      const gone = ['b', ...toldToMove(bundled, after, (each) => !inside.has(each), `part ${seed}`)]
      compared += expectStill(bundled, after, `part ${seed}`, (id) => (gone.includes(id) ? undefined : id))
    }
    expect(compared).toBeGreaterThan(15)
  }, 400_000)
})

describe('a change of unit', () => {
  it('changes no size, and no text once it is taken back, whatever the part is made of', () => {
    let stand = 0
    for (const seed of sampled(200, 1, 20)) {
      const part = randomPart(seed)
      const { part: inches, faults } = inUnitOf(part, 'in', fieldKindOf)
      expect(faults, `part ${seed}`).toEqual([])
      // In each of its variants.
      for (const variant of ['', 'v1']) expectSame({ ...part, variant }, { ...inches, variant }, seed)
      stand += workOut(part).plan.geometry.size
      expect(inUnitOf(inches, 'mm', fieldKindOf).part).toEqual(part)
    }
    // Most of what was put together at random stands somewhere.
    expect(stand).toBeGreaterThan(45)
  }, 400_000)

  it('is refused where something cannot be read, which is named', () => {
    const part = partOf([
      step('a', 'plate', { width: '80 +', height: 'wal + 2' }),
      step('b', 'plate', { width: '85.1' }),
    ])
    const { faults } = inUnitOf(part, 'in', fieldKindOf)
    expect(faults.map(({ owner, text }) => [owner, text])).toEqual([
      ['a', '80 +'],
      ['a', 'wal + 2'],
    ])
    expect(applyEdit(part, { type: 'set-unit', unit: 'in' }, fieldKindOf)).toBe(part)
  })
})
