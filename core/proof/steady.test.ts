import { expect, it } from 'vitest'
import type { SolidMesh } from '../kernel/index.ts'
import { layerBottom, layerMiddle } from '../layers/index.ts'
import { columnsOf, heap, middleOfSquare, type Squares } from '../testing/columns.ts'
import { built, partOf, seeded, testKernel } from '../testing/index.ts'
import { sampled } from '../testing/sample.ts'
import { proofOf } from './index.ts'

const kernel = await testKernel()
const { printer } = partOf([])
const squares: Squares = { side: 0.1, count: 480 }

/** The least tilt that topples a solid at any height it is printed to, degrees, by sums over columns: what stands beyond its foot has less than 0. */
function tippedBy(mesh: SolidMesh): number {
  const columns = columnsOf(mesh, squares).flatMap((column, square) => {
    const [x, y] = middleOfSquare(squares, square)
    return column.length > 1 ? [{ x, y, column }] : []
  })
  const first = layerMiddle(0, printer)
  const foot = columns.filter(({ column }) => column.filter((height) => height < first).length % 2 === 1)
  const ways = Array.from({ length: 360 }, (_, i) => [Math.cos((i * Math.PI) / 180), Math.sin((i * Math.PI) / 180)])
  // A foot reaches as far each way as its farthest square, to that one's side.
  const reaches = ways.map(
    ([cos, sin]) =>
      Math.max(...foot.map(({ x, y }) => x * cos! + y * sin!)) + (squares.side / 2) * (Math.abs(cos!) + Math.abs(sin!)),
  )
  const top = Math.max(...columns.map(({ column }) => column.at(-1)!))
  let least = 90
  for (let layer = 0; layerBottom(layer, printer) < top; layer++) {
    const height = Math.min(top, layerBottom(layer + 1, printer))
    const sum = { all: 0, x: 0, y: 0, z: 0 }
    for (const { x, y, column } of columns)
      for (let k = 0; k + 1 < column.length && column[k]! < height; k += 2) {
        const [low, high] = [column[k]!, Math.min(height, column[k + 1]!)]
        sum.all += high - low
        sum.x += (high - low) * x
        sum.y += (high - low) * y
        sum.z += (high ** 2 - low ** 2) / 2
      }
    const [x, y, z] = [sum.x / sum.all, sum.y / sum.all, sum.z / sum.all]
    const depth = Math.min(...ways.map(([cos, sin], i) => reaches[i]! - x * cos! - y * sin!))
    least = Math.min(least, (Math.atan2(depth, z) * 180) / Math.PI)
  }
  return least
}

it.each(sampled(100, 1, 20))('stands as firm as its weight lies over its foot (%i)', async (i) => {
  const random = seeded(15731 * i)
  const drawn = await built(kernel, heap(random, 2 + 9 * random()), 0.05)
  const [found] = await proofOf(kernel, drawn, { only: ['steady'] })
  const tips = tippedBy(drawn.pieces[0]!.solid!.mesh())
  const rough = 0.6 + 0.04 * Math.abs(tips)
  if (tips < -rough) expect(found!.code).toBe('steady-falls')
  if (tips > rough) expect(found!.code).not.toBe('steady-falls')
  if (tips > rough && tips < 5.7 - rough) expect(found!.code).toBe('steady-slender')
  if (tips > 5.7 + rough) expect(found!.code).toBe('steady-firm')
  if (found!.code !== 'steady-falls') expect(Math.abs(Number(found!.values.angle) - tips)).toBeLessThan(rough)
})
