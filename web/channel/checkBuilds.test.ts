import { type KeptPose, type Laying, newPiece, type Part } from '@makrel/core/document'
import { partOf, step, testKernel } from '@makrel/core/testing'
import { describe, expect, it } from 'vitest'
import { CheckBuilds } from './checkBuilds.ts'
import { HandOffs } from './handingOff.ts'
import type { HandOffWanted } from './protocol.ts'
import type { Turn } from './serving.ts'

const kernel = await testKernel()

const first = partOf([step('b', 'plate', { width: '61.3', depth: '37.7', height: '12.2' })])
const part: Part = {
  ...first,
  pieces: [
    ...first.pieces,
    { ...newPiece('p2', 'Pin', 'sand'), steps: [step('pin', 'bar', { diameter: '7.3', height: '31.7' })] },
  ],
}
const turn = (of: Part | undefined): Turn => ({
  ...{ part: of, signal: { aborted: false }, progress: () => undefined },
  ...{ pause: async () => undefined, giveWay: async () => undefined },
})
const pose = (down: Laying): KeptPose => ({
  ...{ id: down, name: down, set: [] },
  laid: [{ piece: part.pieces[0]!.id, down, turn: 37.3, at: [3.1, -2.7] }],
})

describe('what is built to be checked', () => {
  it('is built once for each state of the part', async () => {
    const builds = new CheckBuilds(kernel)
    const one = await builds.fine(turn(part))
    expect(await builds.fine(turn(part))).toBe(one)
    expect((await builds.two(turn(part))).fine).toBe(one)
    expect((await builds.twice(turn(part))).fine).toBe(one)
    expect(await builds.fine(turn({ ...part, name: 'Another' }))).not.toBe(one)
    expect(() => builds.fine(turn(undefined))).toThrow('no part')
  })
  it('is kept in as many poses as are looked at, and in all that a proof needs', async () => {
    const builds = new CheckBuilds(kernel)
    const fine = await builds.fine(turn(part))
    const poses = (['top', 'left', 'right', 'front', 'back'] as const).map(pose)
    const volumeIn = (of: KeptPose) => builds.standing(fine, of).posed.built.pieces[0]!.solid!.volume()
    const drawn = builds.standing(fine, poses[0])
    expect(builds.standing(fine, poses[0])).toBe(drawn)
    await builds.holding(async () => {
      for (const each of poses) expect(volumeIn(each)).toBeCloseTo(61.3 * 37.7 * 12.2, 1)
      expect(drawn.posed.built.pieces[0]!.solid!.volume()).toBeGreaterThan(0)
      expect(builds.standing(fine, poses[0])).toBe(drawn)
    })
    // Nothing needs it any more: it makes room.
    builds.standing(fine, undefined)
    expect(builds.standing(fine, poses[0])).not.toBe(drawn)
    expect(() => drawn.posed.built.pieces[0]!.solid!.volume()).toThrow('after its release')
  })
  it('is shown as printed where the printer was measured, and made once for that', async () => {
    const builds = new CheckBuilds(kernel)
    const measured: Part = { ...part, material: { ...part.material, shrinkage: 0.7 } }
    const built = await builds.fine(turn(measured))
    expect(builds.layered(built, false)).toBe(built)
    const one = builds.layered(built, true)
    expect(one).not.toBe(built)
    expect(builds.layered(built, true)).toBe(one)
  })
})

describe('a hand-off', () => {
  const wanted: HandOffWanted = { format: 'stl', fineness: 0.05, compensated: false, unit: 'mm' }
  it('writes what was asked for, with a receipt and a proof of it', async () => {
    const { answers } = new HandOffs(kernel, new CheckBuilds(kernel))
    const { bytes, receipt, findings } = await answers.handOff({ ...wanted, piece: 'p1' }, turn(part))
    expect(bytes.length).toBe(84 + 50 * 12)
    expect(receipt).toMatchObject({ fineness: 0.05 })
    expect(findings.map(({ check }) => check)).toContain('closed')
  })
  it('writes each variant, and tells how many are done', async () => {
    const sized: Part = {
      ...part,
      measures: [{ id: 'm', name: 'tall', kind: 'length', expression: '12.2', note: '' }],
      variants: [
        { id: 'v1', name: 'Low', values: { m: '8.3' } },
        { id: 'v2', name: 'High', values: { m: '15.1' } },
      ],
      pieces: [{ ...part.pieces[0]!, steps: [step('b', 'plate', { width: '61.3', depth: '37.7', height: 'tall' })] }],
    }
    const done: (readonly [number, number])[] = []
    const { answers } = new HandOffs(kernel, new CheckBuilds(kernel))
    const { written } = await answers.handOffVariants(wanted, {
      ...turn(sized),
      progress: (...so) => void done.push([so[0], so[1]]),
    })
    expect(written).toHaveLength(2)
    expect(done).toEqual([
      [1, 2],
      [2, 2],
    ])
  })
  it('of a format that nobody writes, or of no part, is refused', async () => {
    const { answers } = new HandOffs(kernel, new CheckBuilds(kernel))
    await expect(answers.handOff({ ...wanted, format: 'doc' }, turn(part))).rejects.toThrow('no format doc')
    await expect(answers.handOff(wanted, turn(undefined))).rejects.toThrow('no part')
  })
})
