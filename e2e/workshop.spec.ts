import { readFileSync } from 'node:fs'
import { writeThingFile } from '@makrel/core/document'
import { shippedPrinters } from '@makrel/core/fits'
import type { Page } from '@playwright/test'
import { beside, expect, kept, notice, openPart, stage, test } from './fixtures.ts'

/** Copies the Tern 220, under another name; the page shows it then. */
async function copied(page: Page): Promise<void> {
  await page.goto('/')
  await page.getByRole('link', { name: 'Printers and materials' }).click()
  await page.getByRole('button', { name: 'Copy Tern 220' }).click()
  await expect(page.getByRole('form', { name: 'Tern 220 copy' })).toBeVisible()
  await page.getByLabel('Name').fill('Tern in the shed')
  await page.getByLabel('Name').press('Enter')
  await expect(page.getByRole('form', { name: 'Tern in the shed' })).toBeVisible()
}

async function setTo(page: Page, label: string, text: string): Promise<void> {
  await page.getByLabel(label, { exact: true }).fill(text)
  await page.getByLabel(label, { exact: true }).blur()
}

test('a printer is copied and changed, and the gaps of a part follow', beside, async ({ page }) => {
  await copied(page)
  await setTo(page, 'captive, round', '0,47')
  await expect(page.getByRole('row', { name: /captive/ })).toContainText('set by hand on')

  await openPart(page, 'locker-hinge', 'make')
  await stage(page, 'Plan').click()
  await page.getByRole('combobox', { name: 'Printer' }).click()
  await page.getByRole('option', { name: /Tern in the shed/ }).click()
  await expect(notice(page, /With the Tern in the shed, \d+ values change/)).toBeVisible()
  await stage(page, 'Move').click()
  await expect(page.getByTestId('gap-here')).toHaveText('0.47 mm')

  // What is changed in the workshop is followed at once, and can be taken back.
  await stage(page, 'Plan').click()
  await page.getByRole('link', { name: 'printers', exact: true }).click()
  await setTo(page, 'captive, round', '0.52')
  await expect(notice(page, 'Tern in the shed was saved.')).toBeVisible()
  await page.goBack()
  await expect(notice(page, /The Tern in the shed was changed in the workshop: \d+ values change/)).toBeVisible()
  await stage(page, 'Move').click()
  await expect(page.getByTestId('gap-here')).toHaveText('0.52 mm')
  await page.getByRole('button', { name: /^Undo \(/ }).click()
  await expect(page.getByTestId('gap-here')).toHaveText('0.47 mm')
  await page.getByRole('button', { name: 'Keep it as designed' }).click()
  await stage(page, 'Plan').click()
  await expect(page.getByText('This printer is the part’s own.')).toBeVisible()
  await page.getByRole('button', { name: 'Add it to the workshop' }).click()
  await expect(page.getByText('This printer is the part’s own.')).toHaveCount(0)
  await kept(page)
})

test(
  'a part leaves as it is drawn until its printer was measured, and made up for from then on',
  beside,
  async ({ page }) => {
    await openPart(page, 'lantern-bracket', 'hand-off')
    const sizes = page.getByRole('combobox', { name: 'Compensation' })
    await expect(sizes).toHaveText('as drawn')
    await page.goto('/workshop/printers')
    await expect(page.getByText('files leave as drawn until it is measured')).toBeVisible()
    // With what is typed at that moment.
    await page.getByLabel('Walls too thick', { exact: true }).fill('0.037')
    await page.getByRole('button', { name: 'I measured it' }).click()
    await expect(page.getByText(/^set by hand on/).first()).toBeVisible()
    await expect(notice(page, 'Tern 220 was saved.')).toBeVisible()

    await page.goto('/part/lantern-bracket/hand-off')
    await expect(sizes).toHaveText('compensated for the printer')
    const told =
      /walls 0\.037 mm thinner and small round holes 0\.08 mm larger per side, the first layer 0\.15 mm narrower/
    await expect(page.getByText(told)).toContainText('As set by hand on')
    // What its material shrinks is a guess still, and stays out of it.
    await expect(page.getByText(told)).not.toContainText('all of it')
  },
)

test('what no printer can do is told at its value, with the nearest that can be', beside, async ({ page }) => {
  await copied(page)
  await setTo(page, 'Line width', '12')
  await expect(page.getByRole('alert')).toHaveText('It must be at most 5. Take 5')
  await page.getByRole('button', { name: 'Take 5' }).click()
  await expect(page.getByRole('alert')).toHaveCount(0)
  await setTo(page, 'Longest bridge', 'far')
  await expect(page.getByRole('alert')).toContainText('It must be a number.')
  // What is wrong is not kept.
  await page.reload()
  await expect(page.getByLabel('Longest bridge')).toHaveValue('15')
  await expect(page.getByLabel('Line width')).toHaveValue('5')
  await page.getByRole('button', { name: 'Remove Tern in the shed' }).click()
  await expect(page.getByRole('link', { name: /Tern in the shed/ })).toHaveCount(0)
  await page.getByRole('button', { name: 'Undo' }).last().click()
  await expect(page.getByRole('link', { name: /Tern in the shed/ })).toBeVisible()
})

test('printers go out and come in as files, also those with something wrong in them', beside, async ({ page }) => {
  await page.goto('/workshop/printers')
  const [file] = await Promise.all([
    page.waitForEvent('download'),
    page.getByRole('button', { name: 'Save Gannet 350 as a file' }).click(),
  ])
  expect(file.suggestedFilename()).toBe('Gannet-350.makrel-printer.json')
  expect(readFileSync((await file.path())!, 'utf8')).toBe(writeThingFile('printers', shippedPrinters[2]!))

  const open = (name: string, text: string) =>
    page
      .getByLabel('File of a printer')
      .setInputFiles({ name, mimeType: 'application/json', buffer: Buffer.from(text) })
  const { bridge: _, ...rest } = { ...shippedPrinters[2]!, id: 'skua-300', name: 'Skua 300', lineWidth: 7 }
  await open('skua.json', JSON.stringify({ format: 'makrel-printer', version: 1, printer: rest }))
  await expect(notice(page, /skua\.json: .*lineWidth must be at most 5.*bridge is missing/)).toBeVisible()
  await page.getByRole('button', { name: 'Open it with what can be' }).click()
  await expect(page.getByRole('form', { name: 'Skua 300' })).toBeVisible()
  await expect(page.getByLabel('Longest bridge')).toHaveValue('15')
  await open('note.json', '{}')
  await expect(notice(page, 'note.json was not opened: This is not a printer file.')).toBeVisible()
})

test(
  'a part from elsewhere says where its printer differs from the one here, and either can be had',
  beside,
  async ({ page }) => {
    await openPart(page, 'locker-hinge', 'make')
    const answer = await page.request.get('/api/parts/locker-hinge')
    const { document } = await answer.json()
    const { printer } = document
    const captive = {
      round: { gap: 0.61, origin: { kind: 'set', on: '2026-05-17T08:15:00.000Z' } },
      flat: printer.fits.captive.flat,
    }
    const other = {
      ...document,
      name: 'Hinge from elsewhere',
      printer: { ...printer, fits: { ...printer.fits, captive } },
    }
    await page.goto('/')
    await page
      .getByLabel('Part file', { exact: true })
      .setInputFiles({ name: 'hinge.json', mimeType: 'application/json', buffer: Buffer.from(JSON.stringify(other)) })
    await expect(page.getByText(/designed with another printer called Tern 220/)).toBeVisible()
    await stage(page, 'Move').click()
    await expect(page.getByTestId('gap-here')).toHaveText('0.61 mm')
    await page.getByRole('button', { name: /Use the workshop’s: \d+ values change/ }).click()
    await expect(page.getByTestId('gap-here')).toHaveText('0.35 mm')
    await expect(page.getByText(/designed with another printer/)).toHaveCount(0)
    await kept(page)
  },
)
