#!/usr/bin/env node
// The command line is bundled by `npm run build`; a checkout that was never built is built on first use.
import { existsSync } from 'node:fs'
import { fileURLToPath } from 'node:url'

const bundle = fileURLToPath(new URL('../../dist/cli/main.js', import.meta.url))
if (!existsSync(bundle)) {
  const { buildCli } = await import('../../scripts/build.mjs')
  await buildCli()
}
await import(bundle)
