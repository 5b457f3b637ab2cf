import { readdirSync, readFileSync } from 'node:fs'
import { fileURLToPath } from 'node:url'
import type { Page } from '@playwright/test'
import { add, beside, entry, expect, kept, line, newPart, put, stage, test } from './fixtures.ts'

/** The guide's worked parts are followed by their own lines: what stands there is done, and what it reads is read. */

const guide = fileURLToPath(new URL('../docs/guide/', import.meta.url))
const root = fileURLToPath(new URL('..', import.meta.url))

const valueAt = (page: Page, number: string, piece: string | undefined, label: string) =>
  line(page, Number(number), piece ? Number(piece) - 1 : 0).getByRole('textbox', { name: label, exact: true })

async function chosen(page: Page, number: string, piece: string | undefined, label: string, option: string) {
  await line(page, Number(number), piece ? Number(piece) - 1 : 0)
    .getByRole('combobox', { name: label, exact: true })
    .click()
  await page.getByRole('option', { name: option, exact: true }).click()
}

const typed = async (page: Page, field: ReturnType<typeof valueAt>, text: string) => {
  await put(field, text)
  await page.keyboard.press('Enter')
}

/** A sentence of the guide, and what a maker does who reads it. */
type Saying = readonly [RegExp, (page: Page, ...found: string[]) => Promise<unknown>]

const sayings: readonly Saying[] = [
  [/^Make a new part, “(.+)”, and go to Make$/, (page, name) => newPart(page, name!)],
  [/^Type `(.+)` and press Enter$/, (page, text) => add(page, text!)],
  [
    /^In line (\d+)(?: of piece (\d+))?, set \*(.+)\* to `(.+)`$/,
    (page, number, piece, label, text) => typed(page, valueAt(page, number!, piece, label!), text!),
  ],
  [
    /^In line (\d+)(?: of piece (\d+))?, choose “(.+)” for \*(.+)\*$/,
    (page, number, piece, option, label) => chosen(page, number!, piece, label!, option!),
  ],
  [
    /^In line (\d+)(?: of piece (\d+))?, measure \*(.+)\* “(.+)”: `(.+)`$/,
    async (page, number, piece, sides, option, by) => {
      await chosen(page, number!, piece, `Measured ${sides}`, option!)
      await typed(page, valueAt(page, number!, piece, `Distance ${sides}`), by!)
    },
  ],
  [/^Click “(.+)”$/, (page, name) => page.getByRole('button', { name: name!, exact: true }).first().click()],
  [/^Go to (.+)$/, (page, label) => stage(page, label!).click()],
  [
    /^Choose “(.+)” for \*(.+)\*$/,
    async (page, option, label) => {
      await page.getByRole('combobox', { name: label!, exact: true }).click()
      await page.getByRole('option', { name: option!, exact: true }).click()
    },
  ],
  [/^(Overall|Pieces) reads `(.+)`$/, (page, label, text) => expect(entry(page, label!)).toHaveText(text!)],
  [/^Proof reads `(.+)`$/, (page, text) => expect(stage(page, 'Proof')).toContainText(text!)],
  [/^The smallest gap reads `(.+)`$/, (page, text) => expect(page.getByTestId('gap-here')).toHaveText(text!)],
  [/^Swing it to `(.+)`$/, (page, to) => page.getByRole('slider', { name: 'Swing' }).fill(to!.replace('°', ''))],
  [/^It says “(.+)”$/, (page, text) => expect(page.getByText(text!, { exact: false }).first()).toBeVisible()],
  [
    /^On the shelf, open the file `(.+)`$/,
    async (page, file) => {
      await page.goto('/')
      const [chooser] = await Promise.all([
        page.waitForEvent('filechooser'),
        page.getByRole('button', { name: 'Open a file' }).click(),
      ])
      await chooser.setFiles(`${root}${file}`)
    },
  ],
  [
    /^Click “Write, check and download”: `(.+)` comes down$/,
    async (page, name) => {
      const [file] = await Promise.all([
        page.waitForEvent('download'),
        page.getByRole('button', { name: 'Write, check and download' }).click(),
      ])
      expect(file.suggestedFilename()).toBe(name)
    },
  ],
]

/** "1. Type `plate 20 10 3` and press Enter. Overall reads `20 × 10 × 3 mm`." as its sentences. */
function sentencesOf(text: string): readonly string[] {
  return text.split('\n').flatMap((row) => {
    const [, step] = /^\d+\. (.*)$/.exec(row) ?? []
    // What is quoted may have full stops of its own.
    return step?.match(/(?:`[^`]*`|“[^”]*”|\*[^*]*\*|[^.`“*])+(?=\.)/g)?.map((each) => each.trim()) ?? []
  })
}

const worked = readdirSync(guide).filter((file) => file.startsWith('part-'))

test.describe('a worked part of the guide', () => {
  for (const [i, file] of worked.entries())
    test(`${file} is made by its own lines`, i === 0 ? {} : beside, async ({ page }) => {
      const sentences = sentencesOf(readFileSync(guide + file, 'utf8'))
      expect(sentences.length).toBeGreaterThan(6)
      for (const sentence of sentences)
        await test.step(sentence, async () => {
          const found = sayings.flatMap(([words, act]) => {
            const groups = words.exec(sentence)
            return groups ? [{ act, groups: groups.slice(1) as string[] }] : []
          })[0]
          expect(found, `“${sentence}” is nothing that can be done`).toBeDefined()
          await found!.act(page, ...found!.groups)
        })
      await kept(page)
    })
})
