#!/usr/bin/env node
// The command line and the server are bundled by `npm run build`; a checkout that was never built is built on first use.
import { spawnSync } from 'node:child_process'
import { existsSync } from 'node:fs'
import { fileURLToPath } from 'node:url'

const bundled = async (name, build) => {
  const bundle = fileURLToPath(new URL(`../../dist/${name}/main.js`, import.meta.url))
  if (!existsSync(bundle)) await (await import('../../scripts/build.mjs'))[build]()
  return bundle
}

const args = process.argv.slice(2)
if (args[0] === 'backup') {
  // The parts are the server's own: it copies them.
  const server = await bundled('server', 'buildServer')
  process.exit(spawnSync(process.execPath, [server, ...args], { stdio: 'inherit' }).status ?? 1)
}
await import(await bundled('cli', 'buildCli'))
