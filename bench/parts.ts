import {
  newPart,
  type Outline,
  type Part,
  type Place,
  type Repeat,
  type ShapeStep,
  type Step,
} from '@makrel/core/document'
import { defaultFields } from '@makrel/core/fields'
import { treatmentOf } from '@makrel/core/operations'
import { repeatOf } from '@makrel/core/repeats'
import { newStep, shapeOf } from '@makrel/core/shapes'

export function step(
  id: string,
  kind: string,
  fields: Record<string, string>,
  place: Partial<Place> = {},
  repeats: ShapeStep['repeats'] = [],
): ShapeStep {
  const shape = shapeOf(kind)!
  return { ...newStep(id, { shape, fields: { ...defaultFields(shape.fields), ...fields } }, place), repeats }
}

const on = (id: string, face: string, x: string, y: string): Partial<Place> => ({
  on: { kind: 'face', step: id, face },
  across: { from: 'low', to: 'centre', by: x },
  along: { from: 'low', to: 'centre', by: y },
})

export function partOf(steps: readonly Step[], measures: Part['measures'] = []): Part {
  const part = newPart({ part: 'bench', piece: 'p' }, 'Bench')
  return { ...part, measures, pieces: [{ ...part.pieces[0]!, steps }] }
}

const repeat = (kind: string, fields: Record<string, string>): Repeat => ({
  kind,
  fields: { ...defaultFields(repeatOf(kind)!.fields), ...fields },
})

/** A plate with 100 holes in three repeats: 40 through, 30 blind, 30 countersunk. */
export const hundredHoles: Part = partOf([
  step('plate', 'plate', { width: '210', depth: '110', height: '6' }),
  ...(
    [
      ['a', { diameter: '4' }, '10', 4],
      ['b', { diameter: '5', reach: 'blind', depth: '4' }, '50', 3],
      ['c', { diameter: '4.3', mouth: 'countersink', head: '8' }, '80', 3],
    ] as const
  ).map(([id, fields, y, rows]) =>
    step(id, 'hole', fields, on('plate', 'top', '15', y), [
      repeat('row', { direction: 'across', count: '10', spacing: '20' }),
      repeat('row', { direction: 'along', count: String(rows), spacing: '10' }),
    ]),
  ),
])

/**
 * Sixty steps as a maker writes them: a base, twelve stations each with a boss, a hole in it, a gusset beside it, a
 * second hole, and some of them repeated; the measures `boss` and `screw3` are each read by one station.
 */
export function sixtySteps(): Part {
  const steps: Step[] = [step('base', 'plate', { width: '200', depth: '150', height: '5', corner: '8' })]
  for (let i = 0; i < 12; i++) {
    const [x, y] = [String(20 + (i % 4) * 50), String(25 + Math.floor(i / 4) * 45)]
    const number = (text: string) =>
      i === 6 ? text : text.replace(/boss|screw3/, (word) => (word === 'boss' ? '12' : '3.2'))
    steps.push(
      step(`boss${i}`, 'bar', { diameter: number('boss'), height: '14' }, on('base', 'top', x, y)),
      step(
        `bore${i}`,
        'hole',
        { diameter: number('screw3'), mouth: 'counterbore', head: '6', headDepth: '3' },
        { on: { kind: 'face', step: `boss${i}`, face: 'end' } },
      ),
      step(`rib${i}`, 'wedge', { length: '12', height: '12', thick: '3' }, on('base', 'top', `${x} + 10`, y)),
      step(`slot${i}`, 'hole', { diameter: '4' }, on('base', 'top', x, `${y} + 14`), [
        repeat('row', { direction: 'across', count: '3', spacing: '6' }),
      ]),
    )
  }
  for (let i = 0; i < 11; i++)
    steps.push(step(`edge${i}`, 'hole', { diameter: '3' }, on('base', 'top', String(15 + i * 17), '6')))
  return partOf(steps, [
    { id: 'm1', name: 'boss', kind: 'length', expression: '12', note: '' },
    { id: 'm2', name: 'screw3', kind: 'length', expression: '3.2', note: '' },
  ])
}

/**
 * Two hundred steps, adds and cuts mixed, forty of them repeated: a long base with forty stations, each a boss, its bore,
 * a rib and a blind hole, and forty small holes along the edges in rows.
 */
export function twoHundredSteps(): Part {
  const steps: Step[] = [step('base', 'plate', { width: '420', depth: '260', height: '6', corner: '8' })]
  for (let i = 0; i < 40; i++) {
    const [x, y] = [String(25 + (i % 8) * 50), String(30 + Math.floor(i / 8) * 48)]
    steps.push(
      step(`boss${i}`, 'bar', { diameter: '12', height: '14' }, on('base', 'top', x, y)),
      step(
        `bore${i}`,
        'hole',
        { diameter: '3.2', mouth: 'counterbore', head: '6', headDepth: '3' },
        {
          on: { kind: 'face', step: `boss${i}`, face: 'end' },
        },
      ),
      step(`rib${i}`, 'wedge', { length: '12', height: '12', thick: '3' }, on('base', 'top', `${x} + 10`, y)),
      step(
        `blind${i}`,
        'hole',
        { diameter: '4', reach: 'blind', depth: '3' },
        on('base', 'top', `${x} - 12`, `${y} + 4`),
      ),
      step(`row${i}`, 'hole', { diameter: '2.5' }, on('base', 'top', `${x} - 8`, `${y} + 20`), [
        repeat('row', { direction: 'across', count: '4', spacing: '5' }),
      ]),
    )
  }
  return partOf(steps.slice(0, 200))
}

/** A plate with bosses (of even numbers) and holes in turns: a sheet of 300 lines. */
export function threeHundredSteps(): Part {
  const steps = Array.from({ length: 299 }, (_, i) => {
    const at = on('plate', 'top', String(8 + 10 * (i % 23)), String(8 + 10 * Math.floor(i / 23)))
    return i % 2 === 0
      ? step(`s${i}`, 'bar', { diameter: '5', height: '4' }, at)
      : step(`s${i}`, 'hole', { diameter: '3' }, { ...at, rest: 'in' })
  })
  return {
    ...partOf([step('plate', 'plate', { width: '240', depth: '140', height: '5' }), ...steps]),
    id: 'three-hundred',
  }
}

/** A plate with 400 through holes, in one grid. */
export const fourHundredHoles: Part = partOf([
  step('plate', 'plate', { width: '210', depth: '210', height: '6' }),
  step('holes', 'hole', { diameter: '4' }, { ...on('plate', 'top', '10', '10'), rest: 'in' }, [
    repeat('grid', { across: '20', along: '20', acrossSpacing: '10', alongSpacing: '10' }),
  ]),
])

/** Sixty-four large balls, which come to about a million triangles at the fineness of editing. */
export function millionTriangles(): Part {
  const grid = repeat('grid', { across: '8', along: '8', acrossSpacing: '210', alongSpacing: '210' })
  return { ...partOf([step('ball', 'ball', { diameter: '200' }, {}, [grid])]), id: 'million' }
}

/** A closed line of many segments without any rule, as one that is traced or taken over from a file: a round with notches. */
export function longRing(segments: number): Outline {
  const at = (i: number): [number, number] => {
    const turn = (2 * Math.PI * i) / segments
    const r = 60 + 3 * Math.sin(41 * turn) + (i % 2) * 0.2
    return [r * Math.cos(turn), r * Math.sin(turn)]
  }
  const ids = Array.from({ length: segments }, (_, i) => `p${i}`)
  return {
    id: 'ring',
    name: 'Ring',
    on: { kind: 'bed' },
    points: ids.map((id, i) => ({ id, at: at(i) })),
    curves: ids.map((id, i) => ({
      id: `l${i}`,
      kind: 'line',
      points: [id, ids[(i + 1) % segments]!],
      helper: false,
      fields: {},
    })),
    constraints: [],
    derived: [],
    toggled: [],
  }
}

/** A plate over an outline of 5,000 segments. */
export function longOutline(): Part {
  const part = partOf([step('plate', 'extrude', { outline: 'ring', height: '4.3' })])
  return { ...part, id: 'long-outline', outlines: [longRing(5000)] }
}

/** A box of a dozen steps: rounds, a hollow, bosses with bores, a split. */
export function dozenSteps(): Part {
  const treated = (id: string, operation: string, fields: Record<string, string>): Step => ({
    ...{ kind: 'treatment', id, name: '', mute: false, when: '', operation },
    fields: { ...defaultFields(treatmentOf(operation)!.fields), ...fields },
  })
  const corners = [repeat('grid', { across: '2', along: '2', acrossSpacing: '61.9', alongSpacing: '37.3' })]
  const middle = { from: 'centre', to: 'centre', by: '0' } as const
  const floor: Partial<Place> = { across: middle, along: middle, lift: '2.2' }
  const steps: Step[] = [
    step('box', 'plate', { width: '85.1', depth: '60.7', height: '31.9' }),
    treated('corners', 'round', { edges: 'upright of box', radius: '7.3' }),
    treated('foot', 'round', { edges: 'of box/bottom', radius: '2.6' }),
    step('window', 'slot', { length: '21.3', width: '6.1' }, on('box', 'front', '42.5', '17.3')),
    step('cable', 'hole', { diameter: '7.7' }, on('box', 'back', '30.3', '15.3')),
    treated('walls', 'hollow', { thick: '2.2', open: 'box/top' }),
    step('boss', 'bar', { diameter: '8.3', height: '14.7', core: 'tube', bore: '3.1' }, floor, corners),
    treated('feet', 'round', { edges: 'where boss/side meets walls', radius: '1.3' }),
    step('rail', 'plate', { width: '30.3', depth: '4.1', height: '5.3' }, floor),
    step('vents', 'slot', { length: '15.3', width: '2.1' }, on('box', 'bottom', '20.3', '15.1'), [
      repeat('row', { direction: 'across', count: '5', spacing: '8.7' }),
    ]),
    treated('rim', 'round', { edges: 'of box/top', radius: '0.7' }),
    treated('halves', 'split', { at: 'x, 11.7', gap: '0.4' }),
  ]
  const part = newPart({ part: 'dozen-steps', piece: 'p' }, 'Box of a dozen steps')
  return { ...part, pieces: [{ ...part.pieces[0]!, steps }] }
}
