import { entry, expect, kept, openPart, put, test, value } from './fixtures.ts'

test('what was made is there after a reload, a restart and a kill of the server', async ({
  page,
  server,
  problems,
}) => {
  await openPart(page, 'deck-cap-spanner-plain', 'make')
  await put(value(page, 2, 'Length'), 'thick + 2')
  await page.keyboard.press('Enter')
  await expect(entry(page, 'Overall')).toContainText('10 mm')
  await kept(page)
  await server.stop('SIGKILL')
  await server.start()
  await page.reload()
  await expect(entry(page, 'Overall')).toContainText('10 mm')

  // While the server is away nothing is lost: it is kept as soon as it answers again.
  await server.stop()
  await put(value(page, 2, 'Length'), 'thick + 4')
  await page.keyboard.press('Enter')
  await expect(page.getByText('not kept yet')).toBeVisible()
  // Why, and what can be done meanwhile.
  const told = page.getByRole('alert').filter({ hasText: 'The server does not answer' })
  await expect(told.getByRole('button', { name: 'Try again' })).toBeVisible()
  const saved = page.waitForEvent('download')
  await told.getByRole('button', { name: 'Save as a file' }).click()
  expect((await saved).suggestedFilename()).toMatch(/\.makrel\.json$/)
  await server.start()
  await kept(page)
  await page.reload()
  await expect(entry(page, 'Overall')).toContainText('12 mm')

  // Neither when the page is left meanwhile, nor when that is a moment after an edit.
  await server.stop()
  await put(value(page, 2, 'Length'), 'thick + 6')
  await page.keyboard.press('Enter')
  await expect(page.getByText('not kept yet')).toBeVisible()
  await page.goto('about:blank')
  await server.start()
  await openPart(page, 'deck-cap-spanner-plain', 'make')
  await expect(entry(page, 'Overall')).toContainText('14 mm')
  await kept(page)
  await put(value(page, 2, 'Length'), 'thick + 8')
  await page.keyboard.press('Enter')
  await page.reload()
  await expect(entry(page, 'Overall')).toContainText('16 mm')
  await kept(page)
  // The browser itself reports the connections that failed meanwhile.
  const away = problems.filter((problem) => problem.includes('ERR_CONNECTION'))
  expect(away.length).toBeGreaterThan(0)
  problems.splice(0, problems.length, ...problems.filter((problem) => !away.includes(problem)))
})

test('two windows on one part: the later save is offered both versions', async ({ page, context, problems }) => {
  await openPart(page, 'deck-cap-spanner-plain', 'make')
  const other = await context.newPage()
  await openPart(other, 'deck-cap-spanner-plain', 'make')
  await put(value(other, 4, 'Diameter'), '7')
  await other.keyboard.press('Enter')
  await kept(other)
  await other.close()

  await put(value(page, 4, 'Diameter'), '8')
  await page.keyboard.press('Enter')
  const offer = page.getByRole('alert').filter({ hasText: 'changed in another window' })
  await expect(offer).toBeVisible()
  await page.getByRole('button', { name: 'Take the other one' }).click()
  await expect(value(page, 4, 'Diameter')).toHaveValue('7')
  // Mine is one undo away.
  await page.getByRole('button', { name: /^Undo/ }).click()
  await expect(value(page, 4, 'Diameter')).toHaveValue('8')
  await kept(page)
  problems.splice(0, problems.length, ...problems.filter((problem) => !problem.includes('409')))
})

test('an earlier state is named, returned to, and that is undone', async ({ page }) => {
  await openPart(page, 'lantern-bracket', 'make')
  await put(value(page, 1, 'Corner radius'), '9')
  await page.keyboard.press('Enter')
  await kept(page)
  await page.getByRole('button', { name: 'History' }).click()
  const states = page.getByRole('list', { name: 'States' })
  await expect(states.getByRole('button')).toHaveCount(2)
  await states.getByRole('button').last().click()
  await expect(page.getByRole('img', { name: 'Drawing of state 1' })).toBeVisible()
  await page.getByRole('textbox', { name: 'Name', exact: true }).fill('round six')
  await page.keyboard.press('Enter')
  await expect(states.getByText('round six')).toBeVisible()
  await page.getByRole('button', { name: 'Return to this' }).click()
  await expect(value(page, 1, 'Corner radius')).toHaveValue('6')
  await page.keyboard.press('Control+z')
  await expect(value(page, 1, 'Corner radius')).toHaveValue('9')
  await kept(page)
})
