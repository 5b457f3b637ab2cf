// npm test: sets up, then types, lint, unit, server and command-line tests, and the journeys in the real application.
// Ends with the plain line "N passed, N failed".
import { existsSync, mkdtempSync, readFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join, relative } from 'node:path'
import { buildIfNeeded, installChromium, installPackagesAhead, run } from './setup.mjs'

// Days since 1970, or what is asked for: which random cases are tried. `--all` tries all of them.
process.env.MAKREL_SEED ??= String(Math.floor(Date.now() / 86_400_000))
if (process.argv.includes('--all')) process.env.MAKREL_ALL = '1'
process.stdout.write(
  process.env.MAKREL_ALL === '1'
    ? 'All random cases are tried.\n'
    : `Random cases of day ${process.env.MAKREL_SEED}: MAKREL_SEED=${process.env.MAKREL_SEED} npm test tries them again.\n`,
)
const chromium = installChromium()
const driver = installPackagesAhead()

const folder = mkdtempSync(join(tmpdir(), 'makrel-test-'))
let passed = 0
let failed = 0
/** Journeys that passed at the second try only: neither a pass nor a failure, and named in what Playwright prints. */
let secondTry = 0
/** What failed, for the end of what is printed, where it is seen. */
const names = []

function step(name, work) {
  process.stdout.write(`\n── ${name}\n`)
  const started = Date.now()
  const counts = work()
  passed += counts.passed
  failed += counts.failed
  process.stdout.write(
    `── ${name}: ${counts.passed} passed, ${counts.failed} failed, ${((Date.now() - started) / 1000).toFixed(1)} s\n`,
  )
}

const whole = (status) => (status === 0 ? { passed: 1, failed: 0 } : { passed: 0, failed: 1 })

/** The tests of a report of Vitest's that failed, with the first line of why. */
const failures = (report) =>
  report.testResults.flatMap(({ name, message, assertionResults }) => {
    const file = relative('.', name)
    const tests = assertionResults.filter(({ status }) => status === 'failed')
    if (tests.length === 0) return message ? [`${file}: ${message.split('\n')[0]}`] : []
    return tests.map(({ fullName, failureMessages }) => `${file}: ${fullName}: ${failureMessages[0]?.split('\n')[0]}`)
  })

step('types', () => whole(run(process.execPath, ['scripts/types.mjs'])))
step('lint', () => whole(run('node_modules/.bin/biome', ['check', '.'])))

await buildIfNeeded()

/** What one run of Vitest said: its report, and what became of its workers, see `workers.mjs`. */
function unitRun(name, more) {
  const report = join(folder, `${name}.json`)
  const workers = join(folder, `${name}-workers.json`)
  const reporters = ['--reporter=default', '--reporter=json', '--reporter=./scripts/workers.mjs']
  const args = ['run', ...more, ...reporters, `--outputFile.json=${report}`]
  const status = run('node_modules/.bin/vitest', args, { env: { ...process.env, MAKREL_WORKERS_REPORT: workers } })
  if (!existsSync(report) || !existsSync(workers)) return undefined
  const [read, { lost, errors }] = [report, workers].map((path) => JSON.parse(readFileSync(path, 'utf8')))
  names.push(...failures(read))
  const { numPassedTests, numFailedTests, numFailedTestSuites } = read
  // A file that could not be read at all counts as one failure; so does an error that is no test's.
  const unread = numFailedTests === 0 ? numFailedTestSuites : 0
  const isTold = numFailedTests + unread + lost.length > 0
  const failed = numFailedTests + unread + (status !== 0 && !isTold ? 1 : 0)
  return { passed: numPassedTests, failed, lost, errors }
}

/** All tests of these projects of `vitest.config.ts`. */
function units(name, ...projects) {
  const chosen = projects.map((project) => `--project=${project}`)
  const first = unitRun(name, chosen)
  if (!first) return { passed: 0, failed: 1 }
  if (first.failed > 0) names.push(...first.errors)
  if (first.lost.length === 0) return first
  // A worker that is ended from outside, as where memory runs out, takes what it ran with it: that is told, and run by itself.
  for (const file of first.lost) process.stdout.write(`\nlost with its worker, and run again: ${file}\n`)
  const again = unitRun(`${name}-again`, [...chosen, ...first.lost])
  if (!again) return { passed: first.passed, failed: first.failed + 1 }
  if (again.failed + again.lost.length > 0) names.push(...again.errors)
  return { passed: first.passed + again.passed, failed: first.failed + again.failed + again.lost.length }
}

step('unit and components', () => units('vitest', 'components', 'apart', 'together'))
// What comes next keeps things in a database.
await driver
step('server and command line', () => units('vitest-served', 'served'))

await chromium
step('journeys in the browser', () => {
  const report = join(folder, 'journeys.json')
  const status = run('node_modules/.bin/playwright', ['test', '-c', 'e2e/playwright.config.ts'], {
    env: { ...process.env, MAKREL_E2E_REPORT: report },
  })
  if (!existsSync(report)) return { passed: 0, failed: 1 }
  const { stats } = JSON.parse(readFileSync(report, 'utf8'))
  const { expected, flaky, unexpected } = stats
  secondTry = flaky
  return { passed: expected, failed: unexpected > 0 ? unexpected : status === 0 ? 0 : 1 }
})

for (const name of names) process.stdout.write(`\nfailed: ${name}`)
if (secondTry > 0) process.stdout.write(`\n${secondTry} journeys passed only at the second try`)
process.stdout.write(`\n${passed} passed, ${failed} failed\n`)
process.exit(failed === 0 && passed > 0 ? 0 : 1)
