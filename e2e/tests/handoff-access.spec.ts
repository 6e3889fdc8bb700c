import type { Page } from '@playwright/test'
import { faults } from '../helpers/axe'
import { expect, test } from '../helpers/test'

/** Presses Tab until something has the focus. */
async function tabTo(page: Page, selector: string): Promise<void> {
  for (let k = 0; k < 60; k++) {
    await page.keyboard.press('Tab')
    if (await page.evaluate((s) => document.activeElement?.matches(s), selector)) return
  }
  throw new Error(`Tab never reaches ${selector}`)
}

for (const light of ['daylight', 'lamplight'] as const)
  test(`${light}: axe finds nothing where something is handed off`, async ({ page, demo, studio }) => {
    test.setTimeout(180_000)
    await page.addInitScript((name) => localStorage.setItem('wunderkammer:theme', name), light)
    const found: string[] = []
    const look = async (view: string): Promise<void> => {
      const all = await faults(page, view)
      found.push(...all.filter((fault) => !fault.includes('region: .v-binder-follower-container'))) // a menu lies above all regions
    }
    await studio.open(demo.address, 'lanternfall')
    await page.getByRole('button', { name: 'Hand off', exact: true }).click()
    const dialog = page.getByRole('dialog', { name: /^Hand off / })
    await dialog.getByLabel('For whom the address is').fill('Ines')
    await dialog.getByLabel('Password of the address').fill('tide')
    await dialog.getByRole('button', { name: 'New address' }).click()
    await expect(dialog.getByRole('link', { name: /hand-off\// })).toBeVisible()
    await look('dialog')
    const address = (await dialog.getByRole('link', { name: /hand-off\// }).getAttribute('href')) ?? ''
    await dialog.getByRole('button', { name: 'More about Wind' }).first().click()
    await look('menu of a control')
    await page.keyboard.press('Escape')

    await page.goto(address)
    await page.getByLabel('Password').waitFor()
    await look('door')
    await page.getByLabel('Password').fill('tide')
    await page.keyboard.press('Enter')
    await expect(page.getByTestId('picture')).toHaveAttribute('data-drawn', /\d+:\d+/)
    await look('page')
    await page.getByRole('button', { name: 'Readings' }).click()
    await look('readings')
    await page.keyboard.press('Escape')
    await page.getByRole('button', { name: 'Compare' }).click()
    await page.getByText('As it was handed off', { exact: true }).click()
    await look('compared')
    await page.getByRole('button', { name: 'Export…' }).click()
    await look('export')
    expect(found).toEqual([])
  })

test('by keyboard alone a colleague plays, sets, pins, resets and takes back what was handed off', async ({ page, demo }) => {
  await page.goto(`${demo.address}/project/lanternfall/hand-off/main?reading=squall`)
  const picture = page.getByTestId('picture')
  await expect(picture).toHaveAttribute('data-drawn', /\d+:\d+/)
  const value = (name: string) => page.locator(`[data-control="${name}"] button.value`).first()
  await expect(value('Wind')).toHaveAttribute('data-value', '54')

  // A value is typed, held within its limits, and the focus is where it was.
  await tabTo(page, '[data-control="Wind"] button.value')
  await page.keyboard.press('Enter')
  await page.keyboard.type('-71')
  await page.keyboard.press('Enter')
  await expect(value('Wind')).toHaveAttribute('data-value', '-60')
  await expect(value('Wind')).toBeFocused()
  // A fader goes by its arrows.
  await tabTo(page, '[data-control="Gusts"] [role="slider"]')
  await page.keyboard.press('ArrowRight')
  await expect(value('Gusts')).toHaveAttribute('data-value', '89')
  // A pin is set and taken out, where there may be one.
  await tabTo(page, '[data-control="Gusts"] button[aria-label^="Pin "]')
  await page.keyboard.press('Enter')
  await expect(page.getByRole('button', { name: /^Unpin Gusts|^Remove the pin of Gusts/ })).toBeVisible()
  await expect(page.locator('[data-control="Tide"] button[aria-label^="Pin "]')).toHaveCount(0)
  // It plays.
  await tabTo(page, 'button[aria-label="Play"]')
  await page.keyboard.press('Enter')
  await expect(picture).toHaveAttribute('data-drawn', /^[1-9]\d*:/)
  await page.keyboard.press('Enter')
  // All is reset, and taken back.
  await tabTo(page, '[data-control="Tide"] button[aria-label^="Reset "]')
  await page.keyboard.press('Enter')
  await expect(value('Tide')).not.toHaveAttribute('data-value', '2.9')
  await page.keyboard.press('Control+z')
  await expect(value('Tide')).toHaveAttribute('data-value', '2.9')
  expect(await page.evaluate(() => document.activeElement !== document.body)).toBe(true)
})
