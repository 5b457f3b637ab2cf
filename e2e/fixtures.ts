import { type BrowserContext, test as base, expect, type Locator, type Page, type TestInfo } from '@playwright/test'
import { TestServer } from './testServer.ts'

interface Journey {
  readonly problems: string[]
  readonly server: TestServer
  readonly pictured: boolean
  readonly firstVisit: boolean
}
interface Shared {
  /** a browser that has the application's scripts already, and compiled: half of the time to the first picture goes to these */
  readonly returning: BrowserContext
  /** a server that is left running from one journey to the next */
  readonly running: TestServer
}

const firstPort = 4600

/** What a journey says that goes beside the main ways: `npm test` takes it every fifteenth day. */
export const beside = { tag: '@beside' }
/** A main way that takes long: `npm test` takes it every third day. */
export const long = { tag: '@long' }
/** How often those of a kind come round, days. */
const rounds = [
  [beside, 15],
  [long, 3],
] as const

/** Whether a journey is to be taken: what is run by hand, and `npm run test:all`, take them all. */
function isTaken({ tags, title }: TestInfo): boolean {
  const { MAKREL_ALL, MAKREL_SEED } = process.env
  if (MAKREL_ALL === '1' || MAKREL_SEED === undefined) return true
  const own = [...title].reduce((sum, letter) => sum + letter.charCodeAt(0), 0)
  return rounds.every(([{ tag }, days]) => !tags.includes(tag) || (own + Number(MAKREL_SEED)) % days === 0)
}

export const test = base.extend<Journey, Shared>({
  returning: [
    async ({ browser }, use, info) => {
      const { viewport, deviceScaleFactor, acceptDownloads } = info.project.use
      const baseURL = `http://127.0.0.1:${firstPort + info.workerIndex}`
      const context = await browser.newContext({
        baseURL,
        ...(viewport === undefined ? {} : { viewport }),
        ...(deviceScaleFactor === undefined ? {} : { deviceScaleFactor }),
        ...(acceptDownloads === undefined ? {} : { acceptDownloads }),
      })
      await use(context)
      await context.close()
    },
    { scope: 'worker' },
  ],
  /** whether the browser has never been there: it has no scripts yet */
  firstVisit: [false, { option: true }],
  /** What was kept by the journey before is gone; a second try has a browser of its own, and is traced. */
  context: async ({ context, returning, firstVisit, server }, use, info) => {
    if (firstVisit || info.retry > 0) return use(context)
    const page = await returning.newPage()
    const client = await returning.newCDPSession(page)
    const storageTypes = 'cookies,indexeddb,local_storage,cache_storage,service_workers'
    await client.send('Storage.clearDataForOrigin', { origin: server.url, storageTypes })
    await page.close()
    await use(returning)
    for (const each of returning.pages()) await each.close()
    await returning.clearPermissions()
  },
  /** whether the shelf's pictures have been drawn already, as they are for whoever comes a second time */
  pictured: [true, { option: true }],
  running: [
    // biome-ignore lint/correctness/noEmptyPattern: what a fixture needs is read off its pattern
    async ({}, use, info) => {
      const server = new TestServer(firstPort + info.workerIndex, { from: process.env.MAKREL_E2E_PLAIN })
      await use(server)
      if (server.isRunning) await server.stop()
    },
    { scope: 'worker' },
  ],
  /** a shelf of its own for each test; whatever became of the one before, its server runs */
  server: async ({ running, pictured }, use, info) => {
    info.skip(!isTaken(info), 'taken on another day')
    if (!running.isRunning) await running.start()
    await running.holdAsIn((pictured ? process.env.MAKREL_E2E_PICTURED : process.env.MAKREL_E2E_PLAIN)!)
    await use(running)
  },
  baseURL: ({ server }, use) => use(server.url),
  /** what went wrong on the page unseen: each test ends with none */
  problems: [
    async ({ page }, use) => {
      const problems: string[] = []
      page.on('pageerror', (error) => problems.push(error.message))
      page.on('console', (message) => message.type() === 'error' && problems.push(message.text()))
      await use(problems)
      expect(problems).toEqual([])
    },
    { auto: true },
  ],
})

export { expect }

/** Opens a part's stage and waits until its solid is drawn. */
export async function openPart(page: Page, id: string, stage: string): Promise<void> {
  await page.goto(`/part/${id}/${stage}`)
  await drawn(page)
}

export async function drawn(page: Page): Promise<void> {
  await page.waitForFunction(() => document.querySelector('[data-drawn*="#"]'))
}

/** Where something lies once it stands still: the drawing follows the sheet and the views with the next frames. */
export async function still(of: Locator): Promise<{ x: number; y: number; width: number; height: number }> {
  let box = await of.boundingBox()
  await expect(async () => {
    const before = box
    await of.page().waitForTimeout(150)
    box = await of.boundingBox()
    expect(box).not.toBeNull()
    expect(box).toEqual(before)
  }).toPass()
  return box!
}

/** The title block's entry, as shown. */
export function entry(page: Page, label: string) {
  return page.locator('dl a', { has: page.locator('dt', { hasText: label }) }).locator('dd')
}

export function line(page: Page, number: number, piece = 0) {
  return page
    .getByRole('complementary', { name: 'Build sheet' })
    .locator('ol:not(ol ol)')
    .nth(piece)
    .locator('> li')
    .nth(number - 1)
}

/** A step's own values, in the order of its sentence. */
export function value(page: Page, number: number, label: string, piece = 0) {
  return line(page, number, piece).getByRole('textbox', { name: label, exact: true })
}

/** Has files and layers make up for what the printer and the material do, measured or not. */
export async function madeUp(page: Page): Promise<void> {
  await page.getByRole('combobox', { name: 'Compensation' }).click()
  await page.getByRole('option', { name: 'compensated for the printer' }).click()
}

/** The link to a stage, with its state. */
export function stage(page: Page, label: string) {
  return page.getByRole('navigation', { name: 'Stages' }).getByRole('link', { name: new RegExp(`^${label}`) })
}

/** Waits until everything is saved. */
export async function kept(page: Page): Promise<void> {
  await expect(page.getByText(/^saved \d\d:\d\d$/)).toBeVisible()
}

/** Types into a value: it reads as its expression once it has the keyboard. */
export async function put(field: Locator, text: string): Promise<void> {
  await field.focus()
  await field
    .page()
    .evaluate(() => new Promise((resolve) => requestAnimationFrame(() => requestAnimationFrame(resolve))))
  await field.fill(text)
}

/** A part of its own with a measure or two, opened on Make. */
export async function newPart(page: Page, name: string): Promise<void> {
  await page.goto('/')
  await page.getByRole('button', { name: 'New part' }).click()
  await expect(page).toHaveURL(/plan$/)
  await page.getByRole('textbox', { name: 'Part name' }).fill(name)
  await page.keyboard.press('Enter')
  await page.getByRole('link', { name: /^Make/ }).click()
  // Keys are meant for Make from here on, not for Plan, which shows until it is there.
  await expect(page.getByRole('combobox', { name: 'Add a step' })).toBeVisible()
}

/** Types a step into the add field; its first value has the keyboard then. */
export async function add(page: Page, typed: string): Promise<void> {
  await page.getByRole('combobox', { name: 'Add a step' }).fill(typed)
  await page.keyboard.press('Enter')
}

export async function chooseIn(page: Page, number: number, label: string, option: string): Promise<void> {
  await line(page, number).getByRole('combobox', { name: label }).click()
  await page.getByRole('option', { name: option, exact: true }).click()
}

/** Chooses how a step is measured and types its distance, which takes the keyboard. */
export async function measure(page: Page, number: number, sides: string, option: string, by: string): Promise<void> {
  await chooseIn(page, number, `Measured ${sides}`, option)
  await expect(value(page, number, `Distance ${sides}`)).toBeFocused()
  await page.keyboard.type(by)
}

/** Presses the number of a step. */
export function select(page: Page, number: number): Promise<void> {
  return page.getByRole('button', { name: new RegExp(`^Step ${number},`) }).click()
}

/** What an entry of the title block says once it is measured. */
export async function measured(page: Page, label: string): Promise<string> {
  // Until it is proved it may be that of the solid before, and until it is measured that of its flats.
  await expect(entry(page, 'Proof')).not.toHaveText('…')
  const own = page.locator('dl a', { has: page.locator('dt', { hasText: label }) })
  await expect(own).not.toHaveAttribute('title', /^Being measured/)
  await expect(entry(page, label)).toHaveText(/^\d/)
  return (await entry(page, label).textContent())!
}

/** The volume in the title block, cm³, once it is measured. */
export async function volume(page: Page): Promise<number> {
  let found = Number.NaN
  // Between one solid and the next it may not be told.
  await expect(async () => {
    found = Number((await measured(page, 'Volume')).replace(' cm³', ''))
    expect(Number.isFinite(found)).toBe(true)
  }).toPass()
  return found
}

/** What is said at the foot of the page; screen readers are told the same by themselves. */
export function notice(page: Page, text: string | RegExp): Locator {
  return page.getByRole('region', { name: /^Notices/ }).getByText(text)
}
