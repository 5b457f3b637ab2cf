// npm run mutate [count] [seed] [minutes]: changes single signs of core, one at a time and in a copy, and counts how many of these the
// tests notice. What takes longer than so many minutes is cut off and counts as not noticed: the score is then at least what is told.
import { spawn } from 'node:child_process'
import { cpSync, mkdirSync, mkdtempSync, readdirSync, readFileSync, rmSync, symlinkSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { dirname, join, relative } from 'node:path'
import { changed, chosenChanges } from './mutate/changes.mjs'
import { prepare, testsOf, withProbes } from './mutate/reached.mjs'
import { installPackages, root, run } from './setup.mjs'

const [count, seed, minutes] = [60, 1, 15].map((usual, i) => Number(process.argv[2 + i] ?? usual))
installPackages()

let state = seed
/** A number in [0, 1), the same for the same seed (mulberry32). */
function random() {
  state = (state + 0x6d2b79f5) | 0
  let t = Math.imul(state ^ (state >>> 15), 1 | state)
  t = (t + Math.imul(t ^ (t >>> 7), 61 | t)) ^ t
  return ((t ^ (t >>> 14)) >>> 0) / 2 ** 32
}

/** Where tests reach core. Those of the command line build it first, which takes minutes, and those of the server ask it for little. */
const tested = ['core', 'threads', 'web']

/** A copy of the sources whose tests run by themselves; packages are shared, our own workspaces are the copy's. */
function copyOfSources() {
  const copy = mkdtempSync(join(tmpdir(), 'makrel-mutate-'))
  for (const name of [...tested, 'demo', 'docs', 'package.json', 'vitest.config.ts', 'tsconfig.base.json'])
    cpSync(join(root, name), join(copy, name), { recursive: true, filter: (path) => !path.includes('node_modules') })
  const packages = join(copy, 'node_modules')
  mkdirSync(join(packages, '@makrel'), { recursive: true })
  for (const name of readdirSync(join(root, 'node_modules')))
    if (name !== '@makrel') symlinkSync(join(root, 'node_modules', name), join(packages, name))
  for (const name of tested) symlinkSync(join(copy, name), join(packages, '@makrel', name))
  return copy
}

const copy = copyOfSources()
// Their answer is the same whatever core does, and they ask for more than is copied.
for (const name of ['core/docs.test.ts', 'core/architecture.test.ts', 'core/words.test.ts']) rmSync(join(copy, name))
prepare(copy)
const changes = chosenChanges(root, count, random).map((change, id) => ({
  ...change,
  id,
  path: relative(root, change.file),
}))

/** Writes the sources of these changes anew, by what is made of the text of each file. */
function write(some, made) {
  for (const path of new Set(some.map((change) => change.path)))
    writeFileSync(
      join(copy, path),
      made(
        readFileSync(join(root, path), 'utf8'),
        some.filter((change) => change.path === path),
      ),
    )
}

/** Runs all tests once as they are, which must pass, and tells which come past which change. */
function testsByChange() {
  const [report, reached] = [join(copy, 'report.json'), join(copy, 'reached.jsonl')]
  write(changes, withProbes)
  const args = ['vitest', 'run', '--reporter', 'json', '--outputFile', report, '--config', 'listening.config.ts']
  if (run('npx', args, { cwd: copy, env: { ...process.env, REACHED: reached } }) !== 0) {
    process.stderr.write('Some tests fail without any change; nothing can be told.\n')
    process.exit(1)
  }
  write(changes, (text) => text)
  return testsOf(copy, changes, { report, reached })
}

/** The sooner quick tests, those beside the file and kept answers are asked, the sooner most changes are told. */
function inOrder(tests, path) {
  const rank = ({ name, took }) =>
    took * (name.startsWith(`${dirname(path)}/`) || name.endsWith('answers.test.ts') ? 0.1 : 1)
  return [...tests].sort((a, b) => rank(a) - rank(b))
}

/**
 * Whether a test that comes past the change fails: noticed, SURVIVED, or cut off. What by far takes longer than the same tests do without
 * the change hangs: no run of the tests passes with it, so that counts as noticed.
 */
function toldOf({ path }, tests) {
  if (tests.length === 0) return 'SURVIVED, no test comes past it'
  const files = inOrder(tests, path)
  const wanted = join(copy, 'wanted.json')
  writeFileSync(wanted, JSON.stringify(Object.fromEntries(files.map(({ file, names }) => [file, names]))))
  const hangs = 5 * 60_000 + 4 * files.reduce((sum, { took }) => sum + took, 0)
  const limit = minutes * 60_000
  const args = ['vitest', 'run', ...files.map(({ name }) => name), '--bail', '1', '--config', 'choosing.config.ts']
  const env = { ...process.env, WANTED: wanted, ORDER: JSON.stringify(files.map(({ file }) => file)) }
  return new Promise((resolve) => {
    const child = spawn('npx', args, { cwd: copy, stdio: 'ignore', detached: true, env })
    const timer = setTimeout(() => process.kill(-child.pid, 'SIGKILL'), Math.min(limit, hangs))
    child.on('exit', (code, signal) => {
      clearTimeout(timer)
      const isStopped = signal === 'SIGKILL'
      resolve(isStopped ? (hangs <= limit ? 'noticed: hangs' : 'cut off') : code === 0 ? 'SURVIVED' : 'noticed')
    })
  })
}

const tests = testsByChange()
let noticed = 0
for (const change of changes) {
  write([change], (text) => changed(change, text))
  const told = await toldOf(change, tests.get(change.id))
  const line = readFileSync(join(copy, change.path), 'utf8').split('\n')[change.number].trim()
  write([change], (text) => text)
  if (told.startsWith('noticed')) noticed++
  process.stdout.write(`${told.padEnd(8)} ${change.path}:${change.number + 1}  ${line}\n`)
}
rmSync(copy, { recursive: true })
process.stdout.write(
  `\n${noticed} of ${changes.length} changes noticed: ${Math.round((100 * noticed) / changes.length)} %\n`,
)
