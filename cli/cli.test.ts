import { readdirSync, readFileSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'
import { type Part, type Piece, readPartFile, type ShapeStep } from '@makrel/core/document'
import { formatOf } from '@makrel/core/exchange'
import { meshFigures } from '@makrel/core/mesh'
import { beforeAll, describe, expect, it } from 'vitest'
import { itInTurn } from '../core/testing/turns.ts'
import { nodeBundle } from '../scripts/build.mjs'
import { built, demo, folder, makrel, makrelAlone } from './testing.ts'

beforeAll(() => built(nodeBundle))

const coarse = ['--fineness', '0.1'] as const

/** A part file of the bracket's first plate alone, and what is changed of the part. */
function plate(of: (piece: Piece, part: Part) => Partial<Part> = () => ({})) {
  const part = readPartFile(readFileSync(demo('lantern-bracket'), 'utf8'))
  const [{ steps, ...piece }] = part.pieces as [Piece]
  const alone = { ...part, pieces: [{ ...piece, steps: steps.slice(0, 1) }], readouts: [], outlines: [] }
  const file = join(folder(), 'plate.makrel.json')
  writeFileSync(file, JSON.stringify({ ...alone, ...of(alone.pieces[0]!, alone) }))
  return file
}

/** The plate with another first step. */
const withStep = (change: (step: ShapeStep) => Partial<ShapeStep>) => (piece: Piece) => {
  const step = piece.steps[0] as ShapeStep
  return { pieces: [{ ...piece, steps: [{ ...step, ...change(step) } as ShapeStep] }] }
}
const wide = (width: string) => withStep(({ fields }) => ({ fields: { ...fields, width } }))

it('ends with its exit code, and says nothing but its report', async () => {
  const file = plate((piece) => ({ pieces: [{ ...piece, steps: [] }] }))
  const written = ['build', plate(), '--format', 'stl', '--out', folder(), ...coarse]
  for (const args of [['proof', file], written, ['carve', file]])
    expect(makrelAlone(...args)).toEqual(await makrel(...args))
})

describe('what is larger than the printer', () => {
  it('is a fault to proof, and a sound mesh to build', async () => {
    const file = plate(wide('900'))
    expect((await makrel('proof', file)).status).toBe(1)
    const { status, report } = await makrel('build', file, '--format', 'stl', '--out', folder())
    expect(status).toBe(0)
    expect(report.findings.some(({ rank, ofPrinter }: Record<string, unknown>) => rank === 'fault' && ofPrinter)).toBe(
      true,
    )
  })
})

itInTurn(3, 'tells how a part could lie, the best way first, in its own sizes', async () => {
  const { status, report } = await makrel('lie', demo('lantern-bracket'), '--fineness', '0.05')
  expect(status).toBe(0)
  const [{ pieces, ways }] = report.lying
  expect(pieces).toEqual(['Bracket'])
  expect(ways[0]).toMatchObject({ down: 'bottom', isDrawn: true, begins: 0, upright: 4, rounds: 5 })
  expect(ways.length).toBeGreaterThan(4)
  for (const { hangs } of ways) expect(hangs).toBeGreaterThanOrEqual(0)
})

itInTurn(3, 'writes what is to be printed where it is asked for, or was measured', async () => {
  const args = ['build', plate(), '--format', 'stl', '--out', folder(), ...coarse] as const
  const drawn = (await makrel(...args)).report
  const printed = (await makrel(...args, '--made-up')).report
  expect(drawn.receipt.compensation).toBeUndefined()
  expect(printed.receipt.compensation).toMatchObject({ printer: 'Tern 220', material: 'PETG', rounds: 0.08 })
  expect(printed.receipt.drawn).toEqual(drawn.receipt.drawn)
  expect(printed.receipt.max[2] / drawn.receipt.max[2]).toBeCloseTo(1 / 0.996, 6)
  const measured = { kind: 'set', on: '2026-11-03T10:00:00.000Z' } as const
  const file = plate((_, { printer }) => ({ printer: { ...printer, measured } }))
  const own = ['build', file, '--format', 'stl', '--out', folder(), ...coarse] as const
  expect((await makrel(...own)).report.receipt.compensation).toMatchObject({ rounds: 0.08, shrinkage: 0 })
  expect((await makrel(...own, '--as-drawn')).report.receipt.compensation).toBeUndefined()
  expect((await makrel(...own, '--as-drawn', '--made-up')).status).toBe(2)
  // What is proved is what leaves: too large for the bed only once it is made up for.
  const large = plate((piece, { material }) => ({
    ...wide('219.3')(piece),
    material: { ...material, shrinkage: 1.2, measured },
  }))
  const ranks = async (...more: string[]) =>
    (await makrel('build', large, '--format', 'stl', '--out', folder(), ...coarse, ...more)).report.findings.flatMap(
      ({ check, rank }: Record<string, string>) => (check === 'bed' ? [rank] : []),
    )
  expect(await ranks('--as-drawn')).toEqual(['pass'])
  expect(await ranks()).toEqual(['fault'])
})

describe('one piece', () => {
  itInTurn(3, 'is written by its name', async () => {
    const { report } = await makrel(
      'build',
      demo('locker-hinge'),
      '--format',
      'stl',
      '--out',
      folder(),
      ...coarse,
      '--piece',
      'Moving leaf',
    )
    expect(report.receipt).toMatchObject({ solids: 1, pieces: ['Moving leaf'] })
  })
  it('is written by its name where a step has split it, and one that is not there is told with those that are', async () => {
    const base = { kind: 'treatment', id: 'split', name: '', mute: false, when: '', operation: 'split' } as const
    const split = { ...base, fields: { at: 'x, 3.3', gap: '0.4' } }
    const file = plate((piece) => ({ pieces: [{ ...piece, steps: [...piece.steps, split] }] }))
    const name = 'Bracket'
    const args = ['build', file, '--format', 'stl', '--out', folder(), ...coarse] as const
    const build = (piece: string) => makrel(...args, '--piece', piece)
    const { report } = await build(`${name} (2)`)
    expect(report.receipt.pieces).toEqual([`${name} (2)`])
    expect(report.receipt.min[0]).toBeCloseTo(3.5, 3)
    expect((await build(name)).report.receipt.max[0]).toBeCloseTo(3.1, 3)
    expect(await build(`${name} (3)`)).toMatchObject({
      status: 2,
      stderr: expect.stringContaining(`${name}, ${name} (2)`),
    })
  })
})

describe('poses', () => {
  itInTurn(
    3,
    'are written as they stand: the one it is printed in, another one by its name, or as it is drawn',
    async () => {
      const part = readPartFile(readFileSync(demo('locker-hinge'), 'utf8'))
      const [joint] = part.joints
      const pose = (id: string, position: number) => ({
        ...{ id, name: `Folded ${id}`, laid: [] },
        set: [{ joint: joint!.id, freedom: 0, position }],
      })
      const file = join(folder(), 'folded.makrel.json')
      const poses = [pose('a', 90), pose('b', 180)]
      writeFileSync(file, JSON.stringify({ ...part, poses, printPose: 'a' }))
      const args = ['build', file, '--format', 'stl', '--out', folder(), ...coarse] as const
      const receipt = async (...more: string[]) => (await makrel(...args, ...more)).report.receipt
      const [printed, named, drawn] = [
        await receipt(),
        await receipt('--pose', 'Folded b'),
        await receipt('--pose', 'drawn'),
      ]
      expect([printed, named, drawn].map(({ pose }) => pose)).toEqual(['Folded a', 'Folded b', ''])
      expect(named.file).toMatch(/-Folded-b\.stl$/)
      expect(printed.file).toBe(drawn.file)
      const tall = [printed, named, drawn].map(({ min, max }) => max[2] - min[2])
      expect(tall[0]).toBeGreaterThan(tall[1]! + 5)
      expect(tall[1]).toBeGreaterThan(tall[2]! - 1e-6)
      for (const each of [printed, named]) expect(each.volume).toBeCloseTo(drawn.volume, 1)
    },
  )
})

describe('the size of files', () => {
  it('is what is asked for, in the unit that is asked for', async () => {
    const args = ['build', plate(), '--format', 'stl', '--out', folder(), ...coarse] as const
    const drawn = (await makrel(...args)).report.receipt
    const { status, report } = await makrel(...args, '--unit', 'in', '--height', '37.3')
    expect([status, report.receipt.unit]).toEqual([0, 'inches, not stated in the file'])
    const [piece] = formatOf('stl')!.read(readFileSync(report.written))
    const { min, max, volume } = meshFigures(piece!.mesh)
    expect((max[2] - min[2]) * 25.4).toBeCloseTo(37.3, 3)
    const scale = 37.3 / (drawn.max[2] - drawn.min[2])
    // Built as fine as the file is to be at its own size, and so with other flats.
    expect((volume * 25.4 ** 3) / (drawn.volume * scale ** 3)).toBeCloseTo(1, 2)
  })
})

describe('variants', () => {
  const ring = demo('deck-cap-spanner-ring')
  const names: string[] = JSON.parse(readFileSync(ring, 'utf8')).variants.map(({ name }: { name: string }) => name)
  itInTurn(3, 'are written together, each a file of its own that holds what its report says', async () => {
    const out = folder()
    const { status, report } = await makrel('build', ring, '--format', 'stl', '--out', out, ...coarse, '--variants')
    expect(status).toBe(0)
    expect(names.length).toBeGreaterThan(1)
    expect(report.variants.map(({ receipt }: { receipt: { variant: string } }) => receipt.variant)).toEqual(names)
    expect(readdirSync(out)).toHaveLength(names.length)
    const volumes = report.variants.map(
      ({ written, pieces }: { written: string; pieces: { mesh: { volume: number } }[] }) => {
        const [piece] = formatOf('stl')!.read(readFileSync(written))
        const { volume, oriented } = meshFigures(piece!.mesh)
        expect(oriented).toBe(true)
        expect(Math.abs(volume / pieces[0]!.mesh.volume - 1)).toBeLessThan(1e-4)
        return volume
      },
    )
    expect(new Set(volumes).size).toBe(names.length)
  })
  itInTurn(3, 'are written one by one by their names', async () => {
    const args = ['build', ring, '--format', 'stl', '--out', folder(), ...coarse] as const
    const { report } = await makrel(...args, '--variant', names[1]!)
    expect(report.receipt).toMatchObject({ variant: names[1], file: expect.stringContaining('.stl') })
  })
})

describe('faults', () => {
  it('end with 1 and are in the report', async () => {
    const part = JSON.parse(readFileSync(demo('lantern-bracket'), 'utf8'))
    part.measures[0].expression = 'wall'
    const file = join(folder(), 'x.makrel.json')
    writeFileSync(file, JSON.stringify(part))
    const { status, report } = await makrel('proof', file)
    expect(status).toBe(1)
    expect(report.findings.find(({ rank }: { rank: string }) => rank === 'fault').text).toMatch(/depends on itself/)
  })
})

describe('what would not print as it is meant', () => {
  const floating = () => plate(withStep(({ place }) => ({ place: { ...place, lift: 'wall + 1.3' } })))
  it('is not written, and is where that is asked for', async () => {
    const out = folder()
    const args = ['build', floating(), '--format', 'stl', '--out', out, ...coarse] as const
    const held = await makrel(...args)
    expect(held.status).toBe(1)
    expect(held.report.written).toBeUndefined()
    expect(held.report.receipt.file).toMatch(/\.stl$/)
    expect(readdirSync(out)).toEqual([])
    const given = await makrel(...args, '--faulty')
    expect(given.status).toBe(1)
    expect(readdirSync(out)).toEqual([given.report.receipt.file])
    expect(given.report.written).toBe(join(out, given.report.receipt.file))
  })
})

describe('bad input ends with 2 and a message', () => {
  const write = (name: string, content: string | Uint8Array) => {
    const path = join(folder(), name)
    writeFileSync(path, content)
    return path
  }
  it.each<[string, () => string[], RegExp]>([
    ['no such command', () => ['carve', 'x'], /no command “carve”/],
    ['no file', () => ['proof'], /give one part file/],
    ['a file that is not there', () => ['proof', '/nowhere.json'], /cannot read/],
    ['no JSON', () => ['proof', write('a.json', 'hello')], /not a part file/],
    ['a newer version', () => ['proof', write('a.json', '{"format":"makrel-part","version":99}')], /newer version/],
    ['a file of 50 MB', () => ['proof', write('a.json', 'x'.repeat(50_000_000))], /larger than/],
    ['a broken STL', () => ['proof', write('a.stl', new Uint8Array(200).fill(7))], /header says/],
    [
      'an unknown format',
      () => ['build', demo('locker-hinge'), '--format', 'clay', '--out', '/tmp'],
      /--format must be one of stl, 3mf/,
    ],
    ['no folder', () => ['build', demo('locker-hinge'), '--format', 'stl'], /--out/],
    [
      'a folder that cannot be',
      () => ['build', demo('locker-hinge'), '--format', 'stl', '--out', '/dev/null/x'],
      /cannot write/,
    ],
    [
      'an unknown piece',
      () => ['build', demo('locker-hinge'), '--format', 'stl', '--out', '/tmp', '--piece', 'Lid'],
      /there are: Fixed leaf, Moving leaf/,
    ],
    [
      'an unknown variant',
      () => ['build', demo('locker-hinge'), '--format', 'stl', '--out', '/tmp', '--variant', 'M9'],
      /no variant “M9”; there are: none/,
    ],
    [
      'variants of a part without',
      () => ['build', demo('locker-hinge'), '--format', 'stl', '--out', '/tmp', '--variants'],
      /no variants/,
    ],
    [
      'an unknown pose',
      () => ['build', demo('locker-hinge'), '--format', 'stl', '--out', '/tmp', '--pose', 'Shut'],
      /there is no pose “Shut”; there are: drawn/,
    ],
    [
      'a unit that nobody knows',
      () => ['build', demo('locker-hinge'), '--format', 'stl', '--out', '.', '--unit', 'ell'],
      /--unit must be/,
    ],
    [
      'two sizes',
      () => ['build', demo('locker-hinge'), '--format', 'stl', '--out', '.', '--scale', '2', '--height', '9'],
      /contradict/,
    ],
    [
      'a size of nothing',
      () => ['build', demo('locker-hinge'), '--format', 'stl', '--out', '.', '--width', '0'],
      /--width must be a number above 0/,
    ],
    ['a fineness of nothing', () => ['proof', demo('locker-hinge'), '--fineness', '0'], /--fineness/],
    ['an unknown option', () => ['proof', demo('locker-hinge'), '--fast'], /--fast/],
  ])('%s', async (_, args, message) => {
    const { status, stdout, stderr } = await makrel(...args())
    expect(stderr).toMatch(message)
    expect(status).toBe(2)
    expect(stdout).toBe('')
  })
})
