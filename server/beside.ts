import { fileURLToPath } from 'node:url'

/** A worker beside the built server, or (of sources that are run as they are) where that is built to. */
export function builtBeside(from: string, name: string): string {
  return fileURLToPath(new URL(from.endsWith('.ts') ? `../dist/server/${name}.js` : `./${name}.js`, from))
}
