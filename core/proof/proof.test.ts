import { describe, expect, it, vi } from 'vitest'
import { applyEdit, newPiece, onBed, type Part, type Place, type ShapeStep, type Step } from '../document/index.ts'
import { defaultFields } from '../fields/index.ts'
import { shippedPrinters } from '../fits/index.ts'
import { jointOf } from '../joints/index.ts'
import { fieldKindOf } from '../planning/index.ts'
import { BuildAborted } from '../solids/index.ts'
import { bodied, built, builtTwice, onFace, partOf, pointsOf, step, testKernel, treatment } from '../testing/index.ts'
import type { Check, ProofContext, ProofPiece } from './define.ts'
import { checks, type Finding, proofOf, swingAt, swingPositions, worst } from './index.ts'
import { standsCheck } from './stands.ts'

const kernel = await testKernel()

const proof = async (part: Part, ...only: readonly string[]) =>
  proofOf(kernel, await built(kernel, part), only.length > 0 ? { only } : {})
const of = (findings: Awaited<ReturnType<typeof proof>>, check: string) =>
  findings.filter((finding) => finding.check === check).map(({ rank, text }) => [rank, text])
const block = (id: string, x: string, more: Record<string, string> = {}): ShapeStep =>
  step(
    id,
    'plate',
    { width: '10', depth: '10', height: '5', ...more },
    { place: { across: { from: 'centre', to: 'centre', by: x } } },
  )
const twoPieces = (gap: string): Part => {
  const part = partOf([block('a', '0')])
  return {
    ...part,
    pieces: [...part.pieces, { ...newPiece('p2', 'Other', 'sand'), steps: [block('b', `10 + ${gap}`)] }],
  }
}

describe('a sound part', () => {
  it('passes every check', async () => {
    const findings = await proof(partOf([block('a', '0')]))
    expect(worst(findings)).toBe('pass')
    expect(findings.map(({ check }) => check)).toEqual([
      'sheet',
      'closed',
      'bodies',
      'bed',
      'stands',
      'steady',
      'crosses',
      'lines',
      'walls',
      'slots',
      'islands',
      'overhangs',
      'bridges',
      'foot',
      'joined',
      'necks',
    ])
  })
})

describe('what is wrong is found', () => {
  it('a piece with nothing in it', async () => {
    expect(of(await proof(partOf([]), 'closed'), 'closed')).toEqual([['advice', 'Piece 1 has no solid yet.']])
    const broken = step('a', 'plate', { width: 'x' })
    expect(of(await proof(partOf([broken]), 'closed'), 'closed')).toEqual([['fault', 'Piece 1 has no solid yet.']])
  })
  it('a piece in two', async () => {
    const findings = await proof(partOf([block('a', '0'), block('b', '30')]))
    expect(of(findings, 'bodies')[0]![0]).toBe('fault')
    expect(findings.find(({ check }) => check === 'bodies')!.about).toEqual([
      { kind: 'step', id: 'b' },
      { kind: 'piece', id: 'p1' },
    ])
  })
  it('two blocks that meet in one edge only are not one solid', async () => {
    const edge = step(
      'b',
      'plate',
      { width: '10', depth: '10', height: '5' },
      {
        place: {
          across: { from: 'centre', to: 'centre', by: '10' },
          along: { from: 'centre', to: 'centre', by: '10' },
        },
      },
    )
    expect(of(await proof(partOf([block('a', '0'), edge]), 'bodies'), 'bodies')[0]![0]).toBe('fault')
  })
  it('a closed cavity as such, not as a second solid; what lies loose in it as one', async () => {
    const hollow = [
      block('a', '0', { width: '40', depth: '30.3', height: '25.4' }),
      step('b', 'ball', { diameter: '20' }, { operation: 'cut', place: { rest: 'on', lift: '2.7' } }),
    ]
    const findings = await proof(partOf(hollow))
    // Its roof leans, and what is in it stays in.
    const told = findings.filter(({ rank }) => rank !== 'pass').map(({ check, rank }) => [check, rank])
    expect(told).toEqual([
      ['bodies', 'advice'],
      ['overhangs', expect.stringMatching(/advice|warning/)],
    ])
    expect(of(findings, 'bodies')[0]![1]).toMatch(/^Piece 1 is one solid, with a closed cavity of 4,(1[89]|2)\d/)
    const loose = step('c', 'plate', { width: '5', depth: '5', height: '5' }, { place: { lift: '8.1' } })
    const [fault] = (await proof(partOf([...hollow, loose]), 'bodies')).filter(({ check }) => check === 'bodies')
    expect([fault!.rank, fault!.about.map(({ id }) => id)]).toEqual(['fault', ['c', 'p1']])
  })
  it.each(['0', '37.3'])(
    'a slot that cuts a ring apart, and no later cut in what it left (turned by %s)',
    async (turn) => {
      const ring = step(
        'r',
        'bar',
        { diameter: '41.3', core: 'tube', bore: '29.7', height: '8.1' },
        { place: { turn } },
      )
      const on = { ...onFace('r', 'end'), rest: 'in' as const }
      const by = (mm: string) => ({ from: 'centre', to: 'centre', by: mm }) as const
      const cut = (id: string, fields: Record<string, string>, x: string) =>
        step(id, 'plate', { height: '9', ...fields }, { operation: 'cut', place: { ...on, across: by(x) } })
      const slot = cut('slot', { width: '3.3', depth: '60' }, '4.7')
      const notches = [
        cut('n1', { width: '4.1', depth: '2.2', height: '2' }, '17.7'),
        cut('n2', { width: '4.1', depth: '2.2', height: '2' }, '-17.7'),
      ]
      const [found] = (await proof(partOf([ring, slot, ...notches]), 'bodies')).filter(
        ({ check }) => check === 'bodies',
      )
      expect([found!.rank, found!.code, found!.about.map(({ id }) => id)]).toEqual([
        'fault',
        'bodies-cut',
        ['slot', 'p1'],
      ])
      expect(found!.text).toMatch(/^Piece 1 is cut into 2 separate solids by Step 2 of Piece 1 \(plate\);/)
      // Nor is what is eased in it.
      const eased = treatment('bevel', { edges: 'of n1', size: '0.4' })
      const [still] = (await proof(partOf([ring, slot, ...notches, eased]), 'bodies')).filter(
        ({ check }) => check === 'bodies',
      )
      expect([still!.code, still!.about.map(({ id }) => id)]).toEqual(['bodies-cut', ['slot', 'p1']])
      // What stands apart by itself is told as before.
      const loose = step('c', 'plate', { width: '5', depth: '5', height: '5' })
      const [apart] = (await proof(partOf([ring, slot, loose]), 'bodies')).filter(({ check }) => check === 'bodies')
      expect([apart!.code, apart!.about.map(({ id }) => id)]).toEqual(['bodies-apart', ['c', 'p1']])
    },
  )
  it('a fin that touches a round along a line, with how far to sink it', async () => {
    const bar = step('bar', 'bar', { diameter: '20.3', height: '40' }, { place: { tilt: '90' } })
    const fin = (lift: string) =>
      step('fin', 'plate', { width: '6.1', depth: '12', height: '4' }, { place: { ...onFace('bar', 'side'), lift } })
    const finding = (await proof(partOf([bar, fin('0')]), 'bodies')).find(({ check }) => check === 'bodies')!
    expect(finding.rank).toBe('fault')
    const [, told] = /along a line only: sink it by ([\d.]+) mm/.exec(finding.text)!
    expect(Number(told)).toBeGreaterThanOrEqual(10.15 - Math.sqrt(10.15 ** 2 - 3.05 ** 2))
    expect(Number(told)).toBeLessThan(10.15 - Math.sqrt(10.15 ** 2 - 3.05 ** 2) + 0.011)
    expect(of(await proof(partOf([bar, fin(`-${told}`)]), 'bodies'), 'bodies')[0]![0]).toBe('pass')
  })
  it('a part too large for the bed, and one that fits when turned', async () => {
    expect(of(await proof(partOf([block('a', '0', { width: '300' })]), 'bed'), 'bed')[0]![0]).toBe('fault')
    const part = partOf([block('a', '0', { width: '139', depth: '20' })], { printer: shippedPrinters[1]! })
    expect(of(await proof(part, 'bed'), 'bed')[0]![0]).toBe('pass')
  })
  it('a part exactly as large as the printer, and one that is higher by a little', async () => {
    const tall = (height: string) => partOf([block('a', '0', { width: '220', depth: '220', height })])
    expect(of(await proof(tall('240'), 'bed'), 'bed')[0]![0]).toBe('pass')
    expect(of(await proof(tall('240.1'), 'bed'), 'bed')[0]![0]).toBe('fault')
  })
  it('a part above or below the bed', async () => {
    const lifted = (lift: string) => partOf([{ ...block('a', '0'), place: { ...block('a', '0').place, lift } }])
    expect(of(await proof(lifted('2'), 'stands'), 'stands')[0]).toEqual(['fault', 'Piece 1 floats 2 mm above the bed.'])
    expect(of(await proof(lifted('-1'), 'stands'), 'stands')[0]).toEqual([
      'fault',
      'Piece 1 reaches 1 mm below the bed.',
    ])
  })
  it.each([
    ['-1', 'fault', /overlap by 50 mm³/],
    ['0', 'fault', /touch/],
    ['0.1', 'fault', /0.1 mm apart; the Tern 220 needs 0.25 mm/],
    ['0.25', 'pass', /stay 0.25 mm apart/],
    ['9.9', 'pass', /stay 9.9 mm apart/],
    ['10.1', 'pass', /more than 10 mm apart/],
    ['40', 'pass', /more than 10 mm apart/],
  ] as const)('pieces at a gap of %s', async (gap, rank, text) => {
    const [finding] = of(await proof(twoPieces(gap), 'gap'), 'gap')
    expect(finding![0]).toBe(rank)
    expect(finding![1]).toMatch(text)
  })
  it('pieces that are too near each other, and where that is', async () => {
    const gap = (await proof(twoPieces('0.15'), 'gap')).find(({ check }) => check === 'gap')!
    const [line] = gap.marks!
    const [x1, y1, z1, x2, y2, z2] = pointsOf(line) as unknown as [number, number, number, number, number, number]
    expect([x1, x2].sort((a, b) => a - b)).toEqual([5, expect.closeTo(5.15, 5)])
    expect([y1, z1]).toEqual([expect.closeTo(y2, 5), expect.closeTo(z2, 5)])
  })
  it('pieces that overlap, and all that they share', async () => {
    const gap = (await proof(twoPieces('-3.3'), 'gap')).find(({ check }) => check === 'gap')!
    expect(gap.text).toContain('overlap by 165 mm³')
    const [mark] = gap.marks!
    const points = pointsOf(mark)
    expect(mark!.kind).toBe('triangles')
    const across = Array.from({ length: points.length / 3 }, (_, i) => points[3 * i]!)
    expect([Math.min(...across), Math.max(...across)]).toEqual([expect.closeTo(1.7, 5), 5])
  })
  it('steps that cannot be built, and muted ones, by name', async () => {
    const bad = { ...step('bad', 'hole', { diameter: 'x' }, { place: onFace('a', 'top') }), name: 'drain' }
    const muted = { ...step('m', 'hole', {}, { place: onFace('a', 'top'), mute: true }) }
    const findings = of(await proof(partOf([block('a', '0'), bad, muted]), 'sheet'), 'sheet')
    expect(findings[0]).toEqual(['fault', 'Step 2 of Piece 1 (drain): There is no measure called “x”.'])
    expect(findings[1]).toEqual(['advice', 'One step is muted and not in the solid.'])
  })
  it('what its condition leaves out, beside what is built', async () => {
    const on = (id: string, when: string) => ({
      ...step(id, 'hole', { diameter: '3.3' }, { place: onFace('a', 'top') }),
      when,
    })
    const told = async (...whens: string[]) =>
      of(await proof(partOf([block('a', '0'), ...whens.map((when, i) => on(`h${i}`, when))]), 'sheet'), 'sheet')
    expect(await told('2 > 1')).toEqual([['pass', 'All 2 steps are built.']])
    expect(await told('1 > 2', '2 > 1')).toEqual([
      ['pass', '2 steps are built; one is left out, as its condition says.'],
    ])
    expect(await told('1 > 2', '3 > 4')).toEqual([
      ['pass', 'One step is built; 2 are left out, as their conditions say.'],
    ])
  })
})

describe('what a step has split', () => {
  const long = block('a', '0', { width: '300', depth: '40', height: '20.7' })
  const parted = async (fields: Record<string, string>) => proof(partOf([long, treatment('split', fields)]))

  it('may be larger than the bed together, where each half fits by itself', async () => {
    expect(of(await parted({ at: 'x, 12.7', gap: '0.3' }), 'bed')).toEqual([
      ['advice', expect.stringContaining('does not fit the Tern 220 at once; each of its pieces does by itself.')],
    ])
    expect(of(await parted({ at: 'x, -120', gap: '0.3' }), 'bed')).toEqual([
      ['fault', expect.stringContaining('does not fit the Tern 220 (')],
    ])
  })
  it('is not printed as one where the halves touch or are near, since they can be printed one by one', async () => {
    expect(of(await parted({ at: 'x, 12.7' }), 'gap')).toEqual([
      ['advice', 'Piece 1 and Piece 1 (2) touch: print them one by one, or give the split a gap of 0.25 mm.'],
    ])
    expect(of(await parted({ at: 'x, 12.7', gap: '0.1' }), 'gap')).toEqual([
      ['advice', expect.stringMatching(/are 0\.1 mm apart;.*, unless they are printed one by one\.$/)],
    ])
    expect(of(await parted({ at: 'x, 12.7', gap: '0.3' }), 'gap')[0]![0]).toBe('pass')
  })
  it('above the bed is not carried by the other half', async () => {
    expect(of(await parted({ at: 'z, 9.7', gap: '0.3' }), 'stands')).toEqual([
      ['pass', 'Piece 1 stands on the bed.'],
      ['advice', 'Piece 1 (2) begins 9.85 mm above the bed: set it down on it to print it by itself.'],
    ])
  })
  it('is not so where a joint ties it: both are printed together', async () => {
    const hinge = jointOf('pin-hinge')!
    const two = twoPieces('300')
    const joint = {
      id: 'j',
      name: '',
      kind: 'pin-hinge',
      pieces: ['p1', 'p2'] as const,
      fields: defaultFields(hinge.fields),
      place: onBed,
    }
    expect(of(await proof(two, 'bed'), 'bed')[0]![0]).toBe('advice')
    expect(of(await proof({ ...two, joints: [joint] }, 'bed'), 'bed')[0]![0]).toBe('fault')
  })
})

it('a piece that another one carries does not float', async () => {
  const lid = (lift: string) => ({
    ...partOf([block('a', '0', { width: '40', depth: '40', height: '10.3' })]),
    pieces: [
      { ...newPiece('p1', 'Box', 'pewter'), steps: [block('a', '0', { width: '40', depth: '40', height: '10.3' })] },
      { ...newPiece('p2', 'Lid', 'sand'), steps: [step('b', 'plate', {}, { place: { lift } })] },
    ],
  })
  const said = async (lift: string) =>
    (await proof(lid(lift), 'stands')).filter(({ check, about }) => check === 'stands' && about[0]?.id === 'p2')
  expect((await said('10.6')).map(({ rank, text }) => [rank, text])).toEqual([
    ['pass', 'Lid begins 10.6 mm above the bed, where Box carries it.'],
  ])
  expect((await said('20')).map(({ rank }) => rank)).toEqual(['fault'])
})

it.each([
  [
    'two in the air, side by side',
    [
      ['23.7', '-5'],
      ['23.7', '5.6'],
    ],
    ['fault', 'fault'],
  ],
  [
    'one in the air beside a tower',
    [
      ['0', '-5', '40.3'],
      ['23.7', '5.6'],
    ],
    ['pass', 'fault'],
  ],
  [
    'one on the other, and a third on that',
    [
      ['0', '0'],
      ['5.3', '3.1'],
      ['10.6', '-1.3'],
    ],
    ['pass', 'pass', 'pass'],
  ],
  [
    'two in the air, one above the other',
    [
      ['17.3', '0'],
      ['22.6', '3.1'],
    ],
    ['fault', 'fault'],
  ],
  [
    'one 1.3 above the other',
    [
      ['0', '0'],
      ['6.3', '3.1'],
    ],
    ['pass', 'fault'],
  ],
] as const)('pieces are held up by what stands on the bed alone: %s', async (_, blocks, ranks) => {
  const part = partOf([])
  const pieces = blocks.map(([lift, x, height = '5'], i) => {
    const own = block(`s${i}`, x, { height })
    return { ...newPiece(`p${i}`, `Piece ${i}`, 'sand'), steps: [{ ...own, place: { ...own.place, lift } }] }
  })
  expect(of(await proof({ ...part, pieces }, 'stands'), 'stands').map(([rank]) => rank)).toEqual(ranks)
  expect(of(await proof({ ...part, pieces: [...pieces].reverse() }, 'stands'), 'stands').map(([rank]) => rank)).toEqual(
    [...ranks].reverse(),
  )
})

it('what does not touch the largest body is named, wherever it stands in the sheet', async () => {
  const small = block('small', '-40', { width: '4', depth: '4', height: '4' })
  const large = block('large', '0')
  const named = async (steps: Step[]) =>
    (await proof(partOf(steps), 'bodies')).find(({ check }) => check === 'bodies')!.about.map(({ id }) => id)
  expect(await named([small, large])).toEqual(['small', 'p1'])
  expect(await named([large, small])).toEqual(['small', 'p1'])
})

describe('a piece that does not stand', () => {
  const standing = (text: string) => ({ ...block('a', '0').place, lift: text })
  const piece = (lift: string, more: Step[] = []): Part =>
    partOf([
      { ...block('a', '0'), place: standing(lift) },
      step('pin', 'bar', {}, { place: onFace('a', 'top') }),
      ...more,
    ])
  const found = async (part: Part) => (await proof(part, 'stands')).find(({ check }) => check === 'stands')!
  const cured = (part: Part, { cures }: Finding) =>
    cures![0]!.edits.reduce((so, edit) => applyEdit(so, edit, fieldKindOf), part)

  it.each([
    ['15.3', 'Lower it by 15.3 mm'],
    ['1/3', 'Lower it by 0.333 mm'],
    ['wall * 2', 'Lower it by 6.2 mm'],
    ['-0.4', 'Raise it by 0.4 mm'],
  ])('at %s is put on the bed, all of it alike', async (lift, label) => {
    const wall = { id: 'm', name: 'wall', kind: 'length', expression: '3.1', note: '' } as const
    const part = { ...piece(lift), measures: [wall] }
    const finding = await found(part)
    expect(finding.cures!.map((cure) => cure.label)).toEqual([label])
    expect(finding.cures![0]!.before).toBe(finding.text)
    const after = cured(part, finding)
    expect((await found(after)).rank).toBe('pass')
    const [was, now] = [await built(kernel, part), await built(kernel, after)]
    expect(now.pieces[0]!.solid!.volume()).toBeCloseTo(was.pieces[0]!.solid!.volume(), 6)
    // What was typed stays in it.
    if (lift.includes('wall')) expect(bodied(after.pieces[0]!.steps[0]).place.lift).toBe('wall * 2 - 6.2 mm')
  })
  it('with steps that stand on the bed by themselves is lowered by each of them', async () => {
    const more = { ...block('b', '4'), place: { ...block('b', '4').place, lift: '15.3' } }
    const part = piece('15.3', [more])
    const finding = await found(part)
    expect(finding.cures![0]!.edits).toHaveLength(2)
    expect((await found(cured(part, finding))).rank).toBe('pass')
  })
  it('says its sizes in the unit of the part', async () => {
    const part = { ...piece('15.3 mm'), unit: 'in' } as Part
    expect((await found(part)).cures![0]!.label).toMatch(/^Lower it by 0\.602\d* in$/)
    // What is called by a size is called so.
    const called = { ...part, pieces: part.pieces.map((each) => ({ ...each, name: 'Gauge 5 mm' })) }
    const texts = (await proof(called)).map(({ text }) => text)
    expect(texts.filter((text) => text.includes('Gauge')).length).toBeGreaterThan(2)
    expect(texts.filter((text) => text.includes('Gauge') && !text.includes('Gauge 5 mm'))).toEqual([])
  })
  it('told its height by another piece is lowered from there, and has no cure at the side of one', async () => {
    const other = block('other', '0', { height: '30' })
    const two = (place: Place): Part => {
      const part = partOf([other])
      return {
        ...part,
        pieces: [part.pieces[0]!, { ...newPiece('p2', 'Two', 'sand'), steps: [{ ...block('a', '40'), place }] }],
      }
    }
    const found = async (part: Part) => (await proof(part, 'stands')).filter(({ check }) => check === 'stands')[1]!
    const level = { of: 'other', from: 'high', to: 'low' } as const
    const told = two({ ...block('a', '40').place, lift: '5', level })
    expect((await found(told)).rank).toBe('fault')
    expect((await found(cured(told, await found(told)))).rank).toBe('pass')
    const beside = await found(two({ ...block('a', '0').place, ...onFace('other', 'right'), lift: '5' }))
    expect([beside.rank, beside.cures]).toEqual(['fault', undefined])
  })
  it('is marked by one line where it ends in a point', async () => {
    const ball = step('b', 'ball', {}, { place: { lift: '15.3' } })
    const { rank, marks } = await found(partOf([ball]))
    expect(rank).toBe('fault')
    expect(marks!.map((mark) => pointsOf(mark).length)).toEqual([0, 6])
  })
  it('is marked where it hangs, and how far it is from the bed', async () => {
    const { marks } = await found(piece('15.3'))
    const [under, plumb] = marks!
    expect([under!.kind, pointsOf(under).length]).toEqual(['triangles', 18])
    expect([plumb!.kind, pointsOf(plumb).length]).toEqual(['lines', 24])
    for (let i = 0; i < 24; i += 6) {
      const [x, y, z, x2, y2, z2] = pointsOf(plumb).subarray(i, i + 6)
      expect([x, y, z2]).toEqual([x2, y2, 0])
      expect(z).toBeCloseTo(15.3, 4)
    }
  })
})

describe('a check', () => {
  it('that fails on one piece takes no other away, nor its own on the others', async () => {
    const part = twoPieces('40')
    const { run } = standsCheck as Extract<Check, { scope: 'piece' }>
    const spy = vi.spyOn(standsCheck, 'run').mockImplementation(((context: never, piece: ProofPiece) => {
      if (piece.built.piece.id === 'p1') throw new TypeError('no such thing')
      return run(context, piece)
    }) as never)
    const findings = await proof(part)
    spy.mockRestore()
    expect(of(findings, 'stands').map(([rank]) => rank)).toEqual(['fault', 'pass'])
    expect(of(findings, 'gap')).toHaveLength(1)
  })
  it('is waited for, and left off when nobody waits for the proof', async () => {
    const made = await built(kernel, partOf([block('a', '0')]))
    const signal = { aborted: false }
    let turns = 0
    const pause = async () => {
      turns++
      if (turns === 3) signal.aborted = true
    }
    await expect(proofOf(kernel, made, { signal, pause })).rejects.toThrow(BuildAborted)
    expect(turns).toBe(3)
  })
  it('has the edges of each piece, found once', async () => {
    const made = await built(kernel, partOf([block('a', '0')]))
    let [first, again]: (readonly unknown[])[] = [[], ['none']]
    const spy = vi.spyOn(standsCheck, 'run').mockImplementation(((context: ProofContext, piece: ProofPiece) => {
      first = context.edges(piece)
      again = context.edges(piece)
      return []
    }) as never)
    await proofOf(kernel, made)
    spy.mockRestore()
    expect(first).toHaveLength(12)
    expect(again).toBe(first)
  })
})

describe('between round walls', () => {
  it.each([
    ['10.1', '9.0', 0.55],
    ['25.3', '24.194', 0.553],
    ['6', '5.4', 0.3],
    ['6', '1.2', 2.4],
  ])('a bar of %s inside a hole reads the true gap', async (hole, bar, gap) => {
    const part = {
      ...twoPieces('40'),
      pieces: [
        {
          ...newPiece('p1', 'Outer', 'pewter'),
          steps: [
            step('a', 'plate', { width: '40.3', depth: '40.1', height: '8.3' }),
            step('h', 'hole', { diameter: hole }, { place: onFace('a', 'top') }),
          ],
        },
        { ...newPiece('p2', 'Inner', 'sand'), steps: [step('b', 'bar', { diameter: bar, height: '8.3' })] },
      ],
    }
    const twice = await builtTwice(kernel, part)
    const [finding] = await proofOf(kernel, twice.fine, { twice, only: ['gap'] })
    const [, read] = /([\d.]+) mm apart/.exec(finding!.text)!
    expect(Math.abs(Number(read) - gap)).toBeLessThan(0.0015)
  })
})

describe('the swing', () => {
  const leaf = (id: string, side: 1 | -1) =>
    step(
      id,
      'plate',
      { width: '20', depth: '40', height: '4' },
      { place: { across: { from: 'centre', to: side === 1 ? 'near' : 'far', by: `${side} * (9 / 2 + captive)` } } },
    )
  const hinge = (fields: Record<string, string> = {}): Part => {
    const part = partOf([leaf('a', -1)])
    return {
      ...part,
      pieces: [...part.pieces, { ...newPiece('p2', 'Moving', 'sand'), steps: [leaf('b', 1)] }],
      joints: [
        {
          id: 'j',
          name: '',
          kind: 'pin-hinge',
          pieces: ['p1', 'p2'],
          fields: { ...defaultFields(jointOf('pin-hinge')!.fields), ...fields },
          place: onBed,
        },
      ],
    }
  }
  it('keeps the captive gap of the printer over all of its travel', async () => {
    const made = await builtTwice(kernel, hinge())
    for (const position of swingPositions(0, 180, 5)) {
      const at = swingAt(kernel, made, { j: [position] })
      expect(at.collisions).toEqual([])
      expect(at.gap).toBeGreaterThanOrEqual(0.35 - 1e-6)
      expect(at.gap).toBeLessThan(0.36)
    }
  })
  it('follows the fit of another printer', async () => {
    const made = await builtTwice(kernel, { ...hinge(), printer: shippedPrinters[2]! })
    expect(swingAt(kernel, made, { j: [90] }).gap).toBeCloseTo(0.5, 3)
  })
  it('finds the collision of leaves that are too thick to fold', async () => {
    const thick = hinge({ leaf: '4' })
    const part = {
      ...thick,
      pieces: thick.pieces.map((piece) => ({
        ...piece,
        steps: piece.steps.map((each) => ({ ...each, fields: { ...each.fields, height: '8' } })),
      })),
    }
    const made = await builtTwice(kernel, part)
    const at = swingAt(kernel, made, { j: [180] })
    expect(at.gap).toBe(0)
    expect(at.collisions).toMatchObject([{ pieces: ['p1', 'p2'] }])
    expect(at.collisions[0]!.volume).toBeGreaterThan(100)
    expect(swingAt(kernel, made, { j: [0] }).gap).toBeGreaterThan(0.34)
  })
})

it('every check has a name of its own and says what it looks at', () => {
  expect(new Set(checks.map(({ id }) => id)).size).toBe(checks.length)
  for (const check of checks) expect(check.meaning).toMatch(/\.$/)
})
