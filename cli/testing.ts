import { spawnSync } from 'node:child_process'
import { mkdtempSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { fileURLToPath } from 'node:url'

/** Helpers for tests only: the built command line in a process of its own. */
export const root = fileURLToPath(new URL('..', import.meta.url))
export const demo = (name: string) => join(root, 'demo', `${name}.makrel.json`)
export const folder = () => mkdtempSync(join(tmpdir(), 'makrel-'))

/** Each worker's own: while one builds, the other's tests run what it would take away. */
const bundle = `cli-test-${process.env.VITEST_POOL_ID ?? 1}`
let made: Promise<void> | undefined

/** Builds the command line as it is now, once in each worker. */
export function built(build: (outDir: string, ...entries: string[]) => Promise<void>): Promise<void> {
  made ??= build(bundle, 'cli/main.ts', 'cli/readWorker.ts')
  return made
}

export function makrel(...args: string[]) {
  const { status, stdout, stderr } = spawnSync(process.execPath, [join(root, 'dist', bundle, 'main.js'), ...args], {
    encoding: 'utf8',
    maxBuffer: 1e8,
  })
  return { status, report: stdout.startsWith('{') ? JSON.parse(stdout) : undefined, stdout, stderr }
}
