// npm run bench: prints times and ratios measured in this one run.
import { spawnSync } from 'node:child_process'
import { buildIfNeeded, installChromium, installPackages, root } from './setup.mjs'

installPackages()
await installChromium()
await buildIfNeeded()
const { nodeBundle } = await import('./build.mjs')
await nodeBundle('bench', 'bench/main.ts')
process.exit(
  spawnSync(process.execPath, ['--expose-gc', `${root}dist/bench/main.js`, ...process.argv.slice(2)], {
    stdio: 'inherit',
  }).status ?? 1,
)
