import { fileURLToPath } from 'node:url'
import { createApp } from './app.ts'
import { backedUp, takenByThis } from './database.ts'
import { loadDemo } from './demo.ts'
import { DrawAhead } from './drawAhead.ts'
import { Drawings } from './drawings.ts'
import { isLoopback, networkFault, StartFault } from './network.ts'

// The bundle lies in dist/server/, two folders below the project.
const root = fileURLToPath(new URL('../../', import.meta.url))
const host = process.env.MAKREL_HOST ?? '127.0.0.1'
const port = Number(process.env.MAKREL_PORT ?? 4310)
const database = process.env.MAKREL_DATABASE ?? `${root}data/makrel.sqlite`

/** Set when the application is built. */
declare const __VERSION_BUILT__: string

/** One line in words, and the end. */
function stopped(error: unknown): never {
  const known = error instanceof StartFault
  process.stderr.write(`${known ? error.message : error}\n`)
  process.exit(1)
}

async function started() {
  const fault = networkFault(host, process.env.MAKREL_ALLOW_NETWORK)
  if (fault) throw new StartFault(fault)
  const letGo = takenByThis(database)
  process.once('exit', letGo)
  const drawings = new Drawings(`${database}.drawn`, __VERSION_BUILT__)
  const { app, store } = await createApp({
    database,
    web: `${root}dist/web`,
    log: process.env.MAKREL_LOG ?? 'warn',
    drawings,
  })
  const ahead = new DrawAhead(store, drawings)
  app.addHook('onClose', () => ahead.close())
  return { app, ahead, loaded: await loadDemo(store, `${root}demo`) }
}

// `npx makrel backup FILE`
const [command, to, ...more] = process.argv.slice(2)
if (command !== undefined) {
  if (command !== 'backup' || !to || more.length > 0) stopped(new StartFault('Give one file to copy the parts into.'))
  const parts = await backedUp(database, to).catch(stopped)
  process.stdout.write(`${parts} parts, with their earlier states, are in ${to}.\n`)
  process.exit(0)
}

const { app, ahead, loaded } = await started().catch(stopped)

for (const signal of ['SIGINT', 'SIGTERM'] as const)
  process.once(signal, async () => {
    await app.close()
    process.exit(0)
  })

try {
  await app.listen({ host, port })
} catch (error) {
  const taken = (error as { code?: string }).code === 'EADDRINUSE'
  process.stderr.write(taken ? `Port ${port} is taken; set MAKREL_PORT to another one.\n` : `${error}\n`)
  process.exit(1)
}
if (loaded > 0) process.stdout.write(`Loaded ${loaded} demo parts.\n`)
if (!isLoopback(host))
  process.stderr.write('Everyone on the network can read and change all parts: there is no login.\n')
process.stdout.write(`Makrel is served on http://${host}:${port}\n`)
if (process.env.MAKREL_DRAW_AHEAD !== 'off') ahead.start()
