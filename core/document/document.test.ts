import { readdirSync, readFileSync } from 'node:fs'
import { describe, expect, it } from 'vitest'
import { fieldKindOf, resolvePart } from '../planning/index.ts'
import { bodied, bundleOf, codeOf, onFace, partOf, sameAs, seeded, step } from '../testing/index.ts'
import {
  applyEdit,
  assetOf,
  bodiesOf,
  checkedPart,
  checkLimits,
  currentVersion,
  documentLimits,
  type Edit,
  findStep,
  migrations,
  newPart,
  onBed,
  type Part,
  placedBy,
  readPartFile,
  SoundThings,
  takenFrom,
  usersOf,
  usesOfNames,
  writePartFile,
} from './index.ts'

const base = partOf(
  [step('base', 'plate', { width: 'wide' }), step('hole', 'hole', {}, { place: onFace('base', 'top') })],
  {
    measures: [{ id: 'm1', name: 'wide', kind: 'length', expression: '60', note: '' }],
  },
)
const edited = (part: Part, ...edits: Edit[]) =>
  edits.reduce((state, edit) => applyEdit(state, edit, fieldKindOf), part)

const withStepField = (part: Record<string, unknown>, field: string, value: unknown) => {
  const copy = structuredClone(part) as unknown as { pieces: [{ steps: [Record<string, unknown>] }] }
  copy.pieces[0].steps[0][field] = value
  return copy
}
const nested = (depth: number): unknown => [
  { ...bundleOf(`b${depth}`, []), steps: depth === 0 ? [] : nested(depth - 1) },
]

describe('part files', () => {
  it('come back as they were written', () => {
    expect(readPartFile(writePartFile(base))).toEqual(base)
    expect(writePartFile(readPartFile(writePartFile(base)))).toBe(writePartFile(base))
  })
  it.each<[string, (part: Record<string, unknown>) => unknown, string]>([
    ['no JSON', () => '{', 'file-not-json'],
    ['another format', () => ({ hello: 1 }), 'file-not-part'],
    ['a newer version', (part) => ({ ...part, version: currentVersion + 1 }), 'file-newer'],
    ['a version that is none', (part) => ({ ...part, version: 'one' }), 'file-invalid'],
    ['a missing field', ({ pieces: _, ...part }) => part, 'file-invalid'],
    ['a foreign field', (part) => ({ ...part, colour: 'red' }), 'file-invalid'],
    ['a number where text is', (part) => ({ ...part, name: 7 }), 'file-invalid'],
    ['no pieces', (part) => ({ ...part, pieces: [] }), 'file-invalid'],
    ['a step that holds steps and is no bundle', (part) => withStepField(part, 'steps', []), 'file-invalid'],
    [
      'bundles nested too deep',
      (part) => withStepField({ ...part, pieces: [{ ...base.pieces[0], steps: nested(14) }] }, 'name', ''),
      'file-invalid',
    ],
    ['too large', () => 'x'.repeat(documentLimits.bytes + 1), 'file-too-large'],
  ])('with %s are refused', (_, change, code) => {
    const raw = change(JSON.parse(writePartFile(base)))
    expect(codeOf(() => readPartFile(typeof raw === 'string' ? raw : JSON.stringify(raw)))).toBe(code)
  })
  it('are as large as their limit, less what is not counted to the byte', () => {
    const holding = (bytes: number) => ({ ...base, assets: [assetOf('a.png', 'A'.repeat(bytes))] })
    const limit = 0.97 * documentLimits.bytes
    expect(() => checkLimits(holding(limit - 20_000))).not.toThrow()
    expect(() => checkLimits(holding(limit + 20_000))).toThrow(/a file of 15\.5 MB/)
  })
  it('come to so many bodies at most, each that is the same as another counted', () => {
    const doubled = (times: number) =>
      partOf([
        step('b0', 'plate', {}),
        ...Array.from({ length: times }, (_, i) =>
          bundleOf(`b${i + 1}`, [sameAs(`one${i}`, `b${i}`), sameAs(`two${i}`, `b${i}`)]),
        ),
      ])
    // 1 + 2 + 4 + … are one less than twice the last.
    expect(bodiesOf(doubled(12))).toBe(2 ** 13 - 1)
    expect(() => checkLimits(doubled(12))).not.toThrow()
    for (const times of [13, 50]) {
      expect(codeOf(() => checkLimits(doubled(times)))).toBe('over-limit')
      expect(codeOf(() => readPartFile(writePartFile(doubled(times))))).toBe('file-invalid')
    }
    // In a circle, or of what is not there, they count as one.
    const circle = partOf([bundleOf('a', [sameAs('x', 'b')]), bundleOf('b', [sameAs('y', 'a')]), sameAs('z', 'gone')])
    expect(bodiesOf(circle)).toBeLessThan(5)
  })
  it('name the place of the damage', () => {
    const raw = JSON.parse(writePartFile(base))
    raw.pieces[0].steps[1].place.lift = 3
    expect(() => readPartFile(JSON.stringify(raw))).toThrow(/pieces\.0\.steps\.1\.place\.lift/)
  })
  it('with two steps of one id are refused', () => {
    const [piece] = base.pieces
    const twice = { ...base, pieces: [{ ...piece!, steps: [piece!.steps[0]!, piece!.steps[0]!] }] }
    expect(codeOf(() => readPartFile(writePartFile(twice)))).toBe('file-invalid')
  })
  it('of earlier versions have what is in bundles changed as all else is', () => {
    const place = { across: { to: 'centre' }, along: { to: 'centre' }, base: '', tilt: '0' }
    const repeats = [
      { kind: 'ring', count: '3', sweep: '90' },
      { kind: 'row', count: '2', spacing: '5' },
    ]
    const own = { id: 's', name: '', effect: 'add', mute: false, ghost: false, fields: { of: 'x' }, place, repeats }
    const stepsOf = (document: unknown) =>
      (document as { pieces: { steps: { steps?: unknown[] }[] }[] }).pieces[0]!.steps
    const changed = new Set<number>()
    for (const [i, migrate] of migrations.entries())
      for (const shape of ['extrude', 'plate', 'same', 'sweep']) {
        const step = { ...own, shape }
        const holding = (steps: unknown[]) => ({ version: i + 1, outlines: [], pieces: [{ id: 'p', steps }] })
        const alone = stepsOf(migrate(holding([step])))[0]!
        const bundle = {
          ...own,
          shape: 'bundle',
          fields: {},
          steps: [{ ...own, shape: 'bundle', fields: {}, steps: [step] }],
        }
        const [outer] = stepsOf(migrate(holding([bundle])))
        // The first ones had none.
        if (i > 1) expect((outer!.steps![0] as { steps: unknown[] }).steps[0], `${i + 1} ${shape}`).toEqual(alone)
        expect('steps' in alone, `${i + 1} ${shape}`).toBe(false)
        if (JSON.stringify(alone) !== JSON.stringify(step)) changed.add(i + 1)
      }
    // All but those that changed nothing of steps.
    expect([...changed]).toEqual([1, 4, 6])
  })
  it('have one migration for each version before the current one', () => {
    expect(migrations).toHaveLength(currentVersion - 1)
  })
  it('of version 9 in inches keep differences that would be read as on a rule', () => {
    const part = (unit: string) => {
      const named = (name: string, expression: string) => ({ id: name, name, kind: 'length', expression, note: '' })
      const measures = [
        ...['4-1/3', '3-1/8', '4 - 1/3', '7-8/3'].map((expression, i) => named(`m${i}`, expression)),
        { ...named('m4', '2'), note: 'was 4-1/3 before' },
      ]
      return readPartFile(JSON.stringify({ ...base, version: 9, unit, measures })).measures
    }
    expect(part('in').map(({ name, expression }) => [name, expression])).toEqual([
      ['m0', '4 - 1/3'],
      ['m1', '3-1/8'],
      ['m2', '4 - 1/3'],
      ['m3', '7 - 8/3'],
      ['m4', '2'],
    ])
    expect(part('in')[4]!.note).toBe('was 4-1/3 before')
    expect(part('mm')[0]!.expression).toBe('4-1/3')
  })
  it('of version 9 in inches keep words that read like a difference', () => {
    const measure = (id: string, kind: string, expression: string, more = {}) => ({
      ...{ id, name: id, kind, expression, note: '' },
      ...more,
    })
    const measures = [
      measure('size', 'length', '7-8/3'),
      measure('label', 'text', '4-1/3'),
      measure('pitch', 'choice', '4-1/3', { choices: ['4-1/3', '5'] }),
    ]
    const values = { size: '4-1/3', label: '6-1/3', pitch: '4-1/3' }
    const variants = [{ id: 'v', name: '4-1/3', values }]
    const { pieces } = partOf([step('s', 'text', { text: '4-1/3', size: '4-1/3' })])
    const old = { ...base, version: 9, unit: 'in', measures, variants, pieces }
    const part = readPartFile(JSON.stringify(old))
    expect(part.measures.map(({ expression }) => expression)).toEqual(['7 - 8/3', '4-1/3', '4-1/3'])
    expect(part.measures[2]!.choices).toEqual(['4-1/3', '5'])
    expect(part.variants).toMatchObject([{ name: '4-1/3', values: { ...values, size: '4 - 1/3' } }])
    expect(part.pieces[0]!.steps[0]).toMatchObject({ fields: { text: '4-1/3', size: '4 - 1/3' } })
  })
  it('of version 11 have flex tests of what these said was a step', () => {
    const flex = {
      id: 'f',
      name: 'Press',
      held: ['c1'],
      pushed: [],
      way: '90',
      by: 'distance',
      distance: '1/3',
      force: '2',
      finer: 1,
    }
    const old = {
      ...base,
      version: 11,
      flexes: [
        { ...flex, step: 'p' },
        { ...flex, id: 'g', step: 's' },
      ],
    }
    expect(readPartFile(JSON.stringify(old)).flexes).toEqual([
      { ...flex, of: 'p' },
      { ...flex, id: 'g', of: 's' },
    ])
  })
  it('of version 12 have nothing set aside, and what holds between the layers of materials that were shipped', () => {
    const { setAside: _, ...before } = { ...base, version: 12 }
    const withMaterial = (change: object) => {
      const { acrossLayers: __, ...material } = { ...base.material, ...change } as typeof base.material
      return readPartFile(JSON.stringify({ ...before, material }))
    }
    const read = withMaterial({ id: 'asa' })
    expect([read.setAside, read.material.acrossLayers]).toEqual([[], 45])
    // Nobody knows it of a maker's own.
    expect(withMaterial({ id: 'mine' }).material).not.toHaveProperty('acrossLayers')
    const told = JSON.stringify({ ...before, material: { ...base.material, id: 'asa', acrossLayers: 37.3 } })
    expect(readPartFile(told).material.acrossLayers).toBe(37.3)
  })
  it('of version 7 carry the printer and the material that they named, whatever ships now', () => {
    const named = (printer: string, material: string) =>
      readPartFile(JSON.stringify({ ...base, version: 7, printer, material }))
    expect(named('dunlin-140', 'asa')).toMatchObject({
      printer: { id: 'dunlin-140', name: 'Dunlin 140', bed: [140, 140, 130], layerHeight: 0.16, leastGap: 0.2 },
      material: { id: 'asa', density: 1.07, strainOnce: 3.5 },
    })
    expect(named('gannet-350', 'pa').printer.fits.slide.round).toEqual({ gap: 0.3, origin: { kind: 'shipped' } })
    // One that was not known was taken for the first.
    const { printer, material } = named('nobody', 'clay')
    expect([printer.id, printer.name, printer.bed]).toEqual(['nobody', 'nobody', [220, 220, 240]])
    expect([material.id, material.density]).toEqual(['clay', 1.24])
  })
  it('of version 2 get what came later', () => {
    const { readouts: _, ...rest } = newPart({ part: 'old', piece: 'p' }, 'Old')
    expect(readPartFile(JSON.stringify({ ...rest, version: 2 }))).toMatchObject({
      version: currentVersion,
      readouts: [],
    })
  })
  it('of version 1 become what they meant', () => {
    const place = { on: { kind: 'bed' }, across: {}, along: {}, rest: 'on', lift: '1', turn: '0', tilt: '0' }
    const offset = { from: 'centre', to: 'centre', by: '0' }
    const { variants: _, variant: __, ...before } = base
    const old = {
      ...before,
      version: 1,
      pieces: [
        {
          ...base.pieces[0]!,
          steps: [
            {
              id: 'a',
              name: '',
              operation: 'add',
              shape: 'bar',
              fields: { diameter: '5' },
              place: { ...place, across: offset, along: offset },
              repeats: [
                { kind: 'row', direction: 'along', count: '3', spacing: '9' },
                { kind: 'ring', count: '4', sweep: '180' },
              ],
              ghost: false,
              mute: true,
            },
          ],
        },
      ],
    }
    const part = readPartFile(JSON.stringify(old))
    expect(part.version).toBe(currentVersion)
    expect(part.pieces[0]!.steps[0]).toMatchObject({
      place: { lift: '1', lean: '0', base: '' },
      repeats: [
        { kind: 'row', fields: { direction: 'along', count: '3', spacing: '9' } },
        { kind: 'ring', fields: { count: '4', angle: '180', spread: 'total' } },
      ],
      omit: [],
      mute: true,
      when: '',
    })
    expect([part.variants, part.variant]).toEqual([[], ''])
    expect(resolvePart(part).problems).toEqual([])
    expect(readPartFile(writePartFile(part))).toEqual(part)
  })
  it('keep shapes of a kind that is not known', () => {
    const foreign = { ...base, pieces: [{ ...base.pieces[0]!, steps: [{ ...step('x', 'plate'), shape: 'gyroid' }] }] }
    expect(readPartFile(writePartFile(foreign))).toEqual(foreign)
    expect(resolvePart(foreign).problems.map(({ code }) => code)).toEqual(['shape-unknown'])
  })
})

describe('what was found sound before', () => {
  const demo = (name: string) =>
    JSON.parse(readFileSync(new URL(`../../demo/${name}.makrel.json`, import.meta.url), 'utf8')) as Part
  const outcome = (work: () => Part) => {
    try {
      return work()
    } catch (error) {
      return (error as Error).message
    }
  }
  it.each([
    5,
    null,
    'part',
    [],
    {},
    { pieces: 5, outlines: [], assets: [] },
    { pieces: [], outlines: 5, assets: [] },
    { pieces: [], outlines: [], assets: 5 },
    { pieces: [5], outlines: [], assets: [] },
    { pieces: [{ steps: 5 }], outlines: [], assets: [] },
  ])('leaves what is no part to be looked at as a whole: %j', (raw) => {
    expect(new SoundThings().checked(raw)).toBeUndefined()
  })
  it('gives the same part, or the same fault, as looking at all of it', () => {
    // Small enough that things are let go while they are still wanted.
    for (const most of [32_000_000, 4000]) {
      const sound = new SoundThings(most)
      const random = seeded(5)
      const names = readdirSync(new URL('../../demo', import.meta.url)).flatMap(
        (name) => /^(.*)\.makrel\.json$/.exec(name)?.[1] ?? [],
      )
      for (let i = 0; i < 120; i++) {
        const raw = demo(names[Math.floor(random() * names.length)]!) as unknown as {
          pieces: { steps: Record<string, unknown>[] }[]
          outlines: Record<string, unknown>[]
        }
        const list = random() < 0.3 && raw.outlines.length > 0 ? raw.outlines : raw.pieces[0]!.steps
        const at = Math.floor(random() * list.length)
        const changes = [
          () => undefined,
          () => Object.assign(list[at]!, { name: `N${i}` }),
          () => Object.assign(list[at]!, { name: 7 }),
          () => list.push({ ...list[at]! }),
          () => list.push({ ...list[at]!, id: `n${i}` }),
          () => delete list[at]!.name,
          () => list.splice(at, 1),
          () => Object.assign(list[at]!, { extra: 1 }),
          () => list.reverse(),
        ]
        changes[Math.floor(random() * changes.length)]!()
        const text = JSON.stringify(raw)
        expect(outcome(() => checkedPart(JSON.parse(text), sound))).toEqual(
          outcome(() => checkedPart(JSON.parse(text))),
        )
      }
    }
  })
})

describe('edits', () => {
  it('leave the part before them as it was', () => {
    const before = writePartFile(base)
    edited(
      base,
      { type: 'rename', name: 'Other' },
      { type: 'set-field', id: 'base', field: 'width', text: '10' },
      { type: 'remove-steps', ids: ['hole'], held: {} },
    )
    expect(writePartFile(base)).toBe(before)
  })
  it('change one field of one step and share the rest', () => {
    const after = edited(base, { type: 'set-field', id: 'hole', field: 'diameter', text: '7' })
    expect(findStep(after, 'hole')!.step.fields.diameter).toBe('7')
    expect(findStep(after, 'base')!.step).toBe(findStep(base, 'base')!.step)
  })
  it('do nothing where what they name is not there', () => {
    expect(edited(base, { type: 'set-field', id: 'nobody', field: 'width', text: '1' })).toBe(base)
    expect(edited(base, { type: 'move-step', id: 'base', to: -1 })).toBe(base)
    expect(edited(base, { type: 'remove-piece', id: 'p1', held: {} })).toBe(base)
  })
  it('remove a piece with the joints that it has, and no others', () => {
    const joint = (id: string, pieces: readonly [string, string]) =>
      ({ id, name: id, kind: 'pin-hinge', pieces, fields: {}, place: onBed }) as Part['joints'][number]
    const pieces = ['p1', 'p2', 'p3'].map((id) => ({ ...base.pieces[0]!, id, steps: [] }))
    const part = {
      ...base,
      pieces,
      joints: [joint('a', ['p1', 'p2']), joint('b', ['p2', 'p3']), joint('c', ['p1', 'p3'])],
    }
    const after = edited(part, { type: 'remove-piece', id: 'p2', held: {} })
    expect([after.pieces.map(({ id }) => id), after.joints.map(({ id }) => id)]).toEqual([['p1', 'p3'], ['c']])
  })
  it('move steps', () => {
    const after = edited(base, { type: 'move-step', id: 'hole', to: 0 })
    expect(after.pieces[0]!.steps.map(({ id }) => id)).toEqual(['hole', 'base'])
  })
  it('put a new step behind another one', () => {
    const after = edited(base, { type: 'add-step', piece: 'p1', step: step('mid', 'bar'), after: 'base' })
    expect(after.pieces[0]!.steps.map(({ id }) => id)).toEqual(['base', 'mid', 'hole'])
  })
  it('follow the renaming of a measure everywhere, but not in choices', () => {
    const part = partOf([step('base', 'plate', { width: '2 * round1', corner: 'round1 / 10', top: 'round' })], {
      measures: [
        { id: 'a', name: 'round1', kind: 'length', expression: '20', note: '' },
        { id: 'b', name: 'twice', kind: 'length', expression: 'round1 * 2', note: '' },
      ],
    })
    const after = edited(part, { type: 'rename-measure', id: 'a', name: 'round' })
    expect(findStep(after, 'base')!.step.fields).toMatchObject({
      width: '2 * round',
      corner: 'round / 10',
      top: 'round',
    })
    const named = edited(part, { type: 'rename-measure', id: 'a', name: 'size' })
    expect(named.measures[1]!.expression).toBe('size * 2')
    expect(findStep(named, 'base')!.step.fields.top).toBe('round')
  })
  it('keep every size when the unit changes, there and back', () => {
    const sizes = (part: Part) => [...resolvePart(part).steps.values()].map(({ values, place }) => ({ values, place }))
    const part = edited(base, {
      type: 'set-offset',
      id: 'hole',
      axis: 'across',
      change: { from: 'low', by: '12 + wide / 10' },
    })
    const inches = edited(part, { type: 'set-unit', unit: 'in' })
    expect(inches.unit).toBe('in')
    expect(sizes(inches)).toEqual(sizes(part))
    expect(sizes(edited(inches, { type: 'set-unit', unit: 'mm' }))).toEqual(sizes(part))
  })
  it('hold what stood on a removed step where it was', () => {
    expect(placedBy(base, new Set(['base']))).toEqual(['hole'])
    const frame = { origin: [0, 0, 5], u: [1, 0, 0], v: [0, 1, 0], size: [60, 30] } as const
    const on = { kind: 'held', was: 'top', frame } as const
    const { place } = bodied(findStep(base, 'hole')!.step)
    const after = edited(base, { type: 'remove-steps', ids: ['base'], held: { hole: { place: { ...place, on } } } })
    expect(bodied(findStep(after, 'hole')!.step).place.on).toEqual({ kind: 'held', was: 'top', frame })
  })
})

describe('users of a measure', () => {
  it('are found through other measures', () => {
    const part = partOf(
      [step('a', 'plate', { width: 'deep' }), step('b', 'plate', {}), step('c', 'bar', { diameter: 'wide' })],
      {
        measures: [
          { id: 'w', name: 'wide', kind: 'length', expression: '60', note: '' },
          { id: 'd', name: 'deep', kind: 'length', expression: 'wide / 2', note: '' },
        ],
      },
    )
    expect([...usersOf(part, ['d'], fieldKindOf)]).toEqual(['a'])
    expect([...usersOf(part, ['w'], fieldKindOf)].sort()).toEqual(['a', 'c', 'd'])
  })
})

describe('variants', () => {
  const base = partOf([{ ...step('base', 'plate', { width: 'wide' }), when: 'wide > 20' }], {
    measures: [
      { id: 'w', name: 'wide', kind: 'length', expression: '60', note: '' },
      { id: 'd', name: 'deep', kind: 'length', expression: 'wide / 2', note: '' },
    ],
  })
  const three = ['10', '30', '90'].reduce(
    (part, width, i) =>
      edited(
        part,
        { type: 'add-variant', variant: { id: `v${i}`, name: `Size ${i}`, values: {} } },
        { type: 'set-variant-value', id: `v${i}`, measure: 'w', expression: width },
      ),
    base,
  )
  const values = (part: Part) => resolvePart(part).measures.rows.map(({ value }) => value)
  const chosen = (id: string) => edited(three, { type: 'choose-variant', id })
  it('put their values in the place of the measures, and everything follows', () => {
    expect(values(three)).toEqual([90, 45])
    expect(values(chosen('v1'))).toEqual([30, 15])
    expect(values(chosen(''))).toEqual([60, 30])
    expect(values(edited(three, { type: 'set-variant-value', id: 'v2', measure: 'w', expression: undefined }))).toEqual(
      [60, 30],
    )
    expect(readPartFile(writePartFile(three))).toEqual(three)
  })
  it('decide with them what is there', () => {
    const present = (part: Part) => resolvePart(part).steps.get('base')!.present
    expect(['', 'v0', 'v1', 'v2'].map((id) => present(chosen(id)))).toEqual([true, false, true, true])
  })
  it('go with their measure, and give way to the measures when they are removed', () => {
    const without = edited(three, { type: 'remove-measure', id: 'w' })
    expect(without.variants.map((variant) => variant.values)).toEqual([{}, {}, {}])
    expect(edited(three, { type: 'remove-variant', id: 'v2' }).variant).toBe('')
    expect(edited(chosen('v1'), { type: 'remove-variant', id: 'v2' }).variant).toBe('v1')
  })
  it('follow a renaming and a change of unit, conditions too', () => {
    const renamed = edited(three, { type: 'rename-measure', id: 'w', name: 'size' })
    expect(findStep(renamed, 'base')!.step).toMatchObject({ fields: { width: 'size' }, when: 'size > 20' })
    const inches = edited(three, { type: 'set-unit', unit: 'in' })
    expect(findStep(inches, 'base')!.step.when).toBe('wide > 20\u00a0mm')
    for (const id of ['v0', 'v1', ''])
      expect(values(edited(inches, { type: 'choose-variant', id }))).toEqual(values(chosen(id)))
  })
})

it('knows who uses a name', () => {
  expect(usesOfNames(base, fieldKindOf).get('wide')).toEqual(['base'])
  expect(usesOfNames(newPart({ part: 'a', piece: 'b' }, 'Empty'), fieldKindOf).size).toBe(0)
})

describe('what an outline took over', () => {
  const edge = { step: 'a', face: 'wall', copy: 2 }
  const fileWith = (taken: unknown) => {
    const part = newPart({ part: 'p', piece: 'piece' }, 'Sample')
    const outline = {
      id: 'o',
      name: 'o',
      on: { kind: 'bed' },
      points: [{ id: 'p1', at: [0, 0], taken }],
      curves: [{ id: 'c1', kind: 'circle', points: ['p1'], helper: true, size: 2, taken: edge }],
      constraints: [],
      derived: [],
      toggled: [],
    }
    return JSON.stringify({ ...part, outlines: [outline] })
  }
  it.each([
    [{ step: 'a', face: 'top', u: -1, v: 0 }],
    [{ ...edge, point: 2 }],
    [{ edges: [edge, { step: 'b', face: 'front' }], nth: 1 }],
  ])('comes back from a file: %o', (taken) => {
    const { outlines } = readPartFile(fileWith(taken))
    expect([outlines[0]!.points[0]!.taken, outlines[0]!.curves[0]!.taken]).toEqual([taken, edge])
    expect(takenFrom(outlines[0]!)).toContain('a')
  })
  it.each([
    [{ step: 'a', face: 'top', u: 2, v: 0 }],
    [{ ...edge, copy: 0, point: 1 }],
    [{ edges: [edge], nth: 0 }],
    [{ edges: [edge, edge], nth: -1 }],
    ['top'],
  ])('is refused where it names nothing: %o', (taken) => {
    expect(() => readPartFile(fileWith(taken))).toThrow(/taken/)
  })
})
