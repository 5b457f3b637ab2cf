import { mkdtempSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { afterAll, expect, it } from 'vitest'
import { Busy, Readers, Unreadable } from './index.ts'

const worker = join(mkdtempSync(join(tmpdir(), 'makrel-threads-')), 'worker.mjs')
writeFileSync(
  worker,
  `const sleep = (ms) => Atomics.wait(new Int32Array(new SharedArrayBuffer(4)), 0, 0, ms)
   export function wait({ ms }) { sleep(ms); return { value: ms } }
   export function spin() { for (;;) Math.sqrt(2) }
   export function refuse() { return { fault: 'It is no such file.' } }`,
)
const readers = new Readers({ worker, longest: 2000, patience: 60_000, memory: 256 })
afterAll(() => readers.close())

it('a wait for others is not counted as its own time', async () => {
  const all = await Promise.all([1500, 1501, 1502, 1503].map((ms) => readers.run('wait', { ms })))
  expect(all).toEqual([1500, 1501, 1502, 1503])
})

it('two things are read at a time, and a long one keeps only its own lane', async () => {
  const order: number[] = []
  await Promise.all([2500, 100, 101].map(async (ms) => void order.push(await readers.run('wait', { ms }))))
  expect(order).toEqual([100, 101, 2500])
})

it('what never ends takes only itself away', async () => {
  const [endless, next, refused] = await Promise.allSettled([
    readers.run('spin', {}),
    readers.run('wait', { ms: 1 }),
    readers.run('refuse', {}),
  ])
  expect(endless).toMatchObject({ status: 'rejected', reason: { message: 'It takes longer than 2 seconds to read.' } })
  expect(next).toEqual({ status: 'fulfilled', value: 1 })
  expect(refused).toMatchObject({ status: 'rejected', reason: new Unreadable('It is no such file.') })
})

it('what gets no processor is not blamed for it', async () => {
  const hasty = new Readers({ worker, longest: 2000, patience: 3000, memory: 256 })
  await expect(hasty.run('wait', { ms: 1e9 })).rejects.toThrow(Busy)
  expect(new Busy().statusCode).toBe(503)
  expect(await hasty.run('wait', { ms: 1 })).toBe(1)
  await hasty.close()
})
