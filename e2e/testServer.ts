import { type ChildProcess, spawn } from 'node:child_process'
import { copyFileSync, mkdtempSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { fileURLToPath } from 'node:url'

const root = fileURLToPath(new URL('..', import.meta.url))

/** The real server on a database of its own, that can be killed and started again. */
export class TestServer {
  readonly url: string
  readonly #port: number
  readonly database = join(mkdtempSync(join(tmpdir(), 'makrel-e2e-')), 'parts.sqlite')
  #process: ChildProcess | undefined

  /** `from`: the database that it begins with a copy of; else one with the demo parts as they come. */
  constructor(port: number, from?: string) {
    this.#port = port
    if (from) copyFileSync(from, this.database)
    this.url = `http://127.0.0.1:${port}`
  }

  async start(): Promise<void> {
    this.#process = spawn(process.execPath, [join(root, 'dist/server/main.js')], {
      env: { ...process.env, MAKREL_PORT: String(this.#port), MAKREL_DATABASE: this.database },
      stdio: ['ignore', 'pipe', 'inherit'],
    })
    await new Promise<void>((resolve, reject) => {
      this.#process!.once('exit', () => reject(new Error('the server did not start')))
      this.#process!.stdout!.on('data', (data) => String(data).includes('served') && resolve())
    })
  }

  async stop(signal: NodeJS.Signals = 'SIGTERM'): Promise<void> {
    const server = this.#process!
    server.removeAllListeners('exit')
    const gone = new Promise((resolve) => server.once('exit', resolve))
    server.kill(signal)
    await gone
  }
}
