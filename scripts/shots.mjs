// Takes the pictures in docs/screenshots/ from the demo parts, on a server and database of their own.

import { spawn } from 'node:child_process'
import { mkdtempSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { fileURLToPath } from 'node:url'
import { chromium } from '@playwright/test'
import { chromiumOptions } from './chromium.mjs'

const root = fileURLToPath(new URL('..', import.meta.url))
const port = 4391
const [, , out = `${root}docs/screenshots`, only] = process.argv

const views = {
  shelf: async (page) => {
    await page.goto('/')
    await page.waitForFunction(
      () => document.querySelectorAll('main img').length >= 5 && !document.body.textContent.includes('being drawn'),
      undefined,
      { timeout: 60_000 },
    )
  },
  workshop: async (page) => {
    await page.goto('/workshop/printers')
    await page.getByRole('form', { name: 'Tern 220' }).waitFor()
  },
  plan: (page) => stage(page, 'deck-cap-spanner', 'plan'),
  make: async (page) => {
    await drawn(page, 'lantern-bracket', 'make')
    await page.getByRole('button', { name: /^Step 5/ }).click()
    await page.mouse.move(200, 700)
  },
  catalogue: async (page) => {
    await drawn(page, 'bilge-pump-gear-pair', 'make')
    await page.getByRole('button', { name: 'machine', exact: true }).click()
    await page.getByRole('dialog', { name: 'Catalogue' }).locator('canvas').first().waitFor()
    await page.waitForTimeout(500)
  },
  'make-relations': async (page) => {
    await drawn(page, 'lantern-bracket', 'make')
    const choose = async (name, option) => {
      await page.locator('[data-step=gusset]').getByRole('combobox', { name }).click()
      await page.getByRole('option', { name: option }).click()
      await page.waitForTimeout(300)
    }
    await page.getByRole('button', { name: /^Step 3/ }).click()
    await choose('Measured left to right', 'from another step …')
    await choose('Measured left to right', 'against the right of')
    await page.getByRole('button', { name: 'Read sizes off the drawing' }).click()
    for (const [x, y] of [
      [0.29, 0.55],
      [0.6, 0.62],
    ]) {
      const box = await page.locator('canvas').boundingBox()
      await page.mouse.click(box.x + box.width * x, box.y + box.height * y)
      await page.waitForTimeout(500)
    }
    await page.waitForTimeout(1200)
  },
  outline: async (page) => {
    await stage(page, 'oar-collar', 'make/outline/profile')
    await page.waitForTimeout(900)
    // One of its lines is selected.
    const canvas = page.getByRole('application', { name: 'Drawing of the outline' })
    const [cx, cy, scale] = (await canvas.getAttribute('data-view')).split(' ').map(Number)
    const box = await canvas.boundingBox()
    await page.mouse.click(box.x + box.width / 2 + (30.2 - cx) * scale, box.y + box.height / 2 - (24 - cy) * scale)
    await page.mouse.move(box.x + 60, box.y + 400)
  },
  'outline-edges': async (page) => {
    await drawn(page, 'lantern-bracket', 'make')
    await page.getByRole('button', { name: /draw an outline/ }).click()
    await page.waitForTimeout(600)
    await page.keyboard.press('f')
    for (const name of ['front edge of 1', 'corner right front edge of 1', 'countersink edge of 5, copy 3'])
      await page.getByRole('button', { name: `Pick up ${name}`, exact: true }).click()
    await page.getByRole('button', { name: 'Pick up wall edge of 5, copy 2' }).hover()
    await page.waitForTimeout(400)
  },
  'make-mesh': async (page) => {
    await drawn(page, 'compass-housing', 'make')
    await page.getByRole('button', { name: /^Step 3/ }).click()
    await page.waitForTimeout(700)
  },
  'make-hollow': async (page) => {
    await drawn(page, 'signal-flag-box', 'make')
    await page
      .getByRole('button', { name: /^Step 4/ })
      .first()
      .click()
    await page.waitForTimeout(900)
  },
  'make-split': async (page) => {
    await drawn(page, 'rigger-bolt-tray', 'make')
    await page.getByRole('combobox', { name: 'Add a step' }).fill('split')
    await page.keyboard.press('Enter')
    const gap = page.getByRole('textbox', { name: 'Gap', exact: true })
    await gap.fill('3/4')
    await gap.press('Enter')
    await page.getByText('prints as 2 pieces').waitFor({ timeout: 60_000 })
    await page.waitForTimeout(9000)
  },
  'make-outline': (page) => drawn(page, 'boat-hook-clip', 'make'),
  calliper: async (page) => {
    await page.goto('/calliper')
    await page.getByRole('button', { name: 'oar shaft' }).click()
  },
  'make-section': async (page) => {
    await drawn(page, 'lantern-bracket', 'make')
    await page.getByRole('combobox', { name: 'Section', exact: true }).click()
    await page.getByRole('option', { name: 'cut from the front' }).click()
    await page.waitForTimeout(1200)
  },
  history: async (page) => {
    await drawn(page, 'deck-cap-spanner', 'make')
    await page.getByRole('button', { name: 'History' }).click()
    await page.getByRole('img', { name: /Drawing of version/ }).waitFor()
  },
  move: async (page) => {
    await drawn(page, 'bench-vice-linkage', 'move')
    await page.getByRole('slider', { name: 'Swing' }).fill('-10')
    await page.getByText(/meet\./).waitFor({ timeout: 60_000 })
  },
  proof: async (page) => {
    await drawn(page, 'oar-hook-rack', 'proof')
    const bevel = page.getByRole('button', { name: /^Bevel the corner/ })
    await bevel.waitFor({ timeout: 60_000 })
    await page.getByRole('button', { name: /^Set the depth of strap/ }).waitFor({ timeout: 60_000 })
    await bevel.hover()
    await page.getByRole('figure', { name: 'What it would change' }).waitFor({ timeout: 30_000 })
    await page.waitForTimeout(500)
  },
  layers: async (page) => {
    await stage(page, 'lantern-bracket', 'layers')
    await page.getByRole('slider', { name: 'Layer' }).fill('22')
    await page.waitForTimeout(1500)
  },
  'hand-off': async (page) => {
    await drawn(page, 'locker-hinge', 'hand-off')
    await page.getByRole('button', { name: /Write, check/ }).click()
    await page.getByText('Receipt').waitFor({ timeout: 60_000 })
  },
}

async function stage(page, part, name) {
  await page.goto(`/part/${part}/${name}`)
  await page.getByRole('navigation', { name: 'Stages' }).waitFor()
  await page
    .waitForFunction(() => !document.body.textContent.includes('…\n'), undefined, { timeout: 30_000 })
    .catch(() => undefined)
}

async function drawn(page, part, name) {
  await stage(page, part, name)
  await page.waitForFunction(() => document.querySelector('[data-drawn*="#"]'), undefined, { timeout: 60_000 })
  await page.waitForTimeout(900)
}

const server = spawn(process.execPath, [`${root}dist/server/main.js`], {
  env: {
    ...process.env,
    MAKREL_PORT: String(port),
    MAKREL_DATABASE: join(mkdtempSync(join(tmpdir(), 'makrel-')), 'shots.sqlite'),
  },
  stdio: ['ignore', 'pipe', 'inherit'],
})
await new Promise((resolve) => server.stdout.on('data', (data) => String(data).includes('served') && resolve()))
const browser = await chromium.launch(chromiumOptions)
try {
  const page = await browser.newPage({ baseURL: `http://127.0.0.1:${port}`, viewport: { width: 1280, height: 800 } })
  page.on('console', (message) => message.type() === 'error' && console.error(`page: ${message.text()}`))
  page.on('pageerror', (error) => console.error(`page: ${error.stack}`))
  for (const [name, show] of Object.entries(views)) {
    if (only && !only.split(',').includes(name)) continue
    await show(page)
    // Measured and proved: no entry is still waited for.
    await page.waitForFunction(
      () => [...document.querySelectorAll('dl dd, nav a')].every((each) => !each.textContent.includes('…')),
      undefined,
      { timeout: 60_000 },
    )
    await page.waitForTimeout(500)
    await page.screenshot({ path: join(out, `${name}.png`) })
  }
} finally {
  await browser.close()
  server.kill()
}
