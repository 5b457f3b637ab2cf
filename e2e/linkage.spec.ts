import { beside, expect, kept, openPart, put, test } from './fixtures.ts'

test(
  'a four-bar linkage is driven by its handle until its jaw meets, and its travel is ended before that',
  beside,
  async ({ page }) => {
    await openPart(page, 'bench-vice-linkage', 'move')
    const gap = page.getByTestId('gap-here')
    await expect(gap).toHaveText('0.35 mm')
    const swing = page.getByRole('slider', { name: 'Swing' })
    await swing.fill('8')
    // Flats of pins and bores lie otherwise to one another: as it is meant to a hundredth.
    await expect(gap).toHaveText(/^0\.3[45]\d? mm$/)
    // The joint that follows has moved as well.
    await page
      .getByText(/which moves/)
      .nth(1)
      .click()
    await expect(swing).not.toHaveAttribute('aria-valuetext', '0°')
    await page.getByRole('button', { name: 'Reset', exact: true }).click()
    await expect(swing).toHaveAttribute('aria-valuetext', '0°')

    await page
      .getByText(/which moves/)
      .first()
      .click()
    await swing.fill('-30')
    await expect(gap).toHaveText(/^collides, [\d.]+ mm³$/)
    await expect(page.getByText(/Bed link and Jaw arm/).first()).toBeVisible()
    const told = page.getByText(/^Beyond -\d+\.\d+° Bed link and Jaw arm meet\./)
    await expect(told).toBeVisible({ timeout: 60_000 })
    const at = Number.parseFloat((await told.textContent())!.slice('Beyond '.length))
    await page.getByRole('button', { name: 'End its travel there' }).click()
    const from = page.getByRole('textbox', { name: 'Turns from' }).first()
    await expect(from).toHaveValue(`${at}°`)
    // Within that it only comes near.
    await swing.fill(`${at}`)
    await expect(gap).toHaveText(/^0(\.0\d*)? mm$|^touches$/)
    await expect(told).toHaveCount(0, { timeout: 60_000 })
  },
)

test('a link is dragged on the drawing, and the joint that carries it follows', beside, async ({ page }) => {
  await openPart(page, 'bench-vice-linkage', 'move')
  const swing = page.getByRole('slider', { name: 'Swing' })
  await expect(page.getByTestId('gap-here')).toHaveText('0.35 mm')
  const drawing = (await page.locator('[data-drawn]').boundingBox())!
  // The grip of the handle lies at the left end of the linkage.
  const grip = { x: drawing.x + 0.2 * drawing.width, y: drawing.y + 0.41 * drawing.height }
  await page.mouse.move(grip.x, grip.y)
  await page.mouse.down()
  await page.mouse.move(grip.x + 12, grip.y - 12, { steps: 5 })
  await page.mouse.move(grip.x + 18, grip.y - 24, { steps: 5 })
  await page.mouse.up()
  await expect(swing).toHaveAttribute('aria-valuetext', /^-\d+(\.\d)?°$/)
  await page.getByRole('button', { name: 'Reset', exact: true }).click()
  await expect(swing).toHaveAttribute('aria-valuetext', '0°')
})

test('a ball is told to come out of its socket where it leans too far, and is held again', beside, async ({ page }) => {
  await openPart(page, 'rowlock-ball-mount', 'move')
  const joints = page.getByRole('complementary', { name: 'Joints' })
  await expect(joints.getByText('1.54 mm all round, at a mouth ⌀ 14.92')).toBeVisible()
  const lean = joints.getByRole('textbox', { name: 'Leans' })
  await put(lean, '34')
  await expect(joints.getByText(/holds the ball by 0\.\d+ mm only: it may come out/)).toBeVisible()
  await put(lean, '50')
  await expect(joints.getByText(/wider than the ball, which comes out then: lean less than 3\d\.\d+°/)).toBeVisible()
  await put(lean, '25')
  await expect(joints.getByText(/come out|comes out/)).toHaveCount(0)
  await page.getByRole('slider', { name: 'leaning back' }).fill('-20')
  await expect(page.getByTestId('gap-here')).toHaveText(/^0\.3[345]\d* mm$/)
  await kept(page)
})

test('a joint is set by a value that is typed, within its travel', beside, async ({ page }) => {
  await openPart(page, 'locker-hinge', 'move')
  const swing = page.getByRole('slider', { name: 'Swing' })
  const typed = page.getByRole('textbox', { name: 'Swing to' })
  await expect(typed).toHaveValue('0°')
  await typed.fill('37.3')
  await expect(swing).toHaveAttribute('aria-valuetext', '37.3°')
  await typed.press('Enter')
  await typed.blur()
  await expect(typed).toHaveValue('37.3°')
  await expect(page.getByTestId('gap-here')).toHaveText('0.35 mm')
  // Beyond its travel it stays where it is, and says how far it goes.
  await typed.fill('200')
  await expect(page.getByRole('alert').filter({ hasText: 'It goes from 0° to 180°.' })).toBeVisible()
  await typed.press('Escape')
  await expect(page.getByRole('alert').filter({ hasText: 'It goes from' })).toHaveCount(0)
  await expect(swing).toHaveAttribute('aria-valuetext', '37.3°')
  await typed.fill('180 / 7')
  await typed.press('Enter')
  await expect(swing).toHaveAttribute('aria-valuetext', '25.7°')
  await typed.fill('fra')
  await expect(page.getByRole('alert').filter({ hasText: 'fra' })).toBeVisible()
  await typed.press('Escape')
  // What moves it otherwise is what is read there.
  await swing.fill('90')
  await expect(typed).toHaveValue('90°')
  await page.getByRole('button', { name: 'Reset', exact: true }).click()
  await expect(typed).toHaveValue('0°')

  // Played slowly it takes twelve seconds from one end to the other, fifteen degrees a second.
  await page.getByRole('combobox', { name: 'How fast it is played' }).click()
  await page.getByRole('option', { name: 'slowly' }).click()
  await page.getByRole('button', { name: 'Play its travel' }).click()
  const rate = await swing.evaluate(async (slider: HTMLInputElement) => {
    const moves = () =>
      new Promise<readonly [number, number]>((done) => {
        const before = slider.value
        const look = () =>
          slider.value === before ? requestAnimationFrame(look) : done([performance.now(), Number(slider.value)])
        look()
      })
    const [began, low] = await moves()
    await new Promise((done) => setTimeout(done, 3000))
    const [ended, high] = await moves()
    return (1000 * (high - low)) / (ended - began)
  })
  expect(rate).toBeGreaterThan(8)
  expect(rate).toBeLessThan(24)
  await page.getByRole('button', { name: 'Stop playing' }).click()
  const stopped = await swing.inputValue()
  await page.waitForTimeout(300)
  await expect(swing).toHaveValue(stopped)
})
