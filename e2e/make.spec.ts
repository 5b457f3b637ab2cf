import { beside, drawn, entry, expect, kept, line, long, openPart, put, still, test, value } from './fixtures.ts'

test.describe('the Lantern bracket', () => {
  test('reads as sentences, and shows its overall dimensions', async ({ page }) => {
    await openPart(page, 'lantern-bracket', 'make')
    await expect(line(page, 1)).toContainText(/A plate/)
    await expect(line(page, 5)).toContainText('screw holes')
    await expect(entry(page, 'Overall')).toHaveText('84 × 44 × 62 mm')
    await expect(entry(page, 'Proof')).toContainText('1 note')
    for (const size of ['84', '44', '62'])
      await expect(page.getByLabel('Dimensions').getByText(size, { exact: true })).toBeVisible()
  })

  test('a press on a face selects its step, and a press on the step draws its dimensions', beside, async ({ page }) => {
    await openPart(page, 'lantern-bracket', 'make')
    await page.getByRole('button', { name: 'front', exact: true }).click()
    // Seen from the front, the middle of the lower edge is the plate, and the middle of the drawing the gusset.
    const canvas = (await page.locator('canvas').first().boundingBox())!
    const overall = page.getByLabel('Dimensions').getByText('84', { exact: true })
    // The view has turned when its depth is seen end-on.
    await expect(page.getByLabel('Dimensions').getByText('44', { exact: true })).toBeHidden()
    const foot = await still(overall)
    await page.mouse.click(canvas.x + canvas.width * 0.62, foot.y - 46)
    await expect(line(page, 1)).toHaveAttribute('aria-current', 'true')
    // From the front its depth is seen end-on.
    await expect(page.getByRole('button', { name: 'Width 84' })).toBeVisible()
    await page.getByRole('button', { name: 'Step 5, screw holes' }).click()
    await expect(line(page, 5)).toHaveAttribute('aria-current', 'true')
    await page.getByRole('button', { name: 'top', exact: true }).click()
    await expect(page.getByRole('button', { name: 'Distance along 11' })).toBeVisible()
    await expect(page.getByRole('button', { name: 'Distance across 13' })).toBeVisible()
  })

  test('a value changed in the sheet, with an expression and a unit, changes the solid at once', async ({ page }) => {
    await openPart(page, 'lantern-bracket', 'make')
    await put(value(page, 1, 'Width'), '1/4 in + 100')
    await expect(entry(page, 'Overall')).toHaveText('106.35 × 44 × 62 mm')
    await page.keyboard.press('Escape')
    await expect(entry(page, 'Overall')).toHaveText('84 × 44 × 62 mm')
    await put(value(page, 1, 'Width'), 'foot + 2 * wall')
    await page.keyboard.press('Enter')
    await expect(entry(page, 'Overall')).toHaveText('96 × 44 × 62 mm')
    await page.getByRole('button', { name: /^Undo/ }).click()
    await expect(entry(page, 'Overall')).toHaveText('84 × 44 × 62 mm')
    await page.getByRole('button', { name: /^Redo/ }).click()
    await expect(entry(page, 'Overall')).toHaveText('96 × 44 × 62 mm')
    await page.keyboard.press('Control+z')
    await expect(entry(page, 'Overall')).toHaveText('84 × 44 × 62 mm')
    await kept(page)
  })

  test('a value changed on a drawn dimension does so too', beside, async ({ page }) => {
    await openPart(page, 'lantern-bracket', 'make')
    await page.getByRole('button', { name: 'Step 3, gusset' }).click()
    await page.getByRole('button', { name: 'Height 28' }).click()
    const field = page.getByLabel('Dimensions').getByRole('textbox', { name: 'Height' })
    await put(field, '1 1/4 in')
    await field.press('Enter')
    await expect(page.getByRole('button', { name: 'Height 31.75' })).toBeVisible()
    await expect(value(page, 3, 'Height')).toHaveValue('31.75')
    await page.keyboard.press('Control+z')
    await expect(value(page, 3, 'Height')).toHaveValue('28')
    await kept(page)
  })

  test('arrow keys step a value', beside, async ({ page }) => {
    await openPart(page, 'lantern-bracket', 'make')
    await value(page, 3, 'Length').focus()
    await page.keyboard.press('ArrowUp')
    await page.keyboard.press('Shift+ArrowUp')
    await page.keyboard.press('Alt+ArrowDown')
    await expect(value(page, 3, 'Length')).toHaveValue('48.9')
    await page.keyboard.press('Escape')
    await expect(value(page, 3, 'Length')).toHaveValue('38')
  })

  test('what cannot be read stays in its field with a reason, and the solid as it was', beside, async ({ page }) => {
    await openPart(page, 'lantern-bracket', 'make')
    const width = value(page, 1, 'Width')
    for (const [text, message] of [
      ['84 mn', '“mn” is not a unit'],
      ['fot', 'Did you mean “foot”?'],
      ['84 / 0', 'This divides by zero.'],
      ['', 'Type a value here.'],
      ['a = 3', 'cannot be read'],
    ] as const) {
      await put(width, text)
      await expect(width).toHaveAttribute('aria-invalid', 'true')
      await expect(line(page, 1)).toContainText(message)
      await expect(entry(page, 'Overall')).toHaveText('84 × 44 × 62 mm')
    }
    await page.keyboard.press('Escape')
    await expect(width).toHaveValue('foot 84')
    await put(width, '-5')
    await expect(line(page, 1).getByRole('alert')).toContainText('Width must be more than 0 mm; this is -5 mm.')
    await page.keyboard.press('Escape')
    await put(value(page, 4, 'Diameter'), '60')
    await expect(line(page, 4).getByRole('alert')).toContainText(
      'This hole is 60 mm wide and the body it enters is 40 mm',
    )
    await page.keyboard.press('Escape')
    await expect(page.getByRole('alert')).toHaveCount(0)
    await kept(page)
  })

  test('a step that stood on a removed one is not lost', beside, async ({ page }) => {
    await openPart(page, 'lantern-bracket', 'make')
    await page.getByRole('button', { name: 'Step 2, upright' }).click()
    await line(page, 2).getByRole('button', { name: 'Remove' }).click()
    await expect(line(page, 3)).toContainText('keeps its last place')
    await page.getByRole('button', { name: 'Undo', exact: true }).click()
    await expect(page.getByRole('alert')).toHaveCount(0)
    await expect(line(page, 5)).toBeVisible()
    await kept(page)
  })

  test('a change of effect is one edit', beside, async ({ page }) => {
    await openPart(page, 'lantern-bracket', 'make')
    await line(page, 3).getByRole('combobox', { name: 'Effect' }).click()
    await page.getByRole('option', { name: /^Cut/ }).click()
    await expect(line(page, 3)).toContainText('Cut a wedge')
    await expect(line(page, 3)).toContainText(', into top of 1')
    await page.getByRole('button', { name: /^Undo/ }).click()
    await expect(line(page, 3)).toContainText(', on top of 1')
    await expect(page.getByRole('button', { name: /^Undo/ })).toBeDisabled()
    await kept(page)
  })

  test('a muted step is stated', beside, async ({ page }) => {
    await openPart(page, 'lantern-bracket', 'make')
    await page.getByRole('button', { name: 'Step 3, gusset' }).click()
    await line(page, 3).getByRole('button', { name: /^Mute/ }).click()
    await expect(entry(page, 'Left out')).toHaveText('1')
    await expect(entry(page, 'Proof')).toContainText('2 notes')
    await page.keyboard.press('Control+z')
    await expect(entry(page, 'Proof')).toContainText('1 note')
    await kept(page)
  })
})

test('a bracket is made from nothing with the keyboard alone', long, async ({ page }) => {
  await page.goto('/')
  await expect(page.getByRole('listitem').first()).toBeVisible()
  const press = (key: string) => page.keyboard.press(key)
  const type = (text: string) => page.keyboard.type(text)
  const tabTo = async (name: RegExp | string, back = false) => {
    for (let i = 0; i < 120; i++) {
      const label = await page.evaluate(() => {
        const element = document.activeElement as HTMLElement | null
        return element?.getAttribute('aria-label') ?? element?.textContent?.trim() ?? ''
      })
      if (typeof name === 'string' ? label === name : name.test(label)) return
      await press(back ? 'Shift+Tab' : 'Tab')
    }
    throw new Error(`could not reach ${name}`)
  }

  /** Takes an option of the list that the word opens; tells whether nobody had the keyboard as the list went. */
  const choose = async (option: string): Promise<boolean> => {
    await press('Enter')
    await expect(page.getByRole('listbox')).toBeVisible()
    // Its letters would lead to it too, but only as fast as they are taken for one word.
    const options = page.getByRole('option')
    await expect(options.filter({ hasText: option })).toHaveCount(1)
    const which = (await options.allTextContents()).findIndex((text) => text.includes(option))
    await press('Home')
    for (let at = 0; ; at++) {
      await expect(options.nth(at)).toHaveAttribute('data-highlighted')
      if (at === which) break
      await press('ArrowDown')
    }
    const seen = await page.evaluateHandle(() => {
      const seen = { lost: false }
      const watch = new MutationObserver(() => {
        if (document.querySelector('[role=listbox]')) return
        watch.disconnect()
        seen.lost = document.activeElement === document.body
      })
      watch.observe(document.body, { childList: true, subtree: true })
      return seen
    })
    await press('Enter')
    await expect(page.getByRole('listbox')).toHaveCount(0)
    return seen.evaluate(({ lost }) => lost)
  }

  await tabTo('New part')
  await press('Enter')
  await expect(page).toHaveURL(/plan$/)

  // Two measures: wall and screw.
  for (const [name, size] of [
    ['wall', '5'],
    ['screw', '4.5'],
  ]) {
    await tabTo('Add a measure')
    await press('Enter')
    await expect(page.getByRole('textbox', { name: /^Name of size/ })).toBeFocused()
    await type(name!)
    await tabTo(/^Expression of/)
    await type(size!)
  }
  await expect(page.getByRole('cell', { name: '4.5 mm' })).toBeVisible()
  await tabTo(/^Make/, true)
  await press('Enter')
  await expect(page.getByRole('combobox', { name: 'Add a step' })).toBeVisible()

  // A plate, an upright on its top face.
  await press('/')
  await type('plate 60 40 wall')
  await press('Enter')
  await expect(value(page, 1, 'Width')).toHaveValue('60')
  // All of its sizes were typed: the keyboard stays for the next one.
  await type('upright wall 40 35')
  await press('Enter')
  await expect(value(page, 2, 'Height')).toHaveValue('35')
  await tabTo('Step 2, upright', true)
  await expect(line(page, 2).getByRole('combobox', { name: 'Stands on' })).toHaveText('top of 1, plate')
  await tabTo('Measured left to right')
  await choose('from the left edge to its near')
  await expect(value(page, 2, 'Distance left to right')).toHaveValue('0')

  // A hole through it, measured from two edges to its centre.
  await tabTo('Step 2, upright', true)
  await press('Escape')
  await press('/')
  await type('hole screw')
  await press('Enter')
  await expect(value(page, 3, 'Diameter')).toHaveValue('screw 4.5')
  await tabTo('Step 3, round hole', true)
  await expect(line(page, 3).getByRole('combobox', { name: 'Stands on' })).toHaveText('right of 2, upright')
  await tabTo('Measured front to back')
  await choose('from the front edge to its centre')
  await expect(value(page, 3, 'Distance front to back')).toBeFocused()
  await type('wall + 5')
  await tabTo('Measured bottom to top')
  await choose('from the top edge to its centre')
  await expect(value(page, 3, 'Distance bottom to top')).toBeFocused()
  await type('10')

  // Another one in the plate, repeated in a row.
  await tabTo('Step 1, plate', true)
  await press('Enter')
  await press('Escape')
  await press('/')
  await type('hole screw')
  await press('Enter')
  await expect(value(page, 4, 'Diameter')).toHaveValue('screw 4.5')
  await tabTo('Step 4, round hole', true)
  await tabTo('Stands on')
  // A Tab in that moment would go on from the top of the page.
  expect(await choose('top of 1')).toBe(false)
  await tabTo('Measured left to right')
  await choose('from the right edge to its centre')
  await expect(value(page, 4, 'Distance left to right')).toBeFocused()
  await type('8')
  await tabTo('Measured front to back')
  await choose('from the front edge to its centre')
  await expect(value(page, 4, 'Distance front to back')).toBeFocused()
  await type('8')
  await tabTo('Repeat')
  await press('Enter')
  await press('Enter')
  await expect(value(page, 4, 'Copies')).toBeFocused()
  await type('3')
  await tabTo('Spacing')
  await type('12')
  await tabTo('Direction of the row')
  await choose('from front')

  await expect(page.getByRole('alert')).toHaveCount(0)
  await expect(entry(page, 'Overall')).toHaveText('60 × 40 × 40 mm')
  await expect(entry(page, 'Proof')).toContainText('1 note')
  // 60·40·5 + 5·40·35 − four holes of ø 4.5 through 5 mm = 18.68 cm³
  await expect(entry(page, 'Volume')).toHaveText('18.68 cm³')
  await kept(page)

  // Changing a measure moves everything that was made of it.
  await tabTo(/^Plan/)
  await press('Enter')
  await tabTo('Expression of wall')
  await type('6')
  await tabTo(/^Make/, true)
  await press('Enter')
  await drawn(page)
  await expect(entry(page, 'Overall')).toHaveText('60 × 40 × 41 mm')
})
