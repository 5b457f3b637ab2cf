import { beside, drawn, entry, expect, kept, long, openPart, put, test, value } from './fixtures.ts'

/** Measures that nothing uses, with long notes: a part of some 200 kB. */
const manyMeasures = (count: number) =>
  Array.from({ length: count }, (_, i) => ({
    ...{ id: `more${i}`, name: `more_${i}`, kind: 'length', expression: `${15.3 + i}` },
    note: 'Measured at the slip, low water. '.repeat(12),
  }))

test.use({ firstVisit: true })

test(
  'what was made is there after a reload, a restart and a kill of the server',
  long,
  async ({ page, server, problems }) => {
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
    await expect(page.getByText('not saved yet')).toBeVisible()
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
    await expect(page.getByText('not saved yet')).toBeVisible()
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
    // The browser itself reports the connections that failed meanwhile, and what a server that is just going did not answer any more.
    const away = problems.filter((problem) => /ERR_CONNECTION|503 \(Service Unavailable\)/.test(problem))
    expect(away.length).toBeGreaterThan(0)
    problems.splice(0, problems.length, ...problems.filter((problem) => !away.includes(problem)))
  },
)

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

test('an earlier version is named, returned to, and that is undone', beside, async ({ page }) => {
  await openPart(page, 'lantern-bracket', 'make')
  await put(value(page, 1, 'Corner radius'), '9')
  await page.keyboard.press('Enter')
  await kept(page)
  await page.getByRole('button', { name: 'History' }).click()
  const states = page.getByRole('list', { name: 'Versions' })
  await expect(states.getByRole('button')).toHaveCount(2)
  await states.getByRole('button').last().click()
  await expect(page.getByRole('img', { name: 'Drawing of version 1' })).toBeVisible()
  await page.getByRole('textbox', { name: 'Name', exact: true }).fill('round six')
  await page.keyboard.press('Enter')
  await expect(states.getByText('round six')).toBeVisible()
  await page.getByRole('button', { name: 'Return to this' }).click()
  await expect(value(page, 1, 'Corner radius')).toHaveValue('6')
  await page.keyboard.press('Control+z')
  await expect(value(page, 1, 'Corner radius')).toHaveValue('9')
  await kept(page)
})

test(
  'a long part is there again however soon it is left, with the way back to what it was',
  beside,
  async ({ page, server, problems }) => {
    // More than a browser sends along when a page is left.
    const { document } = await (await page.request.get('/api/parts/deck-cap-spanner-plain')).json()
    await page.request.put('/api/parts/deck-cap-spanner-plain', {
      data: { revision: 1, document: { ...document, measures: [...document.measures, ...manyMeasures(480)] } },
    })
    await openPart(page, 'deck-cap-spanner-plain', 'make')
    for (const length of [6.1, 7.3, 8.7, 9.9]) {
      await put(value(page, 2, 'Length'), `thick + ${length}`)
      await page.keyboard.press('Enter')
      await page.reload()
      await drawn(page)
      await expect(value(page, 2, 'Length')).toHaveValue(`${8 + length}`)
    }
    await kept(page)
    // All of it can be taken back after the reloads, and made again.
    const undo = page.getByRole('button', { name: /^Undo/ })
    for (const length of [8.7, 7.3, 6.1]) {
      await undo.click()
      await expect(value(page, 2, 'Length')).toHaveValue(`${8 + length}`)
    }
    await page.getByRole('button', { name: /^Redo/ }).click()
    await expect(value(page, 2, 'Length')).toHaveValue('15.3')
    await kept(page)
    await server.stop('SIGKILL')
    await server.start()
    await page.reload()
    await expect(value(page, 2, 'Length')).toHaveValue('15.3')
    problems.splice(
      0,
      problems.length,
      ...problems.filter((problem) => !/ERR_CONNECTION|ERR_CONTENT_LENGTH_MISMATCH/.test(problem)),
    )
  },
)

test(
  'what was typed is there after a reload, however slow the browser is to open what it keeps',
  beside,
  async ({ page }) => {
    const { document } = await (await page.request.get('/api/parts/deck-cap-spanner-plain')).json()
    const long = { ...document, id: 'slow-spanner', measures: [...document.measures, ...manyMeasures(480)] }
    await page.request.post('/api/parts', { data: { document: long } })
    await openPart(page, 'slow-spanner', 'make')
    // From now on it takes three seconds, as on a machine that is busy.
    await page.addInitScript(() => {
      const { open } = IDBFactory.prototype
      IDBFactory.prototype.open = function (...args) {
        const end = performance.now() + 3000
        while (performance.now() < end);
        return open.apply(this, args)
      }
    })
    await put(value(page, 2, 'Length'), 'thick + 6.1')
    await page.keyboard.press('Enter')
    await page.reload()
    await drawn(page)
    await expect(value(page, 2, 'Length')).toHaveValue('14.1')
    await kept(page)
  },
)

test(
  'a part that cannot be read can be had as it is kept, and returned to an earlier version',
  beside,
  async ({ page, problems }) => {
    const path = '/api/parts/deck-cap-spanner-plain'
    const { document } = await (await page.request.get(path)).json()
    await page.request.put(path, { data: { revision: 1, document: { ...document, name: 'Second state' } } })
    // As damage to the file would do it.
    await page.route(`**${path}`, (route) =>
      route.request().method() === 'GET'
        ? route.fulfill({ status: 400, json: { error: 'The part is damaged at name.' } })
        : route.continue(),
    )
    await page.goto('/part/deck-cap-spanner-plain/make')
    await expect(page.getByText('The part is damaged at name.')).toBeVisible()
    const saved = page.waitForEvent('download')
    await page.getByRole('link', { name: 'Save the file as it stands' }).click()
    expect((await saved).suggestedFilename()).toBe('deck-cap-spanner-plain.makrel.json')
    const states = page.getByRole('region', { name: 'Earlier versions' })
    await expect(states.getByRole('listitem')).toHaveCount(1)
    await page.unroute(`**${path}`)
    await states.getByRole('button', { name: 'Return to this' }).click()
    await drawn(page)
    await expect(page).toHaveTitle(/Deck-cap spanner \(plain\)/)
    problems.splice(0, problems.length, ...problems.filter((problem) => !problem.includes('400')))
  },
)

test(
  'what was made while the server was away is sent from the shelf, and from a window that is closed',
  beside,
  async ({ page, context, server, problems }) => {
    await openPart(page, 'deck-cap-spanner-plain', 'make')
    const other = await context.newPage()
    await openPart(other, 'lantern-bracket', 'make')
    await server.stop()
    await put(value(other, 1, 'Corner radius'), '7.3')
    await other.keyboard.press('Enter')
    await other.close()
    await put(value(page, 2, 'Length'), 'thick + 5.3')
    await page.keyboard.press('Enter')
    await expect(page.getByText('not saved yet')).toBeVisible()
    await page.getByRole('link', { name: /shelf/i }).first().click()
    await expect(page.getByRole('alert').filter({ hasText: 'does not answer' })).toBeVisible()
    await server.start()
    await expect(page.getByRole('link', { name: 'Open Lantern bracket' })).toBeVisible()
    const radius = async () =>
      (await (await page.request.get('/api/parts/lantern-bracket')).json()).document.pieces[0].steps[0].fields.corner
    await expect(async () => expect(await radius()).toBe('7.3')).toPass()
    await openPart(page, 'deck-cap-spanner-plain', 'make')
    await expect(entry(page, 'Overall')).toContainText('13.3 mm')
    await kept(page)
    const away = problems.filter((problem) => /ERR_CONNECTION|404|503 \(Service Unavailable\)/.test(problem))
    problems.splice(0, problems.length, ...problems.filter((problem) => !away.includes(problem)))
  },
)
