// Checks the types of every workspace.
import { run } from './setup.mjs'

const projects = ['core', 'core/tsconfig.test.json', 'threads', 'server', 'cli', 'web', 'e2e', 'bench']
const failed = projects.filter((project) => run('node_modules/.bin/tsc', ['-p', project]) !== 0)
if (failed.length > 0) {
  process.stderr.write(`types fail in: ${failed.join(', ')}\n`)
  process.exit(1)
}
