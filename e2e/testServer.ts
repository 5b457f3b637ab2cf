import { type ChildProcess, spawn } from 'node:child_process'
import { copyFileSync, mkdtempSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { fileURLToPath } from 'node:url'
import sqlite3 from 'sqlite3'

const root = fileURLToPath(new URL('..', import.meta.url))

type Query = (query: string, values?: readonly string[]) => Promise<{ readonly name: string }[]>

/** The real server on a database of its own, that can be killed and started again. */
export class TestServer {
  readonly url: string
  readonly #port: number
  readonly database = join(mkdtempSync(join(tmpdir(), 'makrel-e2e-')), 'parts.sqlite')
  readonly #ahead: boolean
  #process: ChildProcess | undefined

  /**
   * `from`: the database that it begins with a copy of; else one with the demo parts as they come. `ahead`: whether it draws parts that
   * nobody has opened, which journeys would otherwise share the processor with.
   */
  constructor(
    port: number,
    { from, ahead = false }: { readonly from?: string | undefined; readonly ahead?: boolean } = {},
  ) {
    this.#port = port
    this.#ahead = ahead
    if (from) copyFileSync(from, this.database)
    this.url = `http://127.0.0.1:${port}`
  }

  get isRunning(): boolean {
    return this.#process?.exitCode === null && this.#process.signalCode === null
  }

  async start(): Promise<void> {
    this.#process = spawn(process.execPath, [join(root, 'dist/server/main.js')], {
      env: {
        ...process.env,
        MAKREL_PORT: String(this.#port),
        MAKREL_DATABASE: this.database,
        MAKREL_DRAW_AHEAD: this.#ahead ? 'on' : 'off',
      },
      stdio: ['ignore', 'pipe', 'inherit'],
    })
    await new Promise<void>((resolve, reject) => {
      this.#process!.once('exit', () => reject(new Error('the server did not start')))
      this.#process!.stdout!.on('data', (data) => String(data).includes('served') && resolve())
    })
  }

  /** Writes down what its database holds, while it runs. */
  async copyTo(file: string): Promise<void> {
    await this.#asked((all) => all('VACUUM INTO ?', [file]))
  }

  /** All that its database holds is as in another one. It need not be started anew for that, which takes as long as many a journey. */
  async holdAsIn(from: string): Promise<void> {
    // What pages that have gone sent last is answered first.
    await fetch(`${this.url}/api/parts?count=1`)
    await this.#asked(async (all) => {
      await all('PRAGMA foreign_keys = OFF')
      await all('ATTACH ? AS wanted', [from])
      const tables = await all("SELECT name FROM sqlite_master WHERE type = 'table' AND name NOT LIKE 'sqlite%'")
      await all('BEGIN IMMEDIATE')
      for (const { name } of tables) {
        await all(`DELETE FROM "${name}"`)
        await all(`INSERT INTO "${name}" SELECT * FROM wanted."${name}"`)
      }
      await all('COMMIT')
    })
  }

  async #asked(work: (all: Query) => Promise<unknown>): Promise<void> {
    const database = new sqlite3.Database(this.database)
    const all: Query = (query, values = []) =>
      new Promise((done, failed) =>
        database.all<{ name: string }>(query, values, (error, rows) => (error ? failed(error) : done(rows))),
      )
    try {
      await all('PRAGMA busy_timeout = 5000')
      await work(all)
    } finally {
      await new Promise((done) => database.close(done))
    }
  }

  async stop(signal: NodeJS.Signals = 'SIGTERM'): Promise<void> {
    const server = this.#process!
    server.removeAllListeners('exit')
    const gone = new Promise((resolve) => server.once('exit', resolve))
    server.kill(signal)
    await gone
  }
}
