// npm run mutate [count] [seed]: changes single signs of core, one at a time and in copies, and counts how many of these the tests notice.
import { spawn } from 'node:child_process'
import { cpSync, mkdtempSync, readdirSync, readFileSync, rmSync, statSync, symlinkSync, writeFileSync } from 'node:fs'
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

/** What is added or taken away as a tolerance: nothing lies within it but what was rounded. */
const tolerance = /^ [+-] $/
const tiny = /^[\d.]+e-\d+\b/

/** Lines that hold no arithmetic: words, types, imports. */
const skipped =
  /^\s*(\*|\/\/|\/\*|import |export \*|export type|export interface|readonly |type |interface |['"`])|['"`].* [-+*/<>|&=!]+ .*['"`]|=>\s*string/

/** A longer run than this hangs, ms. */
const longest = 15 * 60_000

const [count, seed] = [Number(process.argv[2] ?? 60), Number(process.argv[3] ?? 1)]
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
            [...line.matchAll(from)].flatMap(({ index, 0: sign }) => {
              const [before, behind] = [line.slice(0, index + 1), line.slice(index + sign.length)]
              if (tolerance.test(sign) && tiny.test(behind)) return []
              const isCounted = counted.test(before) || counted.test(behind)
              return [{ file, number, index, sign, to: (isCounted ? undefined : turned[sign.trim()]) ?? to }]
            }),
          ),
    ),
)
const chosen = []
while (chosen.length < Math.min(count, places.length))
  chosen.push(...places.splice(Math.floor(random() * places.length), 1))

/** A copy of the sources whose tests run by themselves; packages are shared, our own workspaces are the copy's. */
function copyOfSources() {
  const copy = mkdtempSync(join(tmpdir(), 'makrel-mutate-'))
  for (const name of ['core', 'demo', 'docs', 'package.json', 'vitest.config.ts', 'tsconfig.base.json'])
    cpSync(join(root, name), join(copy, name), { recursive: true, filter: (path) => !path.includes('node_modules') })
  symlinkSync(join(root, 'node_modules'), join(copy, 'node_modules'))
  writeFileSync(join(copy, 'quickest.config.ts'), quickestFirst)
  return copy
}

/** Most changes are noticed by many tests: the sooner quick ones and those beside the file are asked, the sooner it is told. */
const quickestFirst = `
import { mergeConfig } from 'vitest/config'
import { BaseSequencer } from 'vitest/node'
import config from './vitest.config.ts'
const took = ${JSON.stringify(durations())}
class Quickest extends BaseSequencer {
  async sort(files) {
    const of = (file) => {
      const name = file.moduleId.split('/core/').at(-1)
      return (took[name] ?? 0) * (name.startsWith(process.env.BESIDE) ? 0.1 : 1)
    }
    return [...files].sort((a, b) => of(a) - of(b))
  }
}
export default mergeConfig(config, { test: { sequence: { sequencer: Quickest } } })
`

/** How long each file of tests takes, ms, by a run of all as it is: which must pass, or everything would be noticed. */
function durations() {
  const out = join(mkdtempSync(join(tmpdir(), 'makrel-mutate-')), 'durations.json')
  const args = ['vitest', 'run', 'core', '--exclude', 'core/docs.test.ts', '--reporter', 'json', '--outputFile', out]
  if (run('npx', args) !== 0) {
    process.stderr.write('Some tests fail without any change; nothing can be told.\n')
    process.exit(1)
  }
  const { testResults } = JSON.parse(readFileSync(out, 'utf8'))
  return Object.fromEntries(
    testResults.map(({ name, startTime, endTime }) => [name.split('/core/').at(-1), endTime - startTime]),
  )
}

/** Whether a test that reaches the file fails. */
function isNoticed(copy, file) {
  return new Promise((resolve) => {
    const args = [
      'vitest',
      'related',
      '--run',
      file,
      '--bail',
      '1',
      '--exclude',
      'core/docs.test.ts',
      '--passWithNoTests',
    ]
    args.push('--config', 'quickest.config.ts')
    const env = { ...process.env, BESIDE: `${relative('core', dirname(file))}/` }
    const child = spawn('npx', args, { cwd: copy, stdio: 'ignore', detached: true, env })
    const timer = setTimeout(() => process.kill(-child.pid, 'SIGKILL'), longest)
    child.on('exit', (code, signal) => {
      clearTimeout(timer)
      // What never ends is noticed too.
      resolve(code !== 0 || signal === 'SIGKILL')
    })
  })
}

const survived = []
let done = 0
async function worker() {
  const copy = copyOfSources()
  for (let next = chosen.shift(); next; next = chosen.shift()) {
    const { file, number, index, sign, to } = next
    const path = relative(root, file)
    const lines = readFileSync(file, 'utf8').split('\n')
    const line = lines[number]
    lines[number] = line.slice(0, index) + to + line.slice(index + sign.length)
    writeFileSync(join(copy, path), lines.join('\n'))
    const noticed = await isNoticed(copy, path)
    writeFileSync(join(copy, path), readFileSync(file))
    done++
    process.stdout.write(`${noticed ? 'noticed ' : 'SURVIVED'} ${path}:${number + 1}  ${lines[number].trim()}\n`)
    if (!noticed) survived.push(`${path}:${number + 1}`)
  }
  rmSync(copy, { recursive: true })
}
await Promise.all(Array.from({ length: Math.max(1, Math.floor(cpus().length / 2)) }, worker))
process.stdout.write(
  `\n${done - survived.length} of ${done} changes noticed: ${Math.round((100 * (done - survived.length)) / done)} %\n`,
)
