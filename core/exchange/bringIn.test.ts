import fc from 'fast-check'
import { strToU8 } from 'fflate'
import { describe, expect, it } from 'vitest'
import { AssetValue } from '../fields/index.ts'
import { meshFigures, type TriangleMesh } from '../mesh/index.ts'
import { importedMesh } from '../shapes/index.ts'
import { codeOf, seeded, testKernel } from '../testing/index.ts'
import { boxMesh, insideOut, joinedMesh, movedMesh, tubeMesh } from '../testing/meshes.ts'
import { real, runs } from '../testing/sample.ts'
import { itInTurn } from '../testing/turns.ts'
import { bringIn, formatOf, formats, inEachUnit, openMesh } from './index.ts'

const bed = [220, 220, 250] as const
const written = (format: string, mesh: TriangleMesh, name = 'T') => formatOf(format)!.write([{ name, mesh }], 'Test')
const opened = (file: string, bytes: Uint8Array) => openMesh(file, bytes, bed, formats)
const solidOf = (hash: { hash: string; name: string; data: string }) => importedMesh(new AssetValue(hash))

/** A block about z, standing on z = 0. */
const centred = (width: number, depth: number, height: number) =>
  movedMesh(boxMesh(width, depth, height), [-width / 2, -depth / 2, 0])

describe('a mesh file', () => {
  it.each(['stl', '3mf', 'obj'])('%s comes in about its middle and on its lowest point', (format) => {
    const mesh = movedMesh(tubeMesh(24, 10, 15), [85.1, -37.3, 12.7])
    const file = opened(`Cap lid.${format.toUpperCase()}`, written(format, mesh))
    expect([file.unit, file.stated]).toEqual(['mm', format === '3mf'])
    const [piece, ...more] = bringIn(file, file.unit)
    expect(more).toEqual([])
    expect(piece!.asset.name).toBe(`Cap lid.${format.toUpperCase()}`)
    expect(piece!.name).toBe(format === 'stl' ? 'Cap lid' : 'T')
    const { box, surfaces: named } = solidOf(piece!.asset)
    const surfaces = named('place')
    box.min.forEach((x, i) => void expect(x).toBeCloseTo([-12, -12, 0][i]!, 4))
    box.max.forEach((x, i) => void expect(x).toBeCloseTo([12, 12, 15][i]!, 4))
    expect(surfaces.faces.map(({ name }) => name)).toEqual(['top', 'bottom', 'round 1', 'bore 1'])
    piece!.at.forEach((x) => void expect(x).toBeCloseTo(0, 5))
  })
  it('is guessed to be in the first unit that it fits the bed in, and comes in that which is said', () => {
    const guess = (size: number) => opened('x.stl', written('stl', boxMesh(size, size / 2, size / 3))).unit
    expect([40, 210, 430, 5.1].map(guess)).toEqual(['mm', 'mm', 'mm', 'mm'])
    expect([4.9, 2.41, 0.2].map(guess)).toEqual(['in', 'in', 'in'])
    expect([0.19, 0.02].map(guess)).toEqual(['m', 'm'])
    // Nothing fits: as it is.
    expect(guess(5000)).toBe('mm')
    expect(inEachUnit([2.41, 1.63, 1 / 3], bed).map(({ unit, is }) => `${unit} ${is}`)).toEqual([
      'mm too small',
      'in printable',
      'm too large',
      'cm printable',
      'ft too large',
    ])
    // Tipped onto another side it fits.
    expect(inEachUnit([240, 31, 15.3], [220, 220, 250])[0]).toMatchObject({ is: 'printable', size: [240, 31, 15.3] })
    expect(inEachUnit([240, 230, 15.3], [220, 220, 250])[0]!.is).toBe('too large')
    const file = opened('x.stl', written('stl', boxMesh(3, 2, 1)))
    const volume = (unit: Parameters<typeof bringIn>[1]) => meshFigures(solidOf(bringIn(file, unit)[0]!.asset)).volume
    expect(volume('in')).toBeCloseTo(6 * 25.4 ** 3, 1)
    expect(volume('mm')).toBeCloseTo(6, 5)
  })
  it('with several pieces keeps them where they are to one another', () => {
    const pieces = [
      { name: 'Base', mesh: boxMesh(40, 30, 10) },
      { name: 'Lid', mesh: movedMesh(boxMesh(40, 30, 4), [0, 0, 12.7]) },
    ]
    for (const format of ['3mf', 'obj']) {
      const [base, lid] = bringIn(opened(`x.${format}`, formatOf(format)!.write(pieces, 'Test')), 'mm')
      expect([base!.name, lid!.name]).toEqual(['Base', 'Lid'])
      expect(lid!.at[2] - base!.at[2]).toBeCloseTo(12.7, 4)
      expect([...base!.at.slice(0, 2), ...lid!.at.slice(0, 2)].every((x) => Math.abs(x) < 1e-4)).toBe(true)
    }
  })
  it('that is not closed, or does not face one way, is refused with where', () => {
    const box = boxMesh(40, 30, 10)
    const open = { ...box, triangles: box.triangles.slice(3) }
    expect(() => bringIn(opened('lid.stl', written('stl', open)), 'mm')).toThrow(
      /“lid” is not closed: 3 edges .* near \d+, \d+, 0 in the file/,
    )
    const flipped = { ...box, triangles: Uint32Array.from([0, 1, 2].map((i) => box.triangles[2 - i]!)) }
    const one = { ...box, triangles: Uint32Array.from([...flipped.triangles, ...box.triangles.slice(3)]) }
    expect(codeOf(() => bringIn(opened('lid.stl', written('stl', one)), 'mm'))).toBe('mesh-flipped')
    // Inside out as a whole it is turned.
    const inside = { ...box, triangles: box.triangles.map((_, i) => box.triangles[i - (i % 3) + (2 - (i % 3))]!) }
    expect(meshFigures(inside).volume).toBeLessThan(0)
    const [turned] = bringIn(opened('lid.stl', written('stl', inside)), 'mm')
    expect(meshFigures(solidOf(turned!.asset)).volume).toBeCloseTo(12_000, 2)
  })
  it('of faces with many corners is what they enclose, concave ones too, with a bar that stands free in its slot', () => {
    // A channel, open at the top, as two faces of eight corners and eight of four; and a bar between its walls.
    const [wide, high, wall, long] = [31.3, 17.9, 4.3, 12.7]
    const outline = [
      ...[
        [0, 0],
        [wide, 0],
        [wide, high],
        [wide - wall, high],
        [wide - wall, wall],
        [wall, wall],
        [wall, high],
        [0, high],
      ],
    ]
    const bar = [
      [9, 7.1],
      [21.3, 7.1],
      [21.3, 11.5],
      [9, 11.5],
    ]
    const prism = (ring: readonly (readonly number[])[], before: number, from: number) => {
      const n = ring.length
      const at = (i: number, end: 0 | 1) => before + 1 + ((from + i) % n) + end * n
      const all = ring.map((_, i) => i)
      return [
        ...[0, long].flatMap((y) => ring.map(([x, z]) => `v ${x} ${y} ${z}`)),
        `f ${all.map((i) => at(i, 0)).join(' ')}`,
        `f ${all
          .toReversed()
          .map((i) => `${at(i, 1)}/1`)
          .join(' ')}`,
        ...all.map((i) => `f ${at(i + 1, 0)} ${at(i, 0)} ${at(i, 1)} ${at(i + 1, 1)}`),
      ]
    }
    for (let from = 0; from < 8; from++) {
      const text = [...prism(outline, 0, from), ...prism(bar, 16, from % 4)].join('\n')
      const [piece] = bringIn(opened('channel.obj', strToU8(text)), 'mm')
      const { volume, area, solids } = meshFigures(solidOf(piece!.asset))
      const [channel, inner] = [wide * high - (wide - 2 * wall) * (high - wall), 12.3 * 4.4]
      const around = 2 * (wide + high) + 2 * (high - wall) + 2 * (12.3 + 4.4)
      expect([volume, area, solids]).toEqual([
        expect.closeTo((channel + inner) * long, 1),
        expect.closeTo(2 * (channel + inner) + around * long, 1),
        2,
      ])
    }
  })
  it('of faces without area, or that cross themselves, says what is wrong with it', () => {
    const read = (text: string) => () => opened('x.obj', strToU8(text))
    expect(codeOf(read('v 0 0 0\nv 1 0 0\nv 0 1 0\nf 1 1 2'))).toBe('mesh-empty')
    expect(read('v 0 0 0\nv 9.1 8.5 0\nv 9.1 0 0\nv 0 6.1 0\nf 1 2 3 4')).toThrow(/face of 4 corners crosses itself/)
    // Five corners, one side through the middle of another: the triangulation breaks off on it.
    const crossed = 'v 15.3 10.2 0\nv 0 10.2 0\nv 0 0 0\nv 10.2 15.3 0\nv 10.2 10.2 0\nf 1 2 3 4 5'
    expect(read(crossed)).toThrow(/face of 5 corners crosses itself/)
  })
  it('with triangles that are there twice, or have no area, comes in without them', () => {
    const block = centred(30.7, 20.3, 10.1)
    const doubled = { ...block, triangles: Uint32Array.from([...block.triangles, ...block.triangles.slice(6, 12)]) }
    const [one] = bringIn(opened('x.stl', written('stl', doubled)), 'mm')
    expect([one!.leftOut, meshFigures(solidOf(one!.asset)).volume]).toEqual([2, expect.closeTo(30.7 * 20.3 * 10.1, 1)])
    // Half a mm below it: it is not what the block stands on.
    const stray = {
      positions: Float32Array.from([...block.positions, 0, 0, -0.5, 1, 0, -0.5, 2, 0, -0.5]),
      triangles: Uint32Array.from([...block.triangles, ...[0, 1, 2].map((i) => block.positions.length / 3 + i)]),
    }
    const file = opened('x.stl', written('stl', stray))
    expect([file.min[2], file.max[2]]).toEqual([0, expect.closeTo(10.1, 4)])
    const [two] = bringIn(file, 'mm')
    expect([two!.leftOut, two!.at[2]]).toEqual([1, 0])
    expect(solidOf(two!.asset).box.min[2]).toBeCloseTo(0, 9)
  })
  it('with a lone triangle on a slanted line comes in without it, however its corners are rounded', () => {
    const block = movedMesh(centred(30.7, 20.3, 10.1), [37.3, -85.1, 0])
    const anywhere = real(-90, 90)
    fc.assert(
      fc.property(fc.tuple(anywhere, anywhere), fc.tuple(anywhere, anywhere), (from, to) => {
        const ends = [
          [...from, -1 / 3],
          [...to, -15.3],
        ] as const
        const between = [0, 1, 2].map((k) => ends[0][k]! + (ends[1][k]! - ends[0][k]!) / 3)
        const stray = {
          positions: Float32Array.from([...block.positions, ...ends[0], ...between, ...ends[1]]),
          triangles: Uint32Array.from([...block.triangles, ...[0, 1, 2].map((i) => block.positions.length / 3 + i)]),
        }
        const file = opened('x.stl', written('stl', stray))
        expect([file.min[2], file.max[2]]).toEqual([0, expect.closeTo(10.1, 4)])
        const [one] = bringIn(file, 'mm')
        expect([one!.leftOut, one!.at[2]]).toEqual([1, 0])
      }),
    )
  })
  it('with a thin plate far off the middle keeps it', () => {
    const plate = movedMesh(centred(30.7, 20.3, 0.1), [85_100, -37_300, 0])
    const [one] = bringIn(opened('x.stl', written('stl', plate)), 'mm')
    expect([one!.leftOut, solidOf(one!.asset).box.max[2]]).toEqual([0, expect.closeTo(0.1, 4)])
  })
  it('of bodies that run into one another is one of them all, and is told so', async () => {
    const kernel = await testKernel()
    fc.assert(
      fc.property(real(0.13, 0.87), real(0, 90), (share, turn) => {
        const [a, b] = [centred(40.3, 30.1, 10.7), centred(20.1, 12.3, 37.3)]
        const rad = (turn * Math.PI) / 180
        const turned = {
          ...b,
          positions: Float32Array.from(b.positions, (x, i) => {
            const [px, py] = [b.positions[i - (i % 3)]!, b.positions[i - (i % 3) + 1]!]
            return [Math.cos(rad) * px - Math.sin(rad) * py, Math.sin(rad) * px + Math.cos(rad) * py, x][i % 3]!
          }),
        }
        const both = joinedMesh([a, movedMesh(turned, [0, 0, 10.7 * share])])
        const file = opened('x.stl', written('stl', both))
        expect(codeOf(() => bringIn(file, 'mm'))).toBe('mesh-overlaps')
        const [piece] = bringIn(file, 'mm', kernel)
        expect(piece!.united).toBe(2)
        const { volume, solids } = meshFigures(solidOf(piece!.asset))
        const shared = 20.1 * 12.3 * 10.7 * (1 - share)
        expect([volume, solids]).toEqual([expect.closeTo(40.3 * 30.1 * 10.7 + 20.1 * 12.3 * 37.3 - shared, 1), 1])
      }),
      { numRuns: runs(60) },
    )
  })
  it('whose surface runs through itself is refused with where, and one that only touches is not', async () => {
    const kernel = await testKernel()
    // A prism over a five-pointed star that is drawn in one line.
    const star = [0, 2, 4, 1, 3].map((i) => {
      const rad = (2 * Math.PI * i) / 5 + 0.3
      return [17.3 * Math.cos(rad), 17.3 * Math.sin(rad)] as const
    })
    const prism = {
      positions: Float32Array.from([0, 9.1].flatMap((z) => star.flatMap(([x, y]) => [x, y, z]))),
      triangles: Uint32Array.from([
        ...[1, 2, 3].flatMap((i) => [0, i + 1, i, 5, 5 + i, 6 + i]),
        ...[0, 1, 2, 3, 4].flatMap((i) => {
          const next = (i + 1) % 5
          return [i, next, 5 + next, i, 5 + next, 5 + i]
        }),
      ]),
    }
    expect(codeOf(() => bringIn(opened('star.stl', written('stl', prism)), 'mm', kernel))).toBe('mesh-crosses')
    const stacked = joinedMesh([centred(20, 20, 10), movedMesh(centred(13, 7, 5), [0, 0, 10])])
    expect(bringIn(opened('x.stl', written('stl', stacked)), 'mm')[0]!.united).toBe(0)
    // Bodies with cavities keep them where the other one does not reach.
    const hollow = joinedMesh([centred(40, 30, 20), insideOut(movedMesh(centred(10.3, 10.1, 5.7), [-8, 0, 4]))])
    const more = joinedMesh([hollow, movedMesh(centred(12.1, 9.3, 33.3), [12.7, 0, 3.1])])
    const [piece] = bringIn(opened('x.stl', written('stl', more)), 'mm', kernel)
    const { volume, cavities } = meshFigures(solidOf(piece!.asset))
    expect(cavities).toEqual([expect.closeTo(10.3 * 10.1 * 5.7, 1)])
    expect(volume).toBeCloseTo(40 * 30 * 20 - 10.3 * 10.1 * 5.7 + 12.1 * 9.3 * (33.3 + 3.1 - 20), 1)
    // Where it reaches into the cavity, what is inside cannot be told.
    const into = joinedMesh([hollow, movedMesh(centred(12.1, 9.3, 33.3), [-7.3, 0, 6.1])])
    expect(codeOf(() => bringIn(opened('x.stl', written('stl', into)), 'mm', kernel))).toBe('mesh-crosses')
  })
  it('of bodies that touch along an edge is parted there', () => {
    const touching = [boxMesh(10, 10, 10), movedMesh(boxMesh(10, 10, 10), [10, 10, 0])]
    const mesh = {
      positions: Float32Array.from(touching.flatMap(({ positions }) => [...positions])),
      triangles: Uint32Array.from([...touching[0]!.triangles, ...touching[1]!.triangles.map((i) => i + 8)]),
    }
    const [piece] = bringIn(opened('x.stl', written('stl', mesh)), 'mm')
    const { positions, triangles } = solidOf(piece!.asset)
    const times = new Map<string, number>()
    for (let i = 0; i < triangles.length; i++) {
      const key = `${triangles[i]} ${triangles[i % 3 === 2 ? i - 2 : i + 1]}`
      times.set(key, (times.get(key) ?? 0) + 1)
    }
    expect([...times.values()].every((n) => n === 1)).toBe(true)
    expect(meshFigures({ positions, triangles }).volume).toBeCloseTo(2000, 3)
  })
  itInTurn(2, 'of another kind, or with too much in it, is refused', () => {
    expect(codeOf(() => opened('lid.step', new Uint8Array(10)))).toBe('mesh-kind')
    expect(codeOf(() => opened('lid.obj', new TextEncoder().encode('v 1 2 3\n')))).toBe('mesh-empty')
    const many = tubeMesh(24, 10, 15, 51_000)
    expect(codeOf(() => bringIn(opened('lid.obj', written('obj', many)), 'mm'))).toBe('mesh-large')
  })
})

describe('obj', () => {
  const read = (text: string) => formatOf('obj')!.read(new TextEncoder().encode(text))
  it('reads polygons, numbers from the end, texture places, lines that go on, and objects', () => {
    const corners = 'v 0 0 0\nv 1 0 0\nv 1 1 0\nv 0 1 0\nv 0 0 1\nv 1 0 1\nv 1 1 1\nv 0 1 1\n'
    const sides = 'f 4 3 2 1\nf 5 6 7 8\nf 1 2 6 5\nf 2/1 3/2 7/3 6/4\nf 3//1 4//2 8//3 \\\n 7//4\nf -8 -4 -1 -5\n'
    const [cube] = read(`# a cube\nmtllib x.mtl\n${corners}vn 0 0 1\ng side\n${sides}`)
    expect(meshFigures(cube!.mesh)).toMatchObject({ closed: true, oriented: true })
    expect(meshFigures(cube!.mesh).volume).toBeCloseTo(1, 12)
    const two = read(`o One\r\n${corners}${sides}o Two\r\nusemtl b\n${sides}`)
    expect(two.map(({ name, count }) => [name, count])).toEqual([
      ['One', 12],
      ['Two', 12],
    ])
  })
  it.each(['f 1 2 3', 'v 1 2\nf 1 1 1', 'v 0 0 0\nf 0 1 1', 'v 0 0 0\nf 1 1', 'v a b c\nf 1 1 1', 'v 1 1 1\nf x y z'])(
    'refuses %j',
    (text) => {
      expect(codeOf(() => read(text))).toBe('mesh-unreadable')
    },
  )
  it('writes numbers as short as they are', () => {
    const random = seeded(3)
    const positions = Float32Array.from({ length: 300 }, () => 100 * random())
    const triangles = Uint32Array.from({ length: 99 }, (_, i) => i)
    const text = new TextDecoder().decode(
      formatOf('obj')!.write([{ name: 'a  b\n', mesh: { positions, triangles } }], 'T'),
    )
    expect(text).toContain('\no a b\n')
    const numbers = [...text.matchAll(/^v (.*)$/gm)].flatMap(([, own]) => own!.split(' ').map(Number))
    expect(Float32Array.from(numbers)).toEqual(positions)
  })
})
