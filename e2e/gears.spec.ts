import {
  add,
  beside,
  chooseIn,
  drawn,
  expect,
  kept,
  line,
  newPart,
  openPart,
  put,
  stage,
  test,
  value,
  volume,
} from './fixtures.ts'

test(
  'a pair of gears is made from teeth, module and centre distance, and turned through a pitch with its gap',
  beside,
  async ({ page }) => {
    await newPart(page, 'Winch gears')
    await add(page, 'gear 24 1.5 8')
    await expect(value(page, 1, 'Teeth')).toHaveValue('24')
    await page.getByRole('button', { name: 'another piece' }).click()
    await add(page, 'pinion 17 1.5 8')
    await expect(value(page, 1, 'Teeth', 1)).toHaveValue('17')
    await stage(page, 'Move').click()
    await page.getByRole('button', { name: 'Add a joint', exact: true }).click()
    await page.getByRole('button', { name: 'Add a gear mesh', exact: true }).click()
    const facts = page.getByRole('complementary', { name: 'Joints' })
    // The second piece was put beside the first.
    await expect(facts.getByText(/30\.75 (mm )?is right/).first()).toBeVisible()
    await page.getByRole('button', { name: 'Put the second in mesh' }).click()
    await expect(facts.getByText('30.75 mm between their axes', { exact: true })).toBeVisible()
    await expect(facts.getByText('24 : 17 = 1.412')).toBeVisible()
    await expect(page.getByRole('button', { name: 'Put the second in mesh' })).toHaveCount(0)
    // A tenth of a millimetre less on each: half of that at each flank, along its normal.
    const gap = page.getByTestId('gap-here')
    await expect(gap).toHaveText(/^0\.09\d* mm$/)
    await page.getByRole('slider', { name: 'Swing' }).fill('7.5')
    await expect(page.getByRole('slider', { name: 'Swing' })).toHaveAttribute('aria-valuetext', '7.5°')
    await expect(gap).toHaveText(/^0\.09\d* mm$/)
    await expect(page.getByText(/^0\.09\d* mm at/)).toBeVisible()

    // Other teeth run at another distance, and it says so; one press puts it right.
    await stage(page, 'Make').click()
    await put(value(page, 1, 'Teeth', 1), '31')
    await page.keyboard.press('Enter')
    await stage(page, 'Move').click()
    await expect(facts.getByText(/41\.25 mm is right/).first()).toBeVisible()
    await page.getByRole('button', { name: 'Put the second in mesh' }).click()
    await expect(gap).toHaveText(/^0\.09\d* mm$/)
    await kept(page)
  },
)

test(
  'a worm is laid across its gear with one press, and gives it the teeth that it needs',
  beside,
  async ({ page }) => {
    await newPart(page, 'Rudder drive')
    await add(page, 'gear 30 1.5 8')
    await page.getByRole('button', { name: 'another piece' }).click()
    await add(page, 'worm 1.5 16 30')
    await expect(line(page, 1, 1)).toContainText('worm of')
    await stage(page, 'Move').click()
    await page.getByRole('button', { name: 'Add a joint', exact: true }).click()
    await page.getByRole('button', { name: 'Add a gear mesh', exact: true }).click()
    const facts = page.getByRole('complementary', { name: 'Joints' })
    await expect(facts.getByText(/lay one of them on its side/)).toBeVisible()
    await page.getByRole('button', { name: 'Put the second in mesh' }).click()
    await expect(facts.getByText('30 : 1 = 30')).toBeVisible()
    await page.getByRole('button', { name: 'Give the gear teeth at 5.379°, right-hand' }).click()
    await page.getByRole('button', { name: 'Put the second in mesh' }).click()
    await expect(facts.getByText(/mm between their axes$/)).toBeVisible()
    await expect(facts.getByText(/teeth cross|is right/)).toHaveCount(0)
    await expect(page.getByTestId('gap-here')).toHaveText(/^0\.(08|09|1)\d* mm$/)
    // Seen from the worm, the gear goes round it.
    await expect(page.getByText(/For one turn of Piece 1: Piece 2 -?30\./)).toBeVisible()
    await kept(page)
  },
)

test('a sun and a ring get their planets with one press, and stay told by which is held', beside, async ({ page }) => {
  await newPart(page, 'Winch drum drive')
  await add(page, 'gear 18 1.5 8')
  await page.getByRole('button', { name: 'another piece' }).click()
  await add(page, 'ring gear 54 1.5 8')
  await stage(page, 'Move').click()
  await page.getByRole('button', { name: 'Add a joint', exact: true }).click()
  await page.getByRole('button', { name: 'Add a planetary set', exact: true }).click()
  const facts = page.getByRole('complementary', { name: 'Joints' })
  await page.getByRole('button', { name: 'Put the ring on the axis of the sun' }).click()
  await expect(facts.getByText('No planet stands in it yet.')).toBeVisible()
  await page.getByRole('button', { name: 'Put 3 planets in' }).click()
  await expect(facts.getByText('every 120°')).toBeVisible()
  await expect(facts.getByText('No planet stands in it yet.')).toHaveCount(0)
  const gap = page.getByTestId('gap-here')
  await expect(gap).toHaveText(/^0\.(0[89]|1)\d* mm$/)
  await page.getByRole('slider', { name: 'Swing' }).fill('5')
  await expect(gap).toHaveText(/^0\.(0[89]|1)\d* mm$/)
  await page.getByRole('combobox', { name: 'What stays' }).click()
  await page.getByRole('option', { name: 'Piece 2' }).click()
  await expect(
    page.getByText(/For one turn of Piece 1: Planet 1 -0\.5, Planet 2 -0\.5, Planet 3 -0\.5\./),
  ).toBeVisible()

  // Five do not stand evenly; it says so, and what would.
  await put(facts.getByRole('textbox', { name: 'Planets' }), '5')
  await expect(facts.getByText(/5 planets cannot stand evenly/)).toBeVisible()
  await put(facts.getByRole('textbox', { name: 'Planets' }), '4')
  await page.getByRole('button', { name: 'Put its planets right' }).click()
  await expect(facts.getByText('every 90°')).toBeVisible()
  await expect(facts.getByText(/planets stand in it/)).toHaveCount(0)
  await expect(gap).toHaveText(/^0\.(0[89]|1)\d* mm$/)
  await kept(page)
})

test('bevel gears lean together, and one of another part comes in to run with this one', beside, async ({ page }) => {
  await newPart(page, 'Capstan head')
  await add(page, 'bevel gear 31 17 1.5')
  await kept(page)
  await newPart(page, 'Capstan crank')
  await add(page, 'bevel gear 17 31 1.5')
  await stage(page, 'Move').click()
  await page.getByRole('button', { name: 'Add a gear mesh with another part' }).click()
  await page.getByRole('combobox', { name: 'Part' }).click()
  await page.getByRole('option', { name: 'Capstan head' }).click()
  await expect(page.getByRole('combobox', { name: 'Wheel' })).toBeVisible()
  await page.getByRole('button', { name: 'Bring it in' }).click()
  const facts = page.getByRole('complementary', { name: 'Joints' })
  await expect(facts.getByText(/their teeth are made for 90°/)).toBeVisible()
  await page.getByRole('button', { name: 'Put the second in mesh' }).click()
  await expect(facts.getByText('90°, meeting in the points of both cones')).toBeVisible()
  await expect(facts.getByText('31 : 17 = 1.824')).toBeVisible()
  await expect(page.getByTestId('gap-here')).toHaveText(/^0\.0\d* mm$/)
  await kept(page)
})

test(
  'a gear gets a hub, spokes, set screws and its size engraved, and is told what has no room',
  beside,
  async ({ page }) => {
    await newPart(page, 'Capstan wheel')
    await add(page, 'gear 36 2 8')
    await drawn(page)
    const full = await volume(page)
    await line(page, 1).getByRole('button', { name: 'More values' }).click()
    await chooseIn(page, 1, 'Hub', 'a hub')
    await chooseIn(page, 1, 'Web', 'spokes')
    await chooseIn(page, 1, 'Set screws', 'two set screws')
    await put(value(page, 1, 'Rim'), '6')
    await chooseIn(page, 1, 'Marks', 'teeth and module engraved')
    await expect(async () => {
      const rest = await volume(page)
      expect(rest).toBeGreaterThan(0.3 * full)
      expect(rest).toBeLessThan(0.75 * full)
    }).toPass()
    // More spokes than have room: the widest that would do is offered as a press.
    await put(value(page, 1, 'Openings'), '12')
    await put(value(page, 1, 'Spoke width'), '9')
    await expect(line(page, 1).getByText(/12 spokes of this width leave nothing between them/)).toBeVisible()
    await line(page, 1).getByRole('button', { name: /^use / }).first().click()
    await expect(line(page, 1).getByText(/12 spokes of this width/)).toHaveCount(0)
    await kept(page)
  },
)

test('an internal gear is cut out of a disc, and a ring gear takes its pinion', beside, async ({ page }) => {
  await newPart(page, 'Ring')
  await add(page, 'bar 60 8')
  await drawn(page)
  const whole = await volume(page)
  await add(page, 'gear 30 1.5 8')
  await chooseIn(page, 2, 'Effect', 'Cut')
  await expect(line(page, 2)).toContainText(/room/)
  await expect(line(page, 2)).not.toContainText(/bore/)
  await drawn(page)
  await expect(async () => {
    const rest = await volume(page)
    expect(rest).toBeGreaterThan(whole - (Math.PI * 24.4 ** 2 * 8) / 1000)
    expect(rest).toBeLessThan(whole - (Math.PI * 21 ** 2 * 8) / 1000)
  }).toPass()
})

test('what runs and turns is found by its words, with the numbers behind them', beside, async ({ page }) => {
  await newPart(page, 'Search')
  const field = page.getByRole('combobox', { name: 'Add a step' })
  for (const [typed, first] of [
    ['gear 24', /^gear.*24/],
    ['rack', /^rack/],
    ['ring gear', /^ring gear/],
    ['herringbone', /^herringbone · gear/],
  ] as const) {
    await field.fill(typed)
    await expect(page.getByRole('option').first()).toHaveText(first)
  }
  await field.fill('herringbone 19 2')
  await page.keyboard.press('Enter')
  await expect(line(page, 1)).toContainText('as a herringbone')
  await expect(value(page, 1, 'Teeth')).toHaveValue('19')
  await expect(value(page, 1, 'Module')).toHaveValue('2')
})

test(
  'the catalogue shows all shapes, is gone through by keys, and keeps what was used lately',
  beside,
  async ({ page }) => {
    await openPart(page, 'lantern-bracket', 'make')
    await page.getByRole('button', { name: 'machine', exact: true }).press('Enter')
    const catalogue = page.getByRole('dialog', { name: 'Catalogue' })
    await expect(catalogue.getByRole('button', { name: 'Add: gear' })).toBeFocused()
    await expect(catalogue.locator('canvas').first()).toBeAttached()
    await page.keyboard.press('ArrowRight')
    await expect(catalogue.getByRole('button', { name: 'Add: ring gear' })).toBeFocused()
    await page.keyboard.press('ArrowDown')
    await expect(catalogue.getByRole('button', { name: 'Add: folded leaf spring' })).toBeFocused()
    await page.keyboard.press('ArrowDown')
    await expect(catalogue.getByRole('button', { name: 'Add: ring spring washer' })).toBeFocused()
    await page.keyboard.press('ArrowDown')
    await expect(
      catalogue.getByRole('region', { name: 'outlines' }).getByRole('button', { name: 'Add: cut-out' }),
    ).toBeFocused()
    await page.keyboard.press('ArrowUp')
    await page.keyboard.press('ArrowUp')
    await page.keyboard.press('ArrowUp')
    await page.keyboard.press('Enter')
    await expect(catalogue).toHaveCount(0)
    await expect(page.getByText('ring gear of').first()).toBeVisible()
    await page.getByRole('button', { name: 'solids', exact: true }).click()
    await expect(
      catalogue.getByRole('region', { name: 'Lately used' }).getByRole('button', { name: 'Add: ring gear' }),
    ).toBeVisible()
    // Typing goes on in the field.
    await page.keyboard.type('hole 8 slide')
    await expect(page.getByRole('combobox', { name: 'Add a step' })).toHaveValue('hole 8 slide')
  },
)

test(
  'a fit is named behind the size of a hole, and the sum is told with where it comes from',
  beside,
  async ({ page }) => {
    await newPart(page, 'Bush')
    await add(page, 'plate 30 30 6')
    await add(page, 'hole 8 slide')
    const size = value(page, 2, 'Diameter')
    await expect(size).toHaveValue('8 slide = 8.4')
    await size.focus()
    await expect(size).toHaveValue('8 slide')
    await expect(line(page, 2).getByRole('note')).toHaveText(
      '8 + 2 × 0.2 = 8.4 mm: slide, round, of Tern 220 (shipped)',
    )
    await page.keyboard.press('Tab')
    await expect(size).toHaveValue('8 slide = 8.4')
    // What another part goes round has no fit by itself.
    await put(value(page, 1, 'Width'), '30 slide')
    await expect(line(page, 1).getByRole('alert')).toContainText('a fit where nothing goes in')
    await page.keyboard.press('Escape')
    await kept(page)
  },
)
