import { add, projectOf } from '../helpers/api'
import { option } from '../helpers/hand'
import { put, sheet, slip } from '../helpers/sheet'
import { expect, test } from '../helpers/test'

test('Esc takes back all that was dragged, what was not answered yet too', async ({ page, server, studio }) => {
  const many = Array.from({ length: 1200 }, (_, k) =>
    add({
      id: `i${k}`,
      name: `I ${k}`,
      kind: 'ellipse',
      states: { rotation: { links: [{ id: `l${k}`, kind: 'formula', gain: 1, formula: `noise({@panel:@lean} * 0.37, ${k}) * 90` }] } },
    }),
  )
  const panel = {
    id: 'panel',
    name: 'Panel',
    kind: 'null',
    controls: [{ id: 'lean', name: 'Lean', kind: 'fader', softMin: 0, softMax: 100, default: 23 }],
  }
  await studio.open(server.address, await projectOf(server, 'Many', [add(panel), ...many]))
  const fader = studio.control('Lean').getByRole('slider')
  const box = await fader.boundingBox()
  if (!box) throw new Error('there is no fader')
  const y = box.y + box.height / 2
  for (let round = 0; round < 4; round++) {
    await page.mouse.move(box.x + box.width * 0.23, y)
    await page.mouse.down()
    await page.mouse.move(box.x + box.width * 0.5, y, { steps: 3 })
    // A hand faster than the answers: the last moves, and Esc, come all at once.
    await page.evaluate(
      ({ x, y, width }) => {
        for (let k = 0; k < 6; k++)
          window.dispatchEvent(new PointerEvent('pointermove', { clientX: x + width * (0.6 + k * 0.05), clientY: y }))
        window.dispatchEvent(new KeyboardEvent('keydown', { key: 'Escape', bubbles: true }))
      },
      { x: box.x, y, width: box.width },
    )
    await page.mouse.up()
    await page.waitForTimeout(400)
    await expect(fader).toHaveAttribute('aria-valuenow', '23')
  }
})

test('a shorter composition takes the playhead along to its last frame', async ({ page, server, studio }) => {
  await studio.open(server.address, await projectOf(server, 'Short', [add({ id: 'a', name: 'A', kind: 'star' })]))
  await studio.seek(143)
  await page.getByRole('button', { name: 'Compositions' }).click()
  await option(page, 'Composition settings…').click()
  const form = page.getByRole('dialog')
  await form.getByLabel('Duration in seconds').fill('4.72') // 118 frames
  await page.keyboard.press('Tab')
  await form.getByRole('button', { name: 'Apply' }).click()
  await expect(page.getByRole('slider', { name: 'Playhead' })).toHaveAttribute('aria-valuenow', '117')
  await expect(studio.stage).toHaveAttribute('data-drawn', /^117:/)
})

test('slips that are pasted into another composition read what has the same name there', async ({ page, server, studio }) => {
  await studio.newProject(server.address, 'Two')
  const crate = async (rotation: string): Promise<void> => {
    await page.keyboard.press('a')
    await page.keyboard.type('rectangle Crate')
    await page.keyboard.press('Enter')
    await studio.field('rotation').locator('button.value').first().click()
    await page.keyboard.type(rotation)
    await page.keyboard.press('Enter')
    await expect(studio.field('rotation').locator('button.value').first()).toHaveAttribute('data-value', rotation)
  }
  await crate('13')
  await page.getByRole('tab', { name: 'Graph' }).click()
  await page.getByRole('button', { name: '+ Graph' }).click()
  await sheet(page).click({ position: { x: 300, y: 160 } })
  await put(page, 'Crate: rotation')
  await put(page, '*')
  const field = page.locator('[data-slip].apply').getByRole('textbox').last()
  await page.locator('[data-slip].apply').getByRole('textbox').first().fill('2')
  await field.fill('{Crate: rotation}')
  await field.press('Enter')
  await expect(field).toHaveValue('{Crate: rotation}')
  await sheet(page).focus()
  await page.keyboard.press('Control+a')
  await page.keyboard.press('Control+c')
  await page.getByRole('button', { name: 'Compositions' }).click()
  await option(page, 'New composition').click()
  await expect(page.getByRole('treeitem')).toHaveCount(0)
  await crate('71')
  await page.getByRole('tab', { name: 'Graph' }).click()
  await page.getByRole('button', { name: '+ Graph' }).click()
  await sheet(page).click({ position: { x: 300, y: 160 } })
  await page.keyboard.press('Control+v')
  await expect(slip(page, 'Crate: rotation')).toContainText('71')
  await expect(page.locator('[data-slip].apply').getByRole('textbox').last()).toHaveValue('{Crate: rotation}')
  await expect(page.locator('[data-slip].fault')).toHaveCount(0)
})
