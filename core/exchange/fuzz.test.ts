import { readdirSync, readFileSync } from 'node:fs'
import { strFromU8, strToU8, unzipSync, zipSync } from 'fflate'
import { describe, expect, it } from 'vitest'
import { readPartFile, writePartFile } from '../document/index.ts'
import { meshFigures, type TriangleMesh } from '../mesh/index.ts'
import { ProblemError } from '../problems/index.ts'
import { seeded } from '../testing/index.ts'
import { emptyOutline } from '../testing/outlines.ts'
import { drawingFormats, drawnInto, formatOf } from './index.ts'

/** Files of each format that are tried; `npm run fuzz` tries more, and others each time. */
const cases = Number(process.env.MAKREL_FUZZ ?? 300)
const seed = Number(process.env.MAKREL_FUZZ_SEED ?? 1126)

type Random = () => number
const pick = <T>(list: readonly T[], random: Random): T => list[Math.floor(random() * list.length)]!

const awkward = [
  ...['0', '-0', '1e999', '-1e308', '1e-320', 'NaN', 'Infinity', '1000000000', '-1', '2147483648', '0.1.2', ''],
  ...['9'.repeat(400), '1e7', '٣', '0x10', '1,5', '\u0000', '<', '&amp;', '"', 'M', '-', '1e', 'true', 'null', '[]'],
]

/** One text made worse in one of the ways in which files are damaged, or made to be. */
function worse(text: string, random: Random): string {
  const at = () => Math.floor(random() * text.length)
  const stretch = () => {
    const from = at()
    return [from, Math.min(text.length, from + 1 + Math.floor(random() * random() * 400))] as const
  }
  const ways: readonly (() => string)[] = [
    () => {
      const numbers = [...text.matchAll(/-?\d+(\.\d+)?(e-?\d+)?/gi)]
      if (numbers.length === 0) return text
      const found = pick(numbers, random)
      return text.slice(0, found.index) + pick(awkward, random) + text.slice(found.index + found[0].length)
    },
    () => {
      const [from, to] = stretch()
      return text.slice(0, to) + text.slice(from, to).repeat(1 + Math.floor(random() * 30)) + text.slice(to)
    },
    () => {
      const [from, to] = stretch()
      return text.slice(0, from) + text.slice(to)
    },
    () => {
      const [from, to] = stretch()
      const where = at()
      return text.slice(0, where) + text.slice(from, to) + text.slice(where)
    },
    () => {
      const lines = text.split('\n')
      const [a, b] = [Math.floor(random() * lines.length), Math.floor(random() * lines.length)]
      ;[lines[a], lines[b]] = [lines[b]!, lines[a]!]
      return lines.join('\n')
    },
    () => {
      const where = at()
      return text.slice(0, where) + pick(awkward, random) + text.slice(where + (random() < 0.5 ? 1 : 0))
    },
    () => text.slice(0, at()),
  ]
  return pick(ways, random)()
}

function damaged(text: string, random: Random): string {
  let made = text
  for (let i = 0; i < 1 + random() * 4; i++) made = worse(made, random)
  return made
}

function damagedBytes(good: Uint8Array, random: Random): Uint8Array {
  const bytes = Uint8Array.from(good)
  for (let i = 0; i < 1 + random() * 8; i++) {
    const at = Math.floor(random() * bytes.length)
    // Whole numbers and halves of the exponents of single numbers, too.
    if (random() < 0.4 && at + 4 <= bytes.length)
      bytes.set(
        pick(
          [
            [255, 255, 255, 255],
            [0, 0, 128, 127],
            [0, 0, 192, 127],
            [255, 255, 127, 127],
            [0, 0, 0, 0],
          ],
          random,
        ),
        at,
      )
    else bytes[at] = Math.floor(random() * 256)
  }
  return random() < 0.3 ? bytes.subarray(0, Math.floor(random() * bytes.length)) : bytes
}

/** Reads what was made; it is told as a problem, or what comes of it is sound. Tells how long it took, ms. */
function tried<T>(read: () => T, look: (found: T) => void, what: () => string): number {
  const started = performance.now()
  try {
    look(read())
  } catch (error) {
    if (!(error instanceof ProblemError)) throw new Error(`${what()}: ${(error as Error).message}`, { cause: error })
    expect(error.message).not.toMatch(/undefined(?! entity)|\[object/)
  }
  return performance.now() - started
}

function all(name: string, make: (random: Random, i: number) => number): void {
  let [slowest, which] = [0, 0]
  for (let i = 0; i < cases; i++) {
    const took = make(seeded(seed * 1_000_003 + i), i)
    if (took > slowest) [slowest, which] = [took, i]
  }
  if (cases > 300) console.log(`${name}: ${cases} tried, the slowest took ${slowest.toFixed(0)} ms (number ${which})`)
}

function finite(value: unknown, place = ''): void {
  if (typeof value === 'number') {
    if (!Number.isFinite(value)) throw new Error(`${value} at ${place}`)
  } else if (typeof value === 'object' && value !== null)
    for (const [key, inner] of Object.entries(value)) finite(inner, `${place}.${key}`)
}

const svgFiles = [
  `<svg xmlns="http://www.w3.org/2000/svg" width="85.1mm" height="60mm" viewBox="0 0 85.1 60"><defs><path id="p" d="M1 2 C 3 4 5 6 7 8 S 9 1 2 3 Q 4 5 6 7 T 8 9 A 3 4 37.3 1 0 5 6 Z"/></defs>
<g transform="translate(1 2) rotate(37.3) scale(1.5,0.7) skewX(3) matrix(1 0 0 1 3 4)">
<rect x="10" y="10" width="40" height="20" rx="5"/><circle cx="50" cy="40" r="10"/><ellipse cx="5" cy="4" rx="10" ry="5"/>
<polygon points="0,0 10,0 10,10"/><polyline points="1 2 3 4 5,6"/><line x1="0" y1="1" x2="2" y2="3"/>
<use href="#p" x="3" y="4"/><use href="#p"/></g><path style="stroke:red" d="m0,0 h10 v10 h-10 z m2,2 l2 2 a1 2 0 0 1 3 4"/></svg>`,
  '<svg width="2in" viewBox="0 0 50 50"><g><g><path d="M0 0L10 0 10 10Z"/></g></g></svg>',
]
const dxfFiles = [
  [
    ...['0', 'SECTION', '2', 'HEADER', '9', '$INSUNITS', '70', '4', '0', 'ENDSEC'],
    ...['0', 'SECTION', '2', 'BLOCKS', '0', 'BLOCK', '2', 'B', '10', '0', '20', '0', '0', 'LINE', '8', '0'],
    ...['10', '0', '20', '0', '11', '5', '21', '5', '0', 'ENDBLK', '0', 'ENDSEC', '0', 'SECTION', '2', 'ENTITIES'],
    ...[
      '0',
      'LWPOLYLINE',
      '8',
      '0',
      '90',
      '3',
      '70',
      '1',
      '10',
      '0',
      '20',
      '0',
      '42',
      '0.5',
      '10',
      '9',
      '20',
      '0',
      '10',
      '9',
      '20',
      '9',
    ],
    ...[
      '0',
      'CIRCLE',
      '8',
      '0',
      '10',
      '15.3',
      '20',
      '3',
      '40',
      '4.2',
      '0',
      'ARC',
      '8',
      '0',
      '10',
      '1',
      '20',
      '2',
      '40',
      '3',
      '50',
      '15',
      '51',
      '200',
    ],
    ...['0', 'ELLIPSE', '8', '0', '10', '0', '20', '0', '11', '5', '21', '0', '40', '0.5', '41', '0', '42', '6.28'],
    ...[
      '0',
      'SPLINE',
      '8',
      '0',
      '70',
      '8',
      '71',
      '3',
      '72',
      '8',
      '73',
      '4',
      '40',
      '0',
      '40',
      '0',
      '40',
      '0',
      '40',
      '0',
    ],
    ...[
      '40',
      '1',
      '40',
      '1',
      '40',
      '1',
      '40',
      '1',
      '10',
      '0',
      '20',
      '0',
      '10',
      '1',
      '20',
      '2',
      '10',
      '3',
      '20',
      '2',
      '10',
      '4',
      '20',
      '0',
    ],
    ...[
      '0',
      'INSERT',
      '2',
      'B',
      '10',
      '3',
      '20',
      '4',
      '41',
      '2',
      '42',
      '2',
      '50',
      '37.3',
      '70',
      '3',
      '71',
      '2',
      '44',
      '5',
      '45',
      '6',
    ],
    ...[
      '0',
      'POLYLINE',
      '8',
      '0',
      '66',
      '1',
      '0',
      'VERTEX',
      '10',
      '0',
      '20',
      '0',
      '0',
      'VERTEX',
      '10',
      '5',
      '20',
      '1',
      '0',
      'SEQEND',
    ],
    ...['0', 'ENDSEC', '0', 'EOF', ''],
  ].join('\n'),
]

describe('drawings', () => {
  it.each([
    ['svg', svgFiles],
    ['dxf', dxfFiles],
  ])('%s: whatever is in them, a drawing with sound numbers, or a problem', (id, files) => {
    const format = drawingFormats.find((known) => known.id === id)!
    for (const file of files) expect(format.read(file).chains.length).toBeGreaterThan(0)
    const empty = emptyOutline()
    all(id, (random, i) => {
      const text = damaged(pick(files, random), random)
      return tried(
        () => format.read(text),
        (found) => {
          finite(found.chains)
          finite(drawnInto(empty, found).outline)
        },
        () => `${id} ${i} of seed ${seed}`,
      )
    })
  })
})

const tetra: TriangleMesh = {
  positions: new Float64Array([0, 0, 0, 15.3, 0, 0, 0, 85.1, 0, 0, 0, 1 / 3]),
  triangles: new Uint32Array([0, 2, 1, 0, 1, 3, 1, 2, 3, 0, 3, 2]),
}
const textStl = `solid a
${'facet normal 0 0 1\nouter loop\nvertex 0 0 0\nvertex 15.3 0 0\nvertex 0 85.1 1e-3\nendloop\nendfacet\n'.repeat(4)}endsolid a
`

describe('meshes', () => {
  const look = (read: ReturnType<NonNullable<ReturnType<typeof formatOf>>['read']>) => {
    expect(read.length).toBeGreaterThan(0)
    for (const { mesh, name, count } of read) {
      expect(typeof name).toBe('string')
      expect(Number.isInteger(count)).toBe(true)
      for (const at of mesh.triangles)
        if (at * 3 + 2 >= mesh.positions.length) throw new Error(`corner ${at} is not there`)
      if (!Number.isFinite(meshFigures(mesh).volume)) throw new Error('no volume')
    }
  }
  it('stl: whatever is in them, a mesh with a volume, or a problem', () => {
    const format = formatOf('stl')!
    const good = format.write([{ name: 'T', mesh: tetra }], 'Test')
    all('stl', (random, i) => {
      const bytes = random() < 0.5 ? damagedBytes(good, random) : strToU8(damaged(textStl, random))
      return tried(
        () => format.read(bytes),
        look,
        () => `stl ${i} of seed ${seed}`,
      )
    })
  })
  it('obj: whatever is in them, meshes with a volume, or a problem', () => {
    const format = formatOf('obj')!
    const text = strFromU8(
      format.write(
        [
          { name: 'T', mesh: tetra },
          { name: 'A', mesh: tetra },
        ],
        'Test',
      ),
    )
    all('obj', (random, i) =>
      tried(
        () => format.read(strToU8(damaged(text, random))),
        look,
        () => `obj ${i} of seed ${seed}`,
      ),
    )
  })
  it('3mf: whatever is in them, meshes with a volume, or a problem', () => {
    const format = formatOf('3mf')!
    const good = format.write(
      [
        { name: 'T', mesh: tetra, colour: '#123456' },
        { name: 'A & B', mesh: tetra },
      ],
      'Test',
    )
    const files = unzipSync(good)
    const [model] = Object.keys(files).filter((name) => name.endsWith('.model'))
    const text = strFromU8(files[model!]!)
    all('3mf', (random, i) => {
      const bytes =
        random() < 0.25
          ? damagedBytes(good, random)
          : zipSync({ ...files, [model!]: strToU8(damaged(text, random)) }, { level: 0 })
      return tried(
        () => format.read(bytes),
        look,
        () => `3mf ${i} of seed ${seed}`,
      )
    })
  })
})

it('part files: whatever is in them, a part that comes back as it is, or a problem', () => {
  const folder = new URL('../../demo/', import.meta.url)
  const files = readdirSync(folder).map((name) => readFileSync(new URL(name, folder), 'utf8'))
  all('part files', (random, i) => {
    const text = damaged(pick(files, random), random)
    return tried(
      () => readPartFile(text),
      (part) => expect(readPartFile(writePartFile(part))).toEqual(part),
      () => `part file ${i} of seed ${seed}`,
    )
  })
})
