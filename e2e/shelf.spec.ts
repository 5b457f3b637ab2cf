import { readFileSync } from 'node:fs'
import { beside, expect, kept, notice, test, value } from './fixtures.ts'

test.describe('for the first time', () => {
  test.use({ pictured: false, firstVisit: true })
  test('the shelf shows the demo parts with pictures drawn from their solids, and their sizes', async ({ page }) => {
    await page.goto('/')
    // Those in view, and what is below them once it comes there.
    await expect(page.getByRole('main').getByRole('listitem')).toHaveCount(16)
    await expect(page.getByRole('img', { name: /Drawing of/ })).toHaveCount(16, { timeout: 180_000 })
    const last = page.getByRole('img', { name: 'Drawing of Anchor-chain sample' })
    await expect(last).toHaveCount(0)
    await page.getByRole('link', { name: 'Open Cam cleat' }).scrollIntoViewIfNeeded()
    await page.getByRole('link', { name: 'Open Cam cleat' }).hover()
    await page.mouse.wheel(0, 2000)
    await expect(last).toBeVisible({ timeout: 180_000 })
    await page.mouse.wheel(0, -4000)
    await expect(page.getByText('84 × 44 × 62 mm')).toBeVisible()
    await expect(page.getByText(/^6\.5 × [\d.]+ × [\d.]+ in$/)).toBeVisible()
    const shown = await page
      .getByRole('img', { name: 'Drawing of Lantern bracket' })
      .evaluate(async (image: HTMLImageElement) => {
        await image.decode()
        const canvas = Object.assign(document.createElement('canvas'), {
          width: image.naturalWidth,
          height: image.naturalHeight,
        })
        const context = canvas.getContext('2d')!
        context.drawImage(image, 0, 0)
        const { data } = context.getImageData(0, 0, canvas.width, canvas.height)
        return data.filter((_, i) => i % 4 === 3 && data[i]! > 0).length / (canvas.width * canvas.height)
      })
    expect(shown).toBeGreaterThan(0.08)
  })
})

test('parts are searched, copied, renamed, and removed with undo', beside, async ({ page, problems }) => {
  await page.goto('/')
  await page.getByRole('searchbox').fill('hinge')
  await expect(page.getByRole('main').getByRole('listitem')).toHaveCount(1)
  await page.getByRole('button', { name: 'Copy Locker hinge' }).click()
  await expect(page.getByRole('main').getByRole('listitem')).toHaveCount(2)
  const name = page.getByRole('textbox', { name: 'Name of Locker hinge copy' })
  await name.fill('Hatch hinge')
  await name.press('Enter')
  await expect(page.getByRole('link', { name: 'Open Hatch hinge' })).toBeVisible()
  await page.getByRole('button', { name: 'Remove Hatch hinge' }).click()
  await expect(page.getByRole('main').getByRole('listitem')).toHaveCount(1)
  await page.getByRole('button', { name: 'Undo' }).click()
  await expect(page.getByRole('link', { name: 'Open Hatch hinge' })).toBeVisible()
  await page.getByRole('button', { name: 'Remove Hatch hinge' }).click()
  await expect(page.getByRole('main').getByRole('listitem')).toHaveCount(1)
  // A part that is removed while its picture is drawn has none to be kept for.
  problems.splice(0, problems.length, ...problems.filter((problem) => !problem.includes('404')))
})

test('a part is saved as a file and opened from it', async ({ page }) => {
  await page.goto('/')
  const download = page.waitForEvent('download')
  await page.getByRole('button', { name: 'Save Lantern bracket as a part file' }).click()
  const file = await download
  expect(file.suggestedFilename()).toBe('Lantern-bracket.makrel.json')
  const path = await file.path()
  expect(JSON.parse(readFileSync(path, 'utf8'))).toMatchObject({
    format: 'makrel-part',
    version: 14,
    name: 'Lantern bracket',
  })
  await page
    .getByLabel('Part file', { exact: true })
    .setInputFiles({ name: 'bracket.makrel.json', mimeType: 'application/json', buffer: readFileSync(path) })
  await expect(page).toHaveURL(/\/part\/\w+\/make$/)
  await expect(page).not.toHaveURL(/lantern-bracket/)
  await expect(value(page, 1, 'Width')).toHaveValue('foot 84')
})

test('files that are none are refused with a reason, and the shelf stays', beside, async ({ page }) => {
  await page.goto('/')
  await expect(page.getByRole('link', { name: 'Open Lantern bracket' }).first()).toBeVisible()
  const before = await page.getByRole('main').getByRole('listitem').count()
  const open = (name: string, text: string) =>
    page
      .getByLabel('Part file', { exact: true })
      .setInputFiles({ name, mimeType: 'application/json', buffer: Buffer.from(text) })
  await open('broken.stl', 'solid hello')
  await expect(page.getByRole('dialog').getByRole('alert')).toContainText('This STL file')
  await page.getByRole('dialog').getByRole('button', { name: 'Close' }).click()
  await open('broken.json', 'solid hello')
  await expect(notice(page, /broken.json was not opened: This is not a part file/)).toBeVisible()
  await open('newer.json', JSON.stringify({ format: 'makrel-part', version: 900 }))
  await expect(notice(page, /newer version of Makrel/)).toBeVisible()
  await open('damaged.json', JSON.stringify({ format: 'makrel-part', version: 2, id: 'x' }))
  await expect(notice(page, /damaged at name/)).toBeVisible()
  await open('huge.json', 'x'.repeat(17_000_000))
  await expect(notice(page, /larger than a part file may be/)).toBeVisible()
  await expect(page.getByRole('main').getByRole('listitem')).toHaveCount(before)
})

test('a new part begins on Plan', beside, async ({ page }) => {
  let pictures = 0
  page.on('request', (request) => {
    if (request.method() === 'PUT' && request.url().endsWith('/picture')) pictures++
  })
  await page.goto('/')
  await page.getByRole('button', { name: 'New part', exact: true }).click()
  await expect(page).toHaveURL(/plan$/)
  const drawnThere = pictures
  await page.getByRole('textbox', { name: 'Part name' }).fill('Oar rest')
  await page.keyboard.press('Enter')
  await kept(page)
  // A shelf that was left finishes the picture it is at, and no more: there was time for some of the nine.
  await page.waitForTimeout(4000)
  expect(pictures - drawnThere).toBeLessThanOrEqual(1)
  await page.getByRole('link', { name: 'Shelf' }).click()
  // What has nothing to draw says so, once it is its turn.
  await expect(page.getByRole('link', { name: 'Open Oar rest' })).toHaveText('no solid yet')
  await expect(page.getByRole('img', { name: 'Drawing of Lantern bracket' })).toBeVisible()
})
