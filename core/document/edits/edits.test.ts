import { describe, expect, it } from 'vitest'
import { fieldKindOf } from '../../planning/index.ts'
import { bundleOf, partOf, repeat, sameAs, step, treatment } from '../../testing/index.ts'
import {
  applyEdit,
  type BodyStep,
  type Edit,
  findStep,
  hasBody,
  type Joint,
  newPiece,
  onBed,
  type Part,
  type Step,
} from '../index.ts'

const edited = (part: Part, ...edits: Edit[]) =>
  edits.reduce((state, edit) => applyEdit(state, edit, fieldKindOf), part)
const letters = (text: string): Step[] => [...text].map((id) => step(id, 'plate'))
const namesOf = (steps: readonly Step[]): string =>
  steps.map((each) => (each.kind === 'bundle' ? `${each.id}(${namesOf(each.steps)})` : each.id)).join('')
/** Two pieces; in the first one a bundle of three. */
const sheet = (() => {
  const part = partOf([...letters('ab'), bundleOf('B', letters('xyz')), ...letters('c')])
  return { ...part, pieces: [...part.pieces, { ...part.pieces[0]!, id: 'p2', steps: letters('mno') }] }
})()
const order = (part: Part) => part.pieces.map(({ steps }) => namesOf(steps)).join(' ')
const moved = <T>(list: readonly T[], from: number, to: number) => {
  const rest = list.filter((_, i) => i !== from)
  return [...rest.slice(0, to), list[from]!, ...rest.slice(to)]
}

describe('the order of steps', () => {
  it('changes within their own list only, and not past its ends', () => {
    for (const [id, own, from] of [
      ['a', ['a', 'b', 'B(xyz)', 'c'], 0],
      ['B', ['a', 'b', 'B(xyz)', 'c'], 2],
      ['c', ['a', 'b', 'B(xyz)', 'c'], 3],
      ['x', ['x', 'y', 'z'], 0],
      ['y', ['x', 'y', 'z'], 1],
      ['o', ['m', 'n', 'o'], 2],
    ] as const)
      for (let to = -2; to < own.length + 2; to++) {
        const after = edited(sheet, { type: 'move-step', id, to })
        if (to < 0 || to >= own.length || to === from) expect(after, `${id} to ${to}`).toBe(sheet)
        else
          expect(order(after), `${id} to ${to}`).toBe(
            order(sheet).replace(own.join(''), moved<string>(own, from, to).join('')),
          )
      }
  })
  it('has what is new behind another step of the piece, or else last in it', () => {
    const add = (piece: string, after?: string) =>
      order(edited(sheet, { type: 'add-step', piece, step: step('N', 'bar'), after }))
    expect(add('p1', 'a')).toBe('aNbB(xyz)c mno')
    expect(add('p1', 'c')).toBe('abB(xyz)cN mno')
    expect(add('p1', 'x')).toBe('abB(xNyz)c mno')
    expect(add('p1')).toBe('abB(xyz)cN mno')
    expect(add('p2')).toBe('abB(xyz)c mnoN')
    // That one is in another piece, or nowhere.
    expect(add('p2', 'a')).toBe('abB(xyz)c mnoN')
    expect(add('p1', 'nobody')).toBe('abB(xyz)cN mno')
  })
})

describe('a bundle', () => {
  const bundled = (part: Part, ids: readonly string[]) =>
    edited(part, { type: 'bundle-steps', ids, bundle: bundleOf('N', []) })
  it('holds steps that stand next to one another, however they were chosen, and stands where the first of them did', () => {
    expect(order(bundled(sheet, ['a', 'b']))).toBe('N(ab)B(xyz)c mno')
    expect(order(bundled(sheet, ['b', 'a']))).toBe('N(ab)B(xyz)c mno')
    expect(order(bundled(sheet, ['c', 'B', 'b']))).toBe('aN(bB(xyz)c) mno')
    expect(order(bundled(sheet, ['z', 'y']))).toBe('abB(xN(yz))c mno')
    expect(order(bundled(sheet, ['o']))).toBe('abB(xyz)c mnN(o)')
  })
  it('is not made of steps that do not, or that are not there', () => {
    for (const ids of [['a', 'B'], ['a', 'x'], ['x', 'z'], ['c', 'm'], [], ['nobody'], ['a', 'nobody']])
      expect(bundled(sheet, ids), ids.join()).toBe(sheet)
  })
  it('of cuts alone cuts, and what it held cuts again once it is dissolved', () => {
    const operations = (part: Part) =>
      part.pieces[0]!.steps.map((each) =>
        each.kind === 'bundle' ? [each.operation, each.steps.map(({ operation }) => operation)] : each.operation,
      )
    const part = partOf([step('a', 'plate'), step('h', 'hole'), step('k', 'hole'), step('l', 'bar')])
    const cutting = bundled(part, ['h', 'k'])
    expect(operations(cutting)).toEqual(['add', ['cut', ['add', 'add']], 'add'])
    const back = edited(cutting, { type: 'dissolve-bundle', id: 'N', held: {} })
    expect(back.pieces).toEqual(part.pieces)
    const mixed = bundled(part, ['k', 'l'])
    expect(operations(mixed)).toEqual(['add', 'cut', ['add', ['cut', 'add']]])
    expect(edited(mixed, { type: 'dissolve-bundle', id: 'N', held: {} }).pieces).toEqual(part.pieces)
    expect(edited(part, { type: 'dissolve-bundle', id: 'a', held: {} }).pieces).toEqual(part.pieces)
  })
})

describe('what a step says', () => {
  const body = (part: Part, id: string): BodyStep => {
    const found = findStep(part, id)!.step
    if (!hasBody(found)) throw new Error(`${id} has no body`)
    return found
  }
  it('is changed at that step alone, in bundles too, and where it comes to the same the part is the same', () => {
    const after = edited(
      sheet,
      { type: 'set-step', id: 'y', change: { name: 'Foot', mute: true } },
      { type: 'set-offset', id: 'y', axis: 'along', change: { by: '1/3' } },
      { type: 'set-place', id: 'y', change: { turn: '37.3' } },
      { type: 'set-field', id: 'y', field: 'width', text: '85.1' },
    )
    expect(findStep(after, 'y')!.step).toMatchObject({ name: 'Foot', mute: true, fields: { width: '85.1' } })
    expect(body(after, 'y').place).toEqual({
      ...body(sheet, 'y').place,
      along: { ...body(sheet, 'y').place.along, by: '1/3' },
      turn: '37.3',
    })
    for (const id of ['x', 'z', 'a', 'm']) expect(findStep(after, id)!.step).toBe(findStep(sheet, id)!.step)
    expect(edited(sheet, { type: 'set-step', id: 'y', change: { mute: false } })).toBe(sheet)
    expect(edited(sheet, { type: 'set-step', id: 'nobody', change: { mute: true } })).toBe(sheet)
  })
  it('of a place, a repeat or an offset is kept from what has no body', () => {
    const part = partOf([...letters('a'), treatment('round', { edges: 'all', radius: '1' })])
    expect(edited(part, { type: 'set-place', id: 't', change: { turn: '12' } })).toBe(part)
    expect(edited(part, { type: 'set-offset', id: 't', axis: 'across', change: { by: '12' } })).toBe(part)
    expect(edited(part, { type: 'set-repeat', id: 't', index: 0, repeat: repeat('row') })).toBe(part)
    expect(edited(part, { type: 'omit-copy', id: 't', copy: 1, omitted: true })).toBe(part)
  })
  it('repeats one after the other, each changed or taken away by its place', () => {
    const [row, ring, grid] = ['row', 'ring', 'grid'].map((kind) => repeat(kind)) as [never, never, never]
    const kinds = (part: Part) => body(part, 'x').repeats.map(({ kind }) => kind)
    const set = (part: Part, index: number, each: typeof row | undefined) =>
      edited(part, { type: 'set-repeat', id: 'x', index, repeat: each })
    const two = set(set(sheet, 0, row), 1, ring)
    expect(kinds(two)).toEqual(['row', 'ring'])
    expect(kinds(set(two, 0, grid))).toEqual(['grid', 'ring'])
    expect(kinds(set(two, 1, grid))).toEqual(['row', 'grid'])
    expect(kinds(set(two, 2, grid))).toEqual(['row', 'ring', 'grid'])
    expect(kinds(set(two, 0, undefined))).toEqual(['ring'])
    expect(kinds(set(two, 1, undefined))).toEqual(['row'])
  })
  it('leaves copies out, each once, and takes them back', () => {
    const omit = (part: Part, copy: number, omitted: boolean) =>
      edited(part, { type: 'omit-copy', id: 'c', copy, omitted })
    const some = [12, 3, 7, 3].reduce((part, copy) => omit(part, copy, true), sheet as Part)
    expect(body(some, 'c').omit).toEqual([3, 7, 12])
    expect(body(omit(some, 7, false), 'c').omit).toEqual([3, 12])
    expect(body(omit(some, 5, false), 'c').omit).toEqual([3, 7, 12])
  })
  it('names the step whose shape it has, only where it has another one’s', () => {
    const part = partOf([...letters('ab'), sameAs('s', 'a')])
    expect(findStep(edited(part, { type: 'set-same', id: 's', of: 'b' }), 's')!.step).toMatchObject({ of: 'b' })
    expect(edited(part, { type: 'set-same', id: 'a', of: 'b' })).toBe(part)
  })
})

describe('names of measures and read-outs', () => {
  const measure = (id: string, name: string, expression = '5') =>
    ({ id, name, kind: 'length', expression, note: '' }) as const
  const readout = (id: string, name: string) => ({ id, name, kind: 'volume', of: [], note: '' }) as const
  const width = (part: Part) => findStep(part, 'w')!.step.fields.width
  const of = (text: string, change: Partial<Part>) => partOf([step('w', 'plate', { width: text })], change)
  const rename = (part: Part, type: 'rename-measure' | 'rename-readout', id: string, name: string) =>
    edited(part, { type, id, name })
  it('are followed where they are read, unless the new one is taken', () => {
    const part = of('2 * wall + rim', { measures: [measure('m', 'wall'), measure('n', 'rim')] })
    expect(width(rename(part, 'rename-measure', 'm', 'skin'))).toBe('2 * skin + rim')
    const clash = rename(part, 'rename-measure', 'm', 'rim')
    expect([width(clash), clash.measures.map(({ name }) => name)]).toEqual(['2 * wall + rim', ['rim', 'rim']])
    expect(rename(part, 'rename-measure', 'm', 'wall')).toBe(part)
    expect(rename(part, 'rename-measure', 'nobody', 'skin')).toBe(part)
    expect(width(rename(part, 'rename-measure', 'm', ''))).toBe('2 * wall + rim')
  })
  it('are those of the first of two that are called alike', () => {
    const part = of('2 * wall', { measures: [measure('m', 'wall'), measure('n', 'wall')] })
    expect(width(rename(part, 'rename-measure', 'n', 'skin'))).toBe('2 * wall')
    expect(width(rename(part, 'rename-measure', 'm', 'skin'))).toBe('2 * skin')
  })
  it('of read-outs are followed too, unless a measure or another read-out has the old or the new one', () => {
    const part = of('2 * mass', { readouts: [readout('r', 'mass'), readout('s', 'mass'), readout('t', 'bulk')] })
    expect(width(rename(part, 'rename-readout', 'r', 'load'))).toBe('2 * load')
    expect(width(rename(part, 'rename-readout', 's', 'load'))).toBe('2 * mass')
    expect(width(rename(part, 'rename-readout', 'r', 'bulk'))).toBe('2 * mass')
    expect(rename(part, 'rename-readout', 'r', 'mass')).toBe(part)
    const shadowed = { ...part, measures: [measure('m', 'mass')] }
    const after = rename(shadowed, 'rename-readout', 'r', 'load')
    expect([width(after), after.readouts[0]!.name]).toEqual(['2 * mass', 'load'])
    const taken = { ...part, measures: [measure('m', 'load')] }
    expect(width(rename(taken, 'rename-readout', 'r', 'load'))).toBe('2 * mass')
  })
})

describe('lists of a part', () => {
  it('have variants, which go with their values, and the chosen one with itself', () => {
    const variant = (id: string) => ({ id, name: id, values: { m: '7' } })
    const two = edited(
      partOf([]),
      { type: 'add-variant', variant: variant('v') },
      { type: 'add-variant', variant: variant('w') },
    )
    expect(two.variant).toBe('w')
    expect(edited(two, { type: 'remove-variant', id: 'v' }).variant).toBe('w')
    expect(edited(two, { type: 'remove-variant', id: 'w' }).variant).toBe('')
    expect(edited(two, { type: 'choose-variant', id: 'w' })).toBe(two)
    expect(edited(two, { type: 'choose-variant', id: 'v' }).variant).toBe('v')
    const value = (expression: string | undefined) =>
      edited(two, { type: 'set-variant-value', id: 'v', measure: 'k', expression }).variants.map(({ values }) => values)
    expect(value('9')).toEqual([{ m: '7', k: '9' }, { m: '7' }])
    expect(value(undefined)).toEqual([{ m: '7' }, { m: '7' }])
    const gone = edited(two, { type: 'remove-measure', id: 'm' })
    expect(gone.variants.map(({ values }) => values)).toEqual([{}, {}])
  })
  it('have views by their names, one of each', () => {
    const view = (id: string, name: string) =>
      ({ id, name, from: [0, 0, 1], target: [0, 0, 0], tall: 50, parallel: true }) as const
    const kept = edited(
      partOf([]),
      { type: 'keep-view', view: view('1', 'Lid') },
      { type: 'keep-view', view: view('2', 'Foot') },
      { type: 'keep-view', view: view('3', 'Lid') },
    )
    expect(kept.views.map(({ id }) => id)).toEqual(['2', '3'])
    expect(edited(kept, { type: 'drop-view', id: '2' }).views.map(({ id }) => id)).toEqual(['3'])
    expect(edited(kept, { type: 'drop-view', id: '9' })).toBe(kept)
  })
  it('move to another piece as they are, which they are the last of then', () => {
    const part = { ...partOf([step('a', 'plate'), step('b', 'bar'), step('c', 'hole')]) }
    const two = { ...part, pieces: [...part.pieces, { ...newPiece('q', 'Q', 'sand'), steps: [step('d', 'bar')] }] }
    const moved = edited(two, { type: 'move-to-piece', ids: ['c', 'a'], piece: 'q' })
    expect(moved.pieces.map(({ steps }) => steps.map(({ id }) => id).join(''))).toEqual(['b', 'dac'])
    expect(moved.pieces[1]!.steps[1]).toBe(two.pieces[0]!.steps[0])
    expect(edited(two, { type: 'move-to-piece', ids: ['d', 'x'], piece: 'q' })).toBe(two)
    expect(edited(two, { type: 'move-to-piece', ids: ['a'], piece: 'none' })).toBe(two)
  })
  it('have poses, of joints and pieces that are there, and one that it is printed in', () => {
    const pose = (id: string, name: string) =>
      ({
        ...{ id, name },
        set: [
          { joint: 'j', freedom: 0, position: 37.3 },
          { joint: 'k', freedom: 1, position: -1 },
        ],
        laid: [{ piece: 'b', down: 'flat', turn: 15.3, at: [1, 2] }],
      }) as const
    const joint = (id: string, b: string): Joint => ({
      ...{ id, name: '', kind: 'on-axis', pieces: ['p', b], fields: {}, place: onBed },
    })
    const pieces = ['a', 'b'].map((id) => newPiece(id, id, 'sand'))
    const two = { ...partOf([]), joints: [joint('j', 'a'), joint('k', 'b')] }
    const kept = edited(
      { ...two, pieces: [...two.pieces, ...pieces] },
      { type: 'keep-pose', pose: pose('1', 'Open') },
      { type: 'keep-pose', pose: pose('2', 'Shut') },
      { type: 'keep-pose', pose: { ...pose('1', 'Wide open'), laid: [] } },
    )
    expect(kept.poses.map(({ name, laid }) => [name, laid.length])).toEqual([
      ['Wide open', 0],
      ['Shut', 1],
    ])
    expect(edited(kept, { type: 'print-pose', id: '3' })).toBe(kept)
    const printed = edited(kept, { type: 'print-pose', id: '2' })
    expect(printed.printPose).toBe('2')
    expect(edited(printed, { type: 'drop-pose', id: '1' }).printPose).toBe('2')
    expect(edited(printed, { type: 'drop-pose', id: '2' })).toMatchObject({ printPose: '', poses: [{ id: '1' }] })
    expect(edited(printed, { type: 'print-pose', id: '' }).printPose).toBe('')
    expect(edited(kept, { type: 'remove-joint', id: 'j' }).poses.map(({ set }) => set)).toEqual([
      [{ joint: 'k', freedom: 1, position: -1 }],
      [{ joint: 'k', freedom: 1, position: -1 }],
    ])
    const gone = edited(kept, { type: 'remove-piece', id: 'b', held: {} }).poses[1]!
    expect([gone.set.map(({ joint }) => joint), gone.laid]).toEqual([['j'], []])
  })
  it('take a name that is more than blanks, and the same asset once', () => {
    const part = partOf([])
    expect(edited(part, { type: 'rename', name: '  Bracket ' }).name).toBe('Bracket')
    expect(edited(part, { type: 'rename', name: '  ' })).toBe(part)
    expect(edited(part, { type: 'rename', name: part.name })).toBe(part)
    const asset = { hash: 'f'.repeat(64), name: 'plan.png', data: 'data:image/png;base64,AAAA' }
    const one = edited(part, { type: 'add-asset', asset })
    expect(one.assets).toEqual([asset])
    expect(edited(one, { type: 'add-asset', asset })).toBe(one)
    const other = { ...asset, hash: 'e'.repeat(64) }
    expect(edited(one, { type: 'add-asset', asset: other }).assets).toEqual([asset, other])
  })
  it('keep their last piece, and remove any other', () => {
    expect(order(edited(sheet, { type: 'remove-piece', id: 'p1', held: {} }))).toBe('mno')
    const last = edited(
      sheet,
      { type: 'remove-piece', id: 'p1', held: {} },
      { type: 'remove-piece', id: 'p2', held: {} },
    )
    expect(order(last)).toBe('mno')
    expect(order(edited(sheet, { type: 'set-piece', id: 'p2', change: { name: 'Lid' } }))).toBe(order(sheet))
    const named = edited(sheet, { type: 'set-piece', id: 'p2', change: { name: 'Lid' } })
    expect(named.pieces.map(({ name }) => name)).toEqual([sheet.pieces[0]!.name, 'Lid'])
  })
})
