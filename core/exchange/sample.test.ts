import { expect, it, vi } from 'vitest'
import { checks, proofOf } from '../proof/index.ts'
import { shapeOf, shapes } from '../shapes/index.ts'
import { findShapes, newStep } from '../shapes/search.ts'
import { built, builtTwice, partOf, testKernel } from '../testing/index.ts'
import { bringIn, formatOf, formats, handOff, openMesh } from './index.ts'

// A new kind is its definition and one line of its registry: a shape, a check and a format that are in no other place.
vi.mock('../shapes/registry.ts', async (original) => {
  const plain = await original<typeof import('../shapes/registry.ts')>()
  const { cube } = await import('../testing/kinds.ts')
  return { shapes: [...plain.shapes, cube], shapeOf: (kind: string) => (kind === 'cube' ? cube : plain.shapeOf(kind)) }
})
vi.mock('../proof/registry.ts', async (original) => {
  const plain = await original<typeof import('../proof/registry.ts')>()
  const { lightCheck } = await import('../testing/kinds.ts')
  return { checks: [...plain.checks, lightCheck] }
})
vi.mock('./registry.ts', async (original) => {
  const plain = await original<typeof import('./registry.ts')>()
  const { jsonMesh } = await import('../testing/kinds.ts')
  return {
    formats: [...plain.formats, jsonMesh],
    formatOf: (id: string) => (id === 'jm' ? jsonMesh : plain.formatOf(id)),
  }
})

const kernel = await testKernel()

it('a shape is found, placed, built, checked, handed off and brought in again', async () => {
  expect(shapes.map(({ kind }) => kind)).toContain('cube')
  const [found] = findShapes('cube 15.3')
  const part = partOf([newStep('c', found!)])
  expect(shapeOf('cube')!.label).toBe('cube')
  const done = await built(kernel, part)
  expect(done.problems).toEqual([])
  expect(done.pieces[0]!.solid!.volume()).toBeCloseTo(15.3 ** 3, 6)
  // The new check looks at it, after all others.
  const twice = await builtTwice(kernel, part)
  const findings = await proofOf(kernel, done, { twice })
  expect(findings.at(-1)).toMatchObject({
    check: 'light',
    rank: 'warning',
    code: 'light-more',
    text: 'Piece 1 has more than 1,000 mm³.',
  })
  expect(checks.at(-1)!.id).toBe('light')
  // The new format writes it, reads it back, and lets it come in.
  expect(formats.map(({ id }) => id)).toContain('jm')
  const { bytes, receipt } = handOff(done, formatOf('jm')!, { twice, fineness: 0.01 })
  expect(receipt).toMatchObject({ file: 'Test.jm', closed: true, solids: 1 })
  const [again] = bringIn(openMesh('Test.jm', bytes, [200, 200, 200], formats), 'mm')
  expect(again!.asset.data).toMatch(/^data:model\/mesh;base64,/)
})
