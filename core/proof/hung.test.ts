import { describe, expect, it } from 'vitest'
import type { SolidMesh } from '../kernel/index.ts'
import { layerMiddle } from '../layers/index.ts'
import { columnsOf, filledAt, grownBy, heap, type Squares } from '../testing/columns.ts'
import { built, partOf, seeded, testKernel } from '../testing/index.ts'
import { sampled } from '../testing/sample.ts'
import { proofOf } from './index.ts'

const kernel = await testKernel()
const printer = partOf([]).printer

const squares: Squares = { side: 0.3, count: 160 }
const { side, count } = squares

/**
 * What hangs, counted in squares: of each layer those that have nothing below them within what may lean, and where in each of many ways
 * one end of the line through them is free. `surely`: more by a little than is allowed, and large enough for a line; `hardly`: any at all.
 */
function counted(mesh: SolidMesh) {
  const columns = columnsOf(mesh, squares)
  const top = Math.max(...columns.map((column) => column.at(-1) ?? 0))
  const known = new Map<number, Uint8Array>()
  const filledIn = (layer: number) => {
    const z = layerMiddle(layer, printer)
    const own = known.get(layer) ?? filledAt(columns, z)
    known.set(layer, own)
    return own
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
    const [wide, narrow] = [grownBy(squares, held, may + 0.45), grownBy(squares, before, Math.max(0, may - 0.2))]
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
