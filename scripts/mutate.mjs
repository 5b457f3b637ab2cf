// npm run mutate [count] [seed] [minutes]: changes single signs of core, one at a time and in copies, and counts how many of these the
// tests notice. What takes longer than so many minutes is cut off and counts as not noticed: the score is then at least what is told.
import { spawn } from 'node:child_process'
import {
  cpSync,
  mkdirSync,
  mkdtempSync,
  readdirSync,
  readFileSync,
  rmSync,
  statSync,
  symlinkSync,
  writeFileSync,
} from 'node:fs'
import { cpus, tmpdir } from 'node:os'
import { dirname, join, relative } from 'node:path'
import { installPackages, root, run } from './setup.mjs'

/** What one sign becomes. Each must stand between blanks, as the formatter leaves it, so that no type or text is meant. */
const changes = [
  [/ < (?=[^>]*$)/g, ' <= '],
  [/ <= /g, ' < '],
  [/ > (?!=)/g, ' >= '],
  [/ >= /g, ' > '],
  [/ === /g, ' !== '],
  [/ !== /g, ' === '],
  [/ \+ /g, ' - '],
  [/ - /g, ' + '],
  [/ \* /g, ' / '],
  [/ \/ /g, ' * '],
  [/ && /g, ' || '],
  [/ \|\| /g, ' && '],
  [/Math\.min\(/g, 'Math.max('],
  [/Math\.max\(/g, 'Math.min('],
  [/Math\.sin\(/g, 'Math.cos('],
  [/\? -1 : 1/g, '? 1 : -1'],
]
/**
 * A comparison of sizes is turned round as a whole: that one is met to the last digit, which is all that `<` and `<=` differ in,
 * does not happen. Of what is counted it does.
 */
const turned = { '<': ' >= ', '<=': ' > ', '>': ' <= ', '>=': ' < ' }
/** What is counted, right before or behind the sign, or anywhere in the head of a loop. */
const counted = /^\s*for \(|(\.length|[cC]ount|indexOf\(.*\)|\b[ijkmn]) $|^(\w+\.length|[cC]ount|[ijkmn]\b|[1-9]\b)/

/** Lines that hold no arithmetic: words, types, imports. */
const skipped =
  /^\s*(\*|\/\/|\/\*|import |export \*|export type|export interface|readonly |type |interface |['"`])|['"`].* [-+*/<>|&=!]+ .*['"`]|=>\s*string/

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

function sources(folder) {
  return readdirSync(folder).flatMap((name) => {
    const path = join(folder, name)
    if (name === 'testing' || name === 'node_modules') return []
    if (statSync(path).isDirectory()) return sources(path)
    return name.endsWith('.ts') && !name.endsWith('.test.ts') ? [path] : []
  })
}

const places = sources(join(root, 'core')).flatMap((file) =>
  readFileSync(file, 'utf8')
    .split('\n')
    .flatMap((line, number) =>
      skipped.test(line)
        ? []
        : changes.flatMap(([from, to]) =>
            [...line.matchAll(from)].map(({ index, 0: sign }) => {
              const [before, behind] = [line.slice(0, index + 1), line.slice(index + sign.length)]
              const isCounted = counted.test(before) || counted.test(behind)
              return { file, number, index, sign, to: (isCounted ? undefined : turned[sign.trim()]) ?? to }
            }),
          ),
    ),
)
const chosen = []
while (chosen.length < Math.min(count, places.length))
  chosen.push(...places.splice(Math.floor(random() * places.length), 1))

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

/** Tests whose answer is the same whatever core does, but which ask for more than is copied. */
const apart = ['core/docs.test.ts', 'core/architecture.test.ts'].flatMap((name) => ['--exclude', name])

/** Most changes are noticed by many tests: the sooner quick ones, those beside the file and kept answers are asked, the sooner it is told. */
const quickestFirst = (took) => `
import { relative } from 'node:path'
import { mergeConfig } from 'vitest/config'
import { BaseSequencer } from 'vitest/node'
import config from './vitest.config.ts'
const took = ${JSON.stringify(took)}
class Quickest extends BaseSequencer {
  async sort(files) {
    const of = (file) => {
      const name = relative(process.cwd(), file.moduleId)
      const telling = name.startsWith(process.env.BESIDE) || name.endsWith('answers.test.ts')
      return (took[name] ?? 0) * (telling ? 0.1 : 1)
    }
    return [...files].sort((a, b) => of(a) - of(b))
  }
}
export default mergeConfig(config, { test: { sequence: { sequencer: Quickest } } })
`

/** How long each file of tests takes, ms, by a run of all in a copy as it is: which must pass, or everything would be noticed. */
function durations(copy) {
  const out = join(copy, 'durations.json')
  const args = ['vitest', 'run', ...apart, '--reporter', 'json', '--outputFile', out]
  if (run('npx', args, { cwd: copy }) !== 0) {
    process.stderr.write('Some tests fail without any change; nothing can be told.\n')
    process.exit(1)
  }
  const { testResults } = JSON.parse(readFileSync(out, 'utf8'))
  return Object.fromEntries(
    testResults.map(({ name, startTime, endTime }) => [relative(copy, name), endTime - startTime]),
  )
}

/** Whether a test that reaches the file fails: noticed, SURVIVED, or cut off. */
function toldOf(copy, file) {
  return new Promise((resolve) => {
    const args = ['vitest', 'related', '--run', file, '--bail', '1', ...apart, '--passWithNoTests']
    args.push('--config', 'quickest.config.ts')
    const env = { ...process.env, BESIDE: `${dirname(file)}/` }
    const child = spawn('npx', args, { cwd: copy, stdio: 'ignore', detached: true, env })
    const timer = setTimeout(() => process.kill(-child.pid, 'SIGKILL'), minutes * 60_000)
    child.on('exit', (code, signal) => {
      clearTimeout(timer)
      resolve(signal === 'SIGKILL' ? 'cut off' : code === 0 ? 'SURVIVED' : 'noticed')
    })
  })
}

const survived = []
let done = 0
async function worker(copy) {
  for (let next = chosen.shift(); next; next = chosen.shift()) {
    const { file, number, index, sign, to } = next
    const path = relative(root, file)
    const lines = readFileSync(file, 'utf8').split('\n')
    const line = lines[number]
    lines[number] = line.slice(0, index) + to + line.slice(index + sign.length)
    writeFileSync(join(copy, path), lines.join('\n'))
    const told = await toldOf(copy, path)
    writeFileSync(join(copy, path), readFileSync(file))
    done++
    process.stdout.write(`${told.padEnd(8)} ${path}:${number + 1}  ${lines[number].trim()}\n`)
    if (told !== 'noticed') survived.push(`${path}:${number + 1}`)
  }
  rmSync(copy, { recursive: true })
}
const copies = Array.from({ length: Math.max(1, Math.floor(cpus().length / 2)) }, copyOfSources)
const config = quickestFirst(durations(copies[0]))
for (const copy of copies) writeFileSync(join(copy, 'quickest.config.ts'), config)
await Promise.all(copies.map(worker))
process.stdout.write(
  `\n${done - survived.length} of ${done} changes noticed: ${Math.round((100 * (done - survived.length)) / done)} %\n`,
)
