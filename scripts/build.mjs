// Builds the web application, the server and the command line into dist/.
import { fileURLToPath } from 'node:url'

const root = fileURLToPath(new URL('..', import.meta.url))

export async function nodeBundle(entry, outDir) {
  const { build } = await import('vite')
  await build({
    root,
    configFile: `${root}vite.node.config.ts`,
    build: { ssr: `${root}${entry}`, outDir: `${root}dist/${outDir}` },
  })
}

export const buildCli = () => nodeBundle('cli/main.ts', 'cli')
export const buildServer = () => nodeBundle('server/main.ts', 'server')
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
