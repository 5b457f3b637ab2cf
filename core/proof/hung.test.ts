import { describe, expect, it } from 'vitest'
import type { Part, Step } from '../document/index.ts'
import type { SolidMesh } from '../kernel/index.ts'
import { layerMiddle } from '../layers/index.ts'
import { built, partOf, seeded, step, testKernel } from '../testing/index.ts'
import { sampled } from '../testing/sample.ts'
import { proofOf } from './index.ts'

const kernel = await testKernel()
const printer = partOf([]).printer

/** Blocks, bars, balls and rings on a plate, above each other and beside each other, with holes through them, as they come. */
function heap(random: () => number): Part {
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
  const foot = step('foot', 'plate', { width: '24', depth: '24', height: '1.4' })
  const adds = Array.from({ length: 2 + Math.floor(4 * random()) }, (_, i) => one(i, 'add'))
  const cuts = Array.from({ length: Math.floor(3 * random()) }, (_, i) => one(i, 'cut'))
  return partOf([foot, ...adds, ...cuts])
}

const side = 0.3
const count = 160

/** Where a solid is filled, on lines straight up through the middles of small squares: heights at which it begins and ends, by turns. */
function columnsOf({ positions, triangles }: SolidMesh): readonly (readonly number[])[] {
  const columns = Array.from({ length: count * count }, (): number[] => [])
  const middle = (i: number) => (i - count / 2 + 0.4931) * side
  const square = (x: number) => x / side + count / 2 - 0.4931
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
        const [x, y] = [middle(i), middle(k)]
        const u = ((bx - x) * (cy - y) - (by - y) * (cx - x)) / twice
        const v = ((cx - x) * (ay - y) - (cy - y) * (ax - x)) / twice
        if (u < 0 || v < 0 || u + v > 1) continue
        columns[i * count + k]!.push(u * az + v * bz + (1 - u - v) * cz)
      }
  }
  for (const column of columns) column.sort((p, q) => p - q)
  return columns
}

/**
 * What hangs, counted in squares: of each layer those that have nothing below them within what may lean, and where in each of many ways
 * one end of the line through them is free. `surely`: more by a little than is allowed, and large enough for a line; `hardly`: any at all.
 */
function counted(mesh: SolidMesh) {
  const columns = columnsOf(mesh)
  const top = Math.max(...columns.map((column) => column.at(-1) ?? 0))
  const known = new Map<number, Uint8Array>()
  const filledIn = (layer: number) => {
    const z = layerMiddle(layer, printer)
    const own =
      known.get(layer) ?? Uint8Array.from(columns, (column) => column.filter((height) => height < z).length % 2)
    known.set(layer, own)
    return own
  }
  const grownBy = (filled: Uint8Array, by: number) => {
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
  let [surely, hardly] = [0, 0]
  let before = filledIn(0)
  for (let layer = 1; layerMiddle(layer, printer) < top; layer++) {
    const z = layerMiddle(layer, printer)
    const filled = filledIn(layer)
    const may = (z - layerMiddle(layer - 1, printer)) * Math.tan((printer.overhang * Math.PI) / 180)
    const held = before.slice()
    for (let k = layer - 2; k >= 0 && z - layerMiddle(k, printer) < 1.1; k--)
      for (const [i, own] of filledIn(k).entries()) if (own) held[i] = 1
    const [wide, narrow] = [grownBy(held, may + 0.45), grownBy(before, Math.max(0, may - 0.2))]
    const open = filled.map((own, i) => (own && !wide[i] ? 1 : 0))
    hardly += filled.reduce((sum, own, i) => sum + (own && !narrow[i] ? 1 : 0), 0)
    const isFree = (start: number) =>
      Array.from({ length: 24 }, (_, w) => (w * Math.PI) / 24).every((way) =>
        [1, -1].some((sign) => {
          for (let far = 1; ; far++) {
            const i = Math.round(Math.floor(start / count) + sign * far * Math.cos(way))
            const k = Math.round((start % count) + sign * far * Math.sin(way))
            if (held[i * count + k]) return false
            if (!filled[i * count + k]) return true
          }
        }),
      )
    // A whole line wide, and several long.
    const free = open.map((own, i) => (own && isFree(i) ? 1 : 0))
    const inner = free.map((own, i) => (own && free[i + 1] && free[i + count] && free[i + count + 1] ? 1 : 0))
    surely = Math.max(surely, inner.reduce((sum, own) => sum + own, 0) * side * side)
    before = filled
  }
  return { surely, hardly: hardly * side * side }
}

describe('what hangs of a heap of blocks, bars and balls', () => {
  it.each(sampled(100, 1, 20))('is told, and nothing else (%i)', async (i) => {
    const drawn = await built(kernel, heap(seeded(104729 + i)), 0.05)
    const findings = await proofOf(kernel, drawn, { only: ['overhangs', 'islands', 'bridges'] })
    const told = findings.filter(({ code, rank }) => rank !== 'pass' && !code.startsWith('bridges'))
    const { surely, hardly } = counted(drawn.pieces[0]!.solid!.mesh())
    const said = findings.map(({ text }) => text).join('\n')
    if (surely > 0.6) expect(told.length, `${surely} mm² hang: ${said}`).toBeGreaterThan(0)
    if (hardly === 0) expect(told.map(({ text }) => text)).toEqual([])
  })
})
