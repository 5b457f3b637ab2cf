// Checks the types of every workspace. What runs in the same surroundings is read and checked together: core is in all of it.
import { run } from './setup.mjs'

const projects = ['core', 'tsconfig.node.json', 'web', 'tsconfig.driven.json']
const failed = projects.filter((project) => run('node_modules/.bin/tsc', ['-p', project]) !== 0)
if (failed.length > 0) {
  process.stderr.write(`types fail in: ${failed.join(', ')}\n`)
  process.exit(1)
}
