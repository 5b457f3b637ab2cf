import {
  add,
  beside,
  chooseIn,
  drawn,
  entry,
  expect,
  kept,
  line,
  long,
  measure,
  measured,
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

test('a spanner with a twelve-point ring and lettering is made by mouse and keys', beside, async ({ page }) => {
  await newPart(page, 'Deck-cap spanner')
  // From the shelf by mouse, the others by typing.
  await page.getByRole('button', { name: 'solids' }).click()
  await page.getByRole('button', { name: 'Add: plate' }).click()
  await expect(value(page, 1, 'Width')).toBeFocused()
  await page.keyboard.type('100')
  await put(value(page, 1, 'Depth'), '18')
  await put(value(page, 1, 'Height'), '7')
  await page.keyboard.press('Enter')
  await add(page, 'bar 35 11')
  await chooseIn(page, 2, 'Stands on', 'the bed')
  await measure(page, 2, 'left to right', 'from the datum to its centre, left to right', '-50')
  await expect(entry(page, 'Overall')).toHaveText('117.5 × 35 × 11 mm')
  const solid = await volume(page)

  // Two hexagons, one turned by 30°, make twelve points.
  await add(page, 'hexagon 19.4 11')
  await chooseIn(page, 3, 'Stands on', 'end of 2, round bar')
  await chooseIn(page, 3, 'Effect', 'Cut')
  await line(page, 3).getByRole('button', { name: 'Repeat' }).click()
  await page.getByRole('menuitem', { name: 'in a ring' }).click()
  await expect(value(page, 3, 'Copies')).toBeFocused()
  await page.keyboard.type('2')
  await put(value(page, 3, 'Angle'), '30')
  await chooseIn(page, 3, 'The angle is', 'from one to the next')
  // 24 sectors of 15° between the flats' tangents: area 12 a² (tan 30° − tan 15°), a = 9.7; less what the handle has there.
  const points = (12 * 9.7 ** 2 * (Math.tan(Math.PI / 6) - Math.tan(Math.PI / 12)) * 11) / 1000
  await expect.poll(() => volume(page)).toBeCloseTo(solid - points, 1)

  await select(page, 1)
  await add(page, 'text DECK CAP')
  await put(value(page, 4, 'Cap height'), '7')
  await page.keyboard.press('Enter')
  await expect(line(page, 4).getByRole('textbox', { name: 'Words' })).toHaveValue('DECK CAP')
  await expect(entry(page, 'Overall')).toHaveText('117.5 × 35 × 11 mm')
  await expect.poll(() => volume(page)).toBeGreaterThan(solid - points)
  await expect(page.getByRole('alert')).toHaveCount(0)
  await expect(entry(page, 'Proof')).toContainText('1 note')
  await kept(page)
})

test('a rosette has values by copy, and copies left out on the drawing', beside, async ({ page }) => {
  await newPart(page, 'Rosette trim')
  await add(page, 'bar 74 3')
  await page.keyboard.press('Escape')
  await add(page, 'post 20 7 3')
  await put(value(page, 2, 'Height'), '2 * copy')
  await measure(page, 2, 'left to right', 'from the middle to its centre, left to right', '26')
  await line(page, 2).getByRole('button', { name: 'Repeat' }).click()
  await page.getByRole('menuitem', { name: 'in a ring' }).click()
  await expect(value(page, 2, 'Copies')).toBeFocused()
  await page.keyboard.type('8')
  await page.keyboard.press('Enter')
  await expect(entry(page, 'Overall')).toContainText('× 19 mm')

  const whole = await volume(page)
  const marks = page.getByRole('group', { name: 'Copies' })
  await expect(marks.getByRole('button')).toHaveCount(8)
  await marks.getByRole('button', { name: 'Leave out copy 8' }).click()
  await expect(entry(page, 'Overall')).toContainText('× 17 mm')
  await marks.getByRole('button', { name: 'Leave out copy 3' }).click()
  // Copies 3 and 8 are 6 and 16 mm high: 13 × 7 and a circle of ⌀ 7 each.
  const section = (13 * 7 + (Math.PI * 49) / 4) / 1000
  await expect.poll(() => volume(page)).toBeCloseTo(whole - section * (6 + 16), 1)
  await expect(line(page, 2)).toContainText('without copies 3, 8')
  await line(page, 2).getByRole('button', { name: 'Bring back copy 8' }).click()
  await expect(entry(page, 'Overall')).toContainText('× 19 mm')
  await page.keyboard.press('Control+z')
  await expect(entry(page, 'Overall')).toContainText('× 17 mm')
  await page.reload()
  await drawn(page)
  await expect(line(page, 2)).toContainText('without copies 3, 8')
})

test('several steps become a bundle that moves as one, and can be opened and dissolved', beside, async ({ page }) => {
  await openPart(page, 'lantern-bracket', 'make')
  const before = await measured(page, 'Volume')
  await select(page, 4)
  await page.getByRole('button', { name: /^Step 5,/ }).click({ modifiers: ['Control'] })
  await page.getByRole('toolbar', { name: '2 selected steps' }).getByRole('button', { name: 'bundle' }).click()
  await expect(line(page, 4)).toContainText('bundle')
  await expect(line(page, 4)).toContainText('open it: 2 steps')
  await expect(page.getByText(/^saved \d/)).toBeVisible()
  await expect(entry(page, 'Volume')).toHaveText(before)
  await line(page, 4).getByRole('button', { name: 'open it: 2 steps' }).click()
  await expect(page.getByRole('button', { name: /^Step 4\.2,/ })).toBeVisible()
  await line(page, 4).getByRole('button', { name: 'All that can be done with it' }).click()
  await page.getByRole('menuitem', { name: 'Dissolve the bundle' }).click()
  await expect(page.getByRole('button', { name: /^Step 5,/ })).toBeVisible()
  await expect(entry(page, 'Volume')).toHaveText(before)
  for (let i = 0; i < 2; i++) await page.keyboard.press('Control+z')
  await expect(line(page, 5)).toContainText('screw holes')
})

test(
  'a step is dragged over its face, snaps, is nudged, and all of a drag is undone as one',
  long,
  async ({ page }) => {
    await openPart(page, 'lantern-bracket', 'make')
    await select(page, 3)
    const distance = value(page, 3, 'Distance left to right')
    const shown = await distance.inputValue()
    const drag = async (dx: number, dy: number) => {
      const box = await still(page.getByRole('button', { name: 'Drag it over its face' }))
      const [x, y] = [box.x + box.width / 2, box.y + box.height / 2]
      await page.mouse.move(x, y)
      await page.mouse.down()
      await page.mouse.move(x + dx, y + dy, { steps: 6 })
    }
    await drag(60, 26)
    await expect(page.getByRole('status').filter({ hasText: 'moved' })).toBeVisible()
    await page.mouse.up()
    await expect(distance).not.toHaveValue(shown)
    await page.keyboard.press('Control+z')
    await expect(distance).toHaveValue(shown)

    await drag(40, 10)
    await page.keyboard.press('Escape')
    await page.mouse.up()
    await expect(distance).toHaveValue(shown)

    // Arrow keys go by the step size, with Shift ten times.
    const number = (text: string) => Number(text.replace(/[^\d.-]/g, ''))
    await page.keyboard.press('ArrowRight')
    await expect.poll(async () => number(await distance.inputValue())).toBe(number(shown) + 1)
    await page.keyboard.press('Shift+ArrowRight')
    await expect.poll(async () => number(await distance.inputValue())).toBe(number(shown) + 11)
  },
)

test('a step is dragged to another place in the sheet', beside, async ({ page }) => {
  await openPart(page, 'lantern-bracket', 'make')
  const third = page.getByRole('button', { name: /^Step 3, gusset/ })
  await third.click()
  const box = await still(third)
  const target = await still(line(page, 4))
  await page.mouse.move(box.x + 8, box.y + 8)
  await page.mouse.down()
  await page.mouse.move(box.x + 8, target.y + target.height - 4, { steps: 8 })
  await page.mouse.up()
  await expect(page.getByRole('button', { name: /^Step 4, gusset/ })).toBeVisible()
  await page.keyboard.press('Control+z')
  await expect(third).toBeVisible()
  await third.focus()
  await page.keyboard.press('Alt+ArrowDown')
  await expect(page.getByRole('button', { name: /^Step 4, gusset/ })).toBeVisible()
  await page.keyboard.press('Control+z')
  await third.focus()
  const told = (text: RegExp) => expect(page.getByRole('status').filter({ hasText: text })).toBeAttached()
  const pickUp = async () => {
    await page.keyboard.press('Space')
    await told(/gusset is at place 3 of \d+/)
    // Its keys are listened for from the next turn on.
    await page.evaluate(() => new Promise((then) => setTimeout(then)))
  }
  await pickUp()
  await page.keyboard.press('ArrowUp')
  await page.keyboard.press('Escape')
  await told(/stays where it was/)
  await expect(third).toBeVisible()
  await pickUp()
  await page.keyboard.press('ArrowUp')
  await told(/is at place 2 of \d+/)
  await page.keyboard.press('Space')
  await expect(page.getByRole('button', { name: /^Step 2, gusset/ })).toBeVisible()
})

test('a part is made in three variants and switched between them', beside, async ({ page }) => {
  await newPart(page, 'Cleat spacer')
  await add(page, 'bar 10 12')
  await page.getByRole('link', { name: /^Plan/ }).click()
  await page.getByRole('button', { name: 'Add a measure' }).click()
  await page.getByRole('textbox', { name: 'Name of size1' }).fill('bolt')
  await page.keyboard.press('Enter')
  await put(page.getByRole('textbox', { name: 'Expression of bolt' }), '3.5')
  await page.getByRole('button', { name: 'Add a measure' }).click()
  await page.getByRole('textbox', { name: 'Name of size2' }).fill('lid')
  await page.keyboard.press('Enter')
  await page.getByRole('combobox', { name: 'Kind of lid' }).click()
  await page.getByRole('option', { name: /^switch/ }).click()
  await put(page.getByRole('textbox', { name: 'Expression of lid' }), 'bolt > 5')
  for (const [i, size] of ['4', '5', '6'].entries()) {
    await page.getByRole('button', { name: i === 0 ? /^variants:/ : 'variant', exact: i > 0 }).click()
    await page.getByRole('textbox', { name: 'Name of this variant' }).fill(`M${size}`)
    await page.keyboard.press('Enter')
    await put(page.getByRole('textbox', { name: 'Expression of bolt' }), size)
    await expect(page.getByText(`M${size} only`)).toBeVisible()
  }
  await page.getByRole('link', { name: /^Make/ }).click()
  await put(value(page, 1, 'Diameter'), '2 * bolt')
  await expect(entry(page, 'Overall')).toHaveText('12 × 12 × 12 mm')
  // A lid that is there in one of them only.
  await add(page, 'plate 30 30 2')
  await line(page, 2).getByRole('button', { name: 'More values' }).click()
  await line(page, 2).getByRole('textbox', { name: 'Condition' }).fill('lid')
  await page.keyboard.press('Enter')
  await expect(entry(page, 'Overall')).toHaveText('30 × 30 × 14 mm')
  for (const [name, size] of [
    ['M5', '10 × 10 × 12 mm'],
    ['M4', '8 × 8 × 12 mm'],
    ['M6', '30 × 30 × 14 mm'],
    ['as typed', '7 × 7 × 12 mm'],
  ] as const) {
    await page.getByRole('combobox', { name: 'Variant' }).click()
    await page.getByRole('option', { name, exact: true }).click()
    await expect(entry(page, 'Overall')).toHaveText(size)
  }
  await expect(entry(page, 'Left out')).toHaveText('1')
  await kept(page)
})

test('the part is cut open with a slider, and stays whole', beside, async ({ page }) => {
  await openPart(page, 'lantern-bracket', 'make')
  await expect(entry(page, 'Proof')).toContainText('1 note')
  const before = await measured(page, 'Volume')
  // The middle of the drawing as it is seen, clear of the controls over it.
  const clip = { x: 180, y: 180, width: 500, height: 500 }
  const picture = async () => (await page.screenshot({ clip })).toString('base64')
  let whole = ''
  // Lines and dimensions come with the frames after the solid.
  await expect(async () => {
    whole = await picture()
    await page.waitForTimeout(400)
    expect((await picture()) === whole).toBe(true)
  }).toPass()
  await page.getByRole('combobox', { name: 'Section', exact: true }).click()
  await page.getByRole('option', { name: 'cut from the front' }).click()
  const slider = page.getByRole('slider', { name: 'Position of the section' })
  await expect.poll(async () => (await picture()) === whole).toBe(false)
  await slider.focus()
  for (let i = 0; i < 5; i++) await page.keyboard.press('ArrowRight')
  await expect(slider).not.toHaveValue('0.5')
  await expect(entry(page, 'Volume')).toHaveText(before)
  await page.getByRole('combobox', { name: 'Section', exact: true }).click()
  await page.getByRole('option', { name: 'whole' }).click()
  await expect(slider).toHaveCount(0)
  await expect.poll(async () => (await picture()) === whole).toBe(true)
})

test('steps are copied into another part with the measures they need', beside, async ({ page, context }) => {
  await context.grantPermissions(['clipboard-read', 'clipboard-write'])
  await openPart(page, 'lantern-bracket', 'make')
  await select(page, 1)
  await page.getByRole('button', { name: /^Step 5,/ }).click({ modifiers: ['Control'] })
  await page.keyboard.press('Control+c')
  await expect(notice(page, '2 steps are on the clipboard.')).toBeVisible()
  await newPart(page, 'Tie plate')
  await page.getByRole('main').click({ position: { x: 300, y: 300 } })
  await page.keyboard.press('Control+v')
  await expect(notice(page, '2 steps were pasted.')).toBeVisible()
  await expect(entry(page, 'Overall')).toHaveText('84 × 44 × 6 mm')
  await expect(line(page, 2)).toContainText('into top of 1, base')
  await expect(page.getByRole('alert')).toHaveCount(0)
  await expect(page.getByRole('link', { name: /^Plan/ })).toContainText('measures')
})

test('work that takes long says what it is, can be stopped, and the part goes on from there', async ({ page }) => {
  const { document } = await (await page.request.get('/api/parts/shed-key-float')).json()
  const [body, name] = document.pieces[0].steps
  const many = [{ kind: 'row', fields: { count: '190', spacing: '0.37', direction: 'across' } }]
  const steps = [body, { ...name, fields: { ...name.fields, text: 'PORT OF CALL' }, repeats: many }]
  await page.request.post('/api/parts', {
    data: { document: { ...document, id: 'long', pieces: [{ ...document.pieces[0], steps }] } },
  })
  await page.goto('/part/long/make')
  await expect(page.getByText('Building the part …')).toBeVisible()
  await page.getByRole('button', { name: 'Stop', exact: true }).click()
  await expect(page.getByText('Building the part was stopped.')).toBeVisible()
  // The page has never stood still; and a change that makes it lighter is built at once.
  await put(line(page, 2).getByRole('textbox', { name: 'Copies' }), '1')
  await page.keyboard.press('Enter')
  await expect(entry(page, 'Overall')).toContainText('12.8 mm')
  await expect(page.getByText('was stopped')).toHaveCount(0)
})

test('steps are copied and pasted by keys, wherever the keyboard is', beside, async ({ page, context }) => {
  await context.grantPermissions(['clipboard-read', 'clipboard-write'])
  await newPart(page, 'Two bosses')
  await add(page, 'plate 61.3 37.7 8.2')
  await page.keyboard.type('bar 9.1 15.3')
  await page.keyboard.press('Enter')
  const steps = page.locator('[aria-label="Build sheet"] [data-step]')
  await expect(steps).toHaveCount(2)
  // The field that adds still has the keyboard, with nothing in it.
  await page.keyboard.press('Control+a')
  await page.keyboard.press('Control+c')
  await expect(notice(page, '2 steps are on the clipboard.')).toBeVisible()
  await page.keyboard.press('Control+v')
  await expect(notice(page, '2 steps were pasted.')).toBeVisible()
  await expect(steps).toHaveCount(4)
  // Two lines that are pressed.
  await steps.nth(0).click({ position: { x: 6, y: 6 } })
  await steps.nth(1).click({ position: { x: 6, y: 6 }, modifiers: ['Control'] })
  await page.keyboard.press('Control+x')
  await expect(steps).toHaveCount(2)
  await page.keyboard.press('Control+v')
  await expect(steps).toHaveCount(4)
  // In a value they are the text's.
  const width = steps.getByRole('textbox', { name: 'Width', exact: true }).first()
  await width.click()
  await page.keyboard.press('Control+a')
  await page.keyboard.press('Control+c')
  await expect(width).toBeFocused()
  await page.keyboard.press('Control+v')
  await expect(steps).toHaveCount(4)
})

test(
  'a slash goes to the field that adds, from a value and from any stage; what is not understood is said',
  beside,
  async ({ page }) => {
    await newPart(page, 'Slip')
    await add(page, 'plate 61.3 37.7')
    await expect(value(page, 1, 'Width')).toBeFocused()
    const field = page.getByRole('combobox', { name: 'Add a step' })
    await page.keyboard.type('/round 3.3')
    await expect(value(page, 1, 'Width')).toHaveValue('61.3')
    await expect(field).toHaveValue('round 3.3')
    await page.keyboard.press('Enter')
    await expect(line(page, 2)).toContainText('Round')
    await expect(field).toBeFocused()
    await page.keyboard.type('nut pocket 6 7 slide 3.2')
    await expect(page.getByText('“slide 3.2” means nothing here').first()).toBeVisible()
    await page.keyboard.press('Enter')
    await expect(field).toHaveValue('nut pocket 6 7 slide 3.2')
    await page.keyboard.press('Escape')
    await expect(page.locator('[data-step]')).toHaveCount(2)
    await stage(page, 'Proof').click()
    await expect(page).toHaveURL(/proof$/)
    await page.keyboard.press('/')
    await expect(field).toBeFocused()
    // A joint is begun from here, and asks for its second piece.
    await page.keyboard.type('hinge')
    await page.keyboard.press('Enter')
    await expect(page.getByText('A pin hinge ties two pieces. What is the second one?')).toBeVisible()
    await page.getByRole('button', { name: /^A copy of/ }).click()
    await expect(page.getByText('Piece 2').first()).toBeVisible()
    await expect(
      page
        .getByRole('complementary', { name: 'Joints' })
        .getByText(/pin hinge/)
        .first(),
    ).toBeVisible()
  },
)
