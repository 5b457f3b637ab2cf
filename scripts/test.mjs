// npm test: sets up, then types, lint, unit, server and command-line tests, and the journeys in the real application.
// Ends with the plain line "N passed, N failed".
import { existsSync, mkdtempSync, readFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { buildIfNeeded, installChromium, installPackages, run } from './setup.mjs'

installPackages()
installChromium()

const folder = mkdtempSync(join(tmpdir(), 'makrel-test-'))
let passed = 0
let failed = 0

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

step('types', () => whole(run(process.execPath, ['scripts/types.mjs'])))
step('lint', () => whole(run('node_modules/.bin/biome', ['check', '.'])))

step('unit, server and command line', () => {
  const report = join(folder, 'vitest.json')
  const status = run('node_modules/.bin/vitest', [
    'run',
    '--reporter=dot',
    '--reporter=json',
    `--outputFile.json=${report}`,
  ])
  if (!existsSync(report)) return { passed: 0, failed: 1 }
  const { numPassedTests, numFailedTests, numFailedTestSuites } = JSON.parse(readFileSync(report, 'utf8'))
  // A file that could not be read at all counts as one failure.
  const lost = status !== 0 && numFailedTests === 0 ? Math.max(1, numFailedTestSuites) : 0
  return { passed: numPassedTests, failed: numFailedTests + lost }
})

await buildIfNeeded()

step('journeys in the browser', () => {
  const report = join(folder, 'journeys.json')
  const status = run('node_modules/.bin/playwright', ['test', '-c', 'e2e/playwright.config.ts'], {
    env: { ...process.env, MAKREL_E2E_REPORT: report },
  })
  if (!existsSync(report)) return { passed: 0, failed: 1 }
  const { stats } = JSON.parse(readFileSync(report, 'utf8'))
  if (stats.flaky > 0) process.stdout.write(`${stats.flaky} of them passed only at the second try: see above\n`)
  const { expected, flaky, unexpected } = stats
  return { passed: expected + flaky, failed: unexpected > 0 ? unexpected : status === 0 ? 0 : 1 }
})

process.stdout.write(`\n${passed} passed, ${failed} failed\n`)
process.exit(failed === 0 && passed > 0 ? 0 : 1)
