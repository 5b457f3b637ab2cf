// What a fresh machine needs before anything else: packages, and (for tests) Debian's Chromium. Uses Node alone.
import { spawn, spawnSync } from 'node:child_process'
import { createHash } from 'node:crypto'
import { existsSync, mkdirSync, readdirSync, readFileSync, statSync, writeFileSync } from 'node:fs'
import { dirname, join } from 'node:path'
import { fileURLToPath } from 'node:url'

export const root = fileURLToPath(new URL('..', import.meta.url))

export function run(command, args, options = {}) {
  const { status, error } = spawnSync(command, args, { cwd: root, stdio: 'inherit', ...options })
  if (error) throw error
  return status ?? 1
}

const ended = (command, args, status) => {
  process.stderr.write(`${command} ${args.join(' ')} ended with ${status}\n`)
  process.exit(status || 1)
}

function must(command, args, options) {
  const status = run(command, args, options)
  if (status !== 0) ended(command, args, status)
}

/** The same behind all else. Of what it prints only what is wrong is let through, for the rest would stand amid what else is said. */
function mustMeanwhile(command, args, options = {}) {
  const child = spawn(command, args, { cwd: root, stdio: ['ignore', 'ignore', 'inherit'], ...options })
  return new Promise((resolve) => {
    child.on('exit', (status) => (status === 0 ? resolve() : ended(command, args, status)))
  })
}

function mustFitNode() {
  const [major, minor] = process.versions.node.split('.').map(Number)
  if (major < 20 || (major === 20 && minor < 19)) {
    process.stderr.write(`Makrel needs Node 20.19 or later; this is ${process.versions.node}.\n`)
    process.exit(1)
  }
}

/** The packages of the lock file: whether they are there, and how to say that they are. */
function packages() {
  const wanted = hash([join(root, 'package-lock.json')])
  const stamp = join(root, 'node_modules/.makrel-packages')
  return {
    areThere: existsSync(stamp) && readFileSync(stamp, 'utf8') === wanted,
    keep: () => writeFileSync(stamp, wanted),
  }
}

const ci = ['ci', '--no-audit', '--no-fund']

/** The database driver is compiled in half the time where it is optimised less; what the database does takes as long as before. */
const quicklyCompiled = { env: { ...process.env, CFLAGS: '-O1', CXXFLAGS: '-O1' } }

/** Installs the packages of the lock file, if they are not the ones that are there. */
export function installPackages() {
  mustFitNode()
  const { areThere, keep } = packages()
  if (areThere) return
  process.stdout.write('Installing packages (a few minutes: the database driver is compiled) …\n')
  must('npm', ci, quicklyCompiled)
  keep()
}

/**
 * The same, but the database driver, a minute or two of one processor, is compiled meanwhile: whoever needs the database waits for what
 * this gives.
 */
export async function installPackagesAhead() {
  mustFitNode()
  const { areThere, keep } = packages()
  if (areThere) return
  process.stdout.write('Installing packages …\n')
  must('npm', [...ci, '--ignore-scripts'])
  process.stdout.write('Compiling the database driver meanwhile …\n')
  await mustMeanwhile('npm', ['rebuild', 'sqlite3'], quicklyCompiled)
  keep()
}

/** Debian's Chromium, for what is done in the page, which waits for what this gives. */
export async function installChromium() {
  if (existsSync('/usr/bin/chromium')) return
  process.stdout.write('Installing Chromium …\n')
  const apt = process.getuid?.() === 0 ? 'apt-get' : 'sudo apt-get'
  // In one go: between two of them Node would have to be free, and it waits for what else is done meanwhile.
  await mustMeanwhile('sh', ['-c', `${apt} update && ${apt} install -y chromium`])
}

/** Builds everything whose sources changed since the last build. */
export async function buildIfNeeded() {
  const sources = [
    'core',
    'threads',
    'server',
    'cli',
    'web',
    'docs/guide',
    'docs/screenshots',
    'vite.node.config.ts',
    'package-lock.json',
    'scripts/build.mjs',
  ]
  const wanted = hash(
    sources.flatMap((name) => filesOf(join(root, name))).filter((path) => !/\.test\.tsx?$/.test(path)),
  )
  const stamp = join(root, 'dist/.stamp')
  if (existsSync(stamp) && readFileSync(stamp, 'utf8') === wanted) return
  process.stdout.write('Building …\n')
  // In a process of its own: what it takes, a gigabyte, is given back before anything else runs.
  must(process.execPath, ['scripts/build.mjs'])
  mkdirSync(dirname(stamp), { recursive: true })
  writeFileSync(stamp, wanted)
}

function filesOf(path) {
  if (!statSync(path).isDirectory()) return [path]
  return readdirSync(path)
    .filter((name) => name !== 'node_modules' && name !== 'dist')
    .sort()
    .flatMap((name) => filesOf(join(path, name)))
}

function hash(paths) {
  const sum = createHash('sha256')
  for (const path of paths) sum.update(path.slice(root.length)).update(readFileSync(path))
  return sum.digest('hex')
}
