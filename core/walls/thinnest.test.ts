import { describe, expect, it } from 'vitest'
import { copiesOf, namedSolid } from '../solids/index.ts'
import { built, partOf, step, testKernel } from '../testing/index.ts'
import { thinnest } from './thinnest.ts'

const kernel = await testKernel()
const [w, d, h] = [40.3, 30.1, 20.7]
const { pieces, plan } = await built(
  kernel,
  partOf([step('b', 'plate', { width: `${w}`, depth: `${d}`, height: `${h}` })]),
)
const { solid, ownerOf } = pieces[0]!
const named = namedSolid(solid!, copiesOf(plan), ownerOf)
const faceCalled = (face: string) => named.faces.findIndex(({ key }) => key.endsWith(face))

/** The corners of a block within the plate that is so far from its sides, and from its bottom and top. */
function blockWithin(side: number, low: number, high: number): Float64Array {
  const corners: number[] = []
  for (const x of [-w / 2 + side, w / 2 - side])
    for (const y of [-d / 2 + side, d / 2 - side]) for (const z of [low, h - high]) corners.push(x, y, z)
  return Float64Array.from(corners)
}

describe('the thinnest place of a wall', () => {
  it('is told with what it should be, where a corner of the cavity is nearer than the slack allows', () => {
    expect(thinnest(named, () => 2.13, blockWithin(2.13, 2.13, 1.617), 0.05)).toEqual({ least: 1.62, thick: 2.13 })
    expect(thinnest(named, () => 2.13, blockWithin(1.333, 2.13, 1.617), 0.05)).toEqual({ least: 1.33, thick: 2.13 })
    expect(thinnest(named, () => 2.13, blockWithin(3.1, 1.9, 5), 0.05)).toEqual({ least: 1.9, thick: 2.13 })
  })
  it('is none where all are as far as they should be, or short of it by less than the slack', () => {
    expect(thinnest(named, () => 2.13, blockWithin(2.13, 2.13, 2.13), 0.05)).toBeUndefined()
    expect(thinnest(named, () => 2.13, blockWithin(2.09, 2.2, 2.09), 0.05)).toBeUndefined()
    expect(thinnest(named, () => 2.13, blockWithin(2.09, 2.2, 2.09), 0.03)).toEqual({ least: 2.09, thick: 2.13 })
  })
  it('is asked of each face by its own wall, and of none that is open', () => {
    const bottom = faceCalled('bottom')
    const thick = (face: number) => (face === bottom ? 3.3 : 1.27)
    expect(thinnest(named, thick, blockWithin(1.27, 3.3, 1.27), 0.05)).toBeUndefined()
    expect(thinnest(named, thick, blockWithin(1.27, 2.7, 1.27), 0.05)).toEqual({ least: 2.7, thick: 3.3 })
    expect(thinnest(named, thick, blockWithin(0.9, 3.3, 1.27), 0.05)).toEqual({ least: 0.9, thick: 1.27 })
    const open = (face: number) => (face === bottom ? 0 : 1.27)
    expect(thinnest(named, open, blockWithin(1.27, 0, 1.27), 0.05)).toBeUndefined()
    expect(thinnest(named, open, blockWithin(1.27, -3, 0.77), 0.05)).toEqual({ least: 0.77, thick: 1.27 })
  })
})
