import { inflateRawSync } from 'node:zlib'

/**
 * Readers written apart from the product's own, for checking what it writes: binary STL by its published layout, OBJ line by line, 3MF by
 * walking the zip's central directory and matching the model's elements. Nothing of the product is imported here.
 */
export interface Figures {
  triangles: number
  closed: boolean
  volume: number
  size: [number, number, number]
}

export type Point = [number, number, number]

export function stlFigures(bytes: Buffer): Figures {
  return figures(stlFacets(bytes))
}

export function stlFacets(bytes: Buffer): Point[][] {
  const count = bytes.readUInt32LE(80)
  if (bytes.length !== 84 + 50 * count) throw new Error('the length does not fit the count')
  return Array.from({ length: count }, (_, t) =>
    [0, 1, 2].map((c) => [0, 1, 2].map((i) => bytes.readFloatLE(84 + 50 * t + 12 + 12 * c + 4 * i)) as Point),
  )
}

export function objFacets(bytes: Buffer): Point[][] {
  const rows = bytes.toString('utf8').split('\n')
  const points = rows.filter((row) => row.startsWith('v ')).map((row) => row.slice(2).split(' ').map(Number) as Point)
  return rows
    .filter((row) => row.startsWith('f '))
    .map((row) =>
      row
        .slice(2)
        .split(' ')
        .map((corner) => points[Number(corner) - 1]!),
    )
}

export function threeMfFigures(bytes: Buffer): Figures & { unit: string; objects: string[] } {
  const { facets, ...named } = threeMfFacets(bytes)
  return { ...figures(facets), ...named }
}

export function threeMfFacets(bytes: Buffer): { facets: Point[][]; unit: string; objects: string[] } {
  const xml = unzipped(bytes, '3D/3dmodel.model').toString('utf8')
  const unit = /<model[^>]*\bunit="(\w+)"/.exec(xml)![1]!
  const attribute = (text: string, name: string) => Number(new RegExp(`\\b${name}="([^"]+)"`).exec(text)![1])
  const objects = [...xml.matchAll(/<object\b([^>]*)>([\s\S]*?)<\/object>/g)]
  const facets = objects.flatMap(([, , body]) => {
    const points = [...body!.matchAll(/<vertex\b([^>]*)\/>/g)].map(
      (m) => ['x', 'y', 'z'].map((n) => attribute(m[1]!, n)) as Point,
    )
    return [...body!.matchAll(/<triangle\b([^>]*)\/>/g)].map((m) =>
      ['v1', 'v2', 'v3'].map((n) => points[attribute(m[1]!, n)]!),
    )
  })
  return { facets, unit, objects: objects.map(([, head]) => /name="([^"]*)"/.exec(head!)![1]!) }
}

/** Every directed edge must be met by its opposite exactly as often; the volume is the sum of signed tetrahedra. */
export function figures(facets: Point[][]): Figures {
  const edges = new Map<string, number>()
  let volume = 0
  const low: Point = [Infinity, Infinity, Infinity]
  const high: Point = [-Infinity, -Infinity, -Infinity]
  for (const [a, b, c] of facets as [Point, Point, Point][]) {
    for (const [p, q] of [
      [a, b],
      [b, c],
      [c, a],
    ] as const)
      edges.set(`${p}|${q}`, (edges.get(`${p}|${q}`) ?? 0) + 1)
    volume +=
      (a[0] * (b[1] * c[2] - b[2] * c[1]) - a[1] * (b[0] * c[2] - b[2] * c[0]) + a[2] * (b[0] * c[1] - b[1] * c[0])) / 6
    for (const p of [a, b, c])
      for (const i of [0, 1, 2] as const) {
        low[i] = Math.min(low[i], p[i])
        high[i] = Math.max(high[i], p[i])
      }
  }
  const closed = [...edges].every(([edge, count]) => edges.get(edge.split('|').reverse().join('|')) === count)
  return { triangles: facets.length, closed, volume, size: [high[0] - low[0], high[1] - low[1], high[2] - low[2]] }
}

export function unzipped(bytes: Buffer, name: string): Buffer {
  const entry = entriesOf(bytes).find((each) => each.name === name)
  if (!entry) throw new Error(`${name} is not in the archive`)
  const { method, size, local } = entry
  const start = local + 30 + bytes.readUInt16LE(local + 26) + bytes.readUInt16LE(local + 28)
  const data = bytes.subarray(start, start + size)
  return method === 0 ? data : inflateRawSync(data)
}

export function unzippedNames(bytes: Buffer): string[] {
  return entriesOf(bytes).map(({ name }) => name)
}

/** The zip's central directory. */
function entriesOf(bytes: Buffer) {
  const end = bytes.lastIndexOf(Buffer.from([0x50, 0x4b, 5, 6]))
  let at = bytes.readUInt32LE(end + 16)
  return Array.from({ length: bytes.readUInt16LE(end + 10) }, () => {
    const nameLength = bytes.readUInt16LE(at + 28)
    const entry = {
      name: bytes.toString('utf8', at + 46, at + 46 + nameLength),
      method: bytes.readUInt16LE(at + 10),
      size: bytes.readUInt32LE(at + 20),
      local: bytes.readUInt32LE(at + 42),
    }
    at += 46 + nameLength + bytes.readUInt16LE(at + 30) + bytes.readUInt16LE(at + 32)
    return entry
  })
}
