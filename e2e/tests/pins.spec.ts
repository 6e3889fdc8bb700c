import { expect, test } from '../helpers/test'

test('pins are set, dragged, eased and taken away on the track', { tag: '@quick' }, async ({ page, server, studio }) => {
  await studio.newProject(server.address, 'Pins')
  await studio.add('null', 'Rig')
  await studio.addControl('Rig', 'Fader', 'Amount')
  const track = studio.track('Amount')
  const value = studio.control('Amount').locator('button.value')
  await studio.seek(0)
  await studio.control('Amount').click({ position: { x: 60, y: 4 } })
  await page.keyboard.press('k')
  // Once more, it stays, and that is said.
  await expect(track.getByRole('button')).toHaveCount(1)
  await page.keyboard.press('k')
  await expect(page.getByText('Pinned at this frame already', { exact: false })).toBeVisible()
  await expect(track.getByRole('button')).toHaveCount(1)
  const box = await track.boundingBox()
  if (!box) throw new Error('no track')
  await page.mouse.dblclick(box.x + box.width / 2, box.y + 12)
  await expect(track.getByRole('button')).toHaveCount(2)
  await track.getByRole('button').nth(1).dblclick() // takes the playhead there
  await studio.type('Amount', '80')

  // Halfway between: smooth, then linear, then hold.
  const frame = Number(/frame (\d+)/.exec((await track.getByRole('button').nth(1).getAttribute('aria-label')) ?? '')?.[1])
  expect(frame).toBeGreaterThan(120)
  await studio.seek(30)
  const u = 30 / frame
  await expect(value).toHaveAttribute('data-value', String(await studio.value(value)))
  expect(await studio.value(value)).toBeCloseTo(80 * u * u * (3 - 2 * u), 6)
  await track.getByRole('button').first().click()
  await page.getByRole('button', { name: 'Linear' }).click()
  await expect.poll(() => studio.value(value)).toBeCloseTo(80 * u, 6)
  await page.getByRole('button', { name: 'Hold' }).click()
  await expect(value).toHaveAttribute('data-value', '0')

  // Dragged to the left, the second pin comes before the playhead.
  const pin = await studio.middle(track.getByRole('button').nth(1))
  await page.mouse.move(pin.x, pin.y)
  await page.mouse.down()
  await page.mouse.move(box.x + 40, pin.y, { steps: 8 })
  await page.mouse.up()
  await expect(value).toHaveAttribute('data-value', '80')
  await page.keyboard.press('Control+z')
  await expect(value).toHaveAttribute('data-value', '0')

  await track.getByRole('button').nth(1).click()
  await page.keyboard.press('Delete')
  await expect(track.getByRole('button')).toHaveCount(1)
})

test('N goes from pin to pin, and playing stops with the space bar', { tag: '@quick' }, async ({ page, demo, studio }) => {
  await studio.open(demo.address, 'lanternfall')
  await studio.control('Tide').click({ position: { x: 60, y: 4 } })
  for (const frame of [110, 220, 299]) {
    await page.keyboard.press('n')
    await expect(studio.stage).toHaveAttribute('data-drawn', new RegExp(`^${frame}:`))
  }
  await page.keyboard.press('Shift+N')
  await expect(studio.stage).toHaveAttribute('data-drawn', /^220:/)
  await page.keyboard.press('Space')
  await expect(page.getByRole('button', { name: 'Pause' })).toBeVisible()
  await page.keyboard.press('Space')
  await expect(page.getByRole('button', { name: 'Play' })).toBeVisible()
})
