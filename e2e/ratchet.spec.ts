import { beside, expect, openPart, put, stage, test } from './fixtures.ts'

test('a cam turns one way, its pawl out of the way, and tells how its arm is strained', beside, async ({ page }) => {
  await openPart(page, 'cam-cleat', 'move')
  await page
    .getByText(/which moves/)
    .first()
    .click()
  const joints = page.getByRole('complementary', { name: 'Joints' })
  await expect(joints).toContainText('one way, clicking every 20°')
  await expect(joints).toContainText(/0\.54 % of 2\.1 %/)
  const gap = page.getByTestId('gap-here')
  await expect(gap).toHaveText('0.35 mm')
  const swing = page.getByRole('slider', { name: 'Swing' })
  await expect(swing).toHaveAttribute('min', '0')
  await swing.fill('9.7')
  await expect(gap).toHaveText(/^0\.3[45]\d? mm$/)

  // So short an arm breaks.
  const arm = joints.getByRole('textbox', { name: 'Arm', exact: true })
  await put(arm, '7')
  await arm.press('Enter')
  await stage(page, 'Proof').click()
  await expect(
    page.getByText(/^Ratchet, moved by 1\.193 mm: strain [\d.]+ % of the 3\.5 % .* would break\.$/),
  ).toBeVisible({
    timeout: 60_000,
  })
})
