import { readFileSync } from 'node:fs'
import type { Page } from '@playwright/test'
import {
  add,
  beside,
  chooseIn,
  entry,
  expect,
  kept,
  line,
  measure,
  newPart,
  put,
  select,
  stage,
  still,
  test,
  value,
  volume,
} from './fixtures.ts'
import { stlFigures, threeMfFigures } from './meshes.ts'

/** Ways of somebody who has never been here, in sizes of their own. */

/** The shelf as it is before anything was made. */
async function emptyShelf(page: Page): Promise<void> {
  const { entries } = (await (await page.request.get('/api/parts?count=500')).json()) as {
    entries: { id: string }[]
  }
  for (const { id } of entries) expect((await page.request.delete(`/api/parts/${id}`)).ok()).toBe(true)
  await page.goto('/')
  await expect(page.getByText('The shelf is empty.')).toBeVisible()
}

/** What is written and downloaded as it stands on Hand off. */
async function handedOff(page: Page): Promise<Buffer> {
  const download = page.waitForEvent('download')
  await page.getByRole('button', { name: /Write, check and download/ }).click()
  return readFileSync(await (await download).path())
}

test(
  'from an empty shelf to a file: a clamp pad in millimetres, measured anew at half its size',
  beside,
  async ({ page }) => {
    await emptyShelf(page)
    await page.getByRole('button', { name: 'New part', exact: true }).click()
    await stage(page, 'Make').click()
    await add(page, 'plate 73.7 41.3 9.1')
    // With all sizes typed the field is ready for the next one.
    await page.keyboard.type('hole 5.3')
    await page.keyboard.press('Enter')
    await measure(page, 2, 'left to right', 'from the left edge to its centre', '8.7')
    await select(page, 1)
    await put(value(page, 1, 'Corner radius'), '6.2')
    await page.keyboard.press('Enter')
    const corners = (4 - Math.PI) * 6.2 ** 2
    const bore = (Math.PI / 4) * 5.3 ** 2
    const mm3 = (73.7 * 41.3 - corners - bore) * 9.1
    await expect(async () => expect(await volume(page)).toBeCloseTo(mm3 / 1000, 2)).toPass()
    await expect(stage(page, 'Proof')).toContainText('passed')
    await stage(page, 'Hand off').click()
    await page.getByRole('combobox', { name: 'Format' }).click()
    await page.getByRole('option', { name: /STL/ }).click()
    await page.getByRole('combobox', { name: 'Size', exact: true }).click()
    await page.getByRole('option', { name: 'scaled to', exact: true }).click()
    await page.getByRole('textbox', { name: 'Per cent of the drawn size' }).fill('50')
    const figures = stlFigures(await handedOff(page))
    expect(figures.closed).toBe(true)
    expect(figures.size.map((mm) => Math.round(mm * 1e3) / 1e3)).toEqual([36.85, 20.65, 4.55])
    expect(Math.abs(figures.volume / (mm3 / 8) - 1)).toBeLessThan(1e-3)
  },
)

test('from an empty shelf to a file: two plates in inches with a hinge that was asked for by its name', async ({
  page,
}) => {
  await emptyShelf(page)
  await page.getByRole('button', { name: 'New part', exact: true }).click()
  await stage(page, 'Plan').click()
  await page.getByRole('combobox', { name: 'Units' }).click()
  await page.getByRole('option', { name: /inches/ }).click()
  await stage(page, 'Make').click()
  await add(page, 'plate 2-3/8 1-1/8 5/32')
  await expect(entry(page, 'Overall')).toHaveText('2.375 × 1.125 × 0.156 in')
  await page.keyboard.type('pin hinge')
  await page.keyboard.press('Enter')
  await page.getByRole('button', { name: 'A plate beside it' }).click()
  await expect(page.getByRole('complementary', { name: 'Joints' })).toContainText('pin hinge')
  await stage(page, 'Hand off').click()
  const { closed, objects, unit } = threeMfFigures(await handedOff(page))
  expect({ closed, objects, unit }).toEqual({ closed: true, objects: ['Piece 1', 'Piece 2'], unit: 'millimeter' })
})

test(
  'a box gets a boss on its floor, a hole that finds it while a measure is broken, and says what stands where',
  beside,
  async ({ page }) => {
    await newPart(page, 'Cleat box')
    await add(page, 'plate 61.3 37.7 12.2')
    await add(page, 'hollow 2.1')
    await chooseIn(page, 2, 'Open at: add a face', 'the top of 1, plate')
    const box = 61.3 * 37.7 * 12.2 - 57.1 * 33.5 * 10.1
    await expect(async () => expect(await volume(page)).toBeCloseTo(box / 1000, 2)).toPass()
    await expect(stage(page, 'Proof')).toContainText('passed')

    // What is added to the hollow stands on its floor, without a face that was pressed.
    await add(page, 'bar 8.3 5.1')
    await expect(line(page, 3)).toContainText('on inside of bottom of 2, hollow')
    const boss = (Math.PI / 4) * 8.3 ** 2 * 5.1
    await expect(async () => expect(await volume(page)).toBeCloseTo((box + boss) / 1000, 2)).toPass()
    // All that the hollow left can be stood on, before anything does.
    await line(page, 3).getByRole('combobox', { name: 'Stands on' }).click()
    await expect(page.getByRole('listbox')).toBeVisible()
    for (const side of ['front', 'back', 'left', 'right'])
      await expect(page.getByRole('option', { name: `inside of ${side} of 2, hollow`, exact: true })).toHaveCount(1)
    await page.keyboard.press('Escape')

    // A measure that cannot be worked out takes no face away from what is added meanwhile.
    await stage(page, 'Plan').click()
    await page.getByRole('button', { name: 'Add a measure' }).click()
    await page.getByRole('textbox', { name: 'Name of size1' }).fill('wide')
    await page.keyboard.press('Enter')
    await put(page.getByRole('textbox', { name: 'Expression of wide' }), '61.3')
    await page.keyboard.press('Enter')
    await stage(page, 'Make').click()
    await select(page, 1)
    await put(value(page, 1, 'Width'), 'wide')
    await page.keyboard.press('Enter')
    await stage(page, 'Plan').click()
    await put(page.getByRole('textbox', { name: 'Expression of wide' }), '61.3 / 0')
    await page.keyboard.press('Enter')
    await stage(page, 'Make').click()
    await select(page, 3)
    await add(page, 'hole 3.2')
    await expect(line(page, 4)).toContainText('into end of 3, round bar')
    await kept(page)
  },
)

test('what a sentence names lights up on the drawing while the pointer is on it', beside, async ({ page }) => {
  await newPart(page, 'Cover')
  await add(page, 'plate 61.3 37.7 8.2')
  await add(page, 'bar 8.3 5.1')
  await expect(line(page, 2)).toContainText('on top of 1, plate')
  await expect(async () => expect(await volume(page)).toBeCloseTo(19.227, 2)).toPass()
  await page.mouse.move(900, 650)
  const canvas = page.locator('canvas')
  await still(canvas)
  const shot = async () => (await canvas.screenshot()).toString('base64')
  const plain = await shot()
  await line(page, 2).getByRole('combobox', { name: 'Stands on' }).hover()
  await expect(async () => expect((await shot()) === plain).toBe(false)).toPass()
  // What goes away while it is pointed at leaves nothing lit.
  await page.mouse.move(900, 650)
  await expect(async () => expect((await shot()) === plain).toBe(true)).toPass()
  await line(page, 2).getByRole('combobox', { name: 'Stands on' }).hover()
  await page.keyboard.press('Control+z')
  await expect(line(page, 2)).toHaveCount(0)
  const without = await shot()
  await page.mouse.move(900, 650)
  await page.waitForTimeout(400)
  expect((await shot()) === without).toBe(true)
})

test('a ball is bored through its middle from any side', beside, async ({ page }) => {
  await newPart(page, 'Tiller knob')
  await add(page, 'ball 21.3')
  await add(page, 'hole 6.7')
  await expect(line(page, 2)).toContainText('into top side of 1, ball')
  const left = ((Math.PI / 6) * (21.3 ** 2 - 6.7 ** 2) ** 1.5) / 1000
  for (const side of ['left', 'back']) {
    await chooseIn(page, 2, 'Stands on', `${side} side of 1, ball`)
    await expect(line(page, 2)).toContainText(`into ${side} side of 1, ball`)
    await expect(async () => expect(await volume(page)).toBeCloseTo(left, 2)).toPass()
  }
  await kept(page)
})

test('a bar is put through a ball by its axis, as far out on both sides', beside, async ({ page }) => {
  await newPart(page, 'Tiller ball')
  await add(page, 'ball 21.3')
  await add(page, 'bar 5.9 40.1')
  await chooseIn(page, 2, 'Stands on', 'width axis of 1, ball')
  await line(page, 2).getByRole('button', { name: /^More/ }).click()
  await put(line(page, 2).getByRole('textbox', { name: 'Lift' }), '-40.1 / 2')
  await page.keyboard.press('Enter')
  const foot = page.locator('dl', { hasText: 'Centre of mass' })
  await expect(foot).toContainText('40.1 × 21.3 × 21.3 mm')
  await expect(foot).toContainText('0, 0, 10.65')
  await kept(page)
})

test('what lies on its side says whether its foot or its middle is centred', beside, async ({ page }) => {
  await newPart(page, 'Roller')
  await add(page, 'bar 17.9 53.3')
  await expect(line(page, 1)).toContainText('centred front to back')
  await line(page, 1).getByRole('button', { name: /^More/ }).click()
  await put(line(page, 1).getByRole('textbox', { name: 'Tilt' }), '90')
  await page.keyboard.press('Enter')
  await expect(line(page, 1)).toContainText('its foot centred front to back')
  await expect(line(page, 1)).toContainText(', centred left to right')
  const block = page.locator('dl', { hasText: 'Centre of mass' })
  await expect(block).toContainText(/0, [-−]26.65, 8.95/)
  await chooseIn(page, 1, 'Measured front to back', 'its middle centred front to back')
  await expect(block).toContainText('0, 0, 8.95')
  await kept(page)
})
