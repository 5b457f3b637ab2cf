import { readFileSync } from 'node:fs'
import { fileURLToPath } from 'node:url'
import type { Page } from '@playwright/test'
import { beside, expect, kept, long, openPart, test } from './fixtures.ts'
import { boxStl, stlFigures } from './meshes.ts'

const housing = readFileSync(fileURLToPath(new URL('../demo/compass-housing.stl', import.meta.url)))
const file = (name: string, buffer: Buffer) => ({ name, mimeType: 'application/octet-stream', buffer })

/** Drops a file on the page, as from a folder. */
async function dropped(page: Page, { name, buffer }: { name: string; buffer: Buffer }): Promise<void> {
  const data = await page.evaluateHandle(
    ({ name: called, bytes }) => {
      const transfer = new DataTransfer()
      transfer.items.add(new File([Uint8Array.from(atob(bytes), (c) => c.charCodeAt(0))], called))
      return transfer
    },
    { name, bytes: buffer.toString('base64') },
  )
  await page.dispatchEvent('body', 'dragover', { dataTransfer: data })
  await expect(page.getByText('Drop a', { exact: false })).toBeVisible()
  await page.dispatchEvent('body', 'drop', { dataTransfer: data })
}

test('a mesh in inches is dropped on the shelf, gets a hole in its wall, and is handed off', long, async ({ page }) => {
  await page.goto('/')
  await expect(page.getByRole('listitem').first()).toBeVisible()
  // 0.6 × 0.4 × 0.2: smaller than anything that is printed, were it mm.
  await dropped(page, file('Bracket old.stl', boxStl([0.6, 0.4, 0.2])))
  const dialog = page.getByRole('dialog', { name: 'Bring in Bracket old.stl' })
  await expect(dialog.getByText('12 triangles')).toBeVisible()
  await expect(dialog.getByText('15.24 × 10.16 × 5.08 mm')).toBeVisible()
  await expect(dialog.getByText('most likely: in mm it would be only 0.6 mm long')).toBeVisible()
  await expect(dialog.getByRole('radio', { name: /inches/ })).toBeChecked()
  // All others are there with the size that they give.
  await dialog.getByRole('radio', { name: /^m\b/ }).check()
  await expect(dialog.getByText('600 × 400 × 200 mm')).toBeVisible()
  await dialog.getByRole('radio', { name: /inches/ }).check()
  await dialog.getByRole('button', { name: 'Bring it in' }).click()
  await expect(page).toHaveURL(/\/part\/\w+\/make$/)
  await expect(page.getByText('15.24 × 10.16 × 5.08 mm')).toBeVisible()
  await expect(page.getByRole('button', { name: 'Step 1, Bracket old' })).toBeVisible()
  await page.keyboard.press('/')
  await page.getByRole('combobox', { name: 'Add a step' }).fill('hole 3.3')
  await page.keyboard.press('Enter')
  await expect(page.getByText('into top of 1, Bracket old')).toBeVisible()
  await expect(page.getByText('passed').first()).toBeVisible()
  await kept(page)
  await page.reload()
  await expect(page.getByText('into top of 1, Bracket old')).toBeVisible()
  await expect(page.getByText('Bracket old.stl')).toBeVisible()
  await page.getByRole('link', { name: /Hand off/ }).click()
  await page.getByRole('combobox', { name: 'Format' }).click()
  await page.getByRole('option', { name: /STL/ }).click()
  const download = page.waitForEvent('download')
  await page.getByRole('button', { name: /Write, check and download/ }).click()
  const figures = stlFigures(readFileSync(await (await download).path()))
  expect(figures.closed).toBe(true)
  expect(figures.volume).toBeCloseTo(15.24 * 10.16 * 5.08 - Math.PI * 1.65 ** 2 * 5.08, 0)
})

test(
  'a mesh is brought into a part, refused where it is open, and put in the place of another',
  beside,
  async ({ page }) => {
    await openPart(page, 'lantern-bracket', 'make')
    const chosen = async (open: () => Promise<void>, of: ReturnType<typeof file>) => {
      const [chooser] = await Promise.all([page.waitForEvent('filechooser'), open()])
      await chooser.setFiles(of)
    }
    const fromShelf = async () => {
      await page.getByRole('button', { name: 'imported' }).click()
      await page.getByRole('button', { name: 'Add: mesh' }).click()
    }
    // Without its last triangle.
    const open = Buffer.from(housing.subarray(0, housing.length - 50))
    open.writeUInt32LE(housing.readUInt32LE(80) - 1, 80)
    await chosen(fromShelf, file('lid.stl', open))
    const dialog = page.getByRole('dialog')
    await dialog.getByRole('button', { name: 'Bring it in' }).click()
    await expect(dialog.getByRole('alert')).toContainText('“lid” is not closed: 3 edges have one side only')
    await dialog.getByRole('button', { name: 'Cancel' }).click()
    await expect(page.getByRole('button', { name: /^Step 6/ })).toHaveCount(0)

    await chosen(fromShelf, file('notes.txt', Buffer.from('hello')))
    await expect(dialog.getByRole('alert')).toContainText('not a mesh file')
    await dialog.getByRole('button', { name: 'Close' }).click()

    await page.keyboard.press('/')
    await page.getByRole('combobox', { name: 'Add a step' }).fill('stl')
    await chosen(() => page.keyboard.press('Enter'), file('housing.stl', housing))
    await page.getByRole('button', { name: 'Bring it in' }).click()
    await expect(page.getByText('120 × 96 × 62 mm')).toBeVisible()
    await chosen(
      () => page.getByRole('button', { name: 'Mesh', exact: true }).click(),
      file('Block.stl', boxStl([200, 30, 10])),
    )
    await expect(dialog.getByText('200 × 30 × 10 mm')).toBeVisible()
    await page.getByRole('button', { name: 'Bring it in' }).click()
    await expect(page.getByText('200 × 44 × 62 mm')).toBeVisible()
    await page.keyboard.press('Control+z')
    await expect(page.getByText('120 × 96 × 62 mm')).toBeVisible()
  },
)
