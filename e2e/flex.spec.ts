import { beside, expect, kept, newPart, openPart, put, test, value } from './fixtures.ts'

test('a clip is bent: how stiff it is, how it is strained, and that it would break', beside, async ({ page }) => {
  await openPart(page, 'boat-hook-clip', 'move')
  const tests = page.getByRole('region', { name: 'Flex tests' })
  await tests.getByRole('button', { name: 'Opens', exact: true }).click()
  const result = page.getByTestId('flex-result')
  await expect(result).toContainText(/4\.53 N/)
  await expect(result).toContainText(/0\.46 % of 2\.1 %, once 3\.5 %/)

  // As far as it would break.
  await put(tests.getByRole('textbox', { name: 'Distance' }), '24')
  await expect(result).toContainText(/[3-9]\.\d+ % of 2\.1 %/, { timeout: 60_000 })
  await kept(page)
  const stages = page.getByRole('navigation', { name: 'Stages' })
  await stages.getByRole('link', { name: /^Proof/ }).click()
  await expect(
    page.getByText(/^“Opens”: strain [\d.]+ % of the 3\.5 % that PETG takes once: .* would break\.$/),
  ).toBeVisible()
})

test('edges are held and pushed by a press, and what is missing is said', beside, async ({ page }) => {
  await openPart(page, 'boat-hook-clip', 'move')
  const tests = page.getByRole('region', { name: 'Flex tests' })
  await tests.getByRole('button', { name: 'Add a flex test' }).click()
  const own = tests.getByRole('listitem', { name: 'Flex 2' })
  await expect(page.getByText('Nothing holds it yet: click the edge that is held.')).toBeVisible()
  const edges = page.getByRole('group', { name: 'Edges' })
  const hold = async (number: number, as: string) => {
    await edges
      .getByRole('button', { name: new RegExp(`^Edge ${number}(,|$)`) })
      .first()
      .press('Enter')
    await expect(edges.getByRole('button', { name: `Edge ${number}, ${as}` }).first()).toBeAttached()
  }
  await hold(1, 'held')
  await expect(page.getByText('Nothing pushes it yet: click the edge that is pushed.')).toBeVisible()
  await page.getByRole('combobox', { name: 'Click an edge to' }).click()
  await page.getByRole('option', { name: 'push it' }).click()
  await hold(3, 'pushed')
  await expect(own).toContainText('held at one edge and pushed at one edge')
  await expect(page.getByTestId('flex-result')).toContainText('N/mm')
  await own.getByRole('combobox', { name: 'Pushed by' }).click()
  await page.getByRole('option', { name: 'a force of' }).click()
  await put(own.getByRole('textbox', { name: 'Force' }), '0')
  await expect(page.getByText('A push of 0 bends nothing.')).toBeVisible()
  await put(own.getByRole('textbox', { name: 'Force' }), '12')
  await expect(page.getByTestId('flex-result')).toContainText('12 N')
  // What is held is let go by another press.
  await page.getByRole('combobox', { name: 'Click an edge to' }).click()
  await page.getByRole('option', { name: 'hold it' }).click()
  await edges.getByRole('button', { name: 'Edge 1, held' }).first().press('Enter')
  await expect(page.getByText('Nothing holds it yet: click the edge that is held.')).toBeVisible()
  await tests.getByRole('button', { name: 'Drop Flex 2' }).click()
  await expect(own).toHaveCount(0)
})

test('a snap arm says what it does, and would break where its hook is too deep', beside, async ({ page }) => {
  await newPart(page, 'Latch')
  await page.getByRole('link', { name: /^Make/ }).click()
  const add = page.getByRole('combobox', { name: 'Add a step' })
  await add.fill('snap arm 20 2 6')
  await add.press('Enter')
  const spring = page.getByRole('definition')
  await expect(page.getByText('Strain there')).toBeVisible()
  // 1.5 t h / L²
  await expect(spring.filter({ hasText: /^0\.9 % of/ })).toBeVisible()
  await put(value(page, 1, 'Hook'), '6')
  await expect(spring.filter({ hasText: /^4\.5 % of/ })).toBeVisible()
  const stages = page.getByRole('navigation', { name: 'Stages' })
  await expect(stages.getByRole('link', { name: /^Proof/ })).toContainText('1 fault')
  await stages.getByRole('link', { name: /^Proof/ }).click()
  await expect(page.getByText(/strain 4\.5 % of the [\d.]+ % that \w+ takes once; it would break\./)).toBeVisible()
})

test(
  'a clip is squeezed too far: it is warned of, and cured by a round that is tried first',
  beside,
  async ({ page }) => {
    await openPart(page, 'painter-clip', 'move')
    const tests = page.getByRole('region', { name: 'Flex tests' })
    await tests.getByRole('button', { name: 'Squeezed', exact: true }).click()
    const result = page.getByTestId('flex-result')
    await expect(result).toContainText(/1\.5\d? % of 2\.1 %/, { timeout: 60_000 })
    await put(tests.getByRole('textbox', { name: 'Distance' }), '13')
    await expect(result).toContainText(/2\.2\d? % of 2\.1 %/, { timeout: 60_000 })
    await kept(page)
    await page
      .getByRole('navigation', { name: 'Stages' })
      .getByRole('link', { name: /^Proof/ })
      .click()
    await expect(
      page.getByText(/^“Squeezed”: strain 2\.2 % of the 2\.1 % that PETG takes again and again/),
    ).toBeVisible({
      timeout: 60_000,
    })
    await page.getByRole('button', { name: 'Round that corner by 0.8 mm' }).click()
    await expect(
      page.getByText(/^“Squeezed”: strain 2 % of the 2\.1 % that PETG takes again and again\.$/),
    ).toBeVisible({
      timeout: 60_000,
    })
  },
)
