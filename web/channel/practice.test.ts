import { BuildAborted, Builder, measuringFineness } from '@makrel/core/solids'
import { partOf, step, testKernel, treatment } from '@makrel/core/testing'
import { expect, it } from 'vitest'
import { isWorthPractising, practise } from './practice.ts'

const kernel = await testKernel()
const part = partOf([
  step('b', 'plate', { width: '61.3', depth: '37.7', height: '12.2' }),
  treatment('hollow', { thick: '2.1', open: 'b/top' }),
])
const options = { fineness: measuringFineness }

it('builds a part three times over and leaves what was built before as it is', async () => {
  const builder = new Builder(kernel)
  const before = await builder.build(part, options)
  const volume = before.pieces[0]!.solid!.volume()
  expect(await practise(kernel, part, options)).toBe(3)
  expect(before.pieces[0]!.solid!.volume()).toBe(volume)
  expect((await builder.build(part, options)).pieces[0]!.key).toBe(before.pieces[0]!.key)
  builder.clear()
})

it('stops where something newer is wanted, and only then', async () => {
  const signal = { aborted: false }
  let pauses = 0
  const pause = async () => {
    signal.aborted = ++pauses > 3
  }
  await expect(practise(kernel, part, { ...options, signal, pause })).rejects.toThrow(BuildAborted)
  expect(pauses).toBe(4)
})

it('is for builds that take a while, and not for those that would keep an edit waiting', () => {
  expect([39, 40, 600, 2500, 2501].map(isWorthPractising)).toEqual([false, true, true, true, false])
})
