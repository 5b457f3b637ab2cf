import { copyFileSync } from 'node:fs'
import { chromium } from '@playwright/test'
import { chromiumOptions } from '../scripts/chromium.mjs'
import { TestServer } from './testServer.ts'

interface Shelf {
  readonly total: number
  readonly entries: readonly { readonly revision: number; readonly pictureRevision: number | null }[]
}

/** Makes the databases that journeys begin with: the demo parts as they come, and with their pictures, drawn once for all. */
export default async function pictured(): Promise<void> {
  const server = new TestServer(4590)
  await server.start()
  await server.stop()
  const plain = `${server.database}.plain`
  copyFileSync(server.database, plain)
  await server.start()
  const browser = await chromium.launch(chromiumOptions)
  try {
    // So tall that all cards are in view.
    const page = await browser.newPage({ viewport: { width: 1280, height: 3000 }, baseURL: server.url })
    await page.goto('/')
    for (let seconds = 0; seconds < 300; seconds++) {
      const { total, entries } = (await (await page.request.get('/api/parts?count=100')).json()) as Shelf
      if (entries.length === total && entries.every((entry) => entry.pictureRevision === entry.revision)) break
      await page.waitForTimeout(1000)
    }
  } finally {
    await browser.close()
    await server.stop()
  }
  process.env.MAKREL_E2E_PLAIN = plain
  process.env.MAKREL_E2E_PICTURED = server.database
}
