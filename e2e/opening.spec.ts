import { drawn, entry, expect, kept, openPart, put, test, value } from './fixtures.ts'

test('a part that was drawn here before is on the screen before it is built, unless it has changed', async ({
  page,
  context,
}) => {
  await openPart(page, 'lantern-bracket', 'make')
  await expect(entry(page, 'Proof')).toContainText('passed')
  const volume = await entry(page, 'Volume').textContent()
  await page.waitForFunction(() => localStorage.getItem('makrel drawn')?.includes('lantern-bracket'))
  await page.waitForTimeout(1000)

  // No worker comes to draw anything.
  const again = await context.newPage()
  let release = () => {}
  const held = new Promise<void>((resolve) => {
    release = resolve
  })
  await again.route('**/solidsWorker*', async (route) => {
    await held
    await route.continue()
  })
  await again.goto('/part/lantern-bracket/make')
  await again.waitForFunction(() => document.querySelector('#root [data-drawn^="kept"]'))
  await expect(entry(again, 'Volume')).toHaveText(volume!)
  await expect(entry(again, 'Proof')).toContainText('passed')
  await expect(again.locator('#kept-picture')).toHaveCount(0)
  release()
  await drawn(again)
  await expect(entry(again, 'Volume')).toHaveText(volume!)
  await again.close()

  // What was changed since is not shown as it was.
  await put(value(page, 3, 'Length'), '31.3')
  await page.keyboard.press('Enter')
  await kept(page)
  const third = await context.newPage()
  await third.route('**/solidsWorker*', async (route) => {
    await third.waitForTimeout(2500)
    await route.continue()
  })
  await third.goto('/part/lantern-bracket/make')
  await expect(entry(third, 'Overall')).toHaveText('—')
  await drawn(third)
  await expect(entry(third, 'Overall')).toContainText('84 × 44 × 62 mm')
  await third.close()
})
