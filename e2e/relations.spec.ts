import { readFileSync } from 'node:fs'
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
  notice,
  openPart,
  put,
  select,
  stage,
  still,
  test,
  value,
  volume,
} from './fixtures.ts'
import { stlFigures, unzipped, unzippedNames } from './meshes.ts'

test('a step is told by another one and follows it, and turns about its axis', beside, async ({ page }) => {
  await newPart(page, 'Told by another')
  await add(page, 'plate 40 40 5')
  await add(page, 'bar 10 20')
  await measure(page, 2, 'left to right', 'from the right edge to its centre', '5')
  await add(page, 'plate 12 8 4')
  await chooseIn(page, 3, 'Stands on', 'top of 1, plate')
  await expect(entry(page, 'Overall')).toHaveText('40 × 40 × 25 mm')

  // Against the right of the bar, which is flush with the plate: 12 over its edge.
  await chooseIn(page, 3, 'Measured left to right', 'from another step …')
  await expect(line(page, 3)).toContainText('in line left to right with 2, round bar')
  await chooseIn(page, 3, 'Measured left to right', 'against the right of')
  await expect(entry(page, 'Overall')).toHaveText('52 × 40 × 25 mm')
  await put(value(page, 2, 'Distance left to right'), '8')
  await page.keyboard.press('Enter')
  await expect(entry(page, 'Overall')).toHaveText('49 × 40 × 25 mm')
  await put(value(page, 2, 'Diameter'), '16')
  await page.keyboard.press('Enter')
  await expect(entry(page, 'Overall')).toHaveText('52 × 40 × 25 mm')

  // Its foot at the top of the bar.
  await select(page, 3)
  await line(page, 3).getByRole('button', { name: 'More values' }).click()
  await chooseIn(page, 3, 'Height', 'its foot at the top of')
  await expect(entry(page, 'Overall')).toHaveText('52 × 40 × 29 mm')
  await chooseIn(page, 3, 'Turned about', 'the axis of 2, round bar')
  await put(value(page, 3, 'Turn about the line'), '180')
  await page.keyboard.press('Enter')
  // Now on the other side: from 12 − 8 − 12 = −8 on, inside of the plate.
  await expect(entry(page, 'Overall')).toHaveText('40 × 40 × 29 mm')
  await kept(page)

  // Removing the bar leaves it where it is.
  await select(page, 2)
  await page.keyboard.press('Delete')
  await expect(entry(page, 'Overall')).toHaveText('40 × 40 × 29 mm')
  await page.keyboard.press('Control+z')
  await expect(line(page, 3)).toContainText('the axis of 2, round bar')
})

test('a datum is stood on, and a cut goes up to it', beside, async ({ page }) => {
  await newPart(page, 'Datums')
  await add(page, 'plate 40 40 20')
  await add(page, 'datum')
  await select(page, 2)
  await line(page, 2).getByRole('button', { name: 'More values' }).click()
  await put(value(page, 2, 'Lift'), '-14')
  await page.keyboard.press('Enter')
  await expect(page.getByRole('button', { name: '2, datum', exact: true })).toBeVisible()
  await select(page, 1)
  await add(page, 'slot 10 10')
  await chooseIn(page, 3, 'Ends', 'square')
  await chooseIn(page, 3, 'Reach', 'up to')
  await expect(line(page, 3)).toContainText('Choose the face or datum that this cut goes up to')
  await chooseIn(page, 3, 'Goes up to', 'the plane of 2, datum')
  await expect.poll(() => volume(page)).toBeCloseTo((40 * 40 * 20 - 10 * 10 * 14) / 1000, 2)
  await put(value(page, 3, 'Left standing'), '3')
  await expect.poll(() => volume(page)).toBeCloseTo((40 * 40 * 20 - 10 * 10 * 11) / 1000, 2)
  await put(value(page, 2, 'Lift'), '-4')
  await expect.poll(() => volume(page)).toBeCloseTo((40 * 40 * 20 - 10 * 10) / 1000, 2)
})

test('sizes are read off the drawing and off faces, kept, and used by name', beside, async ({ page }) => {
  await newPart(page, 'Read off')
  await add(page, 'plate 40 30 6')
  await page.getByRole('button', { name: 'top', exact: true }).click()
  await still(page.getByLabel('Dimensions').getByRole('button').first())
  await page.getByRole('button', { name: 'Read sizes off the drawing' }).click()
  const panel = page.getByRole('region', { name: 'Read off' })
  await expect(panel).toContainText('Click an edge or a face')
  const drawing = (await page.locator('canvas').boundingBox())!
  await page.mouse.click(drawing.x + drawing.width / 2, drawing.y + drawing.height * 0.45)
  await expect(panel).toContainText('top of 1, plate')
  await expect(panel.getByRole('definition').first()).toHaveText('6 mm')
  await panel.getByRole('button', { name: 'Keep the thickness' }).click()
  await page.keyboard.press('Escape')
  await page.keyboard.press('Escape')
  await expect(panel).toHaveCount(0)

  await stage(page, 'Plan').click()
  const readouts = page.getByRole('region', { name: 'Read-outs' })
  await expect(readouts.getByRole('row').nth(1)).toContainText('6 mm')
  await readouts.getByRole('button', { name: 'Add a read-out' }).click()
  await readouts.getByRole('combobox', { name: 'First place of read2' }).click()
  await page.getByRole('option', { name: 'left of 1, plate' }).click()
  await readouts.getByRole('combobox', { name: 'Second place of read2' }).click()
  await page.getByRole('option', { name: 'right of 1, plate' }).click()
  await expect(readouts.getByRole('row').nth(2)).toContainText('40 mm')
  await readouts.getByRole('textbox', { name: 'Name of read2' }).fill('span')
  await page.keyboard.press('Enter')

  await stage(page, 'Make').click()
  await select(page, 1)
  await add(page, 'plate (span/2) 10 4')
  await expect(entry(page, 'Overall')).toHaveText('40 × 30 × 10 mm')
  await put(value(page, 1, 'Width'), '60')
  await expect.poll(() => volume(page)).toBeCloseTo((60 * 30 * 6 + 30 * 10 * 4) / 1000, 2)
})

test('an edge is pressed and measured, read off, and follows the part', beside, async ({ page }) => {
  await newPart(page, 'Edges')
  await add(page, 'plate 40 30 6')
  await page.getByRole('button', { name: 'top', exact: true }).click()
  await still(page.getByLabel('Dimensions').getByRole('button').first())
  const drawing = (await page.locator('canvas').boundingBox())!
  const x = drawing.x + drawing.width / 2
  // Down from the middle of the top, to its front edge.
  let y = drawing.y + drawing.height / 2
  for (; y < drawing.y + drawing.height; y += 3) {
    await page.mouse.move(x, y)
    if (await page.getByText('1 plate · top · its edge').isVisible()) break
  }
  await page.mouse.click(x, y)
  await expect(page.getByRole('status', { name: 'The chosen edge' })).toHaveText('length 40 mm · angle 90°')

  await page.getByRole('button', { name: 'Read sizes off the drawing' }).click()
  await page.mouse.click(x, y)
  const panel = page.getByRole('region', { name: 'Read off' })
  await expect(panel).toContainText('edge between')
  await panel.getByRole('button', { name: 'Keep the length of an edge' }).click()
  await page.keyboard.press('Escape')
  await page.keyboard.press('Escape')
  await put(value(page, 1, 'Width'), '85.1')
  await stage(page, 'Plan').click()
  const row = page.getByRole('region', { name: 'Read-outs' }).getByRole('row').nth(1)
  await expect(row).toContainText('85.1 mm')
})

test('a measure is a choice, and its words switch sizes and steps', beside, async ({ page }) => {
  await newPart(page, 'Choices')
  await stage(page, 'Plan').click()
  await page.getByRole('button', { name: 'Add a measure' }).click()
  await page.getByRole('textbox', { name: 'Name of size1' }).fill('screw')
  await page.keyboard.press('Enter')
  await page.getByRole('combobox', { name: 'Kind of screw' }).click()
  await page.getByRole('option', { name: /^choice/ }).click()
  await page.getByRole('textbox', { name: /^Choices of screw/ }).fill('M4, M5')
  await page.keyboard.press('Enter')
  await stage(page, 'Make').click()
  await add(page, 'plate pick(screw,20,30) 10 5')
  await expect(entry(page, 'Overall')).toHaveText('20 × 10 × 5 mm')
  await add(page, 'plate 6 6 6')
  await line(page, 2).getByRole('button', { name: 'More values' }).click()
  await line(page, 2).getByRole('textbox', { name: 'Condition' }).fill('screw = M5')
  await expect(entry(page, 'Overall')).toHaveText('20 × 10 × 5 mm')
  await stage(page, 'Plan').click()
  await page.getByRole('combobox', { name: 'Choice of screw' }).click()
  await page.getByRole('option', { name: 'M5' }).click()
  await stage(page, 'Make').click()
  await expect(entry(page, 'Overall')).toHaveText('30 × 10 × 11 mm')
})

test(
  'a calliper types into the value that has the keyboard, and readings have their mean',
  beside,
  async ({ page, context }) => {
    await openPart(page, 'lantern-bracket', 'make')
    await page.goto('/part/lantern-bracket/plan')
    await page.getByRole('button', { name: 'Readings of rod' }).click()
    const field = page.getByRole('textbox', { name: 'New reading of rod' })
    const calliper = await context.newPage()
    await calliper.goto('/calliper')
    await expect(calliper.getByText('connected', { exact: true })).toBeVisible()
    await expect(page.getByText(/a calliper is connected/)).toBeVisible()
    await field.focus()
    const jaw = calliper.getByRole('slider', { name: 'Jaw' })
    await jaw.focus()
    // 22 mm, then a hundredth more with each reading.
    for (let i = 0; i < 22; i++) await jaw.press('Shift+ArrowRight')
    for (let i = 0; i < 3; i++) {
      await jaw.press('Enter')
      await expect(calliper.getByText('Sent to 1 open part.')).toBeVisible()
      await expect(page.getByRole('list', { name: 'Readings of rod' }).getByRole('listitem')).toHaveCount(i + 1)
      await jaw.press('ArrowRight')
    }
    await expect(page.getByText('mean 22.01 mm, spread 0.02 mm')).toBeVisible()
    await page.getByRole('button', { name: 'Take the mean' }).click()
    await expect(page.getByRole('textbox', { name: 'Expression of rod' })).toHaveValue('22.01')

    await stage(page, 'Make').click()
    await value(page, 3, 'Length').focus()
    await jaw.press('Enter')
    await expect(value(page, 3, 'Length')).toHaveValue('22.03')
    await page.getByRole('textbox', { name: 'Part name' }).focus()
    await jaw.press('Enter')
    await expect(notice(page, 'The calliper reads 22.03')).toBeVisible()
    await expect(page.getByRole('textbox', { name: 'Part name' })).toHaveValue('Lantern bracket')
  },
)

test('all variants are handed off together, each with its receipt', beside, async ({ page }) => {
  await openPart(page, 'deck-cap-spanner', 'hand-off')
  await page.getByRole('combobox', { name: 'Format' }).click()
  await page.getByRole('option', { name: /STL/ }).click()
  await page.getByRole('combobox', { name: 'Variants' }).click()
  await page.getByRole('option', { name: /in one archive/ }).click()
  const download = page.waitForEvent('download')
  await page.getByRole('button', { name: /Write, check and download/ }).click()
  const file = await download
  expect(file.suggestedFilename()).toMatch(/-variants\.zip$/)
  const bytes = readFileSync(await file.path())
  const names = unzippedNames(bytes)
  const receipts = page.getByRole('region', { name: /^Receipt of/ })
  expect(names.length).toBeGreaterThan(1)
  await expect(receipts).toHaveCount(names.length)
  const volumes = names.map((name) => stlFigures(unzipped(bytes, name)))
  for (const { closed } of volumes) expect(closed).toBe(true)
  expect(new Set(volumes.map((each) => each.volume.toFixed(3))).size).toBe(names.length)
})

test(
  'a size is dragged by its end, a step is looked at, and several are chosen in a rectangle and moved',
  beside,
  async ({ page }) => {
    await openPart(page, 'lantern-bracket', 'make')
    await select(page, 2)
    const height = value(page, 2, 'Height')
    await expect(height).toHaveValue('56')
    const grip = await still(page.getByRole('button', { name: 'Drag to change: Height' }))
    await page.mouse.move(grip.x + 5, grip.y + 5)
    await page.mouse.down()
    await page.mouse.move(grip.x + 5, grip.y - 30, { steps: 5 })
    await expect(page.getByRole('status').filter({ hasText: 'height' })).toBeVisible()
    await page.mouse.up()
    await expect.poll(async () => Number(await height.inputValue())).toBeGreaterThan(58)
    await page.keyboard.press('Control+z')
    await expect(height).toHaveValue('56')

    await line(page, 2).getByRole('button', { name: 'All that can be done with it' }).click()
    await page.getByRole('menuitem', { name: 'Before and after' }).click()
    const looking = page.getByRole('status').filter({ hasText: '2, upright' })
    await looking.getByRole('button', { name: 'only this' }).click()
    await expect(looking.getByRole('button', { name: 'only this' })).toHaveAttribute('aria-pressed', 'true')
    await page.getByRole('button', { name: 'Stop looking at one step' }).click()
    await expect(looking).toHaveCount(0)

    const drawing = (await page.locator('canvas').boundingBox())!
    await page.keyboard.down('Shift')
    await page.mouse.move(drawing.x + 20, drawing.y + 60)
    await page.mouse.down()
    await page.mouse.move(drawing.x + drawing.width - 20, drawing.y + drawing.height - 100, { steps: 5 })
    await page.mouse.up()
    await page.keyboard.up('Shift')
    await expect(page.getByRole('toolbar', { name: '5 selected steps' })).toBeVisible()
    // Everything stands on the plate: moving all moves the plate alone, and what stands on it goes along.
    await page
      .locator('canvas')
      .focus()
      .catch(() => undefined)
    await page.getByRole('button', { name: /^Step 1,/ }).focus()
    await page.keyboard.press('ArrowRight')
    await expect(value(page, 1, 'Distance left to right')).toHaveValue('1')
    await expect(value(page, 3, 'Distance left to right')).toHaveValue('7')
  },
)
