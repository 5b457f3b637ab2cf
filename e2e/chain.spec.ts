import { beside, expect, openPart, test } from './fixtures.ts'

test('a chain goes on with more links of the same shape, and is swung by its last one', beside, async ({ page }) => {
  await openPart(page, 'anchor-chain-sample', 'move')
  const stages = page.getByRole('navigation', { name: 'Stages' })
  await expect(stages.getByRole('link', { name: /^Move/ })).toContainText('7 joints')
  const gap = page.getByTestId('gap-here')
  await expect(gap).toHaveText('0.35 mm')
  await page.getByRole('button', { name: 'front', exact: true }).click()
  const drawing = (await page.locator('[data-drawn]').boundingBox())!
  // The end of the chain, seen from the front.
  const last = { x: drawing.x + 0.835 * drawing.width, y: drawing.y + 0.445 * drawing.height }
  const swing = page.getByRole('slider', { name: 'Swing' })
  await expect(async () => {
    await page.mouse.move(last.x, last.y)
    await page.mouse.down()
    await page.mouse.move(last.x, last.y - 12, { steps: 4 })
    await page.mouse.move(last.x - 6, last.y - 50, { steps: 6 })
    await page.mouse.up()
    await expect(swing).toHaveAttribute('aria-valuetext', /^[1-9][\d.]*°$/, { timeout: 2000 })
  }).toPass()
  await expect(gap).toHaveText('0.35 mm')
  await page.getByRole('button', { name: 'Reset', exact: true }).click()

  const joints = page.getByRole('complementary', { name: 'Joints' })
  await joints
    .getByText(/which moves/)
    .nth(6)
    .click()
  await joints.getByRole('button', { name: 'Go on with more links …' }).click()
  const links = page.getByRole('dialog', { name: 'More links' })
  await expect(links.getByRole('textbox', { name: 'Pitch' })).toHaveValue('26')
  await links.getByRole('textbox', { name: 'How many' }).fill('2')
  await links.getByRole('textbox', { name: 'Pitch' }).fill('pitch')
  await links.getByRole('button', { name: 'Add them' }).click()
  await expect(stages.getByRole('link', { name: /^Move/ })).toContainText('9 joints')
  await expect(joints.getByText(/Link 9/).first()).toBeVisible()
  await expect(gap).toHaveText('0.35 mm')
  // They follow the one that they have their shape from.
  await stages.getByRole('link', { name: /^Proof/ }).click()
  await expect(
    page.getByText('Link 8 and Link 9 hold together: neither comes straight out of the other.'),
  ).toBeVisible()
})

test('steps of a piece become a piece of their own', beside, async ({ page }) => {
  await openPart(page, 'lantern-bracket', 'make')
  const stages = page.getByRole('navigation', { name: 'Stages' })
  await expect(stages.getByRole('link', { name: /^Move/ })).toContainText('one piece')
  await page.getByRole('button', { name: /^Step 2,/ }).click({ button: 'right' })
  await page.getByRole('menuitem', { name: 'Make a piece of its own' }).click()
  await expect(stages.getByRole('link', { name: /^Move/ })).toContainText('2 pieces')
  await page.keyboard.press('Control+z')
  await expect(stages.getByRole('link', { name: /^Move/ })).toContainText('one piece')
})
