import { type ChildProcess, spawn } from 'node:child_process'
import { mkdtempSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { fileURLToPath } from 'node:url'
import { chromium } from '@playwright/test'
import { chromiumOptions } from '../scripts/chromium.mjs'
import { median, report } from './measure.ts'

const root = fileURLToPath(new URL('../../', import.meta.url))

/** From the keystroke in a value to the frame that shows the changed solid, in the real application. */
export async function browserBench(): Promise<void> {
  const port = 4720
  const server: ChildProcess = spawn(process.execPath, [join(root, 'dist/server/main.js')], {
    env: {
      ...process.env,
      MAKREL_PORT: String(port),
      MAKREL_DATABASE: join(mkdtempSync(join(tmpdir(), 'makrel-bench-')), 'b.sqlite'),
    },
    stdio: ['ignore', 'pipe', 'inherit'],
  })
  await new Promise<void>((resolve) =>
    server.stdout!.on('data', (data) => String(data).includes('served') && resolve()),
  )
  const browser = await chromium.launch(chromiumOptions)
  try {
    const page = await browser.newPage({ viewport: { width: 1280, height: 800 } })
    await page.goto(`http://127.0.0.1:${port}/part/lantern-bracket/make`)
    await page.waitForFunction(() => document.querySelector('[data-drawn*="#"]'))
    await page.waitForTimeout(1500)
    const times = await page.evaluate(async () => {
      const field = document.querySelector<HTMLInputElement>('[data-step=gusset] input[aria-label=Length]')!
      const drawn = document.querySelector('[data-drawn]')!
      const frame = () => new Promise((resolve) => requestAnimationFrame(resolve))
      const set = Object.getOwnPropertyDescriptor(HTMLInputElement.prototype, 'value')!.set!
      field.focus()
      await frame()
      const out: number[] = []
      for (let i = 0; i < 20; i++) {
        await new Promise((resolve) => setTimeout(resolve, 400))
        const key = drawn.getAttribute('data-drawn')
        const started = performance.now()
        set.call(field, String(30 + i / 2))
        field.dispatchEvent(new Event('input', { bubbles: true }))
        while (drawn.getAttribute('data-drawn') === key) await frame()
        await frame()
        out.push(performance.now() - started)
      }
      return out
    })
    report(
      'edit to picture in the browser, Lantern bracket',
      `median of 20: ${median(times).toFixed(0)} ms, slowest ${Math.max(...times).toFixed(0)} ms (software rendering)`,
    )
  } finally {
    await browser.close()
    server.kill()
  }
}
