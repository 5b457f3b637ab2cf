import { type ChildProcess, fork, spawnSync } from 'node:child_process'
import { mkdtempSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { fileURLToPath } from 'node:url'
import type { Ended } from './standing.ts'

/** Helpers for tests only: the built command line, in a process of its own. */
export const root = fileURLToPath(new URL('..', import.meta.url))
export const demo = (name: string) => join(root, 'demo', `${name}.makrel.json`)
export const folder = () => mkdtempSync(join(tmpdir(), 'makrel-'))

/** Each worker's own: while one builds, the other's tests run what it would take away. */
const bundle = `cli-test-${process.env.VITEST_POOL_ID ?? 1}`
let made: Promise<void> | undefined

/** Builds the command line as it is now, once in each worker. */
export function built(build: (outDir: string, ...entries: string[]) => Promise<void>): Promise<void> {
  made ??= build(bundle, 'cli/main.ts', 'cli/standing.ts', 'cli/readWorker.ts')
  return made
}

let standing: ChildProcess | undefined

/** One command line after the other, in a process that stands ready for them. */
export async function makrel(...args: string[]) {
  const own = standing ?? fork(join(root, 'dist', bundle, 'standing.js'))
  standing = own
  own.send(args)
  return new Promise<ReturnType<typeof told>>((resolve, reject) => {
    const lost = () => {
      standing = undefined
      reject(new Error(`makrel ${args.join(' ')} took its process with it`))
    }
    own.once('exit', lost).once('message', (ended: Ended) => {
      own.off('exit', lost)
      resolve(told(ended))
    })
  })
}

/** A command line by itself, from its start to its exit code. */
export function makrelAlone(...args: string[]) {
  const options = { encoding: 'utf8', maxBuffer: 1e8 } as const
  return told(spawnSync(process.execPath, [join(root, 'dist', bundle, 'main.js'), ...args], options))
}

function told({ status, stdout, stderr }: { readonly [name in keyof Ended]: Ended[name] | null }) {
  return { status, report: stdout?.startsWith('{') ? JSON.parse(stdout) : undefined, stdout, stderr }
}
