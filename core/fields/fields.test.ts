import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { evaluate, filledTemplate, type Names } from '../measures/index.ts'
import { Drawn } from '../plane/index.ts'
import { attempt, ProblemError, problemText } from '../problems/index.ts'
import { shapes } from '../shapes/index.ts'
import { length } from '../units/index.ts'
import {
  AssetValue,
  defaultFields,
  type FieldDefinition,
  type FieldWorking,
  fieldKind,
  fieldKinds,
  outlineText,
  plainDefault,
  registered,
  sectionsText,
  sectionTexts,
  size,
  textOfOutline,
  upgradedFields,
} from './index.ts'
import { listed, replaced } from './stretches.ts'

const names: Names = {
  unit: 'mm',
  has: (name) => name === 'wall',
  resolve(name, at) {
    if (name !== 'wall') throw new ProblemError('unknown-name', { name, suggestion: '' }, at)
    return { number: 2.1, dimension: length, bare: false }
  },
}
const clip = new Drawn({ key: 'k', name: 'Clip', loops: [], open: [], lines: new Map(), sharp: [] })
const housing = new AssetValue({ hash: 'f00d', name: 'housing', data: '' })

/** What a text comes to in a field, or what is said of it. */
function resolved(field: FieldDefinition, text: string): unknown {
  let said: string | undefined
  const working: FieldWorking = {
    layerHeight: 0.2,
    number(each, kind) {
      const found = attempt([], () => evaluate(each, kind, names).value)
      if (found.ok) return found.value
      said = found.problem.text
      return undefined
    },
    filled: (each) => filledTemplate(each, names),
    outline: ({ outline }) => (outline === 'clip' ? clip : undefined),
    asset: (hash) => (hash === 'f00d' ? housing : undefined),
    step: (id) => (id === 'wheel' ? { id, shape: 'gear', adds: true, values: {} } : undefined),
    tell(code, data) {
      said = problemText(code, data)
      return undefined
    },
  }
  const value = fieldKind(field.kind)!.resolve(field, text, working)
  return value === undefined && said !== undefined ? { said } : value
}
const said = (part: string) => ({ said: expect.stringContaining(part) })

const base = { label: 'Bend', default: '', meaning: '' }
const bounded: FieldDefinition = { ...base, kind: 'length', least: 0.4, most: 85.1 }

describe('what fields come to', () => {
  it.each<[FieldDefinition, string, unknown]>([
    [size('Width', '10', ''), '1/3 in + wall', 25.4 / 3 + 2.1],
    [size('Width', '10', ''), '0', said('Width must be more than 0 mm')],
    [size('Width', '10', ''), '-15.3', said('this is -15.3 mm')],
    [size('Width', '10', ''), 'wal', said('no measure called “wal”')],
    [bounded, '0.4', 0.4],
    [bounded, '0.3', said('0.4 mm or more')],
    [bounded, '85.1', 85.1],
    [bounded, '85.2', said('85.1 mm or less')],
    [{ ...bounded, layered: true }, '0.45', 3 * 0.2],
    [{ ...bounded, layered: true }, '0.8', 4 * 0.2],
    [{ ...bounded, layered: true }, '0.35', 2 * 0.2],
    [{ ...base, kind: 'angle', most: 37.3 }, '37.4', said('Bend must be 37.3 or less; this is 37.4')],
    [{ ...base, kind: 'count' }, '2.5', said('whole number')],
    [{ ...base, kind: 'choice', choices: { left: 'to the left', right: 'to the right' } }, 'right', 'right'],
    [{ ...base, kind: 'choice', choices: { left: 'to the left' } }, 'toString', said('one of left')],
    [{ ...base, kind: 'text', most: 8 }, 'w {wall}', 'w 2.1'],
    [{ ...base, kind: 'text', most: 4 }, 'w {wall}', said('5 characters; at most 4')],
    [
      { ...base, kind: 'corners', least: 1, most: 2 },
      '0, -wall, 15.3; 1 cm, max(1, 2), 0',
      [
        [0, -2.1, 15.3],
        [10, 2, 0],
      ],
    ],
    [{ ...base, kind: 'corners', least: 1, most: 2 }, '0, 0, 0; 1, 2', said('Corner 2 has 2 distances')],
    [{ ...base, kind: 'corners', least: 2, most: 3 }, '0, 0, 0', said('1 given, 2 to 3')],
    [{ ...base, kind: 'corners', least: 0, most: 1 }, '0, 0, 0; 0, 0, 1', said('2 given, 0 to 1')],
    [{ ...base, kind: 'outline' }, 'clip|a', clip],
    [{ ...base, kind: 'axis', of: 'outline' }, 'x-axis', 'x-axis'],
    [
      { ...base, kind: 'sections', least: 1, most: 3 },
      'clip, 0; clip, 2 * wall',
      [
        { outline: clip, height: 0 },
        { outline: clip, height: 4.2 },
      ],
    ],
    [{ ...base, kind: 'sections', least: 2, most: 3 }, 'clip, 0', said('1 given, 2 to 3')],
    [{ ...base, kind: 'sections', least: 1, most: 3 }, 'gone, 0', undefined],
    [{ ...base, kind: 'plane' }, 'y, 15.3 + wall', { of: { axis: 'y' }, at: 15.3 + 2.1 }],
    [
      { ...base, kind: 'plane' },
      ' lid/side c1 , max(-1, -wall)',
      { of: { face: { step: 'lid', face: 'side c1' } }, at: -1 },
    ],
    [{ ...base, kind: 'plane' }, 'lid, 3', said('choose a flat face, a datum or a direction')],
    [{ ...base, kind: 'plane' }, 'z, 37.3°', said('is an angle')],
    [{ ...base, kind: 'plane' }, 'x', said('Type a value here')],
    [{ ...base, kind: 'asset', of: 'mesh' }, 'f00d', housing],
    [{ ...base, kind: 'asset', of: 'mesh' }, '', said('Choose a mesh file')],
    [{ ...base, kind: 'asset', of: 'mesh' }, 'beef', said('came without it')],
  ])('%#: %o from “%s”', (field, text, expected) => {
    expect(resolved(field, text)).toEqual(expected)
  })
  it('nothing is made of a kind that is not known', () => {
    for (const kind of ['lengths', 'toString', undefined]) expect(fieldKind(kind)).toBeUndefined()
  })
})

describe('the texts of fields', () => {
  const words = fc.string({ unit: fc.constantFrom(...'aw1.5+(),;{}| \n'), maxLength: 24 })
  it.each(Object.keys(fieldKinds))(
    '%s: stay as they are where nothing in them is changed, whatever they are',
    (kind) => {
      fc.assert(
        fc.property(words, (text) => {
          expect(fieldKind(kind)!.mapExpressions(text, (inner) => inner)).toBe(text)
          expect(fieldKind(kind)!.mapReferences(text, {})).toBe(text)
        }),
      )
    },
  )
  it.each([
    ['length', 'wall + 1', '<wall + 1: length>'],
    ['angle', '37.3', '<37.3: angle>'],
    ['choice', 'left', 'left'],
    ['text', 'w {wall} mm', 'w {<wall: any>} mm'],
    [
      'corners',
      ' 0,max(1, 2) , 3;\n4,5,6',
      ' <0: length>,<max(1, 2): length> , <3: length>;\n<4: length>,<5: length>,<6: length>',
    ],
    ['sections', 'clip|a, 0; rim, 2 * wall', 'clip|a, <0: length>; rim, <2 * wall: length>'],
    ['outline', 'clip|a', 'clip|a'],
    ['plane', 'lid/top,  max(1, 2) ', 'lid/top,  <max(1, 2): length> '],
    ['faceSizes', 'lid/top, 3;lid/side, wall', 'lid/top, <3: length>;lid/side, <wall: length>'],
  ])('%s: are changed in their expressions alone', (kind, text, changed) => {
    expect(fieldKind(kind)!.mapExpressions(text, (inner, of) => `<${inner}: ${of}>`)).toBe(changed)
  })
  it.each([
    ['outline', 'clip|a|b', 'clip2|a|b'],
    ['outline', 'clip|', 'clip2|'],
    ['sections', 'clip|a, 0; clip, 2 * wall', 'clip2|a, 0; clip2, 2 * wall'],
    ['length', 'clip', 'clip'],
    ['asset', 'f00d', 'beef'],
    ['asset', '', ''],
    ['plane', 'lid/top, lid', 'lid2/top, lid'],
    ['plane', 'x, 3', 'x, 3'],
    ['faces', 'lid/top; lid/side', 'lid2/top; lid2/side'],
    ['faceSizes', 'lid/top, 3; gone/side, 4', 'lid2/top, 3; gone/side, 4'],
  ])('%s: refer to something else where that takes its place', (kind, text, changed) => {
    const outline = (chosen: { outline: string; regions: readonly string[] | undefined }) => ({
      ...chosen,
      outline: `${chosen.outline}2`,
    })
    const step = (id: string) => (id === 'gone' ? undefined : `${id}2`)
    expect(fieldKind(kind)!.mapReferences(text, { outline, asset: () => 'beef', step })).toBe(changed)
  })
  it('of outlines and sections are read as they were written', () => {
    const key = fc
      .string({ unit: fc.constantFrom(...'abc0.,-'), minLength: 1, maxLength: 6 })
      .map((each) => each.replaceAll(',', '-'))
    const chosen = fc.record({ outline: key, regions: fc.option(fc.array(key, { maxLength: 3 }), { nil: undefined }) })
    fc.assert(fc.property(chosen, (each) => void expect(outlineText(textOfOutline(each))).toEqual(each)))
    const several = fc.array(
      fc.record({ outline: chosen.map(textOfOutline), height: fc.constantFrom('0', 'max(1, 2)', '15.3') }),
    )
    fc.assert(fc.property(several, (each) => void expect(sectionTexts(sectionsText(each))).toEqual(each)))
  })
  it('are listed with where each stretch stands', () => {
    fc.assert(
      fc.property(words, (text) => {
        const all = listed(text).flat()
        for (const { text: own, start } of all) expect(text.slice(start, start + own.length)).toBe(own)
        expect(replaced(text, all, (own) => own)).toBe(text)
      }),
    )
  })
})

describe('what a new step begins with', () => {
  const lengths = shapes.flatMap(({ kind, fields }) =>
    Object.entries(fields).flatMap(([name, field]) => (field.kind === 'length' ? [[kind, name, field] as const] : [])),
  )
  it('in inches is about as large, on the lines of a rule', () => {
    for (const [kind, name, field] of lengths) {
      const text = defaultFields({ [name]: field }, 'in')[name]!
      const mm = Number(field.default)
      if (Number.isNaN(mm)) continue
      const value = evaluate(text, 'length', { ...names, unit: 'in' }).value
      expect(Math.abs(value - mm), `${kind} ${name}: ${text}`).toBeLessThanOrEqual(
        Math.max(25.4 / (Math.abs(mm) < 6 ? 128 : 32), mm === 0 ? 0 : 25.4 / 64) + 1e-9,
      )
      expect(value === 0).toBe(mm === 0)
      expect(text).toMatch(/^(0|-?\(?\d+( \d+\/\d+)?\)?|-?\(?\d+\/(2|4|8|16|32|64)\)?)$/)
    }
    expect(lengths.length).toBeGreaterThan(50)
  })
  it('what was never typed is in mm, whatever the unit of the part', () => {
    for (const [, , field] of lengths)
      if (field.default !== '' && Number.isFinite(Number(field.default)))
        expect(evaluate(plainDefault(field), 'length', { ...names, unit: 'in' }).value).toBeCloseTo(
          Number(field.default),
          9,
        )
    expect(plainDefault({ ...base, kind: 'angle', default: '37.3' })).toBe('37.3')
  })
})

describe('kinds in a registry', () => {
  it('are found by their words; two of one word, or one without a way from each version, are a fault at start', () => {
    const find = registered([{ kind: 'peg' }, { kind: 'cleat', version: 2, upgrades: [(fields) => fields] }])
    expect(find('peg')).toEqual({ kind: 'peg' })
    expect(find('toString')).toBeUndefined()
    expect(() => registered([{ kind: 'peg' }, { kind: 'peg' }])).toThrow('two kinds are called peg')
    expect(() => registered([{ kind: 'peg', version: 2 }])).toThrow('no way from each')
    expect(() => registered([{ kind: 'peg', upgrades: [(fields) => fields] }])).toThrow('no way from each')
  })
  it('bring fields from any version to this one, step by step', () => {
    const steps = ['b', 'c', 'd'].map((letter) => (fields: Readonly<Record<string, string>>) => ({
      way: `${fields.way}${letter}`,
    }))
    const definition = { version: 4, upgrades: steps }
    expect(upgradedFields(definition, { way: 'a' })).toEqual({ way: 'abcd' })
    expect(upgradedFields(definition, { way: 'a' }, 3)).toEqual({ way: 'ad' })
    for (const from of [4, 5]) expect(upgradedFields(definition, { way: 'a' }, from)).toEqual({ way: 'a' })
  })
})
