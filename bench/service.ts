import { type ChildProcess, spawn } from 'node:child_process'
import { mkdtempSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { text } from 'node:stream/consumers'
import { fileURLToPath } from 'node:url'
import { newPart, type Part } from '@makrel/core/document'
import { chromium } from '@playwright/test'
import { chromiumOptions } from '../scripts/chromium.mjs'
import { report } from './measure.ts'
import { threeHundredSteps } from './parts.ts'

const root = fileURLToPath(new URL('../../', import.meta.url))

/** The server by itself, on an empty database with the demo parts. */
export async function withServer(port: number, work: (url: string, database: string) => Promise<void>): Promise<void> {
  const database = join(mkdtempSync(join(tmpdir(), 'makrel-bench-')), 'b.sqlite')
  const server: ChildProcess = spawn(process.execPath, [join(root, 'dist/server/main.js')], {
    env: {
      ...process.env,
      MAKREL_PORT: String(port),
      MAKREL_DATABASE: database,
    },
    stdio: ['ignore', 'pipe', 'inherit'],
  })
  await new Promise<void>((resolve) =>
    server.stdout!.on('data', (data) => String(data).includes('served') && resolve()),
  )
  try {
    await work(`http://127.0.0.1:${port}`, database)
  } finally {
    server.kill()
  }
}

const pause = (ms: number) => new Promise((resolve) => setTimeout(resolve, ms))
const share = (times: readonly number[], of: number) => [...times].sort((a, b) => a - b)[Math.floor(times.length * of)]!

async function asked(url: string, method: string, body?: unknown): Promise<{ took: number; answer: unknown }> {
  const started = performance.now()
  const response = await fetch(url, {
    method,
    ...(body === undefined ? {} : { headers: { 'content-type': 'application/json' }, body: JSON.stringify(body) }),
  })
  const answer = await response.json()
  if (!response.ok) throw new Error(`${method} ${url}: ${response.status} ${JSON.stringify(answer)}`)
  return { took: performance.now() - started, answer }
}

/** Asks an address ten times a second until its input ends, and prints how long the answers took, ms. */
const watching = `
  const times = []
  let done = false
  process.stdin.on('end', () => { done = true }).resume()
  while (!done) {
    const started = performance.now()
    const response = await fetch(process.argv[1])
    await response.text()
    if (!response.ok) throw new Error('not well: ' + response.status)
    times.push(performance.now() - started)
    await new Promise((resolve) => setTimeout(resolve, 100))
  }
  process.stdout.write(JSON.stringify(times))
`

/** Fifty makers, each on a part of 200 steps of their own, who change a value every second; and whether the server is well. */
export async function fiftyClients(): Promise<void> {
  const long = threeHundredSteps()
  const part: Part = {
    ...long,
    pieces: long.pieces.map((piece) => ({ ...piece, steps: piece.steps.slice(0, 200) })),
  }
  const changed = (client: number, turn: number): Part => ({
    ...part,
    id: `client-${client}`,
    pieces: part.pieces.map((piece) => ({
      ...piece,
      steps: piece.steps.map((step, i) => (i === (client * 7 + turn) % 200 ? { ...step, name: `Turn ${turn}` } : step)),
    })),
  })
  await withServer(4731, async (url) => {
    const saves: number[] = []
    const client = async (n: number) => {
      await asked(`${url}/api/parts`, 'POST', { document: changed(n, 0) })
      await pause((1000 * n) / 50)
      for (let turn = 1; turn <= 12; turn++) {
        const { took } = await asked(`${url}/api/parts/client-${n}`, 'PUT', {
          revision: turn,
          document: changed(n, turn),
        })
        saves.push(took)
        await pause(1000 + 200 * Math.sin(n + turn))
      }
    }
    // By a process of its own: fifty clients in one keep themselves waiting.
    const watcher = spawn(process.execPath, ['--input-type=module', '-e', watching, `${url}/healthz`], {
      stdio: ['pipe', 'pipe', 'inherit'],
    })
    const seen = text(watcher.stdout)
    await Promise.all(Array.from({ length: 50 }, (_, n) => client(n)))
    watcher.stdin.end()
    const health = JSON.parse(await seen) as number[]
    const [slow, well] = [share(saves, 0.95), share(health, 0.95)]
    report(
      'fifty clients with 200 steps each, a save every second',
      `median ${share(saves, 0.5).toFixed(0)} ms, 95th percentile ${slow.toFixed(0)}, slowest ${Math.max(...saves).toFixed(0)} of ${saves.length}; wanted 250 at the 95th`,
      slow <= 250,
    )
    report(
      '/healthz meanwhile',
      `median ${share(health, 0.5).toFixed(0)} ms, 95th percentile ${well.toFixed(0)}, slowest ${Math.max(...health).toFixed(0)}; wanted 50 at the 95th`,
      well <= 50,
    )
  })
}

/** A shelf of ten thousand parts: to the first card, on from there, and a search. */
export async function tenThousandParts(): Promise<void> {
  await withServer(4732, async (url) => {
    const started = performance.now()
    const numbers = Array.from({ length: 10_000 }, (_, i) => i)
    const loader = async () => {
      for (let i = numbers.pop(); i !== undefined; i = numbers.pop())
        await asked(`${url}/api/parts`, 'POST', {
          document: newPart({ part: `part-${i}`, piece: 'p' }, `Slip fitting ${i}`),
        })
    }
    await Promise.all(Array.from({ length: 30 }, loader))
    const loaded = (performance.now() - started) / 10_000
    const browser = await chromium.launch(chromiumOptions)
    try {
      const page = await browser.newPage({ viewport: { width: 1280, height: 800 }, baseURL: url })
      await page.goto('/calliper')
      const opening: number[] = []
      for (let i = 0; i < 9; i++) {
        await page.goto('about:blank')
        await pause(1000)
        const at = performance.now()
        await page.goto('/', { waitUntil: 'commit' })
        await page.locator('[role=listitem] input').first().waitFor()
        opening.push(performance.now() - at)
      }
      const nodes = await page.evaluate(() => document.querySelectorAll('*').length)
      const at = performance.now()
      await page.getByRole('searchbox').fill('fitting 9876')
      await page.waitForFunction(() => document.querySelectorAll('[role=listitem]').length === 1)
      const found = performance.now() - at
      const first = share(opening, 0.5)
      report(
        'shelf of 10,000 parts in the browser, to the first card',
        `median ${first.toFixed(0)} ms of ${opening.length}, ${nodes} elements on the page; a search ${found.toFixed(0)} ms; ${loaded.toFixed(1)} ms for each part loaded; wanted 500`,
        first <= 500,
      )
    } finally {
      await browser.close()
    }
  })
}
