// npm start: sets up, builds, loads the demo parts into an empty shelf, and serves.
import { spawn } from 'node:child_process'
import { buildIfNeeded, installPackages, root } from './setup.mjs'

installPackages()
await buildIfNeeded()
const server = spawn(process.execPath, ['--enable-source-maps', `${root}dist/server/main.js`], { stdio: 'inherit' })
for (const signal of ['SIGINT', 'SIGTERM']) process.on(signal, () => server.kill(signal))
server.on('exit', (code, signal) => process.exit(code ?? (signal ? 0 : 1)))
