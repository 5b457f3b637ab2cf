import { readFileSync } from 'node:fs'
import type { Page } from '@playwright/test'
import {
  add,
  beside,
  chooseIn,
  drawn,
  entry,
  expect,
  kept,
  line,
  measured,
  newPart,
  put,
  select,
  stage,
  still,
  test,
  value,
  volume,
} from './fixtures.ts'
import { stlFigures } from './meshes.ts'

/** Presses a face beside the middle of the drawing, where handles may be, as it is looked at from above. */
async function pressFromAbove(page: Page, face: string): Promise<void> {
  // What is looked at is fitted into view as it is then.
  await drawn(page)
  await measured(page, 'Overall')
  const drawing = (await page.locator('[data-drawn]').boundingBox())!
  const [x, y] = [drawing.x + drawing.width / 2 + 60, drawing.y + drawing.height / 2 + 45]
  // What is pointed at is told beside the pointer, once the drawing is there; a view chosen before it is fitted is chosen again.
  await expect(async () => {
    await page.getByRole('button', { name: 'top', exact: true }).click()
    await page.mouse.move(x + 3, y)
    await page.mouse.move(x, y)
    await expect(page.getByText(` · ${face}`)).toBeVisible({ timeout: 1500 })
  }).toPass()
  await page.mouse.click(x, y)
}

async function handedOff(page: Page, piece: string) {
  await page.getByRole('combobox', { name: 'Pieces' }).click()
  await page.getByRole('option', { name: piece, exact: true }).click()
  const download = page.waitForEvent('download')
  await page.getByRole('button', { name: /Write, check and download/ }).click()
  return stlFigures(readFileSync(await (await download).path()))
}

test(
  'a piece is split in two, held together by pegs, and each half is handed off by itself',
  beside,
  async ({ page }) => {
    await newPart(page, 'Oar rack')
    await add(page, 'plate 300 40 20')
    await add(page, 'split')
    await expect(line(page, 2)).toContainText(/across x, at .*held together by nothing/)
    await expect(value(page, 2, 'Split at, distance')).toHaveValue('0')
    await expect(entry(page, 'Pieces')).toHaveText('2')
    await expect(page.getByText('prints as 2 pieces')).toBeVisible()

    // Where it splits is dragged by the plane's handle, and typed at its dimension.
    const grip = await still(page.getByRole('button', { name: 'Drag to change: Split at' }))
    await page.mouse.move(grip.x + 5, grip.y + 5)
    await page.mouse.down()
    await page.mouse.move(grip.x + 95, grip.y + 30, { steps: 6 })
    await page.mouse.up()
    await expect(value(page, 2, 'Split at, distance')).toHaveValue(/^[1-9]\d*$/)
    await page.getByRole('button', { name: /^Split at \d/ }).click()
    const typed = page.getByRole('group', { name: 'Dimensions' }).getByRole('textbox', { name: 'Split at' })
    await typed.fill('12.7')
    await typed.press('Enter')
    await expect(value(page, 2, 'Split at, distance')).toHaveValue('12.7')
    await chooseIn(page, 2, 'Held together by', 'pegs and sockets')
    await expect(line(page, 2)).toContainText('deep, fit')
    // Too large for the section: the largest that fits is one press away.
    await put(value(page, 2, 'Size'), '40')
    await page.keyboard.press('Enter')
    await expect(line(page, 2).getByRole('alert')).toContainText('no room for pegs of that size')
    await line(page, 2).getByRole('button', { name: /^use / }).click()
    await expect(line(page, 2).getByRole('alert')).toHaveCount(0)
    await put(value(page, 2, 'Size'), '6')
    await page.keyboard.press('Enter')
    await expect(line(page, 2).getByRole('alert')).toHaveCount(0)

    // Past the part nothing is split, which is told at its line; undone, it is split again.
    await put(value(page, 2, 'Split at, distance'), '200')
    await page.keyboard.press('Enter')
    await expect(line(page, 2).getByRole('alert')).toContainText('nothing is split')
    await expect(entry(page, 'Pieces')).toHaveText('1')
    await page.getByRole('button', { name: /^Undo/ }).click()
    await expect(entry(page, 'Pieces')).toHaveText('2')
    await kept(page)

    // The part is larger than the bed, its halves are not.
    await stage(page, 'Proof').click()
    await expect(page.getByText('each of its pieces does by itself')).toBeVisible()
    await stage(page, 'Hand off').click()
    await page.getByRole('combobox', { name: 'Format' }).click()
    await page.getByRole('option', { name: /STL/ }).click()
    const [first, second] = [await handedOff(page, 'Piece 1'), await handedOff(page, 'Piece 1 (2)')]
    for (const { closed } of [first, second]) expect(closed).toBe(true)
    const [left, right] = [(150 + 12.7) * 40 * 20, (150 - 12.7) * 40 * 20]
    // Two pegs of 6, less their bevels, and their sockets with the fit of the printer.
    expect(first.volume - left).toBeGreaterThan(2 * Math.PI * 9 * 5.5)
    expect(first.volume - left).toBeLessThan(2 * Math.PI * 9 * 6)
    expect(right - second.volume).toBeGreaterThan(2 * Math.PI * 3.1 ** 2 * 6)
    expect(right - second.volume).toBeLessThan(2 * Math.PI * 3.12 ** 2 * 6.2)
  },
)

test('a face is shifted, and what stands on it goes with it', beside, async ({ page }) => {
  await newPart(page, 'Lamp tray')
  await add(page, 'plate 50.3 40 20')
  await pressFromAbove(page, 'top')
  await add(page, 'shift 5.4')
  await expect(line(page, 2)).toContainText('Shift the top of 1, plate')
  await expect(entry(page, 'Overall')).toHaveText('50.3 × 40 × 25.4 mm')
  await page.keyboard.press('Escape')
  await pressFromAbove(page, 'top')
  await add(page, 'bar 8 10')
  await expect(line(page, 3)).toContainText('on top of 1, plate')
  await expect(entry(page, 'Overall')).toHaveText('50.3 × 40 × 35.4 mm')
  // Inwards, past its other side: told with how far it can go.
  await put(value(page, 2, 'Distance'), '-30')
  await page.keyboard.press('Enter')
  await expect(line(page, 2).getByRole('alert')).toContainText('there is room')
  await line(page, 2).getByRole('button', { name: /^use / }).click()
  await put(value(page, 2, 'Distance'), '1.4')
  await page.keyboard.press('Enter')
  await expect(entry(page, 'Overall')).toHaveText('50.3 × 40 × 31.4 mm')

  // Its end on the drawing can be dragged, in whole steps.
  await page.getByRole('button', { name: 'front', exact: true }).click()
  await select(page, 2)
  const grip = page.getByRole('button', { name: 'Drag to change: Distance' })
  const from = await still(grip)
  await page.mouse.move(from.x + from.width / 2, from.y + from.height / 2)
  await page.mouse.down()
  await page.mouse.move(from.x + from.width / 2, from.y - 40, { steps: 5 })
  await page.mouse.up()
  await expect(value(page, 2, 'Distance')).toHaveValue(/^\d+$/)
  const by = Number(await value(page, 2, 'Distance').inputValue())
  expect(by).toBeGreaterThan(1.4)
  await expect(entry(page, 'Overall')).toHaveText(`50.3 × 40 × ${30 + by} mm`)
  await kept(page)
})

test('a boss stands on the floor that a hollow leaves', beside, async ({ page }) => {
  await newPart(page, 'Pin box')
  await add(page, 'plate 50.3 40 20')
  await pressFromAbove(page, 'top')
  await add(page, 'hollow 2.5')
  await expect(line(page, 2)).toContainText('open at the top of 1, plate')
  const inside = 45.3 * 35 * 17.5
  await expect(async () => expect(await volume(page)).toBeCloseTo((50.3 * 40 * 20 - inside) / 1000, 2)).toPass()
  await page.keyboard.press('Escape')
  await pressFromAbove(page, 'inside of bottom')
  await add(page, 'plate 10 8 6')
  await expect(line(page, 3)).toContainText('on inside of bottom of 2, hollow')
  await expect(async () => expect(await volume(page)).toBeCloseTo((50.3 * 40 * 20 - inside + 480) / 1000, 2)).toPass()
  await put(value(page, 2, 'Wall'), '3.3')
  await page.keyboard.press('Enter')
  const less = 43.7 * 33.4 * 16.7
  await expect(async () => expect(await volume(page)).toBeCloseTo((50.3 * 40 * 20 - less + 480) / 1000, 2)).toPass()
  await expect(line(page, 3).getByRole('alert')).toHaveCount(0)
  await kept(page)
})
