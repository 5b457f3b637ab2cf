import { expect, it } from 'vitest'
import { curveTools, tools } from './registry.ts'

it('gives each tool a key of its own, and none that means something else in an outline', () => {
  const keys = [...tools, ...curveTools].map(({ key }) => key)
  expect(keys.filter((key, i) => keys.indexOf(key) !== i)).toEqual([])
  for (const other of ['n', 'h']) expect(keys).not.toContain(other)
})
