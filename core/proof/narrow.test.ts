import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { type Joint, newPiece, onBed, type Part } from '../document/index.ts'
import { defaultFields } from '../fields/index.ts'
import { jointOf, joints } from '../joints/index.ts'
import { shapes } from '../shapes/index.ts'
import { built, inTurn, onFace, partOf, real, runs, step, testKernel } from '../testing/index.ts'
import { type Finding, fieldOf, type Mark, plainValues, proofOf } from './index.ts'

const kernel = await testKernel()

const at = (mm: number) => ({ from: 'centre', to: 'centre', by: `${mm}` }) as const
const [line, layer] = [0.44, 0.2]

async function found(part: Part, only: string): Promise<readonly Finding[]> {
  return proofOf(kernel, await built(kernel, part, 0.02), { only: [only] })
}
const valuesOf = ({ values }: Finding) => plainValues(values)

/** A block with two fins on it, of which one is named. */
function finned(thick: number, other: number, turn: number) {
  const fin = (id: string, depth: number, along: number) =>
    step(
      id,
      'plate',
      { width: '12.3', depth: `${depth}`, height: '7.1' },
      { place: { ...onFace('a', 'top'), across: at(1.3), along: at(along), turn: `${turn}` } },
    )
  return partOf([
    step('a', 'plate', { width: '31.3', depth: '27.7', height: '4.1' }),
    { ...fin('b', thick, -4.1), name: 'left fin' },
    fin('c', other, 4.7),
  ])
}

describe('walls', () => {
  it('are told with how thin they are, how much of them, and the step that made them', async () => {
    await fc.assert(
      fc.asyncProperty(real(0.1, 0.42), real(0.45, 0.85), real(-70, 70), async (thick, other, turn) => {
        const [thin, single, ...more] = await found(finned(thick, other, turn), 'walls')
        expect(more).toEqual([])
        expect(thin).toMatchObject({ rank: 'fault', code: 'walls-not-laid', ofPrinter: true })
        expect(thin!.about.map(({ id }) => id)).toEqual(['b', 'p1'])
        expect(thin!.text).toContain('(left fin)')
        expect(Math.abs((valuesOf(thin!).thick as number) - thick)).toBeLessThan(1e-3)
        expect((valuesOf(thin!).area as number) / (12.3 * 7.1)).toBeCloseTo(1, 3)
        expect(single).toMatchObject({ rank: 'advice', code: 'walls-one-line' })
        expect(Math.abs((valuesOf(single!).thick as number) - other)).toBeLessThan(1e-3)
        expect((valuesOf(single!).area as number) / (12.3 * 7.1)).toBeCloseTo(1, 3)
      }),
      { numRuns: runs(40) },
    )
  })
  it('of a thin tube are told all round, with both of the steps that leave them', async () => {
    const wall = 0.37
    const hole = { diameter: `${15.3 - 2 * wall}`, reach: 'blind', depth: '9.1' }
    const [tube, ...more] = await found(
      partOf([
        step('a', 'bar', { diameter: '15.3', height: '12.1' }),
        step('b', 'hole', hole, { place: onFace('a', 'end') }),
      ]),
      'walls',
    )
    expect(more).toEqual([])
    expect(tube).toMatchObject({ rank: 'fault', code: 'walls-not-laid' })
    expect(tube!.about.map(({ id }) => id).sort()).toEqual(['a', 'b', 'p1'])
    expect(valuesOf(tube!).thick as number).toBeGreaterThan(0.95 * wall - 0.02)
    expect(valuesOf(tube!).thick as number).toBeLessThan(wall + 0.01)
    expect((valuesOf(tube!).area as number) / (Math.PI * (15.3 - wall) * 9.1)).toBeCloseTo(1, 1)
  })
  it('are drawn as thick as they are, each against what it has to be', async () => {
    const drawn = await built(kernel, finned(0.31, 0.7, 37.3), 0.02)
    const [thin] = await proofOf(kernel, drawn, { only: ['walls'] })
    const mark = thin!.marks!.find((each): each is Extract<Mark, { kind: 'field' }> => each.kind === 'field')!
    const field = await fieldOf(kernel, drawn, mark)
    expect(field).toMatchObject({ label: 'Walls', limit: line, broken: 'below', to: 2 * line })
    const [{ values, limits, points }] = field.surfaces as [(typeof field.surfaces)[number]]
    expect(values.length).toBe(limits!.length)
    expect(points.length).toBe(3 * values.length)
    for (const [i, value] of values.entries()) {
      const inThin = Math.abs(value - 0.31) < 0.01 * 0.31 + 0.001
      expect(inThin || Math.abs(value - 0.7) < 0.01 * 0.7 + 0.001).toBe(true)
      expect(limits![i]).toBeCloseTo(0.98 * line, 5)
    }
  })
  it('that lie flat are measured against layers', async () => {
    const pocket = step(
      'b',
      'plate',
      { width: '15.1', depth: '9.3', height: '9' },
      { operation: 'cut', place: { across: at(1.3), lift: '0.07', rest: 'on' } },
    )
    const part = partOf([step('a', 'plate', { width: '21.3', depth: '15.7', height: '6.1' }), pocket])
    const [film, ...more] = await found(part, 'walls')
    expect(more).toEqual([])
    expect(film).toMatchObject({ rank: 'fault', code: 'walls-film' })
    expect(valuesOf(film!)).toMatchObject({ layer, where: expect.anything() })
    expect(valuesOf(film!).thick as number).toBeCloseTo(0.07, 4)
    expect((valuesOf(film!).area as number) / (15.1 * 9.3)).toBeCloseTo(1, 1)
  })
})

describe('slots', () => {
  it('that close are told with how far they are open, and what closes', async () => {
    await fc.assert(
      fc.asyncProperty(real(0.03, 0.24), real(-180, 180), async (wide, turn) => {
        const [w, d] = [31.3, 27.7]
        const cut = { width: `${wide}`, depth: '11.3', height: '9' }
        const part = partOf([
          step('a', 'plate', { width: `${w}`, depth: `${d}`, height: '8.1' }),
          step('b', 'plate', cut, { operation: 'cut', place: { turn: `${turn}`, lift: '3.1', rest: 'on' } }),
        ])
        const [slot, ...more] = await found(part, 'slots')
        expect(more).toEqual([])
        expect(slot).toMatchObject({ rank: 'fault', code: 'slots-close', ofPrinter: true })
        expect(valuesOf(slot!).gap as number).toBeCloseTo(wide, 3)
        expect((valuesOf(slot!).area as number) / (11.3 * 5)).toBeCloseTo(1, 3)
        expect(slot!.about.map(({ id }) => id)).toEqual(['b', 'p1'])
      }),
      { numRuns: runs(40) },
    )
  })
  it('are drawn against what they need: a round hole against more', async () => {
    const cut = { operation: 'cut', place: { across: at(1.3), lift: '-2', rest: 'on' } } as const
    const drawn = await built(
      kernel,
      partOf([
        step('a', 'plate', { width: '21.3', depth: '15.7', height: '8.1' }),
        step('c', 'bar', { diameter: '0.3', height: '20' }, cut),
      ]),
      0.02,
    )
    const [hole] = await proofOf(kernel, drawn, { only: ['slots'] })
    expect(hole).toMatchObject({ rank: 'fault', code: 'slots-hole' })
    const mark = hole!.marks!.find((each): each is Extract<Mark, { kind: 'field' }> => each.kind === 'field')!
    const { surfaces, limit } = await fieldOf(kernel, drawn, mark)
    expect(limit).toBe(0.25)
    const { values, limits } = surfaces[0]!
    expect(values.length).toBeGreaterThan(0)
    for (const [i, value] of values.entries()) {
      expect(limits![i]).toBeCloseTo(0.25 + 2 * 0.08, 2)
      expect(value).toBeLessThan(limits![i]!)
    }
  })
  it('of long thin holes are found in each, however long and thin they are', async () => {
    const thin = [
      [0.2577, 29.87, [-3.7, 7.9]],
      [0.13, 45.3, [1.3]],
    ] as const
    for (const [diameter, long, places] of inTurn(2, thin)) {
      const holes = places.map((x, i) => {
        const cut = { operation: 'cut', place: { across: at(x), lift: '-2', rest: 'on', turn: `${17 * i}` } } as const
        return step(`c${i}`, 'bar', { diameter: `${diameter}`, height: `${long + 5}` }, cut)
      })
      const block = step('a', 'plate', { width: '21.75', depth: '22.08', height: `${long}` })
      const told = await found(partOf([block, ...holes]), 'slots')
      expect(told.map(({ code, about }) => [code, about[0]!.id]).sort()).toEqual(
        holes.map(({ id }) => ['slots-hole', id]),
      )
    }
  })
  it('are a fault where more than a little closes', async () => {
    const ranks = async (deep: number) => {
      const cut = { width: '0.2', depth: '6.1', height: '9' }
      const part = partOf([
        step('a', 'plate', { width: '31.3', depth: '27.7', height: '8.1' }),
        step('b', 'plate', cut, { operation: 'cut', place: { lift: `${8.1 - deep}`, rest: 'on' } }),
      ])
      return (await found(part, 'slots')).map(({ rank, code }) => [rank, code])
    }
    // 16 × 0.44² / 6.1 = 0.508
    expect(await ranks(0.503)).toEqual([['advice', 'slots-close']])
    expect(await ranks(0.513)).toEqual([['fault', 'slots-close']])
    // No deeper than 0.8 of the least gap it is no more than a step.
    expect(await ranks(0.206)).toEqual([['advice', 'slots-close']])
    expect(await ranks(0.194)).toEqual([['pass', 'slots-wide']])
  })
  it('between solids of one piece are left to what looks at these', async () => {
    const two = partOf([
      step('a', 'plate', { width: '9.1', depth: '8.1', height: '7.1' }),
      step('b', 'plate', { width: '9.1', depth: '8.1', height: '7.1' }, { place: { across: at(9.2) } }),
    ])
    expect(await found(two, 'slots')).toMatchObject([{ rank: 'pass' }])
    expect(await found(two, 'within')).toMatchObject([{ rank: 'fault' }])
  })
})

describe('what is made as it comes', () => {
  const faultsOf = async (part: Part) =>
    (await proofOf(kernel, await built(kernel, part, 0.02), { only: ['walls', 'slots'] }))
      .filter(({ rank }) => rank === 'fault' || rank === 'warning')
      .map(({ text }) => text)
  it.each(
    inTurn(
      10,
      shapes.map(({ kind }) => kind),
    ),
  )('a %s has no wall that is left out, nor a slot that closes', async (kind) => {
    expect(await faultsOf(partOf([step('a', kind)]))).toEqual([])
  })
  it.each(
    inTurn(
      10,
      joints.map(({ kind }) => kind),
    ),
  )('nor has a %s on a plate', async (kind) => {
    const part = partOf([step('plate', 'plate', { width: '90', depth: '60', height: '12' })])
    const { fields } = jointOf(kind)!
    const place = { ...onBed, ...onFace('plate', 'top') }
    const joint: Joint = { ...{ id: 'j', name: '', kind, pieces: ['p1', 'p2'] }, place, fields: defaultFields(fields) }
    const pieces = [part.pieces[0]!, newPiece('p2', 'Piece 2', 'sand')]
    expect(await faultsOf({ ...part, pieces, joints: [joint] })).toEqual([])
  })
})
