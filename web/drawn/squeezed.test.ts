import { fromBytes, toBytes } from '@makrel/core/mesh'
import { expect, it } from 'vitest'
import { squeezed, unsqueezed } from './squeezed.ts'

it('is compressed a piece at a time, and comes out as it was', async () => {
  const long = Float32Array.from({ length: 100_003 }, (_, i) => Math.sin(i))
  let tasks = 0
  const counting = setInterval(() => tasks++)
  const bytes = await squeezed(toBytes({ long }))
  clearInterval(counting)
  expect(fromBytes(await unsqueezed(bytes))).toEqual({ long })
  // What else was to be done got its turns between.
  expect(tasks).toBeGreaterThan(1)
})
