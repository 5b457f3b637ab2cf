import { readFileSync } from 'node:fs'
import { formatOf } from '@makrel/core/exchange'
import { meshFigures } from '@makrel/core/mesh'
import { beside, expect, kept, openPart, put, test } from './fixtures.ts'

test(
  'a pose is kept and printed: proof, layers and the file show it, and a picture is saved',
  beside,
  async ({ page }) => {
    await openPart(page, 'locker-hinge', 'move')
    const swing = page.getByRole('slider', { name: 'Swing' })
    await swing.fill('90')
    await page.getByRole('textbox', { name: 'Name of the pose' }).fill('Upright')
    await page.getByRole('button', { name: 'Keep this pose' }).click()
    const poses = page.getByRole('region', { name: 'Poses' })
    await expect(poses.getByRole('button', { name: 'Upright', exact: true })).toHaveAttribute('aria-pressed', 'true')

    // Others are gone back to by their names.
    await poses.getByRole('button', { name: 'As drawn', exact: true }).click()
    await expect(swing).toHaveAttribute('aria-valuetext', '0°')
    await poses.getByRole('button', { name: 'Upright', exact: true }).click()
    await expect(swing).toHaveAttribute('aria-valuetext', '90°')

    const picture = page.waitForEvent('download')
    await poses.getByRole('button', { name: 'Save a picture (PNG)' }).click()
    const png = await picture
    expect(png.suggestedFilename()).toBe('Locker-hinge-Upright.png')
    expect(
      readFileSync(await png.path())
        .subarray(1, 4)
        .toString(),
    ).toBe('PNG')

    await poses.getByRole('button', { name: 'Print it in Upright' }).click()
    await expect(poses.getByText('printed so')).toBeVisible()
    await kept(page)
    const stages = page.getByRole('navigation', { name: 'Stages' })
    await stages.getByRole('link', { name: /^Proof/ }).click()
    await expect(page.getByText('As it is printed, in the pose Upright.')).toBeVisible()
    // 9 mm of the knuckle lie flat; the leaf stands up.
    await expect(page.getByText(/^The part, [\d.]+ × 50 × 3\d(\.\d+)? mm, fits/)).toBeVisible()
    await stages.getByRole('link', { name: /^Layers/ }).click()
    await expect(page.getByText(/^1 of 1\d\d$/)).toBeVisible()
    await stages.getByRole('link', { name: /^Hand off/ }).click()
    await expect(page.getByRole('combobox', { name: 'Pose' })).toHaveText('Upright, as printed')
    const file = page.waitForEvent('download')
    await page.getByRole('button', { name: 'Write, check and download' }).click()
    const written = await file
    const meshes = formatOf('3mf')!.read(new Uint8Array(readFileSync(await written.path())))
    const boxes = meshes.map(({ mesh }) => meshFigures(mesh))
    expect(Math.max(...boxes.map(({ max }) => max[2]))).toBeGreaterThan(30)
    await expect(page.getByRole('region', { name: 'Receipt' }).getByText('Upright', { exact: true })).toBeVisible()
  },
)

test('pieces that are drawn together are spread on the bed, turned, and kept so', beside, async ({ page }) => {
  await openPart(page, 'bench-vice-linkage', 'move')
  await page.getByRole('button', { name: 'Keep this pose' }).click()
  const poses = page.getByRole('region', { name: 'Poses' })
  await poses.getByRole('button', { name: 'Spread the pieces on the bed' }).click()
  const pieces = poses.getByRole('listitem').filter({ hasText: 'lies on' })
  await expect(pieces).toHaveCount(4)
  const turned = pieces.first().getByRole('textbox', { name: 'Turned, °' })
  await put(turned, '37.3')
  await turned.press('Enter')
  await expect(turned).toHaveValue('37.3')
  await put(turned, 'askew')
  await expect(turned).toHaveAttribute('aria-invalid', 'true')
  await turned.press('Escape')
  await expect(turned).toHaveValue('37.3')
  // Once it is swung, it is not how the pose has it.
  await page.getByRole('slider', { name: 'Swing' }).fill('4')
  await expect(pieces).toHaveCount(0)
  await poses.getByRole('button', { name: 'Pose 1', exact: true }).click()
  await expect(pieces).toHaveCount(4)
  await poses.getByRole('button', { name: 'Print it in Pose 1' }).click()
  await kept(page)
  await page.reload()
  await expect(poses.getByText('printed so')).toBeVisible()
  await poses.getByRole('button', { name: 'Drop Pose 1' }).click()
  await expect(poses.getByRole('button', { name: 'As drawn', exact: true })).toHaveAttribute('aria-pressed', 'true')
  await page.keyboard.press('Control+z')
  await expect(poses.getByRole('button', { name: 'Pose 1', exact: true })).toBeVisible()
})
