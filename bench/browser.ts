import { chromium, type Page } from '@playwright/test'
import { chromiumOptions } from '../scripts/chromium.mjs'
import { median, report } from './measure.ts'
import { longOutline, millionTriangles, threeHundredSteps } from './parts.ts'
import { withServer } from './service.ts'

/** Everything that is measured in the real application. */
export async function browserBench(): Promise<void> {
  await withServer(4720, measuredAt)
}

async function measuredAt(baseURL: string): Promise<void> {
  const inBrowser = async (more: readonly string[], ...all: ((page: Page) => Promise<void>)[]) => {
    const browser = await chromium.launch({ ...chromiumOptions, args: [...chromiumOptions.args, ...more] })
    try {
      const page = await browser.newPage({
        viewport: { width: 1280, height: 800 },
        baseURL,
      })
      for (const measured of all) await measured(page)
    } finally {
      await browser.close()
    }
  }
  await inBrowser([], editToPicture, typingInLongSheet)
  // Where no graphics card is, lines are faster painted by the processor than by what stands in for a card.
  await inBrowser(['--disable-gpu-rasterization'], draggedOutline)
  await inBrowser([], orbitOfMany)
}

async function opened(page: Page, id: string): Promise<void> {
  await page.goto(`/part/${id}/make`)
  await page.waitForFunction(() => document.querySelector('[data-drawn*="#"]'), undefined, { timeout: 120_000 })
  await page.waitForTimeout(1500)
}

/** From the keystroke in a value to the frame that shows the changed solid. */
async function editToPicture(page: Page): Promise<void> {
  await opened(page, 'lantern-bracket')
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
}

/** From the keystroke in a value of a sheet of 300 steps to the next paint, which shows what was typed. */
async function typingInLongSheet(page: Page): Promise<void> {
  await page.request.post('/api/parts', { data: { document: threeHundredSteps() } })
  await opened(page, 'three-hundred')
  // Only the lines in view are there.
  await page.evaluate(() => {
    document.querySelector('[aria-label="Build sheet"] .overflow-y-auto')!.scrollTop = 150 * 32
  })
  await page.locator('[data-step=s150] button').first().click()
  await page.waitForTimeout(3000)
  const { typed, scrolled } = await page.evaluate(async () => {
    const field = document.querySelector<HTMLInputElement>('[data-step=s150] input[aria-label=Diameter]')!
    const set = Object.getOwnPropertyDescriptor(HTMLInputElement.prototype, 'value')!.set!
    /** After the next paint: a task that was put in line by the frame's own callback. */
    const painted = () =>
      new Promise<void>((resolve) =>
        requestAnimationFrame(() => {
          const { port1, port2 } = new MessageChannel()
          port1.onmessage = () => resolve()
          port2.postMessage(0)
        }),
      )
    field.focus()
    await painted()
    const typed: number[] = []
    for (let i = 0; i < 20; i++) {
      // The solid of the keystroke before is there, and drawn.
      await new Promise((resolve) => setTimeout(resolve, 1500))
      const started = performance.now()
      set.call(field, String(3 + i / 100))
      field.dispatchEvent(new Event('input', { bubbles: true }))
      await painted()
      typed.push(performance.now() - started)
    }
    const list = document.querySelector('[aria-label="Build sheet"] .overflow-y-auto')!
    const scrolled: number[] = []
    for (let i = 0; i < 30; i++) {
      const started = performance.now()
      list.scrollTop = 150 * i
      await painted()
      scrolled.push(performance.now() - started)
    }
    return { typed, scrolled }
  })
  report(
    'typing in a sheet of 300 steps, to the next paint',
    `median ${median(typed).toFixed(0)} ms, slowest ${Math.max(...typed).toFixed(0)} ms; wanted < 50`,
    median(typed) < 50,
  )
  report(
    'scrolling a sheet of 300 steps by 150 pixels',
    `median ${median(scrolled).toFixed(0)} ms a frame, slowest ${Math.max(...scrolled).toFixed(0)} ms`,
  )
}

/** A point of an outline of 5,000 segments dragged: from the pointer's move to the frame that shows it there. */
async function draggedOutline(page: Page): Promise<void> {
  await page.request.post('/api/parts', { data: { document: longOutline() } })
  const started = performance.now()
  await page.goto('/part/long-outline/make/outline/ring')
  await page.waitForFunction(() => document.querySelector('[data-view]'), undefined, { timeout: 120_000 })
  const opened = performance.now() - started
  await page.waitForTimeout(3000)
  const times = await page.evaluate(async () => {
    const canvas = document.querySelector('[data-view]')!
    const box = canvas.getBoundingClientRect()
    const [cx, cy, scale] = canvas.getAttribute('data-view')!.split(' ').map(Number) as [number, number, number]
    const [x, y] = [box.x + box.width / 2 + (60 - cx) * scale, box.y + box.height / 2 + cy * scale]
    const frame = () => new Promise((resolve) => requestAnimationFrame(resolve))
    const point = (type: string, dx: number) =>
      canvas.dispatchEvent(
        new PointerEvent(type, {
          bubbles: true,
          cancelable: true,
          pointerId: 1,
          clientX: x + dx,
          clientY: y,
          button: type === 'pointermove' ? -1 : 0,
          buttons: type === 'pointerup' ? 0 : 1,
        }),
      )
    point('pointermove', 0)
    await frame()
    point('pointerdown', 0)
    await frame()
    const out: number[] = []
    for (let i = 1; i <= 20; i++) {
      const started = performance.now()
      point('pointermove', 4 + i)
      await frame()
      await frame()
      out.push(performance.now() - started)
    }
    point('pointerup', 24)
    await frame()
    await frame()
    if (document.querySelector<HTMLButtonElement>('button[aria-label^=Undo]')!.disabled)
      throw new Error('nothing was dragged')
    return out
  })
  const [first, ...following] = times
  report(
    'outline of 5,000 segments in the browser, a step of dragging to the next frame',
    `first ${first!.toFixed(0)} ms, following ones: median ${median(following).toFixed(0)}, slowest ${Math.max(...following).toFixed(0)}; wanted 200 at most; opened in ${opened.toFixed(0)} ms`,
    Math.max(...times) <= 200,
  )
}

/** A turn of the view over a million triangles: draw calls and time of a frame. */
async function orbitOfMany(page: Page): Promise<void> {
  await page.addInitScript(() => {
    const counted = { calls: 0 }
    Object.assign(window, { counted })
    for (const name of ['drawArrays', 'drawElements'] as const) {
      const plain = WebGL2RenderingContext.prototype[name] as (...args: unknown[]) => void
      WebGL2RenderingContext.prototype[name] = function (this: WebGL2RenderingContext, ...args: unknown[]) {
        counted.calls++
        return plain.apply(this, args)
      } as never
    }
  })
  await page.request.post('/api/parts', { data: { document: millionTriangles() } })
  await opened(page, 'million')
  const { times, calls } = await page.evaluate(async () => {
    const { counted } = window as unknown as { counted: { calls: number } }
    const frame = () => new Promise((resolve) => requestAnimationFrame(resolve))
    const times: number[] = []
    let calls = 0
    for (let i = 0; i < 20; i++) {
      const started = performance.now()
      counted.calls = 0
      window.dispatchEvent(new KeyboardEvent('keydown', { key: 'l' }))
      while (counted.calls === 0) await frame()
      calls = counted.calls
      times.push(performance.now() - started)
    }
    return { times, calls }
  })
  report(
    'orbit at a million triangles, one piece',
    `${calls} draw calls (surface, edges, and two for the bed), median ${median(times).toFixed(0)} ms a frame (software rendering)`,
    calls <= 4,
  )
}
