import { add, drawn, entry, expect, line, long, newPart, put, test, value, volume } from './fixtures.ts'

test(
  'a thread is cut into a picked round: its size is proposed, one that does not fit is told with what would do',
  long,
  async ({ page }) => {
    await newPart(page, 'Spigot')
    await add(page, 'bar 20 30.7')
    await drawn(page)
    const whole = await volume(page)
    await add(page, 'cut thread')
    await expect(line(page, 2)).toContainText('groove of a standard M20 metric thread')
    await expect(line(page, 2)).toContainText('side of 1, round bar')
    await expect(entry(page, 'Overall')).toHaveText('20 × 20 × 30.7 mm')
    // Of 12 mm of the bar M20 takes about a sixth. A thread has flats of its own, so its volume is told as about so much.
    const left = async () => Number(/[\d.]+/.exec((await entry(page, 'Volume').textContent()) ?? '')?.[0])
    await expect.poll(left).toBeLessThan(0.97 * whole)
    // The bar gets thinner: no M20 goes on it.
    await put(value(page, 1, 'Diameter'), '15.9')
    await expect(line(page, 2).getByRole('alert')).toContainText('this one is ⌀ 15.9')
    await line(page, 2).getByRole('button', { name: 'use the M16 metric thread' }).click()
    await expect(line(page, 2)).toContainText('M16 metric thread')
    await expect(line(page, 2).getByRole('alert')).toHaveCount(0)
  },
)
