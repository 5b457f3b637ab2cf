import { strFromU8, strToU8, unzipSync, zipSync } from 'fflate'
import { describe, expect, it, vi } from 'vitest'
import { compensationFor } from '../compensation/index.ts'
import { newPiece } from '../document/index.ts'
import { meshFigures, type TriangleMesh } from '../mesh/index.ts'
import { cross, norm, subtract } from '../place/index.ts'
import { ProblemError } from '../problems/index.ts'
import { built, builtTwice, codeOf, onFace, partOf, seeded, step, testKernel } from '../testing/index.ts'
import {
  differs,
  drawnFineness,
  type FileSize,
  fileName,
  formatOf,
  formats,
  handOff,
  type MeshFormat,
  withCompensation,
} from './index.ts'

type Triple = [number, number, number]

const kernel = await testKernel()

const tetra: TriangleMesh = {
  positions: new Float64Array([0, 0, 0, 10, 0, 0, 0, 10, 0, 0, 0, 10]),
  triangles: new Uint32Array([0, 2, 1, 0, 1, 3, 1, 2, 3, 0, 3, 2]),
}
const shifted = { ...tetra, positions: tetra.positions.map((x) => x + 100.123) }
const drilled = partOf([
  step('a', 'plate', { width: '40', depth: '30', height: '6.35', corner: '4' }),
  step('h', 'hole', { diameter: '5.3', mouth: 'countersink', head: '10' }, { place: onFace('a', 'top') }),
])

describe.each(formats.map((format): [string, MeshFormat] => [format.id, format]))('%s', (_, format) => {
  it('comes back as it was written', () => {
    const [piece, ...more] = format.read(format.write([{ name: 'T', mesh: tetra }], 'Test'))
    expect(more).toEqual([])
    expect(meshFigures(piece!.mesh)).toEqual(meshFigures(tetra))
  })
  it('holds several pieces', () => {
    const read = format.read(
      format.write(
        [
          { name: 'A', mesh: tetra },
          { name: 'B & <C>', mesh: shifted },
        ],
        'Test',
      ),
    )
    const figures = read.map(({ mesh }) => meshFigures(mesh))
    expect(figures.reduce((sum, { solids }) => sum + solids, 0)).toBe(2)
    expect(figures.every(({ oriented }) => oriented)).toBe(true)
    if (format.id !== 'stl') expect(read.map(({ name }) => name)).toEqual(['A', 'B & <C>'])
  })
  it('is the same, byte for byte, when written again', () => {
    const write = () => format.write([{ name: 'T', mesh: tetra }], 'Test')
    vi.useFakeTimers({ now: new Date(2001, 1, 1) })
    const early = write()
    vi.setSystemTime(new Date(2031, 5, 5))
    expect(write()).toEqual(early)
    vi.useRealTimers()
  })
  it('answers damaged bytes with a mesh or a problem, never with a crash', () => {
    const good = format.write([{ name: 'T', mesh: tetra }], 'Test')
    const random = seeded(17)
    for (let i = 0; i < 300; i++) {
      const bytes = Uint8Array.from(good)
      for (let k = 0; k < 1 + random() * 6; k++) bytes[Math.floor(random() * bytes.length)] = Math.floor(random() * 256)
      const cut = random() < 0.3 ? bytes.subarray(0, Math.floor(random() * bytes.length)) : bytes
      try {
        format.read(cut)
      } catch (error) {
        expect(error).toBeInstanceOf(ProblemError)
      }
    }
  })
  it('refuses what is none of it', () => {
    expect(codeOf(() => format.read(strToU8('hello')))).toBe('mesh-unreadable')
    expect(codeOf(() => format.read(new Uint8Array()))).toBe('mesh-unreadable')
  })
  it('hands off a drilled plate with a receipt that agrees with the solid', async () => {
    const made = await built(kernel, drilled, 0.02)
    const twice = await builtTwice(kernel, drilled)
    const { bytes, receipt } = handOff(made, format, { twice, fineness: 0.02 })
    expect(receipt).toMatchObject({
      format: format.id,
      closed: true,
      oriented: true,
      solids: 1,
      bytes: bytes.length,
      file: `Test.${format.extension}`,
      muted: [],
    })
    expect(Math.abs(receipt.volume / receipt.solidVolume - 1)).toBeLessThan(1e-6)
    // Plate less its corners, the hole and the ring of the countersink (a frustum of ⌀10 to ⌀5.3 at 90°).
    const sink = (Math.PI * 2.35 * (25 + 5 * 2.65 + 2.65 ** 2)) / 3 - Math.PI * 2.65 ** 2 * 2.35
    const meant = (1200 - (4 - Math.PI) * 16) * 6.35 - Math.PI * 2.65 ** 2 * 6.35 - sink
    expect(receipt.trueVolume / meant).toBeCloseTo(1, 4)
    expect(receipt.trueWay).toBe('extrapolated')
    expect(receipt.volume).toBeLessThan(receipt.trueVolume)
    expect(receipt.max[2]).toBeCloseTo(6.35, 5)
    expect(receipt.warnings).toEqual([])
  })
  it('tells where the file is another solid than what was measured', async () => {
    const made = await built(kernel, drilled, 0.02)
    const twice = await builtTwice(kernel, drilled)
    const other = { ...twice.fine, buildProblems: [{ code: 'step-failed', rank: 'fault', text: '', path: [] }] }
    const fine = other as unknown as typeof twice.fine
    const { receipt } = handOff(made, format, { twice: { ...twice, fine }, fineness: 0.02 })
    expect(receipt.warnings).toEqual([expect.stringMatching(/^At another fineness it is another solid/)])
    expect(receipt.trueWay).toBe('flats')
  })
})

describe.each(formats.map((format): [string, MeshFormat] => [format.id, format]))(
  '%s holds no triangle without area',
  (_, format) => {
    it.each([
      ['a plain ring', step('r', 'ring', {})],
      [
        'a ring of odd sizes',
        step('r', 'ring', { diameter: '33.3', thick: '7.7' }, { place: { turn: '37.3', tilt: '11' } }),
      ],
      ['letters', step('t', 'text', { text: 'Pendrift 8', size: '7.3' })],
    ])('of %s, and its readers count what it holds', async (_name, one) => {
      const part = partOf([one, step('p', 'plate', { width: '50.1', depth: '20.3', height: '3.3' })])
      const made = await built(kernel, part, 0.02)
      const { bytes, receipt } = handOff(made, format, { fineness: 0.02, twice: await builtTwice(kernel, part) })
      const [piece] = format.read(bytes)
      const { positions, triangles } = piece!.mesh
      expect([receipt.triangles, piece!.count]).toEqual([triangles.length / 3, triangles.length / 3])
      const at = (v: number) => [0, 1, 2].map((i) => positions[3 * v + i]!) as [number, number, number]
      let least = Infinity
      for (let t = 0; t < triangles.length; t += 3) {
        const [a, b, c] = [at(triangles[t]!), at(triangles[t + 1]!), at(triangles[t + 2]!)]
        least = Math.min(least, norm(cross(subtract(b, a), subtract(c, a))) / 2)
      }
      expect(least).toBeGreaterThan(0)
    })
  },
)

it('a reader counts triangles without area too, and both formats hold as many', async () => {
  const part = partOf([
    step('r', 'ring', {}),
    step('b', 'bar', { diameter: '1.3', height: '9.1' }, { place: { lean: '37.3' } }),
  ])
  const made = await built(kernel, part, 0.02)
  const twice = await builtTwice(kernel, part)
  const receipts = formats.map((format) => handOff(made, format, { fineness: 0.02, twice }).receipt)
  expect(receipts[0]!.triangles).toBe(receipts[1]!.triangles)
  expect(receipts[0]!.solids).toBe(receipts[1]!.solids)
  const flat = formatOf('stl')!.write(
    [{ name: '', mesh: { ...tetra, triangles: Uint32Array.from([...tetra.triangles, 0, 0, 1]) } }],
    '',
  )
  expect(formatOf('stl')!.read(flat)[0]!.count).toBe(5)
})

describe('stl', () => {
  const stl = formatOf('stl')!
  it('has the outward normal of each triangle beside its corners, however that lies', () => {
    const random = seeded(8)
    const any = () => 80 * random() - 40
    const positions = new Float64Array(Array.from({ length: 3 * 60 }, any))
    const mesh = { positions, triangles: Uint32Array.from({ length: 60 }, (_, i) => i) }
    const bytes = stl.write([{ name: '', mesh }], 'Any')
    const view = new DataView(bytes.buffer, bytes.byteOffset)
    const triple = (at: number) => [0, 4, 8].map((by) => view.getFloat32(at + by, true)) as [number, number, number]
    for (let t = 0; t < 20; t++) {
      const at = 84 + 50 * t
      const [a, b, c] = [0, 1, 2].map((i) => triple(at + 12 + 12 * i)) as [Triple, Triple, Triple]
      expect(a).toEqual([0, 1, 2].map((i) => Math.fround(positions[9 * t + i]!)))
      const n = cross(subtract(b, a), subtract(c, a))
      expect(triple(at)).toEqual(n.map((x) => expect.closeTo(x / norm(n), 5)))
    }
  })
  it('reads text', () => {
    const facet = (a: string, b: string, c: string) =>
      `facet normal 0 0 0\n outer loop\n vertex ${a}\n vertex ${b}\n vertex ${c}\n endloop\nendfacet\n`
    const text = `solid x\n${facet('0 0 0', '0 1 0', '1 0 0')}${facet('0 0 0', '1 0 0', '0 0 1')}${facet('1 0 0', '0 1 0', '0 0 1')}${facet('0 0 0', '0 0 1', '0 1 0')}endsolid x\n`
    expect(meshFigures(stl.read(strToU8(text))[0]!.mesh)).toMatchObject({ oriented: true, triangles: 4 })
    expect(codeOf(() => stl.read(strToU8(text.replace('vertex 0 1 0', ''))))).toBe('mesh-unreadable')
    expect(codeOf(() => stl.read(strToU8(text.replace('vertex 0 1 0', 'vertex 0 one 0'))))).toBe('mesh-unreadable')
    expect(codeOf(() => stl.read(strToU8('solid x\nendsolid')))).toBe('mesh-empty')
  })
  it('says how many triangles are missing', () => {
    const bytes = stl.write([{ name: '', mesh: tetra }], 'x')
    expect(() => stl.read(bytes.subarray(0, bytes.length - 60))).toThrow(/says 4 triangles, and it ends after 2/)
  })
  it('is binary by its size, though its header begins like text; else it is text', () => {
    const bytes = stl.write([{ name: '', mesh: tetra }], 'x')
    bytes.set(strToU8('solid like text'))
    expect(stl.read(bytes)[0]!.count).toBe(4)
    // One byte more, and it is no binary file of that count.
    const longer = new Uint8Array(bytes.length + 1)
    longer.set(bytes)
    expect(codeOf(() => stl.read(longer))).toBe('mesh-empty')
    // Without room for a count it can only be text.
    expect(codeOf(() => stl.read(strToU8('solid')))).toBe('mesh-empty')
  })
  it('does not begin with the word that marks text', () => {
    expect(String.fromCharCode(...stl.write([{ name: '', mesh: tetra }], 'solid').subarray(0, 5))).not.toBe('solid')
  })
})

describe('3mf', () => {
  const threeMf = formatOf('3mf')!
  const model = (body: string, unit = 'millimeter') =>
    zipSync({
      '3D/3dmodel.model': strToU8(
        `<?xml version="1.0"?><model unit="${unit}" xmlns="http://schemas.microsoft.com/3dmanufacturing/core/2015/02">${body}</model>`,
      ),
    })
  const mesh =
    '<resources><object id="7" type="model"><mesh><vertices><vertex x="0" y="0" z="0"/><vertex x="1" y="0" z="0"/><vertex x="0" y="1" z="0"/><vertex x="0" y="0" z="1"/></vertices><triangles><triangle v1="0" v2="2" v3="1"/><triangle v1="0" v2="1" v3="3"/><triangle v1="1" v2="2" v3="3"/><triangle v1="0" v2="3" v3="2"/></triangles></mesh></object></resources>'
  it('carries its unit', () => {
    const [piece] = threeMf.read(model(`${mesh}<build><item objectid="7"/></build>`, 'inch'))
    expect(meshFigures(piece!.mesh).volume).toBeCloseTo(25.4 ** 3 / 6, 6)
  })
  it('reads one model of an archive, and no blanks', () => {
    const own = model(`${mesh}<build><item objectid="7"/></build>`)
    const blanks = strFromU8(unzipSync(own)['3D/3dmodel.model']!).replaceAll('><', `>${' \n'.repeat(20_000)}<`)
    const others = Object.fromEntries([1, 2, 3].map((i) => [`3D/other${i}.model`, strToU8('<model>')]))
    const archive = zipSync({ ...others, '3D/3dmodel.model': strToU8(blanks) })
    expect(threeMf.read(archive)[0]!.count).toBe(4)
  })
  it('refuses what is placed more often than any printer can hold', () => {
    const faces = mesh.replace(/(<triangles>)(.*?)(<\/triangles>)/, (_, a, b, c) => a + b.repeat(4000) + c)
    const items = '<item objectid="7"/>'.repeat(600)
    expect(codeOf(() => threeMf.read(model(`${faces}<build>${items}</build>`)))).toBe('file-too-large')
  }, 30_000)
  it.each(['true', 'false', '1e5', '<b> & "Lid"', '', 'Ö × µ'])('carries the name %j', (name) => {
    const [piece] = threeMf.read(threeMf.write([{ name, mesh: tetra, colour: '#a1b2c3' }], 'Part'))
    expect(piece!.name).toBe(name)
  })
  it('places items by their transform', () => {
    const [piece] = threeMf.read(
      model(`${mesh}<build><item objectid="7" transform="2 0 0 0 2 0 0 0 2 10 20 30"/></build>`),
    )
    expect(meshFigures(piece!.mesh)).toMatchObject({ min: [10, 20, 30], max: [12, 22, 32] })
  })
  it.each([
    ['an unknown unit', model(`${mesh}<build><item objectid="7"/></build>`, 'cubit')],
    ['an object that is not there', model(`${mesh}<build><item objectid="8"/></build>`)],
    ['a corner that is not there', model(`${mesh.replace('v3="3"', 'v3="9"')}<build><item objectid="7"/></build>`)],
    ['a transform that is none', model(`${mesh}<build><item objectid="7" transform="1 2 3"/></build>`)],
    ['a coordinate that is none', model(`${mesh.replace('x="1"', 'x="one"')}<build><item objectid="7"/></build>`)],
    ['a coordinate kilometres away', model(`${mesh.replace('x="1"', 'x="1e30"')}<build><item objectid="7"/></build>`)],
    ['no model', zipSync({ 'readme.txt': strToU8('x') })],
  ])('refuses %s', (_, bytes) => expect(codeOf(() => threeMf.read(bytes))).toBe('mesh-unreadable'))
})

it('an STL with coordinates that lie kilometres away is refused, not measured as nothing', () => {
  const stl = formatOf('stl')!
  const far = { positions: tetra.positions.map((x) => x * 1e30), triangles: tetra.triangles }
  expect(codeOf(() => stl.read(stl.write([{ name: '', mesh: far }], 'Far')))).toBe('mesh-unreadable')
})

describe('the hand-off', () => {
  const stl = formatOf('stl')!
  it('gives out nothing that differs from the solid', async () => {
    const made = await built(kernel, drilled, 0.02)
    const twice = await builtTwice(kernel, drilled)
    const { receipt } = handOff(made, stl, { twice, fineness: 0.02 })
    const solids = made.pieces.map(({ solid }) => solid!)
    expect(differs(receipt, solids)).toBeUndefined()
    expect(differs({ ...receipt, closed: false }, solids)).toMatch(/not closed/)
    expect(differs({ ...receipt, oriented: false }, solids)).toMatch(/outwards/)
    expect(differs({ ...receipt, volume: receipt.volume * 1.0002 }, solids)).toMatch(/volume is off by 0.0200 %/)
    expect(differs({ ...receipt, volume: receipt.volume * 1.00001 }, solids)).toMatch(/volume is off by 0.0010 %/)
    expect(differs({ ...receipt, max: [99, 0, 0] }, solids)).toMatch(/size is off/)
    expect(differs({ ...receipt, solids: receipt.solids + 1 }, solids)).toMatch(/has \d+ bodies for \d+/)
    expect(differs({ ...receipt, cavities: [...receipt.cavities, 3.1] }, solids)).toMatch(/has \d+ cavities for \d+/)
    const lossy: MeshFormat = {
      ...stl,
      read: (bytes) =>
        stl
          .read(bytes)
          .map((piece) => ({ ...piece, mesh: { ...piece.mesh, triangles: piece.mesh.triangles.subarray(3) } })),
    }
    expect(codeOf(() => handOff(made, lossy, { twice, fineness: 0.02 }))).toBe('export-differs')
  })
  it('writes any format in any unit, at any size, and tells how large it is', async () => {
    const made = await built(kernel, drilled, 0.02)
    const twice = await builtTwice(kernel, drilled)
    const plain = handOff(made, stl, { twice, fineness: 0.02 }).receipt
    expect([plain.scale, plain.size, plain.unit]).toEqual([1, undefined, 'mm, not stated in the file'])
    const sizes: readonly (readonly [FileSize | undefined, number])[] = [
      [undefined, 1],
      [{ by: 'factor', factor: 0.373 }, 0.373],
      [{ by: 'height', mm: 85.1 }, 85.1 / 6.35],
      [{ by: 'width', mm: 25.4 / 3 }, 25.4 / 3 / 40],
    ]
    for (const format of formats)
      for (const unit of ['mm', 'in', 'cm'] as const)
        for (const [size, scale] of sizes) {
          const { receipt, bytes } = handOff(made, format, { twice, fineness: 0.02, unit, size })
          const [read] = format.read(bytes)
          const { volume, max, min, oriented } = meshFigures(read!.mesh)
          // As somebody else reads it: by what it states, else by what is known of it.
          const mm = format.statesUnit ? 1 : { mm: 1, in: 25.4, cm: 10 }[unit]
          const own = `${format.id} ${unit} ${scale}`
          expect([own, oriented]).toEqual([own, true])
          expect((volume * mm ** 3) / (plain.volume * scale ** 3), own).toBeCloseTo(1, 5)
          expect((max[0] - min[0]) * mm, own).toBeCloseTo(40 * scale, 3)
          expect(receipt.scale, own).toBeCloseTo(scale, 6)
          expect(receipt.volume / (plain.volume * scale ** 3), own).toBeCloseTo(1, 5)
          expect(receipt.trueVolume / (plain.trueVolume * scale ** 3), own).toBeCloseTo(1, 9)
          expect(receipt.drawn, own).toEqual(plain.drawn)
          // What was proved is another size.
          const isTold = receipt.warnings.some((text) => text.includes('was proved at the size that it is drawn in'))
          expect([own, isTold]).toEqual([own, scale !== 1])
          expect(receipt.warnings.some((text) => text.includes('does not fit the bed'))).toBe(40 * scale > 220)
        }
    // Built so fine that the file is as fine as it is asked to be.
    expect(await drawnFineness(kernel, undefined, twice, { fineness: 0.02 })).toBe(0.02)
    const size = { by: 'height', mm: 3 * 6.35 } as const
    expect(await drawnFineness(kernel, undefined, twice, { fineness: 0.02, size })).toBeCloseTo(0.02 / 3, 6)
    for (const factor of [0, -1, Number.NaN, 1e-3, 1e3])
      expect(codeOf(() => handOff(made, stl, { twice, fineness: 0.02, size: { by: 'factor', factor } }))).toBe(
        'scale-limits',
      )
  })
  it('makes up for the printer by as much in what leaves at another size', async () => {
    const made = await built(kernel, drilled, 0.02)
    const twice = await builtTwice(kernel, drilled)
    const compensation = { ...compensationFor(drilled), ...{ walls: 0.03, rounds: 0.11, flare: 0, shrinkage: 0 } }
    for (const factor of [0.73, 2.3]) {
      const size = { by: 'factor', factor } as const
      const { receipt } = await withCompensation(kernel, made, { compensation, size }, async (compensated) =>
        handOff(made, stl, { twice, fineness: 0.02, size, compensated }),
      )
      expect(receipt.max[0] - receipt.min[0]).toBeCloseTo(40 * factor - 0.06, 4)
      expect(receipt.compensation).toMatchObject({ walls: 0.03, rounds: 0.11 })
    }
  })
  it('calls the file by the variant that it is of', async () => {
    const variants = [
      { id: 'v1', name: 'For 15.3 mm rail', values: {} },
      { id: 'v2', name: 'For 1/3 in rail', values: {} },
    ]
    for (const [variant, name, file] of [
      ['', '', 'Test.stl'],
      ['v1', 'For 15.3 mm rail', 'Test-For-15.3-mm-rail.stl'],
      ['v2', 'For 1/3 in rail', 'Test-For-1-3-in-rail.stl'],
    ] as const) {
      const part = { ...drilled, variants, variant }
      const twice = await builtTwice(kernel, part)
      const { receipt } = handOff(await built(kernel, part, 0.02), stl, { twice, fineness: 0.02 })
      expect([receipt.variant, receipt.file]).toEqual([name, file])
    }
  })
  it('writes what is to be printed where it is asked for, and tells both sizes', async () => {
    const made = await built(kernel, drilled, 0.02)
    const twice = await builtTwice(kernel, drilled)
    const compensation = {
      ...compensationFor(drilled),
      ...{ walls: 0.03, rounds: 0.11, flare: 0, shrinkage: 1.3 },
    }
    const { receipt, bytes } = await withCompensation(kernel, made, { compensation }, async (compensated) =>
      handOff(made, stl, { twice, fineness: 0.02, compensated }),
    )
    const [read] = stl.read(bytes)
    const figures = meshFigures(read!.mesh)
    expect(receipt.compensation).toEqual({ ...compensation, stayed: [] })
    const plain = handOff(made, stl, { twice, fineness: 0.02 }).receipt
    expect(plain.compensation).toBeUndefined()
    expect(receipt.drawn).toEqual(plain.drawn)
    expect(receipt.drawn.volume).toBeCloseTo(plain.solidVolume, 9)
    for (const i of [0, 1] as const) {
      const drawn = receipt.drawn.max[i] - receipt.drawn.min[i]
      expect(receipt.max[i] - receipt.min[i]).toBeCloseTo(drawn / 0.987 - 0.06, 4)
    }
    expect(receipt.volume).toBeCloseTo(figures.volume, 6)
    expect(receipt.warnings).toEqual(plain.warnings)
  })
  it('tells what stays as drawn in what is to be printed, in the unit of the part', async () => {
    const thin = partOf([step('p', 'plate', { width: '0.88 mm', depth: '31.7 mm', height: '1/2' })], { unit: 'in' })
    const made = await built(kernel, thin, 0.02)
    const twice = await builtTwice(kernel, thin)
    const compensation = { ...compensationFor(thin), ...{ walls: 0.03, rounds: 0.03, flare: 0, shrinkage: 0 } }
    const { receipt } = await withCompensation(kernel, made, { compensation }, async (compensated) =>
      handOff(made, stl, { twice, fineness: 0.02, compensated }),
    )
    expect(receipt.compensation!.stayed).toEqual([
      expect.objectContaining({ why: 'thin', area: expect.closeTo(2 * 31.7 * 12.7, 3) }),
    ])
    // Shown where they are: both sides of the plate, and no more.
    const { triangles } = receipt.compensation!.stayed[0]!
    expect(triangles.length).toBe(9 * 4)
    expect(new Set(triangles.filter((_, i) => i % 3 === 0).map(Math.abs))).toEqual(new Set([Math.fround(0.44)]))
    expect(receipt.warnings).toEqual([
      expect.stringMatching(
        /^Piece 1: 1\.248 in² of walls stay as drawn: made thinner they would lose a line \(most of it near /,
      ),
    ])
    expect(receipt.max[1] - receipt.min[1]).toBeCloseTo(31.7 - 0.06, 4)
  })
  it('warns where flats stand for rounds that they miss by more than half a per cent, and not before', async () => {
    const part = partOf([step('b', 'ball', { diameter: '15.3' })])
    const twice = await builtTwice(kernel, part)
    const warnings = async (fineness: number) =>
      handOff(await built(kernel, part, fineness), stl, { twice, fineness }).receipt.warnings
    expect(await warnings(0.2)).toEqual([
      expect.stringMatching(/^It has \d+(\.\d+)? % less volume than with true rounds; a smaller fineness/),
    ])
    expect(await warnings(0.005)).toEqual([])
  })
  it('writes one piece or all, and states what is muted', async () => {
    const part = {
      ...drilled,
      pieces: [
        { ...drilled.pieces[0]!, steps: drilled.pieces[0]!.steps.map((each) => ({ ...each, mute: each.id === 'h' })) },
        {
          ...newPiece('p2', 'Lid', 'sand'),
          steps: [step('l', 'plate', {}, { place: { across: { from: 'centre', to: 'centre', by: '60' } } })],
        },
      ],
    }
    const made = await built(kernel, part)
    const twice = await builtTwice(kernel, part)
    expect(handOff(made, stl, { twice, fineness: 0.02 }).receipt).toMatchObject({
      solids: 2,
      pieces: ['Piece 1', 'Lid'],
      muted: ['hole'],
    })
    expect(handOff(made, stl, { twice, fineness: 0.02, piece: 'p2' }).receipt).toMatchObject({
      solids: 1,
      pieces: ['Lid'],
      muted: [],
      file: 'Test-Lid.stl',
    })
    expect(codeOf(() => handOff(made, stl, { twice, fineness: 0.02, piece: 'nobody' }))).toBe('export-nothing')
  })
  it('has nothing to give of an empty piece', async () => {
    const made = await built(kernel, partOf([]), 0.02)
    const twice = await builtTwice(kernel, partOf([]))
    expect(codeOf(() => handOff(made, stl, { twice, fineness: 0.02 }))).toBe('export-nothing')
  })
  it('names files so that every system takes them', () => {
    expect(fileName('Deck-cap spanner (plain)')).toBe('Deck-cap-spanner-plain')
    expect(fileName('../..\\x:y?')).toBe('x-y')
    expect(fileName('***')).toBe('part')
  })
})

it('a 3MF carries the colour of each piece, and an STL is none the worse for it', async () => {
  const part = {
    ...drilled,
    pieces: [
      { ...drilled.pieces[0]!, colour: '#a1b2c3' as const },
      { ...newPiece('p2', 'Lid', 'sand'), steps: [step('l', 'plate', {}, { place: { lift: '20' } })] },
    ],
  }
  const made = await built(kernel, part)
  const twice = await builtTwice(kernel, part)
  const threeMf = formatOf('3mf')!
  const { bytes } = handOff(made, threeMf, { fineness: 0.02, twice })
  const model = strFromU8(unzipSync(bytes)['3D/3dmodel.model']!)
  expect([...model.matchAll(/<base name="([^"]*)" displaycolor="([^"]*)"/g)].map((m) => m.slice(1))).toEqual([
    ['Piece 1', '#A1B2C3'],
    ['Lid', '#D8CFBA'],
  ])
  expect([...model.matchAll(/pindex="(\d)"/g)].map((m) => m[1])).toEqual(['0', '1'])
  expect(threeMf.read(bytes)).toHaveLength(2)
})
