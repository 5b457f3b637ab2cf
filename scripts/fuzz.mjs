// npm run fuzz [count] [seed]: 20,000 damaged files of each format, other ones each time; prints the slowest of each.
import { installPackages, run } from './setup.mjs'

installPackages()
const [count = '20000', seed = String(Date.now() % 1_000_000)] = process.argv.slice(2)
process.stdout.write(`${count} files of each format, seed ${seed}\n`)
process.exit(
  run(
    'node_modules/.bin/vitest',
    ['run', 'core/exchange/fuzz.test.ts', '--testTimeout=7200000', '--disable-console-intercept'],
    {
      env: { ...process.env, MAKREL_FUZZ: count, MAKREL_FUZZ_SEED: seed },
    },
  ),
)
