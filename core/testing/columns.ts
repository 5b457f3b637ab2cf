import type { Part, Step } from '../document/index.ts'
import type { SolidMesh } from '../kernel/index.ts'
import { partOf, step } from './index.ts'

/** Blocks, bars and balls on a plate, above each other and beside each other, with holes through them, as they come. */
export function heap(random: () => number, foot = 24): Part {
  const between = (low: number, high: number) => low + (high - low) * random()
  const at = (mm: number) => ({ from: 'centre', to: 'centre', by: `${mm}` }) as const
  const one = (i: number, operation: 'add' | 'cut'): Step => {
    const place = {
      ...{ across: at(between(-9, 9)), along: at(between(-9, 9)), rest: 'on' as const, turn: `${between(-180, 180)}` },
      ...{ lift: `${random() < 0.5 ? 0.7 : between(1, 12)}`, lean: random() < 0.5 ? '0' : `${between(-70, 70)}` },
    }
    const kinds: readonly [string, Record<string, string>][] = [
      ['plate', { width: `${between(2, 16)}`, depth: `${between(2, 9)}`, height: `${between(1.5, 11)}` }],
      ['bar', { diameter: `${between(2, 8)}`, height: `${between(3, 14)}` }],
      ['ball', { diameter: `${between(3, 9)}` }],
    ]
    const [kind, fields] = kinds[Math.floor(random() * kinds.length)]!
    return step(`${operation}${i}`, kind, fields, { operation, place })
  }
  const plate = step('foot', 'plate', { width: `${foot}`, depth: `${foot}`, height: '1.4' })
  const adds = Array.from({ length: 2 + Math.floor(4 * random()) }, (_, i) => one(i, 'add'))
  const cuts = Array.from({ length: Math.floor(3 * random()) }, (_, i) => one(i, 'cut'))
  return partOf([plate, ...adds, ...cuts])
}

/** Squares seen from above, `count` each way about the middle, each `side` mm wide: number `count * i + k` is the one at i along x, k along y. */
export interface Squares {
  readonly side: number
  readonly count: number
}

/** So that no line runs along a side, squares lie off by a share of one. */
const off = 0.4931

export function middleOfSquare({ side, count }: Squares, square: number): readonly [x: number, y: number] {
  const middle = (i: number) => (i - count / 2 + off) * side
  return [middle(Math.floor(square / count)), middle(square % count)]
}

/**
 * Where a solid is filled, on lines straight up through the middles of squares: heights at which it begins and ends, by turns. It shares
 * nothing with how solids are cut into layers.
 */
export function columnsOf({ positions, triangles }: SolidMesh, squares: Squares): readonly (readonly number[])[] {
  const { side, count } = squares
  const columns = Array.from({ length: count * count }, (): number[] => [])
  const square = (x: number) => x / side + count / 2 - off
  for (let t = 0; t < triangles.length; t += 3) {
    const corner = (k: number) => {
      const v = 3 * triangles[t + k]!
      return [positions[v]!, positions[v + 1]!, positions[v + 2]!] as const
    }
    const [[ax, ay, az], [bx, by, bz], [cx, cy, cz]] = [corner(0), corner(1), corner(2)]
    const twice = (bx - ax) * (cy - ay) - (by - ay) * (cx - ax)
    if (twice === 0) continue
    for (let i = Math.ceil(square(Math.min(ax, bx, cx))); i <= square(Math.max(ax, bx, cx)); i++)
      for (let k = Math.ceil(square(Math.min(ay, by, cy))); k <= square(Math.max(ay, by, cy)); k++) {
        const own = columns[i * count + k]
        if (!own || k < 0 || k >= count) throw new Error('the solid reaches beyond the squares')
        const [x, y] = middleOfSquare(squares, i * count + k)
        const u = ((bx - x) * (cy - y) - (by - y) * (cx - x)) / twice
        const v = ((cx - x) * (ay - y) - (cy - y) * (ax - x)) / twice
        if (u < 0 || v < 0 || u + v > 1) continue
        own.push(u * az + v * bz + (1 - u - v) * cz)
      }
  }
  for (const column of columns) column.sort((p, q) => p - q)
  return columns
}

/** Which squares are filled at a height: 1 for each of them. */
export function filledAt(columns: readonly (readonly number[])[], z: number): Uint8Array {
  return Uint8Array.from(columns, (column) => column.filter((height) => height < z).length % 2)
}

/** All squares within so many mm of a filled one. */
export function grownBy({ side, count }: Squares, filled: Uint8Array, by: number): Uint8Array {
  const reach = Math.floor(by / side)
  const out = filled.slice()
  const around = Array.from({ length: (2 * reach + 1) ** 2 }, (_, n) => {
    const [di, dk] = [Math.floor(n / (2 * reach + 1)) - reach, (n % (2 * reach + 1)) - reach]
    return { by: di * count + dk, far: Math.hypot(di, dk) * side }
  }).filter(({ far }) => far <= by)
  for (const [at, own] of filled.entries()) {
    const isInside = filled[at - 1] && filled[at + 1] && filled[at - count] && filled[at + count]
    if (own && !isInside) for (const { by: off } of around) out[at + off] = 1
  }
  return out
}
