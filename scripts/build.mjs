// Builds the web application, the server and the command line into dist/.
import { fileURLToPath } from 'node:url'

// What this build is known by, to the page and to the server alike.
process.env.MAKREL_BUILT ??= Date.now().toString(36)

const root = fileURLToPath(new URL('..', import.meta.url))

/** A program, and the workers that it starts. */
export async function nodeBundle(outDir, ...entries) {
  const { build } = await import('vite')
  await build({
    root,
    configFile: `${root}vite.node.config.ts`,
    build: { rollupOptions: { input: entries.map((entry) => `${root}${entry}`) }, outDir: `${root}dist/${outDir}` },
  })
}

export const buildCli = () => nodeBundle('cli', 'cli/main.ts', 'cli/readWorker.ts')
export const buildServer = () =>
  nodeBundle('server', 'server/main.ts', 'server/documentWorker.ts', 'server/drawWorker.ts')
export async function buildWeb() {
  const { build } = await import('vite')
  await build({ root: `${root}web`, configFile: `${root}web/vite.config.ts` })
}

export async function buildAll() {
  await buildServer()
  await buildCli()
  await buildWeb()
}

if (process.argv[1] === fileURLToPath(import.meta.url)) await buildAll()
