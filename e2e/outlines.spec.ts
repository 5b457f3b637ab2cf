import { readFileSync } from 'node:fs'
import type { Locator, Page } from '@playwright/test'
import { beside, drawn, entry, expect, measured, newPart, still, test } from './fixtures.ts'

/** Opens an empty part and its first outline. */
async function newOutline(page: Page): Promise<Pen> {
  await newPart(page, 'Drawn part')
  return anotherOutline(page)
}

async function anotherOutline(page: Page): Promise<Pen> {
  await page.getByRole('button', { name: /draw an outline/ }).click()
  await page.waitForURL(/\/outline\//)
  const pen = new Pen(page)
  await pen.shown()
  return pen
}

/** Presses places of the drawing, given in mm. */
class Pen {
  readonly page: Page
  readonly canvas: Locator

  constructor(page: Page) {
    this.page = page
    this.canvas = page.getByRole('application', { name: 'Drawing of the outline' })
  }

  async place(x: number, y: number): Promise<readonly [number, number]> {
    const box = (await this.canvas.boundingBox())!
    const [cx, cy, scale] = (await this.canvas.getAttribute('data-view'))!.split(' ').map(Number) as [
      number,
      number,
      number,
    ]
    return [box.x + box.width / 2 + (x - cx) * scale, box.y + box.height / 2 - (y - cy) * scale]
  }
  async move(x: number, y: number): Promise<void> {
    await this.page.mouse.move(...(await this.place(x, y)))
  }
  async press(x: number, y: number, ...keys: 'Shift'[]): Promise<void> {
    await this.move(x, y)
    for (const key of keys) await this.page.keyboard.down(key)
    await this.page.mouse.down()
    await this.page.mouse.up()
    for (const key of keys) await this.page.keyboard.up(key)
  }
  async drag(from: readonly [number, number], to: readonly [number, number]): Promise<void> {
    await this.move(...from)
    await this.page.mouse.down()
    await this.page.mouse.move(...(await this.place((from[0] + to[0]) / 2, (from[1] + to[1]) / 2)))
    await this.page.mouse.move(...(await this.place(...to)), { steps: 4 })
    await this.page.mouse.up()
  }
  /** A rectangle from one corner to another one, its sizes typed right after, and the tool put down. */
  async rectangle(
    from: readonly [number, number],
    to: readonly [number, number],
    ...sizes: readonly [string, string]
  ): Promise<void> {
    await this.key('r')
    await this.press(...from)
    await this.press(...to)
    await this.type(sizes[0])
    await this.key('Tab')
    await this.type(sizes[1])
    for (const key of ['Enter', 'Escape', 'Escape']) await this.key(key)
  }
  /** Waits until the drawing is brought into view. */
  shown(): Promise<void> {
    return expect(this.canvas).toHaveAttribute('data-view', / /)
  }
  key(key: string): Promise<void> {
    return this.page.keyboard.press(key)
  }
  type(text: string): Promise<void> {
    return this.page.keyboard.type(text)
  }
  get sheet(): Locator {
    return this.page.getByRole('complementary', { name: 'Outline' })
  }
  moves(): Promise<string | null> {
    return this.canvas.getAttribute('data-moves')
  }
  /** Types into the field that takes the keyboard. */
  async typeInto(text: string): Promise<void> {
    await expect(this.page.locator('input:focus')).toHaveCount(1)
    await this.page.keyboard.type(text)
  }
  /** A dimension that has just been asked for is open for typing. */
  async dimension(label: string, text: string): Promise<void> {
    await this.sheet
      .getByRole('region', { name: 'Selection' })
      .getByRole('button', { name: label, exact: true })
      .click()
    await this.typeInto(text)
    await this.page.keyboard.press('Enter')
  }
}

/** Takes an option of a list by the keyboard. */
async function choose(page: Page, list: string, option: string): Promise<void> {
  await page.getByRole('combobox', { name: list }).focus()
  await page.keyboard.press('Enter')
  await page.getByRole('option', { name: option }).focus()
  await page.keyboard.press('Enter')
  await expect(page.getByRole('listbox')).toHaveCount(0)
  // The list gives the keyboard back a moment after it is closed.
  await expect(page.locator(':focus')).toHaveCount(1)
}

/** The volume in the title block, cm³. */
async function volume(page: Page): Promise<number> {
  await drawn(page)
  return Number.parseFloat(await measured(page, 'Volume'))
}

test('a boat-hook clip is drawn, held by dimensions and extruded as a wall', async ({ page }) => {
  const pen = await newOutline(page)
  await pen.key('a')
  await pen.press(-12, 12)
  await pen.press(12, 12)
  await pen.press(0, -17)
  await pen.type('17')
  await pen.key('Enter')
  await pen.key('Escape')
  // The middle on the origin, both ends level with each other.
  await pen.press(0, 0)
  await pen.key('v')
  await pen.drag([-4, 4], [4, -4])
  await expect(pen.sheet.getByRole('region', { name: 'Selection' })).toContainText('p3')
  await pen.press(0, 0, 'Shift')
  await expect(pen.canvas).toHaveAttribute('data-moves', /\d/)
  await pen.key('Escape')
  // Two lips that lead the pole in.
  await pen.key('l')
  await pen.press(-12, 12)
  await pen.press(-19, 18)
  await pen.key('Escape')
  await pen.key('Escape')
  await pen.press(12, 12)
  await pen.press(19, 18)
  await pen.key('Escape')
  await pen.key('Escape')
  await pen.key('Escape')
  await expect(
    pen.sheet.getByRole('region', { name: 'Dimensions' }).getByRole('textbox', { name: /radius/ }),
  ).toHaveValue('17')
  await pen.sheet.getByRole('button', { name: 'extrude' }).click()
  await expect(page.getByText('closes off no region')).toBeVisible()
  await page.getByRole('button', { name: 'More' }).first().click()
  await choose(page, 'Filled or a wall', 'as a wall along')
  await page.getByRole('textbox', { name: 'Thickness of the wall' }).fill('2.4')
  await page.getByRole('textbox', { name: 'Height', exact: true }).fill('16')
  await page.keyboard.press('Enter')
  // Its length times its thickness and height, the sharp corners at the lips aside.
  const half = Math.atan2(12, 12)
  const long = 17 * (2 * Math.PI - 2 * half) + 2 * Math.hypot(7, 6)
  await expect.poll(() => volume(page)).toBeGreaterThan(((long * 2.4 * 16) / 1000) * 0.97)
  expect(await volume(page)).toBeLessThan(((long * 2.4 * 16) / 1000) * 1.03)
})

test('an oar collar is drawn with dimensions over measures, rounded and revolved', beside, async ({ page }) => {
  const pen = await newOutline(page)
  await pen.rectangle([20, 5], [30, 35], '8', '24 + 6')
  expect(await pen.moves()).toBe('2')
  // Its inside 21 from the axis, its foot on the level axis.
  await pen.press(20, 12)
  await pen.press(0, 45, 'Shift')
  await pen.dimension('distance', '21')
  const view = (await pen.canvas.getAttribute('data-view'))!
  await pen.key('0')
  await expect(pen.canvas).not.toHaveAttribute('data-view', view)
  await pen.press(25, 5)
  await pen.press(-2, 0, 'Shift')
  await pen.dimension('distance', '4')
  await expect(pen.canvas).toHaveAttribute('data-moves', '0')
  await expect(pen.sheet.getByText('Fully constrained.')).toBeVisible()
  await expect(pen.sheet.getByRole('heading', { name: /Regions · 240 mm²/ })).toBeVisible()
  // The upper corners rounded by 3.
  await pen.press(21, 34)
  await pen.press(29, 34, 'Shift')
  await pen.sheet.getByRole('region', { name: 'Selection' }).getByRole('button', { name: 'corner' }).click()
  await expect(pen.sheet.getByRole('region', { name: 'Then' })).toContainText('the corner by')
  // Its size has the keyboard.
  await expect(pen.sheet.getByRole('region', { name: 'Then' }).getByRole('textbox', { name: 'Size' })).toBeFocused()
  await page.keyboard.type('3')
  await page.keyboard.press('Enter')
  const area = 240 - 2 * 9 * (1 - Math.PI / 4)
  await expect(pen.sheet.getByRole('heading', { name: /Regions · 236\.1 mm²/ })).toBeVisible()
  await pen.sheet.getByRole('button', { name: 'revolve' }).click()
  await page.waitForURL(/\/make$/)
  // Pappus: the way of its middle, 25 from the axis, times its area.
  const whole = (2 * Math.PI * 25 * area) / 1000
  await expect.poll(() => volume(page)).toBeGreaterThan(whole * 0.99)
  expect(await volume(page)).toBeLessThan(whole * 1.01)
  await expect(entry(page, 'Proof')).toContainText('passed')
})

test('a bailing scoop is a curve that is revolved as a wall on a flat base', beside, async ({ page }) => {
  const pen = await newOutline(page)
  await pen.key('s')
  await pen.press(0, -30)
  await pen.press(18, -24)
  await pen.press(28, -5)
  await pen.press(32, 25)
  await pen.key('Enter')
  await pen.key('Escape')
  await pen.key('Escape')
  await pen.sheet.getByRole('button', { name: 'revolve' }).click()
  await page.getByRole('button', { name: 'More' }).first().click()
  await choose(page, 'Filled or a wall', 'as a wall outside')
  await page.getByRole('textbox', { name: 'Thickness of the wall' }).fill('1.6')
  await page.keyboard.press('Enter')
  await page.getByRole('textbox', { name: 'Flat base' }).fill('1')
  await page.keyboard.press('Enter')
  await expect.poll(() => volume(page)).toBeGreaterThan(8)
  await expect(entry(page, 'Overall')).toHaveText(/67\.\d+ × 67\.\d+ × 5\d/)
  await expect(entry(page, 'Proof')).not.toContainText('fault')
})

test('what is inferred is told and can be refused, and what contradicts is named', beside, async ({ page }) => {
  const pen = await newOutline(page)
  await pen.key('l')
  await pen.press(-30, 10)
  await pen.move(-5, 10.6)
  await expect(page.getByText('horizontal · N refuses')).toBeVisible()
  await pen.key('n')
  await expect(page.getByText('nothing is inferred')).toBeVisible()
  await pen.press(-5, 11)
  await expect(pen.sheet.getByRole('region', { name: 'Constraints' })).toHaveCount(0)
  await pen.key('Escape')
  await pen.key('Escape')
  // It refuses for as long as it is on.
  await pen.move(-5, 10.6)
  await expect(page.getByText('nothing is inferred')).toBeVisible()
  await pen.key('n')
  await pen.press(-5, 11)
  await pen.press(20, 11)
  await expect(pen.sheet.getByRole('region', { name: 'Constraints' })).toContainText('horizontal l2')
  await pen.type('30')
  await pen.key('Enter')
  await pen.key('Escape')
  await pen.key('Escape')
  await pen.press(-5, 11)
  await pen.press(25, 11, 'Shift')
  await pen.dimension('distance across', '40')
  await expect(page.getByRole('alert').filter({ hasText: 'These cannot all hold' })).toContainText(
    /distance 30 of l2.*distance across 40 of/s,
  )
  await page.keyboard.press('Control+z')
  await expect(page.getByText('These cannot all hold')).toHaveCount(0)
})

test('a point that is free is dragged, and what is held stays', beside, async ({ page }) => {
  const pen = await newOutline(page)
  await pen.rectangle([-20, -10], [20, 10], '40', '20')
  await pen.drag([20, 10], [35, 25])
  await expect(pen.sheet.getByRole('heading', { name: /Regions · 800 mm²/ })).toBeVisible()
  const corner = page.locator('[data-point=p3] circle')
  const [x, y] = await pen.place(35, 25)
  const box = await still(corner)
  expect(Math.hypot(box.x + box.width / 2 - x, box.y + box.height / 2 - y)).toBeLessThan(8)
})

test('drawings are imported from SVG and DXF, and exported again with the same area', beside, async ({ page }) => {
  const pen = await newOutline(page)
  const svg = `<svg xmlns="http://www.w3.org/2000/svg" width="60mm" height="40mm" viewBox="0 0 60 40">
    <g transform="translate(2 3)"><rect width="50" height="30" rx="4"/><circle cx="15" cy="15" r="6"/></g></svg>`
  const chooser = pen.sheet.getByLabel('SVG or DXF file to import')
  await chooser.setInputFiles({ name: 'plate.svg', mimeType: 'image/svg+xml', buffer: Buffer.from(svg) })
  const area = 1500 - (4 - Math.PI) * 16 - 36 * Math.PI
  const heading = pen.sheet.getByRole('heading', { name: `Regions · ${Number(area.toPrecision(4))} mm²` })
  await expect(heading).toBeVisible()
  for (const format of ['SVG', 'DXF']) {
    const download = page.waitForEvent('download')
    await pen.sheet.getByRole('button', { name: format, exact: true }).click()
    const path = await (await download).path()
    await pen.sheet.getByRole('link', { name: 'build sheet' }).click()
    const again = await anotherOutline(page)
    await again.sheet.getByLabel('SVG or DXF file to import').setInputFiles({
      name: `again.${format.toLowerCase()}`,
      mimeType: 'application/octet-stream',
      buffer: readFileSync(path),
    })
    await expect(heading).toBeVisible()
  }
  await chooser.setInputFiles({
    name: 'bomb.svg',
    mimeType: 'image/svg+xml',
    buffer: Buffer.from(`<svg>${'<g>'.repeat(300)}${'</g>'.repeat(300)}</svg>`),
  })
  await expect(pen.sheet.getByRole('alert')).toContainText(/nested|cannot be read/)
  await expect(heading).toBeVisible()
})

test('edges of the part are picked up and stay with it', beside, async ({ page }) => {
  await page.goto('/part/lantern-bracket/make')
  await drawn(page)
  const pen = await anotherOutline(page)
  await pen.key('f')
  await page.getByRole('button', { name: /^Pick up right edge of top of 1/ }).click()
  await expect(page.locator('[data-curve=l1]')).toHaveCount(1)
  expect(await pen.moves()).toBe('0')
  const before = (await page.locator('[data-point=p1] rect').boundingBox())!.x
  await pen.sheet.getByRole('link', { name: 'build sheet' }).click()
  await page.getByRole('button', { name: /^Step 1/ }).click()
  const width = page.locator('[data-step]').first().getByRole('textbox', { name: 'Width' })
  await width.fill('120')
  await page.keyboard.press('Enter')
  await page.getByRole('link', { name: 'Outline 1' }).click()
  await pen.shown()
  const place = await pen.place(60, 0)
  const now = await still(page.locator('[data-point=p1] rect'))
  expect(before).not.toBe(now.x)
  expect(Math.abs(now.x + now.width / 2 - place[0])).toBeLessThan(2)
})

test(
  'a photograph lies under the drawing at its measured size, and is kept with the part',
  beside,
  async ({ page }) => {
    const pen = await newOutline(page)
    const data = await page.evaluate(() => {
      const canvas = document.createElement('canvas')
      canvas.width = 200
      canvas.height = 100
      canvas.getContext('2d')!.fillRect(20, 20, 60, 60)
      return canvas.toDataURL('image/png').split(',')[1]!
    })
    await pen.sheet
      .getByLabel('Picture to draw over')
      .setInputFiles({ name: 'broken.png', mimeType: 'image/png', buffer: Buffer.from(data, 'base64') })
    await expect(pen.sheet.getByRole('textbox', { name: 'wide, mm' })).toHaveValue('100')
    await pen.sheet.getByRole('button', { name: 'scale it by a measured distance' }).click()
    await pen.press(-40, 0)
    await pen.press(10, 0)
    await pen.sheet.getByRole('textbox', { name: 'Measured distance, mm' }).fill('25')
    await page.keyboard.press('Enter')
    await expect(pen.sheet.getByRole('textbox', { name: 'wide, mm' })).toHaveValue('50')
    await expect(page.getByText(/^saved \d/)).toBeVisible()
    await page.reload()
    await expect(pen.sheet.getByRole('textbox', { name: 'wide, mm' })).toHaveValue('50')
    await expect(page.locator('svg image')).toHaveCount(1)
  },
)

test('a drawing is made from the keyboard alone, at exact places and with its sizes', beside, async ({ page }) => {
  const pen = await newOutline(page)
  const enter = async (text: string) => {
    await pen.key('/')
    await pen.typeInto(text)
    await page.keyboard.press('Enter')
  }
  await enter('rectangle 40 × 20')
  await enter('5, 5')
  await page.keyboard.type('10 + 20, 12')
  await page.keyboard.press('Enter')
  await expect(pen.sheet.getByRole('heading', { name: /Regions · 800 mm²/ })).toBeVisible()
  await page.locator('body').press('Escape')
  await page.keyboard.press('Escape')
  await page.keyboard.press('Escape')
  // Undone as one.
  await page.keyboard.press('Control+z')
  await expect(pen.sheet.getByText('Nothing is drawn yet.')).toBeVisible()
})

test('a spring is wound from a section, and a helix that would overlap itself is refused', beside, async ({ page }) => {
  const pen = await newOutline(page)
  await pen.key('c')
  await pen.press(0, 0)
  await pen.press(8, 0)
  await pen.type('3')
  await pen.key('Enter')
  await pen.sheet.getByRole('button', { name: 'helix' }).click()
  const line = page.locator('[data-step]').first()
  await expect(line.getByRole('textbox', { name: 'Pitch' })).toHaveValue('5')
  // Pappus: the section's area times the length of the way of its middle.
  const long = 5 * Math.PI * 20
  const whole = (Math.PI * 1.5 ** 2 * long) / 1000
  await expect.poll(() => volume(page)).toBeGreaterThan(whole * 0.97)
  expect(await volume(page)).toBeLessThan(whole * 1.01)
  await line.getByRole('textbox', { name: 'Pitch' }).fill('2.5')
  await expect(line.getByRole('alert')).toContainText('overlap')
  await line.getByRole('textbox', { name: 'Pitch' }).fill('4')
  await expect(line.getByRole('alert')).toHaveCount(0)
})

test('ends that nearly meet are told with their distance, and joined with one press', beside, async ({ page }) => {
  const pen = await newOutline(page)
  const places = async (...list: readonly string[]) => {
    await pen.key('/')
    for (const place of list) {
      await pen.typeInto(place)
      await page.keyboard.press('Enter')
    }
    await page.keyboard.press('Escape')
    for (let i = 0; i < 3; i++) await page.keyboard.press('Escape')
  }
  await pen.key('l')
  await places('0, 0', '30, 0', '30, 20')
  await pen.key('l')
  await places('29.7, 20', '0, 20', '0, 0')
  const ends = pen.sheet.getByRole('region', { name: 'Ends and crossings' })
  await expect(ends).toContainText('by 0.3 mm')
  await expect(pen.sheet.getByRole('heading', { name: /Regions/ })).toHaveCount(0)
  await ends.getByRole('button', { name: 'join them' }).first().click()
  await expect(pen.sheet.getByRole('heading', { name: /Regions · [56]\d\d/ })).toBeVisible()
  await expect(ends).toHaveCount(0)
})

test('the rim of a hole is picked up and stays as large as that', beside, async ({ page }) => {
  await page.goto('/part/lantern-bracket/make')
  await drawn(page)
  const pen = await anotherOutline(page)
  await pen.key('f')
  const rim = page.getByRole('button', { name: /^Pick up wall edge of 5, copy 2/ })
  await expect(rim).toHaveCount(1)
  await rim.focus()
  await page.keyboard.press('Enter')
  const circle = page.locator('[data-curve=c1] path').first()
  await expect(circle).toBeVisible()
  expect(await pen.moves()).toBe('0')
  // Another one by the pointer, on the rim itself.
  await pen.press(7 - 2.65, 11)
  await expect(page.locator('[data-curve=c2]')).toHaveCount(1)
  const scale = async () => Number((await pen.canvas.getAttribute('data-view'))!.split(' ')[2])
  const across = async () => (await circle.boundingBox())!.width / (await scale())
  const before = await across()
  await pen.sheet.getByRole('link', { name: 'build sheet' }).click()
  await page.getByRole('button', { name: /^Step 5/ }).click()
  const diameter = page.locator('[data-step=screws]').getByRole('textbox', { name: 'Diameter', exact: true })
  await diameter.fill('8')
  await page.keyboard.press('Enter')
  await page.getByRole('link', { name: 'Outline 1' }).click()
  await expect(pen.canvas).toBeVisible()
  await expect.poll(across).toBeGreaterThan(7.8)
  expect(await across()).toBeLessThan(8.6)
  expect(before).toBeLessThan(6.5)
  // A dimension of it can only tell, and without the holes it stays as it was until it is let go.
  await pen.sheet.getByRole('button', { name: 'circle c1' }).click()
  await pen.sheet.getByRole('region', { name: 'Selection' }).getByRole('button', { name: 'diameter' }).click()
  await expect(page.getByRole('button', { name: /^diameter ⌀8.*, reference/ })).toBeVisible()
  await pen.sheet.getByRole('link', { name: 'build sheet' }).click()
  await page.getByRole('button', { name: /^Step 5/ }).click()
  await page.keyboard.press('Delete')
  await page.getByRole('link', { name: 'Outline 1' }).click()
  await expect(pen.sheet.getByText(/was picked up from is gone/)).toBeVisible()
  expect(await across()).toBeGreaterThan(7.8)
  await pen.sheet.getByRole('button', { name: 'circle c1' }).click()
  await pen.sheet.getByRole('checkbox', { name: 'stays with the part' }).click()
  await expect(pen.canvas).toHaveAttribute('data-moves', '3')
})

test('a dimension that reference: shows its value only follows the others', beside, async ({ page }) => {
  const pen = await newOutline(page)
  await pen.rectangle([-20, -10], [20, 10], '40', '30')
  await pen.press(-20, -10)
  await pen.press(20, 20, 'Shift')
  const selection = pen.sheet.getByRole('region', { name: 'Selection' })
  await selection.getByRole('button', { name: 'distance', exact: true }).click()
  await expect(page.locator('input:focus')).toHaveCount(1)
  await page.keyboard.press('Escape')
  // It follows from the sides already; so it can only tell.
  await expect(pen.sheet.getByText(/is redundant with/)).toBeVisible()
  await page.getByRole('button', { name: /^distance 50/ }).click()
  await expect(page.locator('input:focus')).toHaveCount(1)
  await page.keyboard.press('Escape')
  await selection.getByRole('checkbox', { name: 'reference: shows its value only' }).check()
  await expect(pen.sheet.getByText(/is redundant with/)).toHaveCount(0)
  await expect(page.getByRole('button', { name: 'distance 50, reference' })).toHaveText('(50)')
  const width = pen.sheet.getByRole('region', { name: 'Dimensions' }).getByRole('textbox').first()
  await width.fill('72')
  await page.keyboard.press('Enter')
  await expect(page.getByRole('button', { name: 'distance 78, reference' })).toBeVisible()
})

test('regions are left out and taken on the drawing, and the solid is made of the rest', beside, async ({ page }) => {
  const pen = await newOutline(page)
  for (const x of [0, 12]) {
    await pen.key('c')
    await pen.press(x, 0)
    await pen.press(x + 7, 7)
    await pen.type('20')
    await pen.key('Enter')
    await pen.key('Escape')
    await pen.key('Escape')
  }
  const lens = 2 * (100 * Math.acos(0.6) - 6 * 8)
  const heading = (area: number) =>
    expect(pen.sheet.getByRole('heading', { name: `Regions · ${Number(area.toPrecision(4))} mm²` })).toBeVisible()
  await heading(200 * Math.PI - lens)
  await pen.key('g')
  await pen.press(6, 0)
  await heading(200 * Math.PI - 2 * lens)
  await expect(page.locator('[data-region][data-taken=false]')).toHaveCount(1)
  await pen.press(-5, 0)
  await heading(100 * Math.PI - lens)
  await pen.press(-5, 0)
  await pen.key('Escape')
  await pen.sheet.getByRole('button', { name: 'extrude' }).click()
  await page.getByRole('textbox', { name: 'Height', exact: true }).fill('20')
  await page.keyboard.press('Enter')
  const wanted = ((200 * Math.PI - 2 * lens) * 20) / 1000
  await expect.poll(() => volume(page)).toBeGreaterThan(wanted * 0.99)
  expect(await volume(page)).toBeLessThan(wanted * 1.01)
})

test(
  'a step takes regions of its own of a drawing, and stays with them when a line is cut',
  beside,
  async ({ page }) => {
    const pen = await newOutline(page)
    await pen.rectangle([-30.1, -20.2], [30, 20], '60.1', '40.3')
    // A line across parts it in two.
    await pen.key('l')
    await pen.press(5.3, -26)
    await pen.press(5.3, 27)
    for (const key of ['Escape', 'Escape', 'v']) await pen.key(key)
    await pen.sheet.getByRole('button', { name: 'extrude' }).click()
    const whole = await volume(page)
    expect(whole).toBeCloseTo(24.22, 2)
    const line = page.locator('[data-step]')
    await line.getByRole('button', { name: /^Regions of/ }).click()
    const chooser = page.getByRole('dialog', { name: /^Regions of/ })
    const regions = chooser.getByRole('checkbox')
    await expect(regions).toHaveCount(2)
    await regions.nth(1).click()
    await expect(chooser).toContainText('1 of 2 regions')
    await page.keyboard.press('Escape')
    await expect(line).toContainText('1 of 2 regions')
    await expect.poll(() => volume(page)).toBeLessThan(0.9 * whole)
    const some = await volume(page)
    // The rest of the line outside is trimmed away: the region is called otherwise, and still taken.
    await line.getByRole('button', { name: /^Draw / }).click()
    await pen.shown()
    await pen.key('x')
    await pen.press(5.3, 24)
    await pen.key('Escape')
    await expect(pen.canvas.locator('[data-region]')).toHaveCount(2)
    await page.goBack()
    await expect(line).toContainText('1 of 2 regions')
    await expect.poll(() => volume(page)).toBeCloseTo(some, 3)
    await line.getByRole('button', { name: /^Regions of/ }).click()
    await chooser.getByRole('button', { name: 'as filled in the drawing' }).click()
    await expect.poll(() => volume(page)).toBeCloseTo(whole, 2)
  },
)

test('three circles get one diameter in one go, and five points lie on one circle', beside, async ({ page }) => {
  const pen = await newOutline(page)
  for (const [x, r] of [
    [-22, 4],
    [-4, 6],
    [19, 7],
  ] as const) {
    await pen.key('c')
    await pen.press(x, 0)
    await pen.press(x + r, 0)
    for (const key of ['Escape', 'Escape', 'v']) await pen.key(key)
  }
  await pen.drag([-35, -20], [38, 20])
  const selection = pen.sheet.getByRole('region', { name: 'Selection' })
  await selection.getByRole('button', { name: 'diameter', exact: true }).click()
  await pen.typeInto('9.7')
  await pen.key('Enter')
  await expect(
    pen.sheet.getByRole('heading', { name: `Regions · ${Number(((3 * Math.PI * 9.7 ** 2) / 4).toPrecision(4))} mm²` }),
  ).toBeVisible()
  // Taken back for all of them with one press.
  await pen.key('Control+z')
  await expect(pen.sheet.getByRole('region', { name: 'Dimensions' }).getByRole('textbox')).toHaveCount(3)
  await pen.key('Control+z')
  await expect(pen.sheet.getByRole('region', { name: 'Dimensions' })).toHaveCount(0)

  await pen.key('Escape')
  await pen.key('q')
  for (const [x, y] of [
    [-9, 20],
    [0, 25],
    [8, 21],
    [14, 24],
    [-15, 26],
  ] as const)
    await pen.press(x, y)
  await pen.key('Escape')
  await pen.key('v')
  await pen.drag([-40, 14], [40, 32])
  await pen.press(26, 0, 'Shift')
  const before = Number(await pen.moves())
  await selection.getByRole('button', { name: 'on curve' }).click()
  await expect.poll(() => pen.moves()).toBe(String(before - 5))
})

test('a loft is made through two outlines, and a rib from an open line to what it meets', beside, async ({ page }) => {
  const pen = await newOutline(page)
  await pen.rectangle([-15, -10], [15, 10], '30', '20')
  await pen.sheet.getByRole('link', { name: 'build sheet' }).click()
  const above = await anotherOutline(page)
  await above.rectangle([-7.5, -5], [7.5, 5], '15', '10')
  await above.sheet.getByRole('link', { name: 'build sheet' }).click()
  await page.getByRole('link', { name: 'Outline 1' }).click()
  await pen.sheet.getByRole('button', { name: 'loft' }).click()
  await page.getByRole('button', { name: 'another section' }).click()
  await choose(page, 'Section 2', 'Outline 2')
  await page.getByRole('textbox', { name: 'Height of section 2' }).fill('24')
  await page.keyboard.press('Enter')
  const frustum = ((24 / 3) * (600 + 150 + 300)) / 1000
  await expect.poll(() => volume(page)).toBeCloseTo(frustum, 1)
  // The line begins within the loft and ends above the foot of its slope; the rib fills what is between.
  const edge = await anotherOutline(page)
  await edge.key('l')
  await edge.press(2, 22)
  await edge.press(14.5, 20)
  await edge.key('Escape')
  await edge.key('Escape')
  await edge.sheet.getByRole('button', { name: 'rib' }).click()
  await page.getByRole('button', { name: 'More' }).first().click()
  await page.getByRole('textbox', { name: 'Tilt' }).fill('90')
  await page.keyboard.press('Enter')
  const crossing = 25.68 / 3.04
  const rib = ((3.04 / 2) * (14.5 - crossing) ** 2 * 3) / 1000
  await expect.poll(() => volume(page)).toBeCloseTo(frustum + rib, 1)
})
