import type { Page } from '@playwright/test'
import { add, projectOf } from '../helpers/api'
import type { Studio } from '../helpers/studio'
import { expect, test } from '../helpers/test'

const pinned = (pins: [frame: number, value: number[]][]) => ({ pins: pins.map(([frame, value]) => ({ frame, value, easing: 'linear' })) })
const buoy = add({
  id: 'buoy',
  name: 'Buoy',
  kind: 'ellipse',
  states: {
    size: { own: [40, 40] },
    position: pinned([
      [10, [-400, -170, 0]],
      [60, [-110, 140, 0]],
      [130, [190, -60, 0]],
    ]),
  },
})
const rig = add({
  id: 'rig',
  name: 'Rig',
  kind: 'null',
  controls: [{ id: 'kite', name: 'Kite', kind: 'point', default: [0, 0] }],
  states: {
    kite: pinned([
      [10, [-300, 100]],
      [90, [250, 130]],
    ]),
  },
})

const knot = (page: Page, name: string) => page.getByRole('button', { name, exact: true }).and(page.locator('.knot'))
const where = async (page: Page, name: string): Promise<[number, number]> => {
  const box = await knot(page, name).boundingBox()
  if (!box) throw new Error('no ' + name)
  return [box.x + box.width / 2, box.y + box.height / 2]
}
const place = async (studio: Studio): Promise<number[]> =>
  Promise.all([0, 1].map((k) => studio.value(studio.field('position').locator('button.value').nth(k))))

test('a path is curved, shaped by its handles by hand and by keys, and the item goes along it', async ({ page, server, studio }) => {
  await studio.open(server.address, await projectOf(server, 'Path', [buoy]))
  await studio.select('Buoy')
  await studio.seek(35)
  await expect.poll(() => place(studio)).toEqual([-255, -15]) // half way, straight
  await expect(page.locator('.knot')).toHaveCount(3)
  await knot(page, 'Pin of Buoy: position at frame 60').click()
  await page.getByRole('group', { name: 'Picked pins' }).getByText('⋯').click()
  await page.locator('.n-dropdown-option').filter({ hasText: 'Curve the path in space' }).click()
  await expect(page.locator('.knot')).toHaveCount(7)
  await expect.poll(async () => Math.hypot(...(await place(studio)).map((x, k) => x - [-255, -15][k]!))).toBeGreaterThan(10)
  const bent = await place(studio)

  const leaving = 'Handle leaving Buoy: position at frame 60'
  const arriving = 'Handle arriving at Buoy: position at frame 60'
  const [x, y] = await where(page, arriving)
  const across = await where(page, leaving)
  const pull = async (dx: number, dy: number): Promise<void> => {
    const [fx, fy] = await where(page, arriving)
    await page.mouse.move(fx, fy)
    await page.mouse.down()
    await page.mouse.move(fx + dx, fy + dy, { steps: 5 })
  }
  // Given up, it is as it was.
  await pull(-13, -44)
  await expect.poll(async () => (await where(page, arriving))[1]).toBeLessThan(y - 30)
  await page.keyboard.press('Escape')
  await page.mouse.up()
  await expect.poll(() => place(studio)).toEqual(bent)
  // Pulled, the other one turns along; with Alt it stays.
  await pull(-13, -44)
  await page.mouse.up()
  await expect.poll(async () => (await where(page, arriving)).map(Math.round)).toEqual([Math.round(x - 13), Math.round(y - 44)])
  const turned = await where(page, leaving)
  expect(Math.hypot(turned[0] - across[0], turned[1] - across[1])).toBeGreaterThan(10)
  await page.keyboard.down('Alt')
  await pull(21, 30)
  await page.mouse.up()
  await page.keyboard.up('Alt')
  await expect.poll(async () => (await where(page, arriving)).map(Math.round)).toEqual([Math.round(x + 8), Math.round(y - 14)])
  expect((await where(page, leaving)).map(Math.round)).toEqual(turned.map(Math.round))
  expect(await place(studio)).not.toEqual(bent)
  // By keys, quickly; Del takes the handle away, and what has the keys then is its pin.
  const before = await where(page, arriving)
  await knot(page, arriving).focus()
  await page.keyboard.press('Tab')
  await page.keyboard.press('Shift+Tab')
  for (let k = 0; k < 3; k++) await page.keyboard.press('Shift+ArrowLeft')
  await page.keyboard.press('ArrowUp')
  const scale = 0.53 // of the picture, at this size of the window
  await expect.poll(async () => Math.abs((await where(page, arriving))[0] - (before[0] - 30 * scale))).toBeLessThan(1.5)
  await expect(knot(page, arriving)).toBeFocused()
  await page.keyboard.press('Delete')
  await expect(page.locator('.knot')).toHaveCount(6)
  await expect(knot(page, 'Pin of Buoy: position at frame 60')).toBeFocused()
  await page.keyboard.press('Shift+ArrowDown')
  await studio.seek(60)
  await expect.poll(() => place(studio)).toEqual([-110, 130])
  // The pin goes, the path stays; then all of it is taken back, step by step.
  await knot(page, 'Pin of Buoy: position at frame 60').focus()
  await page.keyboard.press('Delete')
  await expect(page.locator('.knot[aria-label^="Pin of"]')).toHaveCount(2)
  for (let k = 0; k < 10; k++) await page.keyboard.press('Control+z')
  await studio.seek(35)
  await expect.poll(() => place(studio)).toEqual([-255, -15])
  await studio.select('Buoy')
  await expect(page.locator('.knot')).toHaveCount(3)
})

test('a point of the Desk has its path in the viewport, too', async ({ page, server, studio }) => {
  await studio.open(server.address, await projectOf(server, 'Kite', [rig]))
  await studio.control('Kite').getByText('Kite').click()
  await expect(page.locator('.knot')).toHaveCount(2)
  await studio.seek(50)
  const [x, y] = await where(page, 'Pin of Rig: Kite at frame 10')
  await page.keyboard.down('Alt') // pulls the handles out
  await page.mouse.move(x, y)
  await page.mouse.down()
  await page.mouse.move(x + 31, y - 62, { steps: 5 })
  await page.mouse.up()
  await page.keyboard.up('Alt')
  await expect(page.locator('.knot')).toHaveCount(4)
  await expect
    .poll(async () => (await where(page, 'Handle leaving Rig: Kite at frame 10')).map(Math.round))
    .toEqual([Math.round(x + 31), Math.round(y - 62)])
  const up = studio.control('Kite').locator('button.value').nth(1)
  await expect.poll(() => studio.value(up)).toBeGreaterThan(130)
})

test('what a link drives has no path to be shaped, and has it again when the link is gone', async ({ page, server, studio }) => {
  await studio.open(server.address, await projectOf(server, 'Driven', [rig, buoy]))
  await studio.select('Buoy')
  const knots = page.locator('.knot[aria-label*=Buoy]')
  await expect(knots).toHaveCount(3)
  await studio.cable('Kite', 'position')
  await expect(studio.field('position').getByText('Rig: Kite')).toBeVisible()
  await expect(knots).toHaveCount(0)
  await page.keyboard.press('Control+z')
  await expect(knots).toHaveCount(3)
})
