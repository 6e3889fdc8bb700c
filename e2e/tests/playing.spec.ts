import { add, projectOf } from '../helpers/api'
import { expect, test } from '../helpers/test'

const rig = add({
  id: 'rig',
  name: 'Rig',
  kind: 'null',
  controls: [{ id: 'glow', name: 'Glow', kind: 'fader', softMax: 100, default: 0 }],
  states: {
    glow: {
      pins: [
        { frame: 8, value: 11, easing: 'linear' },
        { frame: 120, value: 83, easing: 'linear' },
      ],
    },
  },
})

test('playing stays in the range that is drawn on the ruler, until it is taken away', async ({ page, server, studio }) => {
  await studio.open(server.address, await projectOf(server, 'Range', [rig]))
  const ruler = page.getByRole('slider', { name: 'Playhead' })
  const box = await ruler.boundingBox()
  if (!box) throw new Error('no ruler')
  await page.keyboard.down('Shift')
  await page.mouse.move(box.x + box.width * 0.31, box.y + 10)
  await page.mouse.down()
  await page.mouse.move(box.x + box.width * 0.35, box.y + 10, { steps: 3 })
  await page.mouse.move(box.x + box.width * 0.37, box.y + 10, { steps: 3 })
  await page.mouse.up()
  await page.keyboard.up('Shift')
  await expect(page.locator('.ruler .range')).toBeVisible()
  const at = async (): Promise<number> => Number((await studio.stage.getAttribute('data-drawn'))?.split(':')[0])
  expect(await at()).toBe(0)
  await page.keyboard.press('Space')
  const seen = new Set<number>()
  for (let k = 0; k < 60; k++) {
    seen.add(await at())
    await page.waitForTimeout(25)
  }
  await page.keyboard.press('Space')
  seen.delete(0) // before it began
  expect(Math.min(...seen)).toBeGreaterThanOrEqual(90)
  expect(Math.max(...seen)).toBeLessThanOrEqual(113)
  expect(seen.size).toBeGreaterThan(5)
  await page.keyboard.down('Shift')
  await page.mouse.click(box.x + box.width * 0.6, box.y + 10)
  await page.keyboard.up('Shift')
  await expect(page.locator('.ruler .range')).toHaveCount(0)
})

test('time runs backwards and faster, within the range, and stops where it is', async ({ page, server, studio }) => {
  await studio.open(server.address, await projectOf(server, 'To and fro', [rig]))
  const head = page.getByRole('slider', { name: 'Playhead' })
  const at = async (): Promise<number> => Number(await head.getAttribute('aria-valuenow'))
  await studio.seek(120)
  await page.keyboard.press(',')
  await expect(page.locator('.pace')).toContainText('-1×')
  await expect.poll(at).toBeLessThan(112)
  await page.keyboard.press(',')
  await expect(page.locator('.pace')).toContainText('-2×')
  await page.keyboard.press('.')
  await expect(page.locator('.pace')).not.toContainText('×')
  const turned = await at()
  await expect.poll(at).toBeGreaterThan(turned + 5)
  await page.keyboard.press('.')
  await expect(page.locator('.pace')).toContainText('2×')
  await page.keyboard.press('Space')
  const stands = await at()
  await page.waitForTimeout(300)
  expect(await at()).toBe(stands)
  // Backwards from the first frame, it goes on from the last.
  await page.keyboard.press('Home')
  await page.keyboard.press(',')
  await expect.poll(at).toBeGreaterThan(200)
  await page.keyboard.press('Space')
})

test('where the machine is too slow to show every frame, time is kept, and that is told', async ({ page, server, studio }) => {
  await studio.open(server.address, await projectOf(server, 'Slow', [rig]))
  const pace = page.locator('.pace')
  await expect(pace).toHaveText(/· 25 fps/)
  await page.evaluate(() => {
    const burn = (): void => {
      const until = performance.now() + 130
      while (performance.now() < until);
      requestAnimationFrame(burn)
    }
    burn()
  })
  await page.keyboard.press('Space')
  await expect(pace).toHaveText(/· [1-9]\/25 fps/)
  await expect(pace).toHaveAttribute('title', /dropped/)
  await page.keyboard.press('Space')
  await expect(pace).toHaveText(/· 25 fps/)
})
