import { describe, expect, it } from 'vitest'
import {
  allSteps,
  applyEdit,
  clipOf,
  type Edit,
  inUnitOf,
  onBed,
  type Part,
  type Place,
  pasteEdits,
  type Step,
} from '../document/index.ts'
import { type Fields, isNumberField } from '../fields/index.ts'
import { joints } from '../joints/index.ts'
import { Sketch } from '../outline/index.ts'
import { Drawn } from '../plane/index.ts'
import { dissolvedPlaces, fieldKindOf, heldPlaces, movedBetween, type WorkedPart, workOut } from '../planning/index.ts'
import { repeats } from '../repeats/index.ts'
import { shapes } from '../shapes/index.ts'
import { bodied, bundleOf, partOf, repeat, sameAs, seeded, step } from '../testing/index.ts'
import { emptyOutline } from '../testing/outlines.ts'

type Random = () => number
const among = <T>(random: Random, ...all: readonly T[]): T => all[Math.floor(random() * all.length)]!

/** An expression of a length, with bare numbers in every place that they may stand in. */
function lengthText(random: Random, copies = false, comma = true): string {
  const bare = () => among(random, '12.7', '85.1', '15.3', '1 1/4', '2.5', '30')
  const [a, b] = [bare(), bare()]
  return among(
    random,
    a,
    ...(comma ? ['2,5'] : []),
    `${a} mm`,
    `${a} + wall`,
    `80 - (${a} - ${b} / 100)`,
    `(${a} + ${b}) / 2 + foot`,
    `max(wall, ${a}) + slide`,
    `2 * wall + ${a}`,
    `gap / 4 + ${a}`,
    `hypot(${a}, foot)`,
    `pick(size, ${a}, ${b}, 7)`,
    `wall * n`,
    `${a} * share`,
    `abs(-${a})`,
    ...(copies ? [`${a} + copy`, `7.28 + copy * 0.1`, `${a} + wall / copies`, `${a} + copy1 - 1/2`] : []),
  )
}

function fieldsOf(random: Random, fields: Fields, copies = false): Record<string, string> {
  return Object.fromEntries(
    Object.entries(fields).map(([name, field]) => {
      if (field.kind === 'text') return [name, among(random, 'A', 'Wide {foot}', '{wall + 2} by {n}', '{tilt} {7}')]
      if (field.kind === 'choice') return [name, among(random, ...Object.keys(field.choices))]
      if (field.kind === 'outline') return [name, among(random, 'o1', 'o1', 'o2')]
      if (field.kind === 'sections') return [name, `o1, 0; o2, ${lengthText(random, false, false)}`]
      if (field.kind === 'corners')
        return [
          name,
          `0,0, 0; ${lengthText(random, false, false)} ,0, 1;3, wall, 2; 1, 1, ${lengthText(random, false, false)}`,
        ]
      if (!isNumberField(field) || random() < 0.5) return [name, field.default]
      if (field.kind === 'length') return [name, lengthText(random, copies)]
      if (field.kind === 'angle') return [name, among(random, field.default, 'tilt', 'tilt / 2 + 5', '37.3')]
      return [name, among(random, field.default, 'n', 'n + 1')]
    }),
  )
}

function seatOn(random: Random, above: readonly string[]): Place['on'] {
  const id = among(random, ...above)
  return { kind: 'face', step: id, face: id === 'round' ? among(random, 'side', 'top') : 'top' }
}

function placeOf(random: Random, above: readonly string[], copies: boolean): Partial<Place> {
  const offset = () =>
    ({
      from: among(random, 'low', 'centre', 'high'),
      to: among(random, 'near', 'centre', 'far'),
      by: lengthText(random, copies),
      ...(above.length > 0 && random() < 0.3 ? { of: among(random, ...above) } : {}),
    }) as Place['across']
  return {
    across: offset(),
    along: offset(),
    lift: among(random, '0', lengthText(random, copies)),
    turn: among(random, '0', 'tilt', '37.3'),
    tilt: among(random, '0', '0', '15.3'),
    lean: among(random, '0', '0', 'tilt / 3'),
    ...(above.length > 0 && random() < 0.2
      ? {
          level: {
            of: among(random, ...above),
            from: among(random, 'low', 'centre', 'high'),
            to: among(random, 'low', 'centre', 'high'),
          },
        }
      : {}),
    ...(random() < 0.2
      ? { pivot: { of: among(random, '', ...above), line: among(random, 'normal', 'across', 'along'), by: '12 + 3.3' } }
      : {}),
    ...(above.length > 0 && random() < 0.2
      ? { until: { step: among(random, ...above), face: 'top', less: among(random, '0', '1.5', 'wall / 4') } }
      : {}),
    ...(above.length > 0 && random() < 0.4 ? { on: seatOn(random, above) } : {}),
  }
}

function outline(random: Random, id: string) {
  const sketch = new Sketch(emptyOutline(id))
  const at = (x: number, y: number) => ({ at: [x, y] as const })
  const sides = sketch.rectangle(at(2, 3), at(42, 23), false)
  sketch.hold('distance', [sides[0]!], among(random, '40 + wall', '85.1', 'foot - (3 + 4)'))
  sketch.hold('distance', [sides[1]!], among(random, '20', '12.7 + wall'))
  sketch.derive('corner', [sketch.outline.curves[0]!.points[0]!], {
    form: 'round',
    size: among(random, '2.5', 'wall / 4 + 0.1'),
  })
  const drawn = sketch.outline.curves.map((curve) => curve.id)
  const [out, far] = ['wall / 3 + 0.2', 'wall * 9 + 12.7']
  // Of what is drawn with it, only help is: an axis and a centre.
  const more = new Sketch(sketch.outline, true)
  among(
    random,
    () => more.derive('offset', drawn, { by: among(random, '1.5', out) }),
    () => more.derive('row', drawn, { count: '2', x: among(random, '85.1', far), y: '2 - (1 + 1/2)' }),
    () => more.derive('mirror', [...drawn, more.line(at(-5, 0), at(-8.3, 37.3))], {}),
    () =>
      more.derive('ring', [...drawn, more.point(at(85.1, -12.7))], {
        count: '3',
        angle: among(random, '120', 'tilt * 4'),
      }),
  )()
  return more.outline
}

/** A bundle, repeated and scaled, with content that reads its copies; and a step with the same shape as one of it. */
function together(random: Random): Step[] {
  const scaled = () => ({
    scale: among(random, 'none', 'even', 'each', 'wide', 'high', 'sizes'),
    ...{ factor: 'share + 1', across: '1.5', along: 'wall / foot + 1', up: '2' },
    ...{ size: lengthText(random), width: lengthText(random), depth: '85.1', height: 'foot - (3 + 4)' },
  })
  const plain = step('two', 'plate')
  const inner = step('inner', 'bar', { diameter: lengthText(random, true), length: '15.3 + wall' })
  const fields = scaled()
  const place = { ...plain.place, ...placeOf(random, ['two'], true) }
  const spacing = lengthText(random)
  const within = step('within', 'plate', { width: lengthText(random) }, { place: { lift: '4 + wall' } })
  const bundle = bundleOf('group', [inner, within], {
    ...{ fields, place },
    repeats: [{ kind: 'row', fields: { count: '3', spacing, direction: 'across' } }],
  })
  const same = sameAs('again', 'two', { fields: scaled(), place: { ...plain.place, ...placeOf(random, [], false) } })
  return [bundle, same]
}

/** A part with something of every kind in it that holds expressions. */
function randomPart(seed: number): Part {
  const random = seeded(seed)
  const measures: Part['measures'] = [
    { id: 'm1', name: 'wall', kind: 'length', expression: among(random, '6', '5 + 1/4', '1/4 in'), note: '' },
    {
      id: 'm2',
      name: 'foot',
      kind: 'length',
      expression: among(random, '84 - (2 + 3)', 'wall * 3 + 60', '85.1'),
      note: '',
    },
    { id: 'm3', name: 'tilt', kind: 'angle', expression: '12 + 3.5', note: '' },
    { id: 'm4', name: 'n', kind: 'count', expression: '3', note: '' },
    {
      id: 'm5',
      name: 'share',
      kind: 'ratio',
      expression: among(random, '0.4', '2 / wall * 1 mm', 'foot / (foot + 3)'),
      note: '',
    },
    {
      id: 'm6',
      name: 'lid',
      kind: 'switch',
      expression: among(random, 'wall > 2', 'foot - 5 >= 20 and n = 3', 'yes'),
      note: '',
    },
    { id: 'm7', name: 'size', kind: 'choice', expression: 'M5', choices: ['M4', 'M5', 'M6'], note: '' },
    { id: 'm8', name: 'mark', kind: 'text', expression: '{foot} × {wall + 2}', note: '' },
  ]
  const steps: Step[] = [
    step('base', 'plate', { width: lengthText(random), depth: 'foot', height: lengthText(random) }),
  ]
  for (let i = 0; i < 4; i++) {
    const shape = among(random, ...shapes)
    const repeated = random() < 0.5
    const above = steps.filter(({ operation }) => operation === 'add').map(({ id }) => id)
    const definition = among(random, ...repeats)
    steps.push({
      ...step(`s${i}`, shape.kind, fieldsOf(random, shape.fields, repeated), {
        place: placeOf(random, above, repeated),
        repeats: repeated
          ? [{ kind: definition.kind, fields: { ...fieldsOf(random, definition.fields), count: '3' } }]
          : [],
      }),
      when: among(random, '', 'lid', 'wall > 2', 'not foot < 3 + wall', 'size = M5', 'gap + 2 > 5'),
    })
  }
  const joint = among(random, ...joints)
  const part = partOf(steps, {
    measures,
    outlines: [outline(random, 'o1'), outline(random, 'o2')],
    readouts: [
      {
        id: 'r1',
        name: 'gap',
        kind: 'distance',
        of: [
          { step: 'two', face: 'top' },
          { step: 'two', face: 'bottom' },
        ],
        note: '',
      },
    ],
    variants: [
      { id: 'v1', name: 'Wide', values: { m1: lengthText(random).replace(/gap|wall|foot/g, '3'), m6: 'foot > 70' } },
    ],
    variant: among(random, '', 'v1'),
  })
  const second = {
    ...part.pieces[0]!,
    id: 'p2',
    name: 'Two',
    steps: [step('two', 'plate', { height: lengthText(random) }), ...together(random)],
  }
  const { place } = step('x', 'plate')
  return {
    ...part,
    pieces: [part.pieces[0]!, second],
    joints: [
      {
        id: 'j1',
        name: 'Joint',
        kind: joint.kind,
        pieces: ['p1', 'p2'],
        fields: fieldsOf(random, joint.fields),
        place: { ...place, ...placeOf(random, [], false) },
      },
    ],
  }
}

/** All that a part comes to, as numbers and words in one order. */
function comesTo({ resolved, plan, readouts, problems }: WorkedPart): (number | string)[] {
  const flat = (value: unknown): (number | string)[] => {
    if (typeof value === 'number' || typeof value === 'string') return [value]
    if (value instanceof Drawn) return [value.area(), value.loops.length]
    if (Array.isArray(value)) return value.flatMap(flat)
    return value && typeof value === 'object' ? Object.values(value).flatMap(flat) : []
  }
  const steps = [...resolved.steps.values()].flatMap(
    ({ step: { id }, values, place, repeats: each, present, copies }) => [
      id,
      String(present),
      ...flat([values, place, each?.map((one) => one.values), copies]),
    ],
  )
  const frames = [...plan.geometry].flatMap(([id, { frames: all }]) => [id, ...flat(all)])
  const rows = resolved.measures.rows.flatMap(({ value, word }) => flat([value ?? '', word ?? '']))
  const of = [...resolved.joints.values()].flatMap(({ values, place }) => flat([values, place]))
  return [
    ...steps,
    ...frames,
    ...rows,
    ...of,
    ...readouts.flatMap(({ value }) => flat(value ?? '')),
    ...problems.map(({ code, path }) => `${code} ${path.join('/')}`),
  ]
}

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
    for (let seed = 1; seed <= 120; seed++) {
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
    for (let seed = 1; seed <= 80; seed++) {
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
    expect(compared).toBeGreaterThan(300)
    expect(told).toBeGreaterThan(0)
  }, 400_000)

  it('steps that are copied into a part of another unit have the sizes that they had', () => {
    let compared = 0
    for (let seed = 1; seed <= 200; seed++) {
      const part = randomPart(seed)
      const clip = clipOf({ ...part, variant: '' }, ['base', 's0', 's1', 's2', 's3'], fieldKindOf)
      const empty: Part = { ...partOf([], { readouts: part.readouts }), unit: 'in' }
      let count = 0
      const there = pasteEdits(empty, clip, { piece: 'p1' }, () => `n${++count}`, fieldKindOf).reduce(apply, empty)
      const ids = new Map(part.pieces[0]!.steps.map(({ id }, i) => [id, there.pieces[0]!.steps[i]!.id]))
      // Read-outs of their names are another part's own.
      const reads = JSON.stringify(clip).includes('gap')
      if (!reads) compared += expectStill({ ...part, variant: '' }, there, `part ${seed}`, (id) => ids.get(id))
    }
    expect(compared).toBeGreaterThan(80)
  }, 400_000)

  it('a bundle that is dissolved leaves its steps where they are, or tells before', () => {
    let compared = 0
    for (let seed = 1; seed <= 100; seed++) {
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
    expect(compared).toBeGreaterThan(200)
  }, 400_000)
})

describe('a change of unit', () => {
  it('changes no size, and no text once it is taken back, whatever the part is made of', () => {
    let stand = 0
    for (let seed = 1; seed <= 200; seed++) {
      const part = randomPart(seed)
      const { part: inches, faults } = inUnitOf(part, 'in', fieldKindOf)
      expect(faults, `part ${seed}`).toEqual([])
      // In each of its variants.
      for (const variant of ['', 'v1']) expectSame({ ...part, variant }, { ...inches, variant }, seed)
      stand += workOut(part).plan.geometry.size
      expect(inUnitOf(inches, 'mm', fieldKindOf).part).toEqual(part)
    }
    // Most of what was put together at random stands somewhere.
    expect(stand).toBeGreaterThan(600)
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
