import { describe, expect, it } from 'vitest'
import type { TriangleMesh } from '../mesh/index.ts'
import { built, partOf, pointsOf, seeded, step, testKernel } from '../testing/index.ts'
import { boxMesh, joinedMesh, meshAsset, movedMesh, tubeMesh } from '../testing/meshes.ts'
import { sampled } from '../testing/sample.ts'
import { randomSolid } from '../testing/solids.ts'
import { proofOf } from './index.ts'

const kernel = await testKernel()

async function found(part: ReturnType<typeof partOf>) {
  return proofOf(kernel, await built(kernel, part, 0.03), { only: ['crosses'] })
}

/** A part of a mesh as an earlier version may have kept it. */
function partOfMesh(mesh: TriangleMesh) {
  const asset = meshAsset(mesh)
  return partOf([step('m', 'mesh', { mesh: asset.hash })], { assets: [asset] })
}

describe('a surface that runs through itself is a fault', () => {
  it.each([0.1, 1.3, 5.7])('of two blocks in one mesh, %s mm deep in each other', async (deep) => {
    const blocks = [boxMesh(20.3, 15.1, 9.7), movedMesh(boxMesh(7.3, 6.1, 20.7), [5.1, 3.3, 9.7 - deep])]
    const [finding] = await found(partOfMesh(joinedMesh(blocks)))
    expect(finding!.rank).toBe('fault')
    const [mark] = finding!.marks!
    expect(pointsOf(mark).length % 9).toBe(0)
    // Shown where the two meet, at the sides of the second one.
    expect(pointsOf(mark).length).toBeGreaterThan(9 * 4)
  })
  it('of a tube that a block is put through', async () => {
    const [finding] = await found(
      partOfMesh(joinedMesh([tubeMesh(24, 10, 15), movedMesh(boxMesh(40, 3, 3), [-20, -1.5, 6])])),
    )
    expect(finding!.rank).toBe('fault')
  })
  it('touching is none', async () => {
    const stacked = [boxMesh(20.3, 15.1, 9.7), movedMesh(boxMesh(7.3, 6.1, 20.7), [5.1, 3.3, 9.7])]
    expect((await found(partOfMesh(joinedMesh(stacked)))).map(({ rank }) => rank)).toEqual(['pass'])
  })
})

it.each(sampled(40))('random solids are found not to run through themselves (%i)', async (i) => {
  for (const { rank, text } of await found(partOf(randomSolid(seeded(i))))) expect(`${rank} ${text}`).toMatch(/^pass/)
})
