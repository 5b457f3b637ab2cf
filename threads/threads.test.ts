import { mkdtempSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { afterAll, expect, it } from 'vitest'
import { Readers, Unreadable } from './index.ts'

const worker = join(mkdtempSync(join(tmpdir(), 'makrel-threads-')), 'worker.mjs')
writeFileSync(
  worker,
  `const sleep = (ms) => Atomics.wait(new Int32Array(new SharedArrayBuffer(4)), 0, 0, ms)
   export function wait({ ms }) { sleep(ms); return { value: ms } }
   export function refuse() { return { fault: 'It is no such file.' } }`,
)
const readers = new Readers({ worker, longest: 4000, memory: 256 })
afterAll(() => readers.close())

it('a wait for others is not counted as its own time', async () => {
  const all = await Promise.all([1500, 1501, 1502, 1503].map((ms) => readers.run('wait', { ms })))
  expect(all).toEqual([1500, 1501, 1502, 1503])
})

it('what never ends takes only itself away', async () => {
  const [endless, next, refused] = await Promise.allSettled([
    readers.run('wait', { ms: 1e9 }),
    readers.run('wait', { ms: 1 }),
    readers.run('refuse', {}),
  ])
  expect(endless).toMatchObject({ status: 'rejected', reason: { message: 'It takes longer than 4 seconds to read.' } })
  expect(next).toEqual({ status: 'fulfilled', value: 1 })
  expect(refused).toMatchObject({ status: 'rejected', reason: new Unreadable('It is no such file.') })
})
