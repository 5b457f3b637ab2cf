import { readFileSync } from 'node:fs'
import { keptText, type Step } from '@makrel/core/document'
import { onFace, partOf, step } from '@makrel/core/testing'
import type { Locator, Page } from '@playwright/test'
import { add, beside, expect, kept, newPart, openPart, put, stage, test } from './fixtures.ts'

const cure = (page: Page, label: RegExp) => page.getByRole('button', { name: label })
const undo = (page: Page) => page.getByRole('button', { name: /^Undo/ }).first().click()
const gone = (finding: Locator) => expect(finding).toHaveCount(0, { timeout: 30_000 })

/** A cure is shown on the drawing, taken by one press and undone by one. */
async function takenAndUndone(page: Page, finding: RegExp, label: RegExp, shows: readonly string[]): Promise<void> {
  const line = page.getByRole('listitem').filter({ hasText: finding })
  const offered = line.getByRole('button', { name: label })
  await expect(offered).toBeVisible({ timeout: 60_000 })
  await offered.hover()
  const change = page.getByRole('figure', { name: 'What it would change' })
  for (const text of shows) await expect(change).toContainText(text)
  await offered.click()
  await gone(line)
  await undo(page)
  await expect(offered).toBeVisible({ timeout: 60_000 })
}

test(
  'a rack that prints badly is cured press by press: its arm, its hole, its window and its strap',
  beside,
  async ({ page }) => {
    await openPart(page, 'oar-hook-rack', 'proof')
    await takenAndUndone(page, /droops where nothing is put under it/, /^Bevel the corner under .*arm.* by 8 mm$/, [
      'put there',
    ])
    await takenAndUndone(page, /leans by as much as .*rod hole/, /^Make rod hole a teardrop/, ['taken away'])
    await takenAndUndone(page, /is bridged over 28 mm/, /^Stand a web of 0\.88 mm under it/, ['put there'])
    await takenAndUndone(page, /narrows to 6\.6 mm²/, /^Set the depth of strap to 4\.16 mm$/, ['put there'])
    // One after the other they leave nothing to be said.
    for (const label of [/^Bevel the corner/, /^Make rod hole/, /^Stand a web/, /^Set the depth of strap/]) {
      await cure(page, label).click({ timeout: 60_000 })
      await gone(cure(page, label))
    }
    await expect(stage(page, 'Proof')).toContainText('passed', { timeout: 30_000 })
    await kept(page)
  },
)

test('a load is told on Plan, asks too much of the strap, and is borne by a thicker one', beside, async ({ page }) => {
  await page.goto('/part/oar-hook-rack/plan')
  const loads = page.getByRole('region', { name: 'Loads' })
  await loads.getByRole('button', { name: 'Add a load' }).click()
  const choose = async (name: string, option: RegExp) => {
    await loads.getByRole('combobox', { name }).click()
    await page.getByRole('option', { name: option }).first().click()
  }
  await choose('Held place of Load 2', /^left of 1, back/)
  await choose('Loaded place of Load 2', /^right of 5, lug/)
  await choose('Way of Load 2', /^away from the face/)
  await put(loads.getByRole('textbox', { name: 'Force of Load 2' }), '90')
  await page.keyboard.press('Enter')
  await expect(loads).toContainText(/“Load 2”: 90 N is \d+ % of what Rack bears at .*strap/, { timeout: 30_000 })
  await stage(page, 'Proof').click()
  const line = page.getByRole('listitem').filter({ hasText: /“Load 2”: 90 N is/ })
  await line.getByRole('button', { name: /^Set the depth of strap to \d/ }).click({ timeout: 60_000 })
  await expect(line).toContainText(/is no more than (4\d|50)/, { timeout: 30_000 })
  await kept(page)
})

test('a fit whose mouth lies on the bed gets a bevel', beside, async ({ page }) => {
  await newPart(page, 'Peg board')
  await add(page, 'plate 40.3 30.7 8.1')
  await add(page, 'hole 8 slide')
  await stage(page, 'Proof').click()
  await takenAndUndone(page, /The first layer is pressed/, /^Bevel the mouth of .* on the bed by 0\.3 mm$/, [
    'taken away',
  ])
  await kept(page)
})

test('a face that has to lie so is held while ways to lie are compared', beside, async ({ page }) => {
  await openPart(page, 'oar-hook-rack', 'proof')
  const ways = page.getByRole('region', { name: 'Ways to lie' })
  await ways.getByRole('button', { name: 'Hold a face or a hole' }).click()
  await ways.getByRole('combobox', { name: 'Face 1 that has to lie so' }).click()
  await page
    .getByRole('option', { name: /^back of 1, back/ })
    .first()
    .click()
  await ways.getByRole('combobox', { name: 'How face 1 has to lie' }).click()
  await page.getByRole('option', { name: /^lies on the bed/ }).click()
  await ways.getByRole('button', { name: 'Compare ways to lie' }).click()
  const best = ways.getByRole('row').filter({ hasText: 'The best of them' })
  await expect(best).toContainText('all that is held lies so', { timeout: 60_000 })
  await expect(best).toContainText(/loads take \d+ %/)
  await kept(page)
})

test('walls are read on the drawing, and a picture of them is saved with its scale', beside, async ({ page }) => {
  await openPart(page, 'oar-hook-rack', 'proof')
  await page.getByRole('button', { name: /Every wall of Rack is wide enough/ }).click()
  await expect(page.getByRole('figure', { name: /^Walls: from 0 mm to 0\.88 mm/ })).toBeVisible()
  const download = page.waitForEvent('download')
  await page.getByRole('button', { name: 'Save a picture (PNG)' }).click()
  const file = await download
  expect(file.suggestedFilename()).toBe('Oar-hook-rack-Walls.png')
  const bytes = readFileSync(await file.path())
  expect(bytes.subarray(1, 4).toString()).toBe('PNG')
  expect(bytes.length).toBeGreaterThan(10_000)
  await kept(page)
})

const off = (mm: string) => ({ from: 'centre', to: 'centre', by: mm }) as const
const block = (id: string, [width, depth, height]: readonly [string, string, string], place: object = {}, more = {}) =>
  step(id, 'plate', { width, depth, height }, { place, ...more } as never)
const cut = { operation: 'cut' } as const
const base = (size: readonly [string, string, string]) => block('a', size, { turn: '15.3', across: off('7.7') })
/** What is wrong, and what puts it right. */
const cured: readonly (readonly [string, readonly Step[], RegExp, RegExp, string])[] = [
  [
    'a closed cavity is drained',
    [
      base(['34.1', '28.3', '16.7']),
      block('b', ['12.1', '13.3', '7.9'], { lift: '3.3', rest: 'on', across: off('7.7') }, cut),
    ],
    /cavity/,
    /^Drill a hole of 4 mm into it from below$/,
    'taken away',
  ],
  [
    'letters are made larger',
    [
      base(['61.3', '27.7', '3.1']),
      step('t', 'text', { text: 'Oar', size: '4.3', depth: '0.8' }, { place: onFace('a', 'top') } as never),
    ],
    /is a single line of/,
    /^Make the letters of text \d+(\.\d)? mm high$/,
    'put there',
  ],
  [
    'what only touches is sunk into what it stands on',
    [base(['21.3', '17.7', '8.1']), block('b', ['8.3', '9.1', '7.7'], { ...onFace('a', 'top'), tilt: '45' })],
    /by less than|hangs together|touch/,
    /^Sink Step 2 .* by (0\.88|3\.52) mm$/,
    'put there',
  ],
  [
    'a wall without a size of its own is made thicker by a face of it',
    [
      base(['41.3', '22.7', '9.1']),
      block('b', ['9.3', '10.7', '5.3'], { ...onFace('a', 'top'), across: off('4.8'), lift: '-5.3' }, cut),
      block('c', ['9.3', '11.9', '5.3'], { ...onFace('a', 'top'), across: off('-4.8'), lift: '-5.3' }, cut),
    ],
    /is 0\.3 mm thick at/,
    /^Shift the (left|right) of Step \d .* outward by 0\.59 mm$/,
    'put there',
  ],
  [
    'a ball that hardly stands gets a fillet at its foot',
    [
      base(['31.3', '27.7', '5.1']),
      step('k', 'ball', { diameter: '11.3' }, { place: { ...onFace('a', 'top'), lift: '-0.06' } } as never),
    ],
    /narrows to/,
    /^Fill the corner where Step 1 .* meets Step 2 .* with a fillet of/,
    'put there',
  ],
  [
    'a rim that droops whichever way it lies is printed in two, with pegs',
    [
      base(['17.3', '17.3', '24.1']),
      block('b', ['41.7', '41.7', '4.1'], { turn: '15.3', across: off('7.7'), lift: '10.7', rest: 'on' }),
    ],
    /droops/,
    /^Split Piece 1 at a height of 10\.7 mm, and put it together with two pegs$/,
    'taken away',
  ],
]
for (const [what, steps, finding, label, shows] of cured)
  test(`${what}, and is as it was after one undo`, beside, async ({ page }) => {
    await page.goto('/')
    const part = { ...partOf([...steps]), name: 'Peg board' }
    await page.getByLabel('Part file', { exact: true }).setInputFiles({
      name: 'peg-board.makrel.json',
      mimeType: 'application/json',
      buffer: Buffer.from(keptText(part)),
    })
    await expect(page).toHaveURL(/\/part\/\w+\/make$/)
    await stage(page, 'Proof').click()
    await takenAndUndone(page, finding, label, [shows])
    await kept(page)
  })

test('what droops is printed lying another way, in a pose of its own', beside, async ({ page }) => {
  await page.goto('/')
  const tee = [
    block('a', ['9.3', '8.1', '3.7'], { turn: '15.3' }),
    block('b', ['29.3', '25.3', '4.3'], onFace('a', 'top')),
  ]
  const part = { ...partOf(tee), name: 'Peg board' }
  await page
    .getByLabel('Part file', { exact: true })
    .setInputFiles({ name: 'tee.makrel.json', mimeType: 'application/json', buffer: Buffer.from(keptText(part)) })
  await stage(page, 'Proof').click()
  const line = page.getByRole('listitem').filter({ hasText: /droops/ })
  await line.getByRole('button', { name: /^Print .* lying another way/ }).click({ timeout: 60_000 })
  await gone(line)
  await undo(page)
  await expect(line).toBeVisible({ timeout: 60_000 })
  await kept(page)
})
