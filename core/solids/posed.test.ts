import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { applyEdit, type KeptPose, layings, newPiece, onBed, type Part, type Step } from '../document/index.ts'
import { formatOf, handOff } from '../exchange/index.ts'
import { defaultFields } from '../fields/index.ts'
import { jointOf } from '../joints/index.ts'
import { treatmentOf } from '../operations/index.ts'
import { inverse, pointOut, type Vec3 } from '../place/index.ts'
import { fieldKindOf, printedInside, setIn, wantedIn } from '../planning/index.ts'
import { proofOf } from '../proof/index.ts'
import { builtTwice, partOf, step, testKernel, treatment } from '../testing/index.ts'
import { real } from '../testing/sample.ts'
import { type Built, type BuiltPiece, inPose, motionsIn, movedBy, spreadOut } from './index.ts'

const kernel = await testKernel()
const block = (id: string, [width, depth, height]: Vec3, x: number, more = {}): Step =>
  step(
    id,
    'plate',
    { width: `${width}`, depth: `${depth}`, height: `${height}` },
    {
      place: { ...onBed, across: { from: 'centre', to: 'centre', by: `${x}` }, ...more },
    },
  )
const joint = (id: string, kind: string, pieces: readonly [string, string], fields = {}): Part['joints'][number] => ({
  ...{ id, name: '', kind, pieces, place: onBed },
  fields: { ...defaultFields(jointOf(kind)!.fields), ...fields },
})
/** Three pieces; the second one turns about the edge of the first, the third one is by itself. */
function threePieces(): Part {
  const part = partOf([block('base', [31.7, 15.3, 9.1], 0)])
  const others = [
    block('arm', [12.3, 8.1, 4.7], 40, { lift: '3.7' }),
    block('lid', [20.1, 6, 2], -50, { tilt: '37.3', lift: '2.5' }),
  ]
  return {
    ...part,
    pieces: [
      part.pieces[0]!,
      ...others.map((own, i) => ({ ...newPiece(`p${i + 2}`, `${i + 2}`, 'sand'), steps: [own] })),
    ],
    joints: [joint('j', 'on-axis', ['p1', 'p2'], { about: 'base', line: 'along' })],
  }
}
const pose = (change: Partial<KeptPose> = {}): KeptPose => ({ id: 'x', name: 'Apart', set: [], laid: [], ...change })
const boxOfPiece = ({ solid }: BuiltPiece) => solid!.bounds()!

describe('what a pose sets', () => {
  it('comes back as it was kept, the latest last', () => {
    const one = fc.record({
      joint: fc.constantFrom('a', 'b', 'c'),
      freedom: fc.integer({ min: 0, max: 3 }),
      position: real(-90, 90),
    })
    fc.assert(
      fc.property(fc.array(one), (set) => {
        const wanted = wantedIn({ set })
        expect(wantedIn({ set: setIn(wanted) })).toEqual(wanted)
        for (const { joint, freedom } of set) {
          const last = set.findLast((each) => each.joint === joint && each.freedom === freedom)!
          expect(wanted[joint]![freedom]).toBe(last.position)
        }
        const order = [...new Set(set.map(({ joint }) => joint).reverse())].reverse()
        expect(Object.keys(wanted)).toEqual(order)
        expect(JSON.stringify(setIn(wanted))).toBe(JSON.stringify(setIn(wantedIn({ set: setIn(wanted) }))))
      }),
      { seed: 4 },
    )
  })
})

describe('pieces that lie on the bed', () => {
  it('lie on the side that is said, turned, with their middle where it is said, whatever turned them before', async () => {
    const { fine } = await builtTwice(kernel, threePieces())
    const outward: Readonly<Record<string, Vec3>> = {
      ...{ bottom: [0, 0, -1], top: [0, 0, 1], left: [-1, 0, 0], right: [1, 0, 0], front: [0, -1, 0], back: [0, 1, 0] },
    }
    for (const down of layings)
      for (const [turn, at] of [
        [0, [0, 0]],
        [37.3, [85.1, -15.3]],
      ] as const) {
        const laid = [{ piece: 'p2', down, turn, at: [...at] as [number, number] }]
        const set = [{ joint: 'j', freedom: 0, position: 61.9 }]
        const motions = motionsIn(kernel, fine, pose({ laid, set }))
        const { built, release } = movedBy(kernel, fine, motions)
        const [base, arm] = built.pieces
        const { min, max } = boxOfPiece(arm!)
        expect(min[2]).toBeCloseTo(0, 4)
        expect([(min[0] + max[0]) / 2, (min[1] + max[1]) / 2].map((x, i) => Math.abs(x - at[i]!) < 1e-4)).toEqual([
          true,
          true,
        ])
        // 12.3 by 8.1 by 4.7: the largest flat is across its height.
        const tall = { bottom: 4.7, top: 4.7, left: 12.3, right: 12.3, front: 8.1, back: 8.1, flat: 4.7 }[down]
        expect(max[2]).toBeCloseTo(tall, 4)
        const turned = { ...motions.get('p2')!, origin: [0, 0, 0] as Vec3 }
        if (down !== 'flat') expect(pointOut(turned, outward[down]!)[2]).toBeCloseTo(-1, 9)
        // The others stay.
        expect(base).toBe(fine.pieces[0])
        expect(arm!.solid!.volume()).toBeCloseTo(fine.pieces[1]!.solid!.volume(), 3)
        release()
      }
  })
  it('lie on their largest flat, however they lean', async () => {
    const { fine } = await builtTwice(kernel, threePieces())
    const laid = [{ piece: 'p3', down: 'flat' as const, turn: 0, at: [3, 4] as [number, number] }]
    const { built, release } = movedBy(kernel, fine, motionsIn(kernel, fine, pose({ laid })))
    const { min, max } = boxOfPiece(built.pieces[2]!)
    expect([min[2], max[2] - 2].map((z) => Math.abs(z) < 1e-4)).toEqual([true, true])
    release()
  })
  it('spread out, clear of one another, where they stand in the pose', async () => {
    const { fine } = await builtTwice(kernel, threePieces())
    for (const position of [0, 90]) {
      const set = [{ joint: 'j', freedom: 0, position }]
      const laid = spreadOut(kernel, fine, pose({ set }), 3.2)
      expect(laid.map(({ piece }) => piece).sort()).toEqual(['p1', 'p2', 'p3'])
      const { built, release } = movedBy(kernel, fine, motionsIn(kernel, fine, pose({ set, laid })))
      const boxes = built.pieces.map(boxOfPiece)
      for (const [i, a] of boxes.entries())
        for (const b of boxes.slice(i + 1)) {
          const away = [0, 1].map((k) => Math.max(a.min[k]! - b.max[k]!, b.min[k]! - a.max[k]!))
          expect(Math.max(...away)).toBeGreaterThan(3.15)
        }
      expect(boxes.every(({ min }) => Math.abs(min[2]) < 1e-4)).toBe(true)
      release()
    }
  })
  it('take along what is printed inside them', async () => {
    const hinge = joint('j', 'pin-hinge', ['p1', 'p2'])
    const two = { ...threePieces(), joints: [hinge] }
    expect(printedInside(two)).toEqual([['p1', 'p2'], ['p3']])
    expect(printedInside(threePieces())).toEqual([['p1'], ['p2'], ['p3']])
    const { fine } = await builtTwice(kernel, two)
    const motions = motionsIn(kernel, fine, pose({ laid: [{ piece: 'p2', down: 'top', turn: 15.3, at: [9, 9] }] }))
    expect(motions.get('p1')).toEqual(motions.get('p2'))
    const box = movedBy(kernel, fine, motions)
    const low = Math.min(...box.built.pieces.slice(0, 2).map((piece) => boxOfPiece(piece).min[2]))
    expect(low).toBeCloseTo(0, 4)
    box.release()
  })
})

describe('bodies that a piece was parted into', () => {
  const split = (): Part => {
    const part = threePieces()
    const [base, ...others] = part.pieces
    const parted = treatment('split', { ...defaultFields(treatmentOf('split')!.fields), at: 'x, 4.3' }, 's')
    return { ...part, pieces: [{ ...base!, steps: [...base!.steps, parted] }, ...others] }
  }
  const boxesIn = (built: Built, laid: KeptPose['laid'], set: KeptPose['set'] = []) => {
    const posed = movedBy(kernel, built, motionsIn(kernel, built, pose({ laid, set })))
    const boxes = new Map(posed.built.pieces.map((piece) => [piece.piece.id, boxOfPiece(piece)]))
    posed.release()
    return boxes
  }
  it('lie by themselves where they are laid so, each on its own side and at its own place', async () => {
    const { fine } = await builtTwice(kernel, split())
    expect(fine.pieces.map(({ piece }) => piece.id)).toEqual(['p1', 'p1.2', 'p2', 'p3'])
    const boxes = boxesIn(fine, [
      { piece: 'p1', down: 'right', turn: 0, at: [-40.3, 7.1] },
      { piece: 'p1.2', down: 'left', turn: 37.3, at: [51.9, -3.3] },
    ])
    // 31.7 long, parted 4.3 beyond its middle.
    for (const [id, tall, at] of [
      ['p1', 31.7 / 2 + 4.3, [-40.3, 7.1]],
      ['p1.2', 31.7 / 2 - 4.3, [51.9, -3.3]],
    ] as const) {
      const { min, max } = boxes.get(id)!
      expect([min[2], max[2]]).toEqual([expect.closeTo(0, 4), expect.closeTo(tall, 4)])
      for (const k of [0, 1]) expect((min[k]! + max[k]!) / 2).toBeCloseTo(at[k]!, 4)
    }
    expect(boxes.get('p2')).toEqual(boxOfPiece(fine.pieces[2]!))
  })
  it('go with the piece where only that is laid, and stay where only they are not', async () => {
    const { fine } = await builtTwice(kernel, split())
    const whole = boxesIn(fine, [{ piece: 'p1', down: 'top', turn: 90, at: [60, 70] }])
    // Its middle is that of both together: as if it were not parted.
    const [one, two] = [whole.get('p1')!, whole.get('p1.2')!]
    expect([Math.min(one.min[1], two.min[1]), Math.max(one.max[1], two.max[1])]).toEqual([
      expect.closeTo(70 - 31.7 / 2, 4),
      expect.closeTo(70 + 31.7 / 2, 4),
    ])
    const [drawn] = fine.pieces
    const half = boxesIn(fine, [{ piece: 'p1.2', down: 'left', turn: 0, at: [60, 70] }])
    expect(half.get('p1')).toEqual(boxOfPiece(drawn!))
  })
  it('are spread out one by one, as they lie; what is tied to another piece stays together', async () => {
    const { fine } = await builtTwice(kernel, split())
    const laid = spreadOut(kernel, fine, pose({ laid: [{ piece: 'p1', down: 'back', turn: 0, at: [0, 0] }] }), 3.2)
    expect(laid.map(({ piece }) => piece).sort()).toEqual(['p1', 'p1.2', 'p2', 'p3'])
    expect(laid.filter(({ piece }) => piece.startsWith('p1')).map(({ down }) => down)).toEqual(['back', 'back'])
    const boxes = [...boxesIn(fine, laid).values()]
    for (const [i, a] of boxes.entries())
      for (const b of boxes.slice(i + 1)) {
        const away = [0, 1].map((k) => Math.max(a.min[k]! - b.max[k]!, b.min[k]! - a.max[k]!))
        expect(Math.max(...away)).toBeGreaterThan(3.15)
      }
    const tied = { ...split(), joints: [joint('j', 'pin-hinge', ['p1', 'p2'])] }
    const together = await builtTwice(kernel, tied)
    expect(
      spreadOut(kernel, together.fine, pose(), 3.2)
        .map(({ piece }) => piece)
        .sort(),
    ).toEqual(['p1', 'p3'])
  })
  it('are forgotten by a pose with the piece that they were parted from', async () => {
    const part = { ...split(), poses: [pose({ laid: [{ piece: 'p1.2', down: 'left', turn: 0, at: [0, 0] }] })] }
    expect(applyEdit(part, { type: 'remove-piece', id: 'p3', held: {} }, fieldKindOf).poses[0]!.laid).toHaveLength(1)
    expect(applyEdit(part, { type: 'remove-piece', id: 'p1', held: {} }, fieldKindOf).poses[0]!.laid).toHaveLength(0)
  })
})

describe('a part in a pose', () => {
  it('is proved and written as it stands there, with the same volume', async () => {
    const part = threePieces()
    const twice = await builtTwice(kernel, part)
    const drawn = { built: twice.fine, twice }
    const laid = spreadOut(kernel, twice.fine, pose(), 3.2).map((each) => ({ ...each, down: 'flat' as const }))
    const stl = formatOf('stl')!
    const texts = async (kept: KeptPose | undefined) =>
      inPose(kernel, kept, drawn, async ({ built, twice }) => {
        const findings = await proofOf(kernel, built, { twice, only: ['stands'] })
        return { findings, ...handOff(built, stl, { fineness: 0.02, pose: kept?.name, twice }).receipt }
      })
    const before = await texts(undefined)
    const after = await texts(pose({ laid }))
    expect(before.findings.map(({ rank }) => rank)).toEqual(['pass', 'fault', 'fault'])
    expect(before.findings[2]!.cures).toHaveLength(1)
    expect(after.findings.map(({ rank }) => rank)).toEqual(['pass', 'pass', 'pass'])
    expect([before.pose, after.pose]).toEqual(['', 'Apart'])
    expect(after.file).toMatch(/-Apart\.stl$/)
    expect(after.volume).toBeCloseTo(before.volume, 2)
    expect(after.max[2]).toBeCloseTo(9.1, 3)
    // In a pose no step could be lowered to mend it.
    const high = await texts(pose({ set: [{ joint: 'j', freedom: 0, position: -61.9 }] }))
    expect(high.findings[2]!.rank).toBe('fault')
    expect(high.findings[2]!.cures).toBeUndefined()
    // What it was made from still stands.
    expect(boxOfPiece(twice.fine.pieces[1]!).min[2]).toBeCloseTo(3.7, 5)
  })
  it('goes back to how it is drawn', async () => {
    const { fine } = await builtTwice(kernel, threePieces())
    const motions = motionsIn(kernel, fine, pose({ set: [{ joint: 'j', freedom: 0, position: 61.9 }] }))
    const there = movedBy(kernel, fine, motions)
    const back = movedBy(kernel, there.built, new Map([...motions].map(([id, motion]) => [id, inverse(motion)])))
    const [a, b] = [fine, back.built].map(({ pieces }) => boxOfPiece(pieces[1]!))
    for (const i of [0, 1, 2]) expect(b!.min[i]).toBeCloseTo(a!.min[i]!, 4)
    there.release()
    back.release()
  })
})
