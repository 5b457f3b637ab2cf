import { spawnSync } from 'node:child_process'
import { mkdtempSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { fileURLToPath } from 'node:url'

/** Helpers for tests only: the built command line in a process of its own. */
export const root = fileURLToPath(new URL('..', import.meta.url))
export const demo = (name: string) => join(root, 'demo', `${name}.makrel.json`)
export const folder = () => mkdtempSync(join(tmpdir(), 'makrel-'))

export function makrel(...args: string[]) {
  const { status, stdout, stderr } = spawnSync(process.execPath, [join(root, 'cli/bin/makrel.mjs'), ...args], {
    encoding: 'utf8',
    maxBuffer: 1e8,
  })
  return { status, report: stdout.startsWith('{') ? JSON.parse(stdout) : undefined, stdout, stderr }
}
