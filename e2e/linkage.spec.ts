import { expect, openPart, test } from './fixtures.ts'

test('a four-bar linkage is driven by its handle until its jaw meets, and its travel is ended before that', async ({
  page,
}) => {
  await openPart(page, 'bench-vice-linkage', 'move')
  const gap = page.getByTestId('gap-here')
  await expect(gap).toHaveText('0.3 mm')
  const swing = page.getByRole('slider', { name: 'Swing' })
  await swing.fill('8')
  await expect(gap).toHaveText('0.3 mm')
  // The joint that follows has moved as well.
  await page.getByText(/which moves/).nth(1).click()
  await expect(swing).not.toHaveAttribute('aria-valuetext', '0°')
  await page.getByRole('button', { name: 'As printed' }).click()
  await expect(swing).toHaveAttribute('aria-valuetext', '0°')

  await page.getByText(/which moves/).first().click()
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
})
