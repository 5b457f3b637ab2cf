import { readFileSync } from 'node:fs'
import { beside, drawn, entry, expect, kept, long, madeUp, openPart, put, stage, test, value } from './fixtures.ts'
import { stlFigures, threeMfFigures } from './meshes.ts'

test('Plan keeps units, printer, material and measures; the part follows', long, async ({ page }) => {
  await openPart(page, 'lantern-bracket', 'make')
  await stage(page, 'Plan').click()
  await expect(page.getByRole('row', { name: /wall/ }).first()).toContainText(
    '1 base, 2 upright, 3 gusset, 5 screw holes',
  )
  await page.getByRole('combobox', { name: 'Units' }).click()
  await page.getByRole('option', { name: /inches/ }).click()
  await expect(page.getByRole('textbox', { name: 'Expression of wall' })).toHaveValue('6\u00a0mm')
  await expect(page.getByRole('cell', { name: '0.2362 in' })).toBeVisible()
  await page.getByRole('textbox', { name: 'Expression of wall' }).fill('1/4')
  await expect(page.getByRole('cell', { name: '0.25 in' })).toBeVisible()
  await stage(page, 'Make').click()
  await expect(entry(page, 'Overall')).toHaveText('3.307 × 1.732 × 2.441 in')
  await page.getByRole('button', { name: /^Undo/ }).click()
  await page.getByRole('button', { name: /^Undo/ }).click()
  await expect(entry(page, 'Overall')).toHaveText('84 × 44 × 62 mm')
  await stage(page, 'Plan').click()
  await page.getByRole('combobox', { name: 'Printer' }).click()
  await page.getByRole('option', { name: /Gannet 350/ }).click()
  await expect(page.getByText('350 × 350 × 400').first()).toBeVisible()
  await expect(stage(page, 'Layers')).toContainText('207 layers')
  await page.getByRole('button', { name: /^Undo \(/ }).click()
  await kept(page)
})

test('measures point at what is wrong with them', beside, async ({ page }) => {
  await openPart(page, 'lantern-bracket', 'make')
  await stage(page, 'Plan').click()
  const wall = page.getByRole('textbox', { name: 'Expression of wall' })
  for (const [text, message] of [
    ['wide / 2', 'no measure called “wide”'],
    ['rise - foot', ''],
    ['wall + 1', 'depends on itself: wall → wall'],
    ['6 / 0', 'divides by zero'],
    ['6 mn', '“mn” is not a unit'],
  ] as const) {
    await wall.fill(text)
    if (message) await expect(page.getByRole('alert').first()).toContainText(message)
  }
  await page.getByRole('textbox', { name: 'Name of foot' }).fill('rod')
  await page.keyboard.press('Tab')
  await expect(page.getByText('Another measure or read-out is called “rod” already.')).toBeVisible()
  await page.getByRole('button', { name: /^Undo/ }).click()
  await page.getByRole('button', { name: /^Undo/ }).click()
  await expect(page.getByRole('alert')).toHaveCount(0)
  await expect(wall).toHaveValue('6')
  await page.getByRole('textbox', { name: 'Name of rod' }).fill('pole')
  await page.keyboard.press('Tab')
  await stage(page, 'Make').click()
  await value(page, 4, 'Diameter').focus()
  await expect(value(page, 4, 'Diameter')).toHaveValue('pole + 2 * slide')
  await page.getByRole('button', { name: /^Undo/ }).click()
  await kept(page)
})

test(
  'a hinge that prints in place is made of two pieces and a joint, and swings with its gap',
  long,
  async ({ page }) => {
    await page.goto('/')
    await page.getByRole('button', { name: 'New part', exact: true }).click()
    await stage(page, 'Make').click()
    const add = page.getByRole('combobox', { name: 'Add a step' })
    const leaf = async (piece: number, side: string, by: string) => {
      await add.fill('plate 25 40 4')
      await add.press('Enter')
      const sheet = page.getByRole('complementary', { name: 'Build sheet' }).locator('ol').nth(piece)
      const measured = sheet.getByRole('combobox', { name: 'Measured left to right' })
      // A further piece stands beside the first one, until it is told otherwise.
      for (const way of piece === 0 ? [side] : ['from what it stands on', side]) {
        await measured.click()
        await page.getByRole('option', { name: way }).click()
      }
      await put(sheet.getByRole('textbox', { name: 'Distance left to right' }), by)
      await page.keyboard.press('Enter')
    }
    await leaf(0, 'from the datum to its right edge, left to right', '-(4.5 + captive)')
    await page.getByRole('button', { name: 'another piece' }).click()
    await leaf(1, 'from the datum to its left edge, left to right', '4.5 + captive')
    await stage(page, 'Move').click()
    await page.getByRole('button', { name: 'Add a joint', exact: true }).click()
    await page.getByRole('button', { name: 'Add a pin hinge' }).click()
    await expect(page.getByRole('textbox', { name: 'Gap' })).toHaveValue('captive 0.35')
    await expect(page.getByTestId('gap-here')).toHaveText('0.35 mm')
    await expect(page.getByText(/^0.35 mm at/)).toBeVisible()
    await page.getByRole('slider', { name: 'Swing' }).fill('120')
    await expect(page.getByTestId('gap-here')).toHaveText('0.35 mm')

    // Thicker leaves meet when it is folded.
    await stage(page, 'Make').click()
    await put(value(page, 1, 'Height', 0), '7')
    await put(value(page, 1, 'Height', 1), '7')
    await page.keyboard.press('Enter')
    await stage(page, 'Move').click()
    await page.getByRole('slider', { name: 'Swing' }).fill('180')
    await expect(page.getByTestId('gap-here')).toContainText('collides')
    await page.getByRole('slider', { name: 'Swing' }).fill('0')
    await expect(page.getByTestId('gap-here')).toHaveText('0.35 mm')
    await kept(page)
  },
)

test('the proof finds what is wrong, and each finding selects what it is about', long, async ({ page }) => {
  await openPart(page, 'locker-hinge', 'proof')
  await expect(page.getByRole('button', { name: /stay 0.35 mm apart; the Tern 220 needs 0.25 mm/ })).toBeVisible()
  await stage(page, 'Move').click()
  await put(page.getByRole('textbox', { name: 'Gap' }), '0.1')
  await page.keyboard.press('Enter')
  await stage(page, 'Proof').click()
  await expect(page.getByRole('button', { name: /0.1 mm apart; the Tern 220 needs 0.25 mm to keep/ })).toBeVisible()
  await expect(stage(page, 'Proof')).toContainText(/\d fault/)
  await page.getByRole('button', { name: /^Undo/ }).click()

  await stage(page, 'Make').click()
  await page.getByRole('button', { name: 'Step 2, round hole' }).first().click()
  await put(value(page, 2, 'Diameter'), '0')
  await page.keyboard.press('Enter')
  await stage(page, 'Proof').click()
  await page.getByRole('button', { name: /Diameter must be more than 0/ }).click()
  await stage(page, 'Make').click()
  await expect(page.locator('li[aria-current=true]')).toContainText('Diameter must be more than 0')
  await page.getByRole('button', { name: /^Undo/ }).click()
  await expect(stage(page, 'Proof')).toContainText(/passed|notes/)
  await kept(page)
})

test('a piece that floats is shown where it hangs, and lowered to the bed with one press', beside, async ({ page }) => {
  const document = JSON.parse(readFileSync(new URL('../demo/lantern-bracket.makrel.json', import.meta.url), 'utf8'))
  document.id = 'floating-bracket'
  document.pieces[0].steps[0].place.lift = 'wall + 1.3'
  expect((await page.request.post('/api/parts', { data: { document } })).status()).toBe(201)
  await openPart(page, 'floating-bracket', 'proof')
  await page.getByRole('button', { name: 'Bracket floats 7.3 mm above the bed.' }).click()
  await page.getByRole('button', { name: 'Lower it by 7.3 mm' }).click()
  await expect(page.getByRole('button', { name: 'Bracket stands on the bed.' })).toBeVisible()
  await expect(stage(page, 'Proof')).toContainText(/passed|note/)
  await page.getByRole('button', { name: /^Undo/ }).first().click()
  await expect(page.getByRole('button', { name: 'Bracket floats 7.3 mm above the bed.' })).toBeVisible()
  await kept(page)

  // Its file is not given unasked.
  await expect(stage(page, 'Hand off')).toContainText('has faults')
  await stage(page, 'Hand off').click()
  await page.getByRole('button', { name: /Write, check and download/ }).click()
  const held = page.getByRole('alert').filter({ hasText: 'The file was not downloaded' })
  await expect(held).toContainText('Bracket floats 7.3 mm above the bed.')
  const download = page.waitForEvent('download')
  await held.getByRole('button', { name: 'Download it all the same' }).click()
  expect((await download).suggestedFilename()).toMatch(/\.3mf$/)
  await expect(held).toHaveCount(0)
})

test('the gap between two pieces is shown all over them, and read off under the pointer', beside, async ({ page }) => {
  await openPart(page, 'locker-hinge', 'proof')
  await page.getByRole('button', { name: /Fixed leaf and Moving leaf stay/ }).click()
  await expect(page.getByRole('figure', { name: 'Gap: from 0 mm to 0.75 mm; at least 0.25 mm' })).toBeVisible()
  const { width, height } = (await page.locator('canvas').first().boundingBox())!
  const reading = page.locator('p').filter({ hasText: /^0\.\d+ mm$/ })
  // The knuckles stand across the middle of the drawing.
  await expect(async () => {
    for (let step = -12; step <= 12; step++) {
      await page.mouse.move(width / 2 + 8 * step, height / 2 - 5 * step)
      if ((await reading.count()) > 0) break
    }
    const value = Number.parseFloat((await reading.textContent({ timeout: 1000 })) ?? '')
    expect(value).toBeGreaterThan(0.34)
    expect(value).toBeLessThan(0.76)
  }).toPass({ timeout: 20_000 })
  await page.getByRole('button', { name: /Fixed leaf is one solid/ }).click()
  await expect(page.getByRole('figure')).toHaveCount(0)
})

test(
  'a wall that is left out and a slot that closes are told, read on the drawing, and gone with more',
  beside,
  async ({ page }) => {
    await page.goto('/')
    await page.getByRole('button', { name: 'New part', exact: true }).click()
    await stage(page, 'Make').click()
    const add = page.getByRole('combobox', { name: 'Add a step' })
    for (const text of ['plate 61.3 x 37.7 x 8.2', 'plate 31.3 x 0.36 x 12.4']) {
      await add.fill(text)
      await add.press('Enter')
      await drawn(page)
    }
    await stage(page, 'Proof').click()
    const told = page.getByRole('button', {
      name: /0\.36 mm thick at the [a-z ]+ of Step 2 .* leaves out 388 mm² of wall/,
    })
    await told.click()
    await expect(page.getByRole('figure', { name: 'Walls: from 0 mm to 0.88 mm; at least 0.44 mm' })).toBeVisible()
    const { width, height } = (await page.locator('canvas').first().boundingBox())!
    const reading = page.locator('p').filter({ hasText: /^0\.\d+ mm$/ })
    await expect(async () => {
      for (let step = -12; step <= 12; step++) {
        await page.mouse.move(width / 2 + 3 * step, height / 2 + 6 * step)
        if ((await reading.count()) > 0) break
      }
      await expect(reading).toHaveText('0.36 mm', { timeout: 1000 })
    }).toPass({ timeout: 20_000 })

    // What cures it was built, and found to hold; so is its undo.
    await page.getByRole('button', { name: 'Set the depth of plate to 0.88 mm' }).click()
    await expect(told).toHaveCount(0)
    await expect(page.getByRole('button', { name: /Every wall of Piece 1 is wide enough/ })).toBeVisible()
    await page.getByRole('button', { name: /^Undo/ }).first().click()
    await expect(told).toBeVisible()

    await stage(page, 'Make').click()
    await page.getByRole('button', { name: 'Step 2, plate' }).first().click()
    await put(value(page, 2, 'Depth'), '1.2')
    await page.keyboard.press('Enter')
    await add.fill('slot 18 0.2')
    await add.press('Enter')
    await drawn(page)
    await stage(page, 'Proof').click()
    await page.getByRole('button', { name: /open by 0\.2 mm at .*Step 3 .* needs 0\.25 mm/ }).click()
    await expect(page.getByRole('figure', { name: /^Open by: from 0 mm/ })).toBeVisible()
    await expect(told).toHaveCount(0)
    await stage(page, 'Make').click()
    await page.getByRole('button', { name: 'Step 3, slot' }).first().click()
    await put(value(page, 3, 'Width'), '0.3')
    await page.keyboard.press('Enter')
    await stage(page, 'Proof').click()
    await expect(page.getByRole('button', { name: /Every slot, groove and hole of Piece 1/ })).toBeVisible()
    await kept(page)
  },
)

test(
  'what hangs is told and shown on the drawing, again for a larger hole, and as before after its undo',
  beside,
  async ({ page }) => {
    await openPart(page, 'lantern-bracket', 'proof')
    const leans = page.getByRole('button', { name: /of Bracket leans by as much as \d+\.?\d*° at .*\(rod hole\)/ })
    await leans.click()
    await expect(page.getByRole('figure', { name: 'Leans by: from 0° to 90°; at most 50°' })).toBeVisible()
    await stage(page, 'Make').click()
    await page
      .getByRole('button', { name: /^Step 4/ })
      .first()
      .click()
    await put(value(page, 4, 'Diameter'), '21.3')
    await page.keyboard.press('Enter')
    await stage(page, 'Proof').click()
    const more = page.getByRole('button', { name: /67 mm² of Bracket leans by as much as 78\.7° at .*rod hole/ })
    await expect(more).toBeVisible()
    await page.getByRole('button', { name: /^Undo/ }).first().click()
    await expect(more).toHaveCount(0)
    await expect(leans).toBeVisible()
    await page.getByRole('button', { name: /The longest bridge of Bracket is/ }).click()
    await expect(page.getByRole('figure', { name: /^Bridged over: from 0 mm to 30 mm; at most 15 mm/ })).toBeVisible()
    await kept(page)
  },
)

test(
  'a finding is set aside with a reason, stands so on the receipt, and is back when it is worse',
  beside,
  async ({ page }) => {
    await openPart(page, 'lantern-bracket', 'proof')
    const line = page.getByRole('listitem').filter({ hasText: /of Bracket leans by as much as .*\(rod hole\)/ })
    await line.getByRole('button', { name: 'Set aside …' }).click()
    await page.getByRole('textbox', { name: 'Why it may stay' }).fill('The rod is pushed through it anyway.')
    await page.keyboard.press('Enter')
    const aside = page.getByRole('region', { name: 'Set aside' })
    await expect(aside).toContainText('The rod is pushed through it anyway.')
    await expect(stage(page, 'Proof')).toContainText('1 aside')

    await stage(page, 'Hand off').click()
    await page.getByRole('button', { name: /Write, check and download/ }).click()
    await expect(page.getByRole('region', { name: 'Receipt' })).toContainText(
      /Set aside.*leans by as much as .* The rod is pushed through it anyway\./,
    )

    await stage(page, 'Make').click()
    await page
      .getByRole('button', { name: /^Step 4/ })
      .first()
      .click()
    await put(value(page, 4, 'Diameter'), '24.7')
    await page.keyboard.press('Enter')
    await stage(page, 'Proof').click()
    await expect(page.getByRole('region', { name: 'Warnings' })).toContainText(/reaches out as far as .*\(rod hole\)/)
    await expect(aside).toHaveCount(0)
    await page.getByRole('button', { name: /^Undo/ }).first().click()
    await expect(aside).toBeVisible()
    await aside.getByRole('button', { name: 'Take it up again' }).click()
    await expect(aside).toHaveCount(0)
    await expect(line).toBeVisible()
    await kept(page)
  },
)

test(
  'ways to lie are compared, and one of them is printed by one press and left by one undo',
  beside,
  async ({ page }) => {
    await openPart(page, 'locker-hinge', 'proof')
    await page.getByRole('button', { name: 'Compare ways to lie' }).click()
    const ways = page.getByRole('region', { name: 'Ways to lie' })
    await expect(
      ways.getByRole('row', { name: /As it is printed now.* 9\.2 mm high, 3000 mm² on the bed, 6 of 6 rounds/ }),
    ).toBeVisible()
    const layers = stage(page, 'Layers')
    await expect(layers).toContainText('46 layers')
    await ways
      .getByRole('button', { name: /^Print Fixed leaf and Moving leaf so: .* 50 mm high/ })
      .first()
      .click()
    await expect(page.getByText('As it is printed, in the pose As laid.')).toBeVisible()
    await expect(layers).toContainText('250 layers')
    await expect(ways.getByRole('row', { name: /As it is printed now.* 50 mm high/ })).toBeVisible()
    await page.getByRole('button', { name: /^Undo/ }).first().click()
    await expect(layers).toContainText('46 layers')
    await kept(page)
  },
)

test('layers are real sections', beside, async ({ page }) => {
  await openPart(page, 'lantern-bracket', 'make')
  await stage(page, 'Layers').click()
  await expect(page.getByText('1 of 310')).toBeVisible()
  await page.getByRole('slider', { name: 'Layer', exact: true }).fill('10')
  await expect(page.getByText('10 of 310')).toBeVisible()
  // Above the bevel and below the countersinks: 84 × 44 with corners of 6, less four holes of ø 5.3.
  const area = 84 * 44 - (4 - Math.PI) * 36 - 4 * Math.PI * 2.65 ** 2
  const shown = page.locator('dl div', { hasText: 'Filled area' }).locator('dd')
  await expect(shown).toHaveText(/\d+ mm²/)
  expect(Math.abs(Number.parseFloat((await shown.textContent())!) - area)).toBeLessThan(2)
  await page.getByRole('slider', { name: 'Layer', exact: true }).fill('200')
  // Two legs of the upright beside the rod hole.
  await expect(page.locator('dl div', { hasText: 'Outlines' }).locator('dd')).toHaveText('2')
  // As it is printed: grown by 1 / (1 − 0.4 %), and its walls 0.02 mm thinner per side.
  await page.getByRole('slider', { name: 'Layer', exact: true }).fill('10')
  await madeUp(page)
  await expect(page.getByText(/comes out as drawn on Tern 220/)).toBeVisible()
  await expect(async () => expect(Number.parseFloat((await shown.textContent())!)).toBeGreaterThan(area + 5)).toPass()
})

test('files are handed off with a receipt, and hold what it says', async ({ page }) => {
  await openPart(page, 'locker-hinge', 'hand-off')
  const write = async () => {
    const download = page.waitForEvent('download')
    await page.getByRole('button', { name: /Write, check and download/ }).click()
    const file = await download
    return { name: file.suggestedFilename(), bytes: readFileSync(await file.path()) }
  }
  const receipt = async (label: string) =>
    (await page
      .getByRole('region', { name: 'Receipt' })
      .locator('dl > div', { hasText: label })
      .locator('dd')
      .first()
      .textContent())!

  await madeUp(page)
  const threeMf = await write()
  expect(threeMf.name).toBe('Locker-hinge.3mf')
  const both = threeMfFigures(threeMf.bytes)
  expect(both).toMatchObject({ closed: true, unit: 'millimeter', objects: ['Fixed leaf', 'Moving leaf'] })
  expect(await receipt('Size, drawn')).toMatch(/^65\.9 × /)
  expect(await receipt('Compensation')).toMatch(/walls 0\.02 mm thinner and small round holes 0\.08 mm larger per side/)
  expect(both.size[0]).toBeGreaterThan(66.0)
  expect(Number.parseFloat(await receipt('Size, file'))).toBeCloseTo(both.size[0]!, 1)
  const volume = Number.parseFloat(await receipt('Volume, solid'))
  expect(Math.abs(both.volume / volume - 1)).toBeLessThan(1e-4)
  expect(await receipt('Triangles')).toContain(both.triangles.toLocaleString('en'))

  await page.getByRole('combobox', { name: 'Format' }).click()
  await page.getByRole('option', { name: /STL/ }).click()
  await expect(page.getByText('The file does not state it')).toBeVisible()
  await page.getByRole('combobox', { name: 'Pieces' }).click()
  await page.getByRole('option', { name: 'Moving leaf' }).click()
  await page.getByRole('combobox', { name: 'Fineness' }).click()
  await page.getByRole('option', { name: /very fine/ }).click()
  await page.getByRole('combobox', { name: 'Compensation' }).click()
  await page.getByRole('option', { name: 'as drawn' }).click()
  const stl = await write()
  expect(await receipt('Compensation')).toBe('none: as drawn')
  expect(stl.name).toBe('Locker-hinge-Moving-leaf.stl')
  const one = stlFigures(stl.bytes)
  expect(one.closed).toBe(true)
  expect(await receipt('Fineness')).toBe('0.01 mm')
  expect(Math.abs(one.volume / Number.parseFloat(await receipt('Volume, solid')) - 1)).toBeLessThan(1e-4)

  // In inches, at another size; and what was chosen is there again after another stage, and for the next part what any part has.
  await page.getByRole('combobox', { name: 'Unit' }).click()
  await page.getByRole('option', { name: 'inches' }).click()
  await page.getByRole('combobox', { name: 'Size', exact: true }).click()
  await page.getByRole('option', { name: 'to a height of' }).click()
  const height = page.getByRole('textbox', { name: 'Size, to a height of' })
  await expect(height).toHaveValue('9.2')
  await height.fill('-3')
  await expect(page.getByText('Size must be more than 0')).toBeVisible()
  await expect(page.getByRole('button', { name: /Write, check/ })).toBeDisabled()
  await height.fill('85.1')
  await page.getByRole('link', { name: /Layers/ }).click()
  await page.getByRole('link', { name: /Hand off/ }).click()
  await expect(height).toHaveValue('85.1')
  const inches = stlFigures((await write()).bytes)
  expect(inches.size[2]! * 25.4).toBeCloseTo(85.1, 3)
  expect(await receipt('Scaled')).toMatch(/^to \d+(\.\d+)? %, for a height of 85\.1 mm$/)
  await expect(page.getByText('was proved at the size that it is drawn in')).toBeVisible()
  await openPart(page, 'lantern-bracket', 'hand-off')
  await expect(page.getByRole('combobox', { name: 'Format' })).toHaveText(/STL/)
  await expect(page.getByRole('combobox', { name: 'Unit' })).toHaveText('inches')
  await expect(page.getByRole('combobox', { name: 'Size', exact: true })).toHaveText('as drawn')

  await page.getByRole('combobox', { name: 'Fineness' }).click()
  await page.getByRole('option', { name: /another/ }).click()
  await page.getByRole('textbox', { name: 'Fineness in mm' }).fill('0')
  await expect(page.getByText('Fineness must be 0.001 mm or more')).toBeVisible()
  await expect(page.getByRole('button', { name: /Write, check/ })).toBeDisabled()
})

test('a newcomer who types plate, hole, has a printable file', async ({ page }) => {
  await page.goto('/')
  await page.getByRole('button', { name: 'New part', exact: true }).click()
  await stage(page, 'Make').click()
  await expect(page.getByText('The first solid goes here.')).toBeVisible()
  const add = page.getByRole('combobox', { name: 'Add a step' })
  await add.fill('plate')
  await add.press('Enter')
  await add.fill('hole')
  await add.press('Enter')
  await drawn(page)
  await stage(page, 'Hand off').click()
  const download = page.waitForEvent('download')
  await page.getByRole('button', { name: /Write, check and download/ }).click()
  const figures = threeMfFigures(readFileSync(await (await download).path()))
  expect(figures.closed).toBe(true)
  expect(figures.volume).toBeGreaterThan(40 * 30 * 5 - Math.PI * 2.52 ** 2 * 5)
  expect(figures.volume).toBeLessThan(40 * 30 * 5 - Math.PI * 2.5 ** 2 * 5)
})
