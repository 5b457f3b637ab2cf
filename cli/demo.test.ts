import { readdirSync, readFileSync } from 'node:fs'
import { join } from 'node:path'
import { formatOf } from '@makrel/core/exchange'
import { type MeshFigures, meshFigures } from '@makrel/core/mesh'
import { inTurn } from '@makrel/core/testing'
import { beforeAll, describe, expect, it } from 'vitest'
import { nodeBundle } from '../scripts/build.mjs'
import { built, folder, makrel, root } from './testing.ts'

beforeAll(() => built(nodeBundle))

const written = ['stl', '3mf', 'obj']

const parts = readdirSync(join(root, 'demo')).filter((file) => file.endsWith('.makrel.json'))

describe.each(inTurn(10, parts))('%s', (file) => {
  it('is sound, and each file of it holds what the report says', async () => {
    const args = ['--format', written.join(), '--out', folder(), '--fineness', '0.05']
    const { status, report } = await makrel('build', join(root, 'demo', file), ...args)
    expect(status).toBe(0)
    for (const piece of report.pieces) expect(piece).toMatchObject({ closed: true, oriented: true, solids: 1 })
    // Some have a wall that is a single line, or want something put under them as they lie: that is said, and may be so.
    const mayBe = [
      'walls-one-line',
      'overhangs-lean',
      'overhangs-droop',
      'bridges-long',
      'steady-lifts',
      'necks-weak',
      'flare-fuses',
    ]
    const wrong = ({ rank, code }: Record<string, string>) => rank !== 'pass' && !mayBe.includes(code!)
    expect(report.findings.filter(wrong)).toEqual([])
    expect(report.findings.length).toBeGreaterThan(4)
    const volume = report.pieces.reduce(
      (sum: number, piece: { mesh: { volume: number } }) => sum + piece.mesh.volume,
      0,
    )
    const files: { written: string; receipt: { format: string } }[] = report.files
    expect(files.map(({ written: path }) => path.split('.').at(-1))).toEqual(written)
    for (const [i, { written: path }] of files.entries()) {
      const figures: MeshFigures[] = formatOf(written[i]!)!
        .read(readFileSync(path))
        .map(({ mesh }) => meshFigures(mesh))
      expect(Math.abs(figures.reduce((sum, f) => sum + f.volume, 0) / volume - 1)).toBeLessThan(1e-4)
      expect(figures.every(({ oriented }) => oriented)).toBe(true)
    }
  })
})

describe('a mesh', () => {
  it('that was written is sound to proof as well, in each format', async () => {
    const args = ['--format', written.join(), '--out', folder(), '--fineness', '0.05']
    const { report } = await makrel('build', join(root, 'demo/locker-hinge.makrel.json'), ...args)
    for (const { written: path } of report.files) expect(await makrel('proof', path)).toMatchObject({ status: 0 })
  })
})

describe('proof', () => {
  it('of a demo part at the fineness that is usual comes to the same as at a coarser one', async () => {
    const file = join(root, 'demo/boat-hook-clip.makrel.json')
    const fine = await makrel('proof', file)
    const coarse = await makrel('proof', file, '--fineness', '0.05')
    expect([fine.status, fine.report.fineness]).toEqual([0, 0.02])
    const texts = ({ report }: typeof fine) =>
      report.findings.map(({ check, rank }: Record<string, string>) => [check, rank])
    expect(texts(fine)).toEqual(texts(coarse))
    expect(fine.report.pieces[0].volume).toBeCloseTo(coarse.report.pieces[0].volume, 6)
  })
})
