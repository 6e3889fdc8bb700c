import { plug, port, put, sheet, slip } from '../helpers/sheet'
import type { Studio } from '../helpers/studio'
import { expect, test } from '../helpers/test'

const rotation = (studio: Studio) => studio.field('rotation').locator('button.value')

test('one slider drives parts through maps of their own, whose ends are marked; its range changes, and the maps are stretched', async ({
  page,
  server,
  studio,
}) => {
  await studio.newProject(server.address, 'Hatches')
  await studio.add('null', 'Rig')
  await studio.addControl('Rig', 'Slider', 'Open', [0, 100])
  const parts = ['Hatch', 'Lid', 'Ramp', 'Bolt']
  for (const name of parts) await studio.add('rectangle', name)
  await page.keyboard.press('4')
  await page.getByRole('button', { name: '+ graph' }).click()
  await page.keyboard.press('g')
  await put(page, 'open')
  await put(page, 'map')
  await put(page, 'drive')
  await page.keyboard.press('f')
  await page.waitForTimeout(300)
  await plug(page, port(page, 'Rig: Open', 'out'), port(page, 'map', 'in'))
  await plug(page, port(page, 'map', 'out'), port(page, 'drive', 'in'))
  await expect(page.locator('.vue-flow__edge')).toHaveCount(2)
  // The map and its drive slip once more for each part, wired as they are.
  for (let n = 1; n < parts.length; n++) {
    if (n === 1) {
      await slip(page, 'map').locator('h3').click()
      await slip(page, 'drive')
        .locator('h3')
        .click({ modifiers: ['Control'] })
    }
    await sheet(page).focus()
    await page.keyboard.press('Control+d')
    await expect(page.locator('.vue-flow__edge')).toHaveCount(2 + 2 * n)
  }
  await page.keyboard.press('f')
  await page.waitForTimeout(300)
  for (const [n, name] of parts.entries()) {
    await studio.select(name)
    await studio.field('rotation').locator('.name').click()
    await slip(page, 'drive').nth(n).getByRole('button', { name: 'drive what is selected on the Card' }).click()
    await expect(slip(page, 'drive').nth(n)).toContainText(name + ': rotation')
  }

  // Their ends are marked where the parts are turned to.
  const open = async (x: string): Promise<void> => {
    await page.keyboard.press('1')
    await studio.type('Open', x)
    await page.keyboard.press('4')
  }
  await open('100')
  for (const [n, name] of parts.slice(0, 3).entries()) {
    await studio.select(name)
    await rotation(studio).click()
    await page.keyboard.type(String(30 * (n + 1)))
    await page.keyboard.press('Enter')
    await slip(page, 'map').nth(n).getByRole('button', { name: 'Mark high' }).click()
  }
  await open('45')
  await studio.select('Bolt')
  await rotation(studio).click()
  await page.keyboard.type('-80')
  await page.keyboard.press('Enter')
  await studio.field('rotation').locator('.chip').click()
  await page.getByRole('button', { name: 'Mark high' }).last().click() // on the Card
  const turned = async (name: string): Promise<number> => {
    await studio.select(name)
    return studio.value(rotation(studio))
  }
  await open('50')
  for (const [name, want] of [
    ['Hatch', 15],
    ['Lid', 30],
    ['Ramp', 45],
    ['Bolt', -80],
  ] as const)
    expect(await turned(name)).toBeCloseTo(want, 6)

  // The slider runs from 0 to 1 from now on: what has to be mended is said, and done with a press.
  await page.keyboard.press('1')
  await studio.control('Open').hover()
  await page.getByRole('button', { name: 'More about Open' }).click()
  await page.getByText('Range, unit, note').click()
  const form = page.getByRole('dialog')
  await form.getByLabel('Unit').click()
  await page.locator('.n-base-select-option').filter({ hasText: 'no unit' }).click()
  await form.getByLabel('Range to').fill('1')
  await form.getByRole('button', { name: 'Change', exact: true }).click()
  await expect(page.getByTestId('checks')).toHaveText('4 checks')
  await page.getByTestId('checks').click()
  for (let left = 4; left > 0; left--) {
    await expect(page.getByText(/has stops from 0 to (100|45), and Rig: Open runs from 0 to 1/)).toHaveCount(left)
    await page.getByRole('button', { name: 'stretch its stops over 0 to 1' }).first().click()
  }
  await expect(page.getByText('Nothing is wrong.')).toBeVisible()
  await page.keyboard.press('Escape')
  await studio.type('Open', '0.5')
  expect(await turned('Ramp')).toBeCloseTo(45, 6)
})
