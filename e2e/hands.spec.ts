import { readFileSync } from 'node:fs'
import type { Page } from '@playwright/test'
import {
  add,
  beside,
  drawn,
  entry,
  expect,
  kept,
  line,
  newPart,
  openPart,
  put,
  select,
  stage,
  test,
  value,
  volume,
} from './fixtures.ts'

/** What hands do without thinking: the right button, double presses, the usual keys, the own unit. */

/** Somewhere on the drawing, in parts of its size. */
async function on(page: Page, x: number, y: number): Promise<readonly [number, number]> {
  const box = (await page.locator('canvas').boundingBox())!
  return [box.x + box.width * x, box.y + box.height * y]
}

test('the right button says what can be done with a step, and does it', beside, async ({ page }) => {
  await openPart(page, 'lantern-bracket', 'make')
  const menu = page.getByRole('menu')
  await page.getByRole('button', { name: /^Step 3,/ }).click({ button: 'right' })
  await menu.getByRole('menuitem', { name: 'Repeat mirrored' }).click()
  await expect(line(page, 3)).toContainText('mirrored')
  await page.keyboard.press('Control+z')
  await expect(line(page, 3)).not.toContainText('mirrored')
  // On the drawing it is about the step under the pointer: in the middle of the bracket that is its gusset.
  await page.mouse.click(...(await on(page, 0.5, 0.62)), { button: 'right' })
  await expect(menu).toBeVisible()
  await page.keyboard.press('Escape')
  await expect(menu).toHaveCount(0)
  await expect(page.locator('[data-step=gusset]')).toHaveAttribute('aria-current', 'true')
})

test('double presses edit, and keys take all steps, copy beside and remove', beside, async ({ page }) => {
  await newPart(page, 'Two blocks')
  await add(page, 'plate 20.1 12.7 9.3')
  await page.keyboard.press('Escape')
  await expect.poll(() => volume(page)).toBeCloseTo(2.374, 2)
  // The view may still be coming round to the new solid.
  await expect(async () => {
    await page.mouse.dblclick(...(await on(page, 0.5, 0.5)))
    await expect(value(page, 1, 'Width')).toBeFocused({ timeout: 1500 })
  }).toPass()
  await page.keyboard.type('30.2')
  await page.keyboard.press('Enter')
  await expect(entry(page, 'Overall')).toHaveText('30.2 × 12.7 × 9.3 mm')
  await page.keyboard.press('Escape')
  await select(page, 1)
  await page.keyboard.press('Control+d')
  await expect(line(page, 2)).toBeVisible()
  await expect(page.locator('[data-step]')).toHaveCount(2)
  // What it is beside has the keyboard, to be typed over.
  await page.keyboard.press('Escape')
  await select(page, 2)
  await page.keyboard.press('Control+a')
  await page.keyboard.press('Backspace')
  await expect(page.locator('[data-step]')).toHaveCount(0)
  await page.keyboard.press('Control+z')
  await expect(page.locator('[data-step]')).toHaveCount(2)
})

test('a part in inches speaks inches, and what stands flush on its face is one with it', beside, async ({ page }) => {
  await newPart(page, 'Box in inches')
  await stage(page, 'Plan').click()
  await page.getByRole('combobox', { name: 'Units' }).click()
  await page.getByRole('option', { name: /inches/ }).click()
  await stage(page, 'Make').click()
  await add(page, 'plate')
  await page.keyboard.press('Escape')
  // A plain plate is one of a workshop, not of a shipyard.
  await expect.poll(async () => Number.parseFloat((await entry(page, 'Overall').textContent()) ?? '')).toBeLessThan(4)
  await select(page, 1)
  await put(value(page, 1, 'Width'), '1-1/4')
  await put(value(page, 1, 'Depth'), '3/4 in')
  await put(value(page, 1, 'Height'), '½')
  await page.keyboard.press('Enter')
  await expect(entry(page, 'Overall')).toHaveText(/1\.25.* × 0\.75.* × 0\.5.* in/)
  const cubicInches = async () => Number.parseFloat((await entry(page, 'Volume').textContent())!)
  await expect(entry(page, 'Volume')).toContainText('in³')
  await expect.poll(cubicInches).toBeCloseTo(1.25 * 0.75 * 0.5, 3)
  await add(page, 'plate 3/8 0.75 .3')
  await page.keyboard.press('Escape')
  await expect(entry(page, 'Overall')).toHaveText(/^1\.25 × 0\.75 × 0\.8 in$/)
  await expect.poll(cubicInches).toBeCloseTo(1.25 * 0.75 * 0.5 + 0.375 * 0.75 * 0.3, 3)
  await expect(entry(page, 'Proof')).toContainText('passed')
  await kept(page)
})

test(
  'a view is kept by name, taken again, and saved as a picture; a piece has any colour',
  beside,
  async ({ page }) => {
    await openPart(page, 'lantern-bracket', 'make')
    await page.getByRole('button', { name: 'views' }).click()
    await page.getByRole('textbox', { name: 'Name of the view' }).fill('For the label')
    await page.getByRole('button', { name: 'keep it' }).click()
    const view = page.getByRole('button', { name: 'For the label', exact: true })
    await expect(view).toBeVisible()
    const saved = page.waitForEvent('download')
    await page.getByRole('button', { name: 'Save a picture (PNG)' }).click()
    const file = await saved
    expect(file.suggestedFilename()).toBe('Lantern-bracket.png')
    const bytes = readFileSync((await file.path())!)
    expect([...bytes.subarray(0, 8)]).toEqual([0x89, 0x50, 0x4e, 0x47, 0x0d, 0x0a, 0x1a, 0x0a])
    // Width and height of the picture, and more than one colour's worth of it.
    expect(bytes.readUInt32BE(16)).toBeGreaterThan(500)
    expect(bytes.length).toBeGreaterThan(10_000)
    await page.keyboard.press('Escape')
    await page.getByRole('button', { name: 'Colour of Bracket' }).click()
    await page.getByLabel('Another colour').fill('#b4552d')
    await page.keyboard.press('Escape')
    await kept(page)
    await page.reload()
    await drawn(page)
    await expect(page.getByRole('button', { name: 'Colour of Bracket' })).toHaveCSS(
      'background-color',
      'rgb(180, 85, 45)',
    )
    await page.getByRole('button', { name: 'views' }).click()
    await expect(view).toBeVisible()
  },
)

test('the unit is changed to and fro without a change of size, or not at all', beside, async ({ page }) => {
  await newPart(page, 'To and fro')
  await add(page, 'plate 80-(10+5) 44.7 1/3 in')
  const texts = () =>
    page
      .locator('[data-step]')
      .getByRole('textbox')
      .evaluateAll((all) => all.map((e) => (e as HTMLInputElement).value))
  const unit = async (name: RegExp) => {
    await page.getByRole('combobox', { name: 'Units' }).click()
    await page.getByRole('option', { name }).click()
  }
  await expect(entry(page, 'Overall')).toHaveText('65 × 44.7 × 8.47 mm')
  await stage(page, 'Plan').click()
  await stage(page, 'Make').click()
  await expect(page.getByRole('textbox', { name: 'Width' })).toHaveValue('65')
  const before = await texts()
  await stage(page, 'Plan').click()
  await unit(/inches/)
  await stage(page, 'Make').click()
  await expect(entry(page, 'Overall')).toHaveText('2.559 × 1.76 × 0.333 in')
  await stage(page, 'Plan').click()
  await unit(/millimetres/)
  await stage(page, 'Make').click()
  await expect(entry(page, 'Overall')).toHaveText('65 × 44.7 × 8.47 mm')
  expect(await texts()).toEqual(before)

  // What cannot be read is named, and nothing changes.
  await stage(page, 'Plan').click()
  await page.getByRole('button', { name: 'Add a measure' }).click()
  await put(page.getByRole('textbox', { name: /^Expression of/ }), '12 + wal')
  await page.keyboard.press('Enter')
  await unit(/inches/)
  await expect(page.getByRole('alert').filter({ hasText: 'Not changed' })).toContainText('“12 + wal”')
  await expect(page.getByRole('combobox', { name: 'Units' })).toContainText('millimetres')
})

test('the first step of a further piece stands clear of the others, and stays so', beside, async ({ page }) => {
  await newPart(page, 'Tin')
  await add(page, 'plate 60.3 40 20')
  await page.getByRole('button', { name: 'another piece' }).click()
  await add(page, 'plate 60.3 40 3')
  await expect(entry(page, 'Overall')).toHaveText('130.6 × 40 × 20 mm')
  await expect(stage(page, 'Proof')).toContainText('passed')
  const lid = page.locator('[data-step]').nth(1)
  await expect(lid).toContainText('beside the right of 1')
  await expect(lid.getByRole('textbox', { name: 'Distance left to right' })).toHaveValue('10')
  await put(value(page, 1, 'Width'), '85.1')
  await expect(entry(page, 'Overall')).toHaveText('155.4 × 40 × 20 mm')
})

test('all pieces of a part get one colour in Plan, and theirs back with one press', beside, async ({ page }) => {
  await openPart(page, 'locker-hinge', 'make')
  const swatches = page.getByRole('complementary', { name: 'Build sheet' }).getByRole('button', { name: /^Colour of / })
  const colours = () => swatches.evaluateAll((all) => all.map((each) => getComputedStyle(each).backgroundColor))
  await expect(swatches).toHaveCount(2)
  const before = await colours()
  expect(new Set(before).size).toBe(2)
  await stage(page, 'Plan').click()
  await page.getByRole('button', { name: 'Colour of all pieces' }).click()
  await page.getByRole('button', { name: 'sage' }).click()
  await page.keyboard.press('Escape')
  await stage(page, 'Make').click()
  await expect.poll(colours).toEqual(['rgb(188, 205, 185)', 'rgb(188, 205, 185)'])
  await page.getByRole('button', { name: /^Undo/ }).click()
  await expect.poll(colours).toEqual(before)
})

test('one broken measure is named once, with the way to it, and the part stays as it was', beside, async ({ page }) => {
  await openPart(page, 'lantern-bracket', 'make')
  await stage(page, 'Plan').click()
  await put(page.getByRole('textbox', { name: 'Expression of foot' }), '84 / 0')
  await page.keyboard.press('Enter')
  await stage(page, 'Make').click()
  const told = page.getByRole('alert')
  await expect(told).toContainText('Measure foot')
  await expect(told).toHaveCount(1)
  await expect(told).toContainText('5 lines wait for it')
  await expect(entry(page, 'Overall')).toContainText('84 × 44 × 62 mm')
  await told.getByRole('link').click()
  await expect(page.getByRole('textbox', { name: 'Expression of foot' })).toBeFocused()
  await page.keyboard.press('Control+a')
  await page.keyboard.type('80')
  await page.keyboard.press('Enter')
  await stage(page, 'Make').click()
  await expect(page.getByRole('alert')).toHaveCount(0)
  await expect(entry(page, 'Overall')).toContainText('80 × 44 × 62 mm')
})

test('text grows with the browser, and nothing is cut off or lies over another', beside, async ({ page }) => {
  await openPart(page, 'lantern-bracket', 'make')
  await expect(entry(page, 'Volume')).toHaveText(/^\d/)
  const client = await page.context().newCDPSession(page)
  const plain = await entry(page, 'Volume').evaluate((e) => e.getBoundingClientRect().height)
  for (const standard of [24, 32]) {
    await client.send('Page.setFontSizes', { fontSizes: { standard, fixed: standard - 3 } })
    await expect
      .poll(() => entry(page, 'Volume').evaluate((e) => e.getBoundingClientRect().height))
      .toBeCloseTo((plain * standard) / 16, 0)
    const cut = await page.evaluate(() =>
      [...document.querySelectorAll('header *, dl *, [role=toolbar] *')]
        .filter(
          (e) => e.scrollWidth > e.clientWidth + 1 && e.clientWidth > 0 && getComputedStyle(e).display !== 'inline',
        )
        .map((e) => e.outerHTML.slice(0, 80)),
    )
    expect(cut, `at ${standard} px`).toEqual([])
    const boxes = await Promise.all(
      [page.getByRole('textbox', { name: 'Part name' }), page.getByText(/^saved/), stage(page, 'Plan')].map(
        async (each) => (await each.boundingBox())!,
      ),
    )
    for (const [i, a] of boxes.entries())
      for (const b of boxes.slice(i + 1))
        expect(a.x + a.width <= b.x + 1 || a.y + a.height <= b.y + 1, `at ${standard} px`).toBe(true)
  }
})

test('on a narrow window, and with text twice as large, the measures of Plan can be read', beside, async ({ page }) => {
  await page.goto('/part/deck-cap-spanner/plan')
  const note = page.getByRole('textbox', { name: 'Note on flats' })
  await expect(note).toBeVisible()
  const client = await page.context().newCDPSession(page)
  for (const [width, standard] of [
    [1280, 16],
    [1080, 16],
    [900, 16],
    [700, 16],
    [1280, 32],
  ] as const) {
    await page.setViewportSize({ width, height: 800 })
    await client.send('Page.setFontSizes', { fontSizes: { standard, fixed: standard - 3 } })
    const wide = async () => (await note.boundingBox())!.width / standard
    await expect.poll(wide, { message: `${width} wide, text of ${standard} px` }).toBeGreaterThan(5)
    const beyond = await page
      .getByRole('table')
      .first()
      .evaluate((table) => table.getBoundingClientRect().right)
    expect(beyond).toBeLessThanOrEqual(width)
  }
})
