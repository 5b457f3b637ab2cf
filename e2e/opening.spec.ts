import type { Page } from '@playwright/test'
import { beside, drawn, entry, expect, kept, long, measured, openPart, put, test, value } from './fixtures.ts'
import { TestServer } from './testServer.ts'

/** Keeps the worker that draws away from a page until that is let go. */
async function heldWorker(page: Page): Promise<() => void> {
  let release = () => {}
  const held = new Promise<void>((resolve) => {
    release = resolve
  })
  await page.route('**/solidsWorker*', async (route) => {
    await held
    await route.continue()
  })
  return () => release()
}

test.use({ firstVisit: true })

test(
  'a part that was drawn here before is on the screen before it is built, unless it has changed',
  long,
  async ({ page, context }) => {
    await openPart(page, 'lantern-bracket', 'make')
    await expect(entry(page, 'Proof')).toContainText('1 note')
    const volume = await measured(page, 'Volume')
    await page.waitForFunction(() => localStorage.getItem('makrel drawn')?.includes('lantern-bracket'))
    await page.waitForTimeout(1000)

    // No worker comes to draw anything.
    const again = await context.newPage()
    const release = await heldWorker(again)
    await again.goto('/part/lantern-bracket/make')
    await again.waitForFunction(() => document.querySelector('#root [data-drawn^="kept"]'))
    await expect(entry(again, 'Volume')).toHaveText(volume)
    await expect(entry(again, 'Proof')).toContainText('1 note')
    await expect(again.locator('#kept-picture')).toHaveCount(0)
    release()
    await drawn(again)
    await expect(entry(again, 'Volume')).toHaveText(volume)
    await again.close()

    // What was changed since is not shown as it was.
    await put(value(page, 3, 'Length'), '31.3')
    await page.keyboard.press('Enter')
    await kept(page)
    const changed = await measured(page, 'Volume')
    expect(changed).not.toBe(volume)
    const third = await context.newPage()
    await third.goto('/part/lantern-bracket/make')
    await third.waitForFunction(() => document.querySelector('#root [data-drawn]:not([data-drawn=""])'))
    await expect(entry(third, 'Volume')).not.toHaveText(volume)
    await drawn(third)
    await expect(entry(third, 'Volume')).toHaveText(changed)
    await third.close()
  },
)

test('a long sheet that was opened just now can be scrolled to its foot', beside, async ({ page }) => {
  const { document } = await (await page.request.get('/api/parts/deck-cap-spanner-plain')).json()
  const [piece] = document.pieces
  const more = Array.from({ length: 140 }, (_, i) => ({ ...piece.steps[0], id: `more${i}`, name: '', mute: true }))
  const long = { ...document, id: 'long-spanner', pieces: [{ ...piece, steps: [...piece.steps, ...more] }] }
  await page.request.post('/api/parts', { data: { document: long } })
  await openPart(page, 'long-spanner', 'make')
  const sheet = page.getByRole('complementary', { name: 'Build sheet' })
  await expect(sheet.locator(`[data-step="${piece.steps[0].id}"]`)).toBeVisible()
  // Only lines in view are there at all.
  await expect(sheet.locator('[data-step="more139"]')).toHaveCount(0)
  await sheet
    .locator('.overflow-y-auto')
    .first()
    .evaluate((list) => list.scrollTo(0, list.scrollHeight))
  await expect(sheet.locator('[data-step="more139"]')).toBeInViewport()
})

test(
  'a part that nobody has opened yet is on the screen before it is built: the server has drawn it',
  beside,
  async ({ browser }, info) => {
    const server = new TestServer(4690 + info.workerIndex, { ahead: true })
    await server.start()
    try {
      await expect(async () => {
        const context = await browser.newContext({ baseURL: server.url })
        const page = await context.newPage()
        // No worker ever comes to draw anything.
        await heldWorker(page)
        await page.goto('/part/rigger-bolt-tray/make')
        try {
          await page.waitForFunction(() => document.querySelector('#root [data-drawn^="kept"]'), undefined, {
            timeout: 10_000,
          })
          // It is drawn, and nothing more is known of it: neither what it weighs nor that it passes.
          await expect(entry(page, 'Proof')).not.toContainText(/passed|note|warning/)
          await expect(page.getByRole('status').filter({ hasText: /fault/ })).toHaveCount(0)
        } finally {
          await context.close()
        }
      }).toPass({ timeout: 120_000 })
    } finally {
      await server.stop()
    }
  },
)

test(
  'a part is opened, edited and proved where the browser sums nothing up, as over a network without encryption',
  beside,
  async ({ page }) => {
    await page.addInitScript(() => Object.defineProperty(crypto, 'subtle', { value: undefined }))
    await openPart(page, 'lantern-bracket', 'make')
    await expect(entry(page, 'Proof')).toContainText('1 note')
    const volume = await measured(page, 'Volume')
    await put(value(page, 3, 'Length'), '31.3')
    await page.keyboard.press('Enter')
    await kept(page)
    expect(await measured(page, 'Volume')).not.toBe(volume)
    // What could not be kept is drawn anew.
    await page.reload()
    await drawn(page)
  },
)
