import { overlook, plug, port, pull, put, sheet, slip, values } from '../helpers/sheet'
import type { Studio } from '../helpers/studio'
import { expect, test } from '../helpers/test'

const shown = (studio: Studio, key: string) => studio.field(key).locator('button.value')

test('from nothing: a slider times a wave drives a box; what is between is taken out, a circle is refused, all is undone', async ({
  page,
  server,
  studio,
}) => {
  await studio.newProject(server.address, 'Swell')
  await studio.add('null', 'Rig')
  await studio.addControl('Rig', 'Fader', 'Swell', [0, 100])
  await studio.add('rectangle', 'Box')
  await studio.select('Box')
  await studio.field('rotation').locator('.name').click()
  await page.keyboard.press('4')
  await expect(page.getByText('A graph says with boxes and cables')).toBeVisible()
  await page.getByRole('button', { name: '+ Graph' }).click()
  await put(page, 'drive')
  await put(page, 'swell')
  await expect(slip(page, 'Rig: Swell')).toBeVisible()
  await overlook(page)
  await plug(page, port(page, 'Rig: Swell', 'out'), port(page, 'drive', 'in'))
  await expect(slip(page, 'drive').locator('.in .value')).toHaveText('0')
  await slip(page, 'drive').getByRole('button', { name: 'Drive the selection' }).click()
  await expect(slip(page, 'drive')).toContainText('Box: rotation')

  // A cable let go over empty ground finds what comes next, arithmetic among it.
  const box = await sheet(page).boundingBox()
  if (!box) throw new Error('there is no sheet')
  await pull(page, port(page, 'Rig: Swell', 'out'), { x: box.x + box.width - 260, y: box.y + 30 })
  await page.keyboard.type('* 0.5')
  await page.keyboard.press('Enter')
  await expect(slip(page, 'times')).toBeVisible()
  await overlook(page)
  await plug(page, port(page, 'times', 'out'), port(page, 'drive', 'in'))
  await page.keyboard.press('1')
  await page.keyboard.press('Tab') // what is reached by keyboard has its keys
  await studio.control('Swell').getByRole('slider').focus()
  await page.keyboard.press('End')
  await expect(shown(studio, 'rotation')).toHaveAttribute('data-value', '50')

  // The field of an input is changed; a wire to what it comes from is refused with a sentence.
  await page.keyboard.press('4')
  await slip(page, 'times').getByLabel('b of times').fill('0.25')
  await page.keyboard.press('Tab')
  await expect(shown(studio, 'rotation')).toHaveAttribute('data-value', '25')
  await plug(page, port(page, 'times', 'out'), port(page, 'times', 'in'))
  await expect(page.getByText(/would create a loop/)).toBeVisible()

  // Taken out, what came to it goes on to where it led.
  await slip(page, 'times').locator('h3').click()
  await sheet(page).focus()
  await page.keyboard.press('Delete')
  await expect(slip(page, 'times')).toHaveCount(0)
  await expect(shown(studio, 'rotation')).toHaveAttribute('data-value', '100')
  await page.keyboard.press('Control+z')
  await expect(shown(studio, 'rotation')).toHaveAttribute('data-value', '25')
  await studio.saved()
  await page.reload()
  await studio.drawn()
  await studio.select('Box')
  await expect(shown(studio, 'rotation')).toHaveAttribute('data-value', '25')
})

test('a formula of the demo is opened as a graph, changed, written back as a formula: to the bit what it was, but for the change', async ({
  page,
  demo,
  studio,
}) => {
  await studio.open(demo.address, 'lanternfall')
  const frames = [0, 40, 41.5, 200]
  const before = await values(page, 'rotation', frames)
  await studio.row('Upper garland').getByRole('button', { name: 'Expand' }).click()
  await studio.select('Lantern 3')
  await studio.field('rotation').locator('.chip').click()
  await page.getByRole('button', { name: 'Actions for sway of the upper' }).click()
  await page.getByText('Open as a graph').click()
  await expect(sheet(page)).toBeVisible()
  await expect(page.locator('[data-slip]').first()).toBeVisible()
  await expect(page.getByLabel('Member shown')).toBeVisible()
  expect(await values(page, 'rotation', frames)).toBe(before)

  // Every slip says what it gives, of the member that is looked at, at every frame.
  await expect(page.locator('.slip .wrong')).toHaveCount(0)
  await page.keyboard.press('1')
  await studio.seek(40)
  await page.keyboard.press('4')
  const drives = slip(page, 'drive').locator('.in .value')
  const middle = await drives.textContent()
  await page.getByLabel('Member shown').fill('1')
  await page.keyboard.press('Tab')
  await expect(drives).not.toHaveText(middle ?? '')

  const field = page.locator('[data-slip] input').first()
  const was = await field.inputValue()
  await field.fill('7')
  await page.keyboard.press('Tab')
  await expect.poll(() => values(page, 'rotation', frames)).not.toBe(before)
  await field.fill(was)
  await page.keyboard.press('Tab')
  await page.getByRole('button', { name: 'Write as formula', exact: true }).click()
  await expect.poll(() => values(page, 'rotation', frames)).toBe(before)
  await expect(page.getByRole('button', { name: 'Open the graph' })).toHaveCount(0)
})

test('by keyboard: along the wires, into a field, a cable by typing, and away', async ({ page, server, studio }) => {
  await studio.newProject(server.address, 'Keys')
  await studio.add('rectangle', 'Box')
  await page.keyboard.press('4')
  await page.getByRole('button', { name: 'something that sways' }).click()
  await expect(slip(page, 'sway')).toHaveAttribute('aria-label', /sway, input cycles from times/)
  await slip(page, 'sway').locator('h3').click()
  await page.keyboard.press('ArrowRight') // time keys move time, until the sheet is reached by keyboard
  await expect(page.getByTestId('stage')).toHaveAttribute('data-drawn', /^1:/)
  await page.keyboard.press('Tab')
  await sheet(page).focus()
  await page.keyboard.press('ArrowRight')
  await expect(page.locator('.slip.selected')).toHaveAttribute('data-slip', 'times')
  await page.keyboard.press('Enter')
  await page.keyboard.press('Control+a')
  await page.keyboard.type('30')
  await page.keyboard.press('Tab')
  await sheet(page).focus()
  await page.keyboard.press('l')
  await page.keyboard.type('abs')
  await page.keyboard.press('Enter')
  await expect(slip(page, 'abs')).toHaveAttribute('aria-label', /abs, input x from times/)
  await page.keyboard.press('Delete')
  await expect(slip(page, 'abs')).toHaveCount(0)
  await page.getByRole('button', { name: 'Actions for the graph' }).click()
  await page.getByText('Delete with its links').click()
  await expect(page.getByText('A graph says with boxes and cables')).toBeVisible()
})

test('a cable is held over a port at the rim of the sheet: it stands still until it is let go there', async ({ page, server, studio }) => {
  await studio.newProject(server.address, 'Rim')
  await page.keyboard.press('4')
  await page.getByRole('button', { name: '+ Graph' }).click()
  await page.keyboard.press('g')
  await put(page, 'abs')
  await put(page, 'sin')
  const rim = (await sheet(page).boundingBox())!
  const inlet = (await port(page, 'abs', 'in').boundingBox())!
  const ground = { x: rim.x + rim.width * 0.7, y: rim.y + 40 }
  await page.mouse.move(ground.x, ground.y)
  await page.mouse.down()
  await page.mouse.move(ground.x + rim.x + 7 - inlet.x, ground.y, { steps: 5 })
  await page.mouse.up()
  const from = (await port(page, 'sin', 'out').boundingBox())!
  const to = (await port(page, 'abs', 'in').boundingBox())!
  expect(to.x - rim.x).toBeLessThan(40)
  await page.mouse.move(from.x + from.width / 2, from.y + from.height / 2)
  await page.mouse.down()
  await page.mouse.move(to.x + to.width / 2 + 3, to.y + to.height / 2)
  await page.mouse.move(to.x + to.width / 2, to.y + to.height / 2)
  await page.waitForTimeout(700)
  expect(await port(page, 'abs', 'in').boundingBox()).toEqual(to)
  await page.mouse.up()
  await expect(slip(page, 'abs')).toHaveAttribute('aria-label', /abs, input x from sin/)
})
