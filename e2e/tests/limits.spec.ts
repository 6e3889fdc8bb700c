import { option } from '../helpers/hand'
import { expect, test } from '../helpers/test'

test('one component is locked and limited by itself; what is locked stays under the hand', async ({ page, server, studio }) => {
  await studio.newProject(server.address, 'Limits')
  await page.keyboard.press('a')
  await page.keyboard.type('rectangle Box')
  await page.keyboard.press('Enter')
  const value = (k: number) => studio.field('position').locator('button.value').nth(k)
  const actions = (name: string) => page.getByRole('button', { name: `Actions for ${name}`, exact: true })
  await value(0).click()
  await page.keyboard.type('73')
  await page.keyboard.press('Enter')
  await expect(value(0)).toHaveAttribute('data-value', '73')
  await page.getByRole('button', { name: 'Components of position' }).click()
  await actions('position.x').click()
  await option(page, 'Lock at this value').click()
  await expect(page.getByLabel('X locked at 73')).toBeVisible()
  // Dragged aside and up, it goes up alone.
  const box = await studio.stage.boundingBox()
  if (!box) throw new Error('there is no stage')
  const at = { x: box.x + box.width / 2 + 35, y: box.y + box.height / 2 }
  await page.mouse.move(at.x, at.y)
  await page.mouse.down()
  await page.mouse.move(at.x + 60, at.y - 50, { steps: 6 })
  await page.mouse.up()
  await expect(value(0)).toHaveAttribute('data-value', '73')
  await expect.poll(() => studio.value(value(1))).toBeGreaterThan(40)
  await studio.saved()
  await actions('position.x').click()
  await option(page, 'Unlock').click()
  await expect(page.getByLabel('X locked at 73')).toHaveCount(0)
  await expect(value(0)).toHaveAttribute('data-value', '73')
  // Limits of y alone, by its own dialog.
  await actions('position.y').click()
  await option(page, 'Limits…').click()
  const dialog = page.getByRole('dialog')
  await expect(dialog).toContainText('Limits of Box: position.y')
  await dialog.getByLabel('At most').fill('17')
  await dialog.getByRole('button', { name: 'Apply' }).click()
  await expect(value(1)).toHaveAttribute('data-value', '17')
  // The whole point locked, and unlocked.
  await actions('position').click()
  await option(page, 'Unlock').click()
  await expect.poll(() => studio.value(value(1))).toBeGreaterThan(40)
  await actions('position').click()
  await option(page, 'Lock at this value').click()
  await expect(page.getByLabel(/^X locked at 73, y locked at/)).toBeVisible()
})

test('a picture that holds many frames is cut into a flipbook, by its card', async ({ page, server, studio }) => {
  await studio.newProject(server.address, 'Sheet')
  const png = await page.evaluate(() => {
    const canvas = document.createElement('canvas')
    canvas.width = 90
    canvas.height = 40
    const pen = canvas.getContext('2d')
    if (pen)
      for (let k = 0; k < 6; k++) ((pen.fillStyle = `hsl(${k * 60} 60% 50%)`), pen.fillRect((k % 3) * 30, Math.floor(k / 3) * 20, 30, 20))
    return canvas.toDataURL('image/png').split(',')[1] ?? ''
  })
  await studio.bring({ name: 'Bird.png', mimeType: 'image/png', buffer: Buffer.from(png, 'base64') })
  await expect(studio.row('Bird')).toHaveCount(1)
  await page.getByRole('button', { name: 'Cut…' }).click()
  const dialog = page.getByRole('dialog', { name: 'Cut Bird into frames' })
  await dialog.getByRole('button', { name: 'Cut', exact: true }).click()
  await expect(studio.field('frame')).toBeVisible()
  await expect(page.getByText('Bird is a flipbook of 6 frames now', { exact: false })).toBeVisible()
  await expect(studio.field('size').locator('button.value').first()).toHaveAttribute('data-value', '30')
  // A tint is seen as soon as it is given.
  await studio.field('tint').locator('.swatch').click()
  await page.locator('.n-color-picker-panel input').last().fill('#2f7a3c')
  await page.keyboard.press('Enter')
  await expect(studio.field('tintStrength').locator('button.value')).toHaveAttribute('data-value', '100')
})
