import { expect, it } from 'vitest'
import { cellsOf, middleOf } from '../necks/index.ts'
import { boxMesh } from '../testing/meshes.ts'
import { type Flow, flowBetween } from './flow.ts'

it('falls evenly along a bar, and is none where it does not settle', async () => {
  const [long, size] = [61.7, 1.3]
  const cells = cellsOf(boxMesh(long, 9.1, 7.3), size)
  const shut = new Uint8Array(cells.isInside.length)
  const inside = [...cells.isInside.keys()].filter((cell) => cells.isInside[cell])
  const along = (cell: number) => middleOf(cells, cell)[0]
  const [first, last] = [Math.min(...inside.map(along)), Math.max(...inside.map(along))]
  const held = inside.filter((cell) => along(cell) < first + size / 2)
  const loaded = inside.filter((cell) => along(cell) > last - size / 2)
  const flow = (await flowBetween(cells, shut, held, loaded))!
  for (const cell of inside) expect(flow.potential[cell]).toBeCloseTo((along(cell) - first) / (last - first), 4)
  const lost: Flow = { ...flow, potential: flow.potential.map(() => Number.POSITIVE_INFINITY) }
  expect(await flowBetween(cells, shut, held, loaded, undefined, lost)).toBeUndefined()
})
