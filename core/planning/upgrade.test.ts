import { expect, it, vi } from 'vitest'
import { type Part, readPartFile, writePartFile } from '../document/index.ts'
import { registered } from '../fields/index.ts'
import { newStep, type ShapeDefinition, shapeOf } from '../shapes/index.ts'
import { bundleOf, partOf, step } from '../testing/index.ts'
import { resolvePart, upgraded } from './index.ts'

// A plate whose third version has its height as "thick", and its sizes told across and along.
vi.mock('../shapes/registry.ts', async (original) => {
  const plain = await original<typeof import('../shapes/registry.ts')>()
  const plate = plain.shapeOf('plate')!
  const later: ShapeDefinition = {
    ...plate,
    version: 3,
    upgrades: [
      ({ height, ...rest }) => ({ ...rest, thick: height ?? '5' }),
      ({ width, depth, ...rest }) => ({ ...rest, across: width ?? '1', along: depth ?? '1' }),
    ],
  }
  return { ...plain, shapeOf: (kind: string) => (kind === 'plate' ? later : plain.shapeOf(kind)) }
})

const plate = (id: string, version?: number) => ({
  ...step(id, 'bar'),
  ...{ shape: 'plate', fields: { width: 'wide', depth: '2', height: '3' } },
  ...(version === undefined ? {} : { version }),
})
const fields = (part: Part) => part.pieces[0]!.steps.map(({ fields: own }) => own)

it('brings fields to the version that is known, from each version on, in bundles too', () => {
  const part = readPartFile(writePartFile(partOf([plate('a'), bundleOf('b', [plate('c', 2)])])))
  const now = upgraded(part)
  expect(fields(now)[0]).toEqual({ across: 'wide', along: '2', thick: '3' })
  const [, bundle] = now.pieces[0]!.steps
  // Of the second version the height is told already, whatever it is called.
  expect(bundle).toMatchObject({ steps: [{ version: 3, fields: { across: 'wide', along: '2', height: '3' } }] })
  expect(now.pieces[0]!.steps[0]).toMatchObject({ version: 3 })
  // What is as it should be is the same part.
  expect(upgraded(now)).toBe(now)
  expect(readPartFile(writePartFile(now))).toEqual(now)
})
it('leaves what is of a later version, and tells it', () => {
  const part = partOf([step('base', 'bar'), plate('later', 4)])
  expect(upgraded(part)).toBe(part)
  expect(resolvePart(part).problems.map(({ code, path, rank }) => [code, path[1], rank])).toEqual([
    ['kind-later', 'later', 'warning'],
  ])
})
it('writes the version of what is new', () => {
  expect(newStep('x', { shape: shapeOf('plate')!, fields: {} }).version).toBe(3)
  expect('version' in newStep('x', { shape: shapeOf('bar')!, fields: {} })).toBe(false)
})
it('finds at once where a version has no way to the next', () => {
  expect(() => registered([{ kind: 'x', version: 3, upgrades: [(texts) => texts] }])).toThrow(/x has no way/)
  expect(() => registered([{ kind: 'x', upgrades: [(texts) => texts] }])).toThrow(/x has no way/)
})
