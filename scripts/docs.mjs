// npm run docs: writes docs/reference.md anew from the registries.
import { run } from './setup.mjs'

process.exit(
  run('node_modules/.bin/vitest', ['run', 'core/docs.test.ts'], { env: { ...process.env, MAKREL_WRITE_DOCS: '1' } }),
)
