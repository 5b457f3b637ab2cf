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
  await server.start()
  await kept(page)
  await page.reload()
  await expect(entry(page, 'Overall')).toContainText('12 mm')
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
