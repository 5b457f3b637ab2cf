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
  long,
  newPart,
  put,
  select,
  still,
  test,
  value,
  volume,
} from './fixtures.ts'
import { stlFigures } from './meshes.ts'

/** Moves down the middle of the drawing until the pointer is on an edge, and presses there. */
async function pressEdge(page: Page): Promise<void> {
  const drawing = (await page.locator('[data-drawn]').boundingBox())!
  const x = drawing.x + drawing.width / 2 + 40
  for (let y = drawing.y + 120; y < drawing.y + drawing.height - 120; y += 2) {
    await page.mouse.move(x, y)
    if (await page.getByText(/· its edge$/).isVisible()) {
      await page.mouse.click(x, y)
      return
    }
  }
  throw new Error('no edge lies there')
}

test('edges are rounded by rule and by pressing them, and what does not fit is made to', long, async ({ page }) => {
  await newPart(page, 'Cleat block')
  await add(page, 'plate 40.3 30 12')
  await add(page, 'bar 9 14')
  const plain = await volume(page)

  await add(page, 'fillet 2.4')
  await expect(line(page, 3)).toContainText('Round')
  // With its size typed, the next step can be.
  await expect(page.getByRole('combobox', { name: 'Add a step' })).toBeFocused()
  await expect(value(page, 3, 'Radius')).toHaveValue('2.4')
  // Of what was selected, the bar: its end. Where it stands belongs to it as well.
  await expect(line(page, 3).getByRole('button', { name: /^Edges: / })).toHaveText(/the outer edges of 2, round bar/)
  await expect(async () => expect(await volume(page)).toBeLessThan(plain)).toPass()

  // A line more: the inner edges, which are filled.
  await line(page, 3)
    .getByRole('button', { name: /^Edges: / })
    .click()
  const chosen = page.getByRole('dialog', { name: 'Which edges' })
  await chosen.getByRole('button', { name: 'add a line' }).click()
  await chosen.getByRole('combobox', { name: 'Kind of edges' }).nth(1).click()
  await page.getByRole('option', { name: 'inner' }).click()
  await page.keyboard.press('Escape')
  await expect(line(page, 3).getByRole('button', { name: /^Edges: / })).toHaveText(/and 1 more/)
  await expect(async () => expect(await volume(page)).toBeGreaterThan(plain)).toPass()

  // Too large for the bar: the largest that fits is one press away.
  await put(value(page, 3, 'Radius'), '5')
  await page.keyboard.press('Enter')
  const offer = line(page, 3).getByRole('button', { name: /^use / })
  await expect(line(page, 3).getByRole('alert')).toContainText('no room along 1 of the edges')
  await offer.click()
  await expect(line(page, 3).getByRole('alert')).toHaveCount(0)
  await expect(value(page, 3, 'Radius')).toHaveValue(/^4\.[45]/)

  // One edge by pressing it on the drawing, and once more to leave it out again.
  await add(page, 'chamfer 1.5')
  await page.keyboard.press('Enter')
  await page.getByRole('button', { name: 'front', exact: true }).click()
  await line(page, 4).getByRole('button', { name: 'Pick edges on the drawing' }).click()
  await expect(page.getByText('click edges, or a face for all of its edges')).toBeVisible()
  // Edges are chosen anew while the solid becomes finer.
  await volume(page)
  let before = -1
  await expect(async () => {
    const last = before
    before = await page.locator('[data-chosen]').count()
    expect(before).toBe(last)
  }).toPass({ intervals: [500] })
  await pressEdge(page)
  await expect(page.locator('[data-chosen]')).not.toHaveCount(before)
  await pressEdge(page)
  await expect(page.locator('[data-chosen]')).toHaveCount(before)
  await page.keyboard.press('Escape')
  await expect(page.getByText('click edges, or a face for all of its edges')).toHaveCount(0)
  await kept(page)
})

test('a block is hollowed, opened at a face that is pressed, and handed off closed', beside, async ({ page }) => {
  await newPart(page, 'Signal-flag box')
  await add(page, 'plate 50.3 40 20')
  await add(page, 'hollow 2')
  await expect(line(page, 2)).toContainText('open at no face')
  const inner = (50.3 - 4) * 36
  await expect(async () => expect(await volume(page)).toBeCloseTo((50.3 * 40 * 20 - inner * 16) / 1000, 2)).toPass()

  await page.getByRole('button', { name: 'top', exact: true }).click()
  await line(page, 2).getByRole('button', { name: 'Pick faces on the drawing' }).click()
  await drawn(page)
  const drawing = (await page.locator('[data-drawn]').boundingBox())!
  await page.mouse.click(drawing.x + drawing.width / 2, drawing.y + drawing.height / 2)
  await expect(line(page, 2)).toContainText('open at the top of 1, plate')
  await page.keyboard.press('Escape')
  await expect(async () => expect(await volume(page)).toBeCloseTo((50.3 * 40 * 20 - inner * 18) / 1000, 2)).toPass()

  // The walls follow what is changed above them.
  await put(value(page, 1, 'Height'), '25.7')
  await page.keyboard.press('Enter')
  await expect(async () => expect(await volume(page)).toBeCloseTo((50.3 * 40 * 25.7 - inner * 23.7) / 1000, 2)).toPass()
  await expect(entry(page, 'Overall')).toHaveText('50.3 × 40 × 25.7 mm')

  // A wall that leaves nothing hollow is told at its line.
  await put(value(page, 2, 'Wall'), '30')
  await page.keyboard.press('Enter')
  await expect(line(page, 2).getByRole('alert')).toContainText('fills all of it')
  await put(value(page, 2, 'Wall'), '2')
  await page.keyboard.press('Enter')
  await select(page, 2)
  await kept(page)

  await page.getByRole('link', { name: /^Hand off/ }).click()
  await page.getByRole('combobox', { name: 'Format' }).click()
  await page.getByRole('option', { name: /STL/ }).click()
  const download = page.waitForEvent('download')
  await page.getByRole('button', { name: /Write, check and download/ }).click()
  const figures = stlFigures(readFileSync(await (await download).path()))
  expect(figures.closed).toBe(true)
  expect(figures.volume).toBeCloseTo(50.3 * 40 * 25.7 - inner * 23.7, 0)

  // What is rounded after it is all of the piece, not what the hollow made.
  await page.getByRole('link', { name: /^Make/ }).click()
  await select(page, 2)
  await add(page, 'round 0.6')
  await expect(line(page, 3)).toContainText(/Round\s+the outer edges\s*pick/)
  await expect(line(page, 3).getByRole('alert')).toBeHidden()
  await expect(async () => expect(await volume(page)).toBeLessThan((50.3 * 40 * 25.7 - inner * 23.7) / 1000)).toPass()
})

test(
  'from the edges that a plate rounds by itself the sheet goes on with those that are left',
  beside,
  async ({ page }) => {
    await newPart(page, 'Rowlock pad')
    await add(page, 'rounded plate 40.3 30 12 6')
    const plain = await volume(page)
    await page.getByRole('button', { name: /^Step 1,/ }).click({ button: 'right' })
    await page.getByRole('menuitem', { name: 'Edges and walls' }).hover()
    const offer = page.getByRole('menuitem', { name: 'Round its edges' })
    const { x, y, width, height } = await still(offer)
    await page.mouse.move(x + width / 2, y + height / 2, { steps: 12 })
    await page.mouse.down()
    await page.mouse.up()
    await expect(line(page, 2)).toContainText('Round')
    await expect(line(page, 2).getByRole('button', { name: /^Edges: / })).toHaveText(/the outer edges of 1, plate/)
    await expect(line(page, 2).getByRole('alert')).toHaveCount(0)
    await expect(async () => expect(await volume(page)).toBeLessThan(plain)).toPass()
    await kept(page)
  },
)
