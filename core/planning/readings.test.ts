import { describe, expect, it } from 'vitest'
import { applyEdit, onBed, type Part, type Readout, readPartFile, type Step, writePartFile } from '../document/index.ts'
import { Builder, renderMeshOf } from '../solids/index.ts'
import { built, onFace, partOf, step, testKernel } from '../testing/index.ts'
import { fieldKindOf, workOut } from './index.ts'

const kernel = await testKernel()

const read = (name: string, kind: string, ...of: readonly [string, string][]): Readout => ({
  id: name,
  name,
  kind,
  of: of.map(([stepId, face]) => ({ step: stepId, face })),
  note: '',
})
const base = step('base', 'plate', { width: '80', depth: '60', height: '5' })
const hole = step(
  'hole',
  'hole',
  { diameter: '6.4' },
  {
    place: {
      ...onFace('base', 'top'),
      across: { from: 'low', to: 'centre', by: '12' },
      along: { from: 'low', to: 'centre', by: '9' },
    },
  },
)
const ramp = step(
  'ramp',
  'plate',
  { width: '20', depth: '10', height: '3' },
  { place: { ...onFace('base', 'top'), tilt: '30' } },
)
const of = (...readouts: Readout[]): Part => partOf([base, hole, ramp], { readouts })
const value = (readout: Readout) => workOut(of(readout)).readouts[0]!

describe('read-outs taken between faces', () => {
  it.each([
    ['between parallel faces', read('r', 'distance', ['base', 'left'], ['base', 'right']), 80],
    ['between a face and an axis', read('r', 'distance', ['hole', ''], ['base', 'left']), 12],
    [
      'between the axes of a round face and of a step',
      read('r', 'distance', ['hole', 'wall'], ['base', '']),
      Math.hypot(28, 21),
    ],
    [
      'between faces that are askew, middle to middle',
      read('r', 'distance', ['base', 'left'], ['base', 'top']),
      Math.hypot(40, 2.5),
    ],
    ['between axes that cross', read('r', 'distance', ['base', ''], ['ramp', '']), 0],
    ['an angle between faces', read('r', 'angle', ['base', 'top'], ['ramp', 'top']), 30],
    ['an angle back to back', read('r', 'angle', ['base', 'left'], ['base', 'right']), 180],
    ['an angle between a face and an axis', read('r', 'angle', ['ramp', 'top'], ['hole', '']), 60],
    ['an angle between axes', read('r', 'angle', ['ramp', ''], ['hole', 'wall']), 30],
    ['a diameter', read('r', 'diameter', ['hole', 'wall']), 6.4],
  ] as const)('%s', (_, readout, expected) => {
    expect(value(readout)).toMatchObject({ problem: undefined })
    expect(value(readout).value).toBeCloseTo(expected, 9)
  })
  it.each([
    ['a diameter of a flat face', read('r', 'diameter', ['base', 'top']), 'round face'],
    ['a step that is gone', read('r', 'distance', ['gone', ''], ['base', 'left']), 'gone'],
    ['a face that is gone', read('r', 'distance', ['base', 'nose'], ['base', 'left']), '“nose”'],
    ['one face where two are needed', read('r', 'distance', ['base', 'left']), 'two faces'],
    ['a kind of a later version', read('r', 'curvature', ['base', 'left']), 'curvature'],
  ] as const)('tells %s', (_, readout, words) => {
    const row = value(readout)
    expect(row.value).toBeUndefined()
    expect(row.problem).toMatchObject({ code: 'readout-failed', path: ['readouts', 'r'] })
    expect(row.problem!.text).toContain(words)
  })
})

describe('read-outs used by name', () => {
  const wide = read('wide', 'distance', ['base', 'left'], ['base', 'right'])
  it('size what comes after them, and follow', () => {
    const lid = step('lid', 'plate', { width: 'wide - 2', depth: '10', height: '2' })
    const part = partOf([base, lid], { readouts: [wide] })
    const width = (p: Part) => workOut(p).resolved.steps.get('lid')!.values!.width
    expect(width(part)).toBe(78)
    expect(width(applyEdit(part, { type: 'set-field', id: 'base', field: 'width', text: '50' }, fieldKindOf))).toBe(48)
  })
  it('one of what another one sized', () => {
    const lid = step('lid', 'plate', { width: 'wide / 2', depth: '10', height: '2' })
    const knob = step('knob', 'bar', { diameter: 'half / 4', height: '5' }, { place: onFace('lid', 'top') })
    const part = partOf([base, lid, knob], {
      readouts: [read('half', 'distance', ['lid', 'left'], ['lid', 'right']), wide],
    })
    expect(workOut(part).problems).toEqual([])
    expect(workOut(part).resolved.steps.get('knob')!.values!.diameter).toBe(10)
  })
  it('are told where they depend on themselves', () => {
    const part = partOf([step('base', 'plate', { width: 'wide + 1' })], { readouts: [wide] })
    expect(
      workOut(part)
        .problems.map(({ code }) => code)
        .sort(),
    ).toEqual(['readout-failed', 'readout-unknown'])
  })
  it('give way to a measure of the same name, and are told of it', () => {
    const part = partOf([base], {
      readouts: [wide],
      measures: [{ id: 'm', name: 'wide', kind: 'length', expression: '3', note: '' }],
    })
    expect(workOut(part).problems).toMatchObject([{ code: 'name-taken', path: ['readouts', 'wide', 'name'] }])
  })
  it('are renamed wherever they are read', () => {
    const part = partOf([base, step('lid', 'plate', { width: 'wide - 2' })], { readouts: [wide] })
    const after = applyEdit(part, { type: 'rename-readout', id: 'wide', name: 'span' }, fieldKindOf)
    expect(after.pieces[0]!.steps[1]!.fields.width).toBe('span - 2')
    expect(readPartFile(writePartFile(after))).toEqual(after)
  })
})

describe('read-outs of the finished solid', () => {
  it('the thickness behind a face, and the volume', async () => {
    const part = of(read('thick', 'thickness', ['base', 'top']), read('much', 'volume', ['base', '']))
    const done = await built(kernel, { ...part, pieces: [{ ...part.pieces[0]!, steps: [base] }] })
    expect(done.readouts.map((row) => row.value)).toEqual([expect.closeTo(5, 5), expect.closeTo(24000, 4)])
  })
  it('is nothing where the middle of the face is open', async () => {
    const bore = { ...hole, place: { ...hole.place, across: onBed.across, along: onBed.along } }
    const done = await built(kernel, partOf([base, bore], { readouts: [read('thick', 'thickness', ['base', 'top'])] }))
    expect(done.problems.map(({ code }) => code)).toEqual(['readout-failed'])
  })
  it('can size what does not change them', async () => {
    const peg = step(
      'peg',
      'bar',
      { diameter: '6', height: 'thick * 2' },
      {
        place: { ...onFace('base', 'top'), across: { from: 'low', to: 'centre', by: '10' } },
      },
    )
    const done = await built(kernel, partOf([base, peg], { readouts: [read('thick', 'thickness', ['base', 'top'])] }))
    expect(done.problems).toEqual([])
    expect(done.pieces[0]!.solid!.bounds()!.max[2]).toBeCloseTo(15, 4)
  })
  it('are told where they change what they are taken from', async () => {
    const grown = step(
      'grown',
      'plate',
      { width: '20', depth: '20', height: 'thick + 1' },
      { place: onFace('base', 'top') },
    )
    const part = partOf([base, grown], { readouts: [read('thick', 'thickness', ['base', 'bottom'])] })
    expect((await built(kernel, part)).problems.map(({ code }) => code)).toContain('readout-unsettled')
  })
})

describe('read-outs of edges', () => {
  const base = step('base', 'plate', { width: '60', depth: '40', height: '8' })
  const hole = step('bore', 'hole', { diameter: '15.3' }, { place: onFace('base', 'top') })
  /** What is read off an edge between two faces, as it is called on the built part. */
  const readEdge = async (
    steps: readonly Step[],
    pair: readonly string[],
    kind: string,
    change?: (part: Part) => Part,
  ) => {
    const builder = new Builder(kernel)
    const bare = partOf(steps)
    const built = await builder.build(bare, { fineness: 0.03 })
    const { named } = renderMeshOf(built, built.pieces[0]!)!
    const edge = named.find(({ key }) => pair.every((face) => key.split('|').slice(0, 2).includes(`step/${face}`)))!
    const readout = { id: 'r', name: 'rim', kind, of: [{ step: steps[0]!.id, face: '', edge: edge.key }], note: '' }
    const part = { ...bare, readouts: [readout] }
    const read = await builder.build(change ? change(part) : part, { fineness: 0.03 })
    builder.clear()
    return read.readouts[0]!
  }
  it.each([
    ['length of a straight one', [base], ['base/1/top', 'base/1/front'], 'edge-length', 60],
    ['length all round a hole', [base, hole], ['base/1/top', 'bore/1/wall'], 'edge-length', Math.PI * 15.3],
    ['radius of the rim of a hole', [base, hole], ['base/1/top', 'bore/1/wall'], 'edge-radius', 7.65],
    ['angle of a block', [base], ['base/1/top', 'base/1/front'], 'edge-angle', 90],
    [
      'angle at the foot of an upright',
      [base, step('wall', 'upright', { thick: '5', width: '20', height: '30' }, { place: onFace('base', 'top') })],
      ['base/1/top', 'wall/1/right'],
      'edge-angle',
      270,
    ],
  ] as const)('%s', async (_, steps, pair, kind, expected) => {
    const { value, problem } = await readEdge(steps, pair, kind)
    expect(problem).toBeUndefined()
    expect(value).toBeCloseTo(expected, 5)
  })
  it('follow their part, and tell where there is none any more', async () => {
    const pair = ['base/1/top', 'bore/1/wall']
    const wider = (part: Part) =>
      applyEdit(part, { type: 'set-field', id: 'bore', field: 'diameter', text: '85.1 / 3' }, fieldKindOf)
    expect((await readEdge([base, hole], pair, 'edge-radius', wider)).value).toBeCloseTo(85.1 / 6, 3)
    const without = (part: Part) =>
      applyEdit(part, { type: 'set-step', id: 'bore', change: { mute: true } }, fieldKindOf)
    expect((await readEdge([base, hole], pair, 'edge-radius', without)).problem?.text).toMatch(/choose it again/)
    expect((await readEdge([base], ['base/1/top', 'base/1/front'], 'edge-radius')).problem?.text).toMatch(
      /not part of a circle/,
    )
  })
})
