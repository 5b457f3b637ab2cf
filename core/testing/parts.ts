import type { Part, Place, Step } from '../document/index.ts'
import { type Fields, isNumberField, versionTold } from '../fields/index.ts'
import { itemsFor } from '../hardware/index.ts'
import { type JointDefinition, joints } from '../joints/index.ts'
import { Sketch } from '../outline/index.ts'
import { Drawn } from '../plane/index.ts'
import type { WorkedPart } from '../planning/index.ts'
import { type RepeatDefinition, repeats } from '../repeats/index.ts'
import { type ShapeDefinition, shapes } from '../shapes/index.ts'
import type { KeptAnswers } from './answers.ts'
import { bundleOf, partOf, sameAs, seeded, step } from './index.ts'
import { emptyOutline } from './outlines.ts'

type Random = () => number
/** One of these. */
export const among = <T>(random: Random, ...all: readonly T[]): T => all[Math.floor(random() * all.length)]!

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
      if (field.kind === 'item') return [name, among(random, ...itemsFor(field.of)).id]
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

/** What random parts are put together from. */
export interface PartKinds {
  readonly shapes: readonly ShapeDefinition[]
  readonly repeats: readonly RepeatDefinition[]
  readonly joints: readonly JointDefinition[]
}
/** Threads have tests of their own, of tens of thousands of triangles each, and what is for rounds alone needs one to stand on. */
const threads = ['screw-thread', 'threaded-hole']
const allKinds: PartKinds = {
  shapes: shapes.filter(({ kind, roundOnly }) => !roundOnly && !threads.includes(kind)),
  repeats,
  joints,
}

/** A part with something of every kind in it that holds expressions. */
export function randomPart(seed: number, kinds = allKinds): Part {
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
    const shape = among(random, ...kinds.shapes)
    const repeated = random() < 0.5
    const above = steps.filter(({ operation }) => operation === 'add').map(({ id }) => id)
    const definition = among(random, ...kinds.repeats)
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
  const joint = among(random, ...kinds.joints)
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
        ...versionTold(joint),
      },
    ],
  }
}

/** All that a part comes to, as numbers and words in one order. */
export function comesTo({ resolved, plan, readouts, problems }: WorkedPart): (number | string)[] {
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

/** Those that were there when answers were written down. */
export function keptKinds({ kindsOf }: Pick<KeptAnswers, 'kindsOf'>): PartKinds {
  return {
    shapes: kindsOf('shapes', shapes),
    repeats: kindsOf('repeats', repeats),
    joints: kindsOf('joints', joints),
  }
}
