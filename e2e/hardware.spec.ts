import { readFileSync } from 'node:fs'
import type { Page } from '@playwright/test'
import { add, beside, chooseIn, drawn, expect, line, newPart, openPart, put, stage, test, value } from './fixtures.ts'

const bought = (page: Page) => page.getByRole('region', { name: 'What to buy' })

test(
  'two pieces are bolted together: the screw follows how thick they are, and is on the list to buy',
  beside,
  async ({ page }) => {
    await openPart(page, 'sheave-carrier', 'hand-off')
    await expect(bought(page)).toContainText('4 ×M4 socket screw × 25ISO 4762:2004')
    await expect(bought(page)).toContainText('4 ×M4 hex nut')
    await stage(page, 'Plan').click()
    await put(page.getByRole('textbox', { name: 'Expression of cheek' }), '17.3')
    await stage(page, 'Move').click()
    // 34.6 less the head's 4 is 30.6: 30 is too short.
    await expect(page.getByText('M4 socket screw × 35 mm')).toBeVisible()
    await stage(page, 'Proof').click()
    await expect(page.getByText('What is bought goes in: 10 in all, each with its way in free.')).toBeVisible({
      timeout: 30_000,
    })
    await stage(page, 'Hand off').click()
    await expect(bought(page)).toContainText('4 ×M4 socket screw × 35')
    const saving = page.waitForEvent('download')
    await bought(page).getByRole('button', { name: 'Save as CSV' }).click()
    const file = await saving
    expect(file.suggestedFilename()).toBe('Sheave-carrier-to-buy.csv')
    expect(readFileSync((await file.path())!, 'utf8').split('\r\n')).toEqual([
      'Count,Name,Standard,Length in mm',
      '2,608 ball bearing,ISO 15:2017,',
      '4,M4 socket screw,ISO 4762:2004,35',
      '4,M4 hex nut,ISO 4032:2012,',
      '',
    ])
  },
)

test(
  'a nut slides in from the side: a slot that ends too soon is told, made longer by a press, and the nut stands in it',
  beside,
  async ({ page }) => {
    await newPart(page, 'Clamp foot')
    await add(page, 'plate 61.3 30.7 14.3')
    await drawn(page)
    await add(page, 'M5 nut')
    await expect(line(page, 2)).toContainText('pocket for M5 hex nut')
    await expect(page.getByRole('button', { name: 'Show screws, nuts and what else it takes' })).toHaveAttribute(
      'aria-pressed',
      'true',
    )
    await chooseIn(page, 2, 'Open', 'to the right-hand side')
    await put(value(page, 2, 'Below the face'), '4.1')
    await expect(line(page, 2).getByLabel('Item')).toContainText('width across flats')
    await stage(page, 'Proof').click()
    const told = page.getByRole('listitem').filter({ hasText: 'The M5 hex nut cannot be put into' })
    await expect(told).toBeVisible({ timeout: 30_000 })
    await told.getByRole('button', { name: /^Let the slot end 3[12] mm from the axis/ }).click()
    await expect(page.getByText('What is bought goes in: 1 in all, each with its way in free.')).toBeVisible({
      timeout: 30_000,
    })
    // Closed in instead, the print pauses for it: the sheet and the receipt say where.
    await stage(page, 'Make').click()
    await chooseIn(page, 2, 'Open', 'to no side')
    await expect(line(page, 2).getByLabel('Item')).toContainText(/before layer \d+, at [\d.]+ mm/)
    await stage(page, 'Hand off').click()
    const saving = page.waitForEvent('download')
    await page.getByRole('button', { name: 'Write, check and download' }).click()
    await saving
    await expect(page.getByRole('region', { name: 'Receipt' })).toContainText(
      /before layer \d+, at [\d.]+ mm: put 1 × M5 hex nut into/,
    )
    await expect(page.getByRole('region', { name: 'Receipt' })).toContainText('1 × M5 hex nut (ISO 4032:2012)')
  },
)

test('a cap is turned off its neck along the thread, and keeps its gap all the way', beside, async ({ page }) => {
  await openPart(page, 'filler-cap', 'move')
  const here = page.getByTestId('gap-here')
  await expect(here).toHaveText(/^0\.\d+ mm$/, { timeout: 30_000 })
  // Once round, and on: it never comes nearer than the printer's least gap.
  for (const at of ['360', '733']) {
    await put(page.getByRole('textbox', { name: 'Swing to' }), at)
    await page.keyboard.press('Enter')
    await expect(here).toHaveText(/^0\.\d+ mm$/, { timeout: 30_000 })
    expect(Number.parseFloat((await here.textContent())!)).toBeGreaterThan(0.25)
  }
})
