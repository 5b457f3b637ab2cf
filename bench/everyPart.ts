import { existsSync, readdirSync, readFileSync } from 'node:fs'
import { join } from 'node:path'
import { fileURLToPath } from 'node:url'
import { type Part, readPartFile } from '@makrel/core/document'
import type { Kernel } from '@makrel/core/kernel'
import { type Browser, chromium, type Page } from '@playwright/test'
import { chromiumOptions } from '../scripts/chromium.mjs'
import { contentSum } from '../server/drawings.ts'
import { median, report, timed } from './measure.ts'
import { dozenSteps } from './parts.ts'
import { withServer } from './service.ts'

/** What a maker waits for, in ms: wanted at most. */
const wanted = { open: 1500, again: 300, edit: 300, slowest: 800, proof: 2000, found: 300 }

const demo = fileURLToPath(new URL('../../demo/', import.meta.url))

interface Waited {
  readonly open: number
  readonly proofAfterOpen: number
  readonly again: number
  readonly edits: readonly number[]
  /** from the changed picture */
  readonly found: number
  readonly proof: number
}

/**
 * Every demo part in the real application, and a box of a dozen steps: from its address to its picture with a fresh profile and when it was
 * opened before, from an arrow key on a value to the changed picture, and from there to the first and to all findings.
 */
export async function everyPart(kernel: Kernel): Promise<void> {
  const only = process.argv.slice(3)
  const files = readdirSync(demo).filter((file) => file.endsWith('.makrel.json'))
  const parts = files.map((file) => readPartFile(readFileSync(demo + file, 'utf8')))
  await withServer(4730, async (url, database) => {
    const browser = await chromium.launch(chromiumOptions)
    try {
      const box = dozenSteps()
      await fetch(`${url}/api/parts`, {
        method: 'POST',
        headers: { 'content-type': 'application/json' },
        body: JSON.stringify({ document: box }),
      })
      await started(browser, url)
      await drawnAhead([...parts, box], url, `${database}.drawn`)
      await tellMachine(kernel)
      console.log('                          open  proof  again   edits: middle slowest   first found  all found')
      for (const { id, name } of [...parts, box]) {
        if (only.length > 0 && !only.includes(id)) continue
        const waited = await waitedFor(browser, url, id)
        // Where all values are names there is nothing for an arrow key to change.
        const [middle, slowest] = waited.edits.length > 0 ? [median(waited.edits), Math.max(...waited.edits)] : [0, 0]
        const held =
          waited.open <= wanted.open &&
          waited.again <= wanted.again &&
          middle <= wanted.edit &&
          slowest <= wanted.slowest &&
          waited.found <= wanted.found &&
          waited.proof <= wanted.proof
        const { open, proofAfterOpen, again, found, proof } = waited
        const columns = [open, proofAfterOpen, again, middle, slowest, found, proof].map((ms) =>
          ms.toFixed(0).padStart(7),
        )
        report(name.padEnd(22), `${columns.join(' ')}  of ${waited.edits.length} edits`, held)
      }
      await tellMachine(kernel)
    } finally {
      await browser.close()
    }
  })
}

/** How quick this machine is now: what the library by itself takes, so that tables of other machines and hours can be compared. */
async function tellMachine({ library }: Kernel): Promise<void> {
  const { Manifold } = library.module
  const cut = () => {
    const [plate, hole] = [Manifold.cube([120, 80, 8]), Manifold.cylinder(12, 2.1, 2.1, 48)]
    const holes = Array.from({ length: 60 }, (_, i) =>
      hole.translate([8 + 11 * (i % 10), 8 + 12 * Math.floor(i / 10), -2]),
    )
    const rest = Manifold.difference([plate, ...holes])
    rest.numTri()
    for (const each of [plate, hole, ...holes, rest]) each.delete()
  }
  const times: number[] = []
  for (let i = 0; i < 15; i++) times.push(await timed(cut))
  console.log(`the library by itself cuts 60 holes out of a plate in ${median(times).toFixed(1)} ms`)
}

/** The server draws what nobody has opened behind all else: what is wanted of opening is wanted once it has. */
async function drawnAhead(parts: readonly Part[], url: string, folder: string): Promise<void> {
  const began = performance.now()
  const isThere = (sum: string) =>
    existsSync(folder) && readdirSync(folder).some((built) => existsSync(join(folder, built, sum)))
  for (const { id } of parts) {
    const { document } = (await (await fetch(`${url}/api/parts/${id}`)).json()) as { document: Part }
    while (!isThere(contentSum(document))) {
      if (performance.now() - began > longestDrawing) throw new Error(`the server has not drawn ${id}`)
      await new Promise((resolve) => setTimeout(resolve, 200))
    }
    if (id === parts.at(-2)?.id) console.log(`demo parts drawn ahead after ${seconds(began)} s`)
  }
  console.log(`the box, which came later, after ${seconds(began)} s`)
}

/** ms */
const longestDrawing = 300_000
const seconds = (since: number) => ((performance.now() - since) / 1000).toFixed(1)

/** The first page of a browser that has just been started waits for that; a maker's has been running. */
async function started(browser: Browser, baseURL: string): Promise<void> {
  const page = await browser.newPage({ baseURL })
  await page.goto('/')
  await page.locator('[role=listitem] input').first().waitFor()
  await page.close()
}

async function waitedFor(browser: Browser, baseURL: string, id: string): Promise<Waited> {
  const context = await browser.newContext({ viewport: { width: 1280, height: 800 }, baseURL })
  try {
    const page = await context.newPage()
    const open = await opened(page, id)
    const proofAfterOpen = (await proved(page)).whole
    await page.waitForTimeout(1500)
    const { edits, found, proof } = await edited(page)
    // What was drawn last is kept a moment after.
    await page.waitForTimeout(1500)
    const again = await opened(await context.newPage(), id)
    return { open, proofAfterOpen, again, edits, found, proof }
  } finally {
    await context.close()
  }
}

/** From the address to the picture, ms. */
async function opened(page: Page, id: string): Promise<number> {
  const started = performance.now()
  await page.goto(`/part/${id}/make`, { waitUntil: 'commit' })
  await page.waitForFunction(() => document.querySelector('[data-drawn]:not([data-drawn=""])'), undefined, {
    timeout: 120_000,
    polling: 'raf',
  })
  return performance.now() - started
}

/** From now to the first and to all findings of what is drawn, ms. */
async function proved(page: Page): Promise<{ first: number; whole: number }> {
  const started = performance.now()
  const until = async (of: string) => {
    await page.waitForFunction(
      (name) => {
        const drawing = document.querySelector<HTMLElement>('[data-drawn]')
        return drawing?.dataset.drawn !== '' && drawing?.dataset[name] === drawing?.dataset.drawn
      },
      of,
      { timeout: 120_000, polling: 'raf' },
    )
    return performance.now() - started
  }
  const first = await until('found')
  return { first, whole: await until('proved') }
}

/** An arrow key in a value of four steps from the first to the last one, there and back. */
async function edited(page: Page): Promise<{ edits: number[]; found: number; proof: number }> {
  const edits: number[] = []
  let [found, proof] = [0, 0]
  const ids = await page
    .locator('[aria-label="Build sheet"] [data-step]')
    .evaluateAll((lines) => lines.map((line) => line.getAttribute('data-step')!))
  const spread = [0, 1 / 3, 2 / 3, 1].map((share) => ids[Math.round(share * (ids.length - 1))]!)
  for (const id of new Set([...spread, ...ids])) {
    if (edits.length >= 8) break
    const line = page.locator(`[aria-label="Build sheet"] [data-step="${id}"]`).first()
    await line.scrollIntoViewIfNeeded()
    await line.click({ position: { x: 6, y: 6 } })
    await page.waitForTimeout(700)
    for (const key of ['ArrowUp', 'ArrowDown']) {
      const took = await page.evaluate(changed, { id, key })
      if (took === undefined) break
      edits.push(took)
      const { first, whole } = await proved(page)
      found = Math.max(found, first)
      proof = Math.max(proof, whole)
    }
  }
  return { edits, found, proof }
}

/**
 * In the page: from a key in the first value of a step that takes one to the frame that shows the changed solid, ms; undefined where none
 * does, or the solid stays.
 */
async function changed({ id, key }: { id: string; key: string }) {
  const line = document.querySelector(`[aria-label="Build sheet"] [data-step="${id}"]`)
  const drawing = document.querySelector<HTMLElement>('[data-drawn]')
  const frame = () => new Promise((resolve) => requestAnimationFrame(resolve))
  const rest = (ms: number) => new Promise((resolve) => setTimeout(resolve, ms))
  for (const field of line?.querySelectorAll<HTMLInputElement>('input.value') ?? []) {
    field.focus()
    // What else can be built ahead is.
    await rest(600)
    const [before, text] = [drawing!.dataset.drawn, field.value]
    const started = performance.now()
    field.dispatchEvent(new KeyboardEvent('keydown', { key, bubbles: true, cancelable: true }))
    await frame()
    // A name alone takes no step.
    if (field.value === text) continue
    while (drawing!.dataset.drawn === before) {
      if (performance.now() - started > 40_000) return undefined
      await frame()
    }
    await frame()
    return performance.now() - started
  }
  return undefined
}
