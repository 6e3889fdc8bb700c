import { fileURLToPath } from 'node:url'
import type { Page } from '@playwright/test'
import { expect, test } from '../helpers/test'

/** Takes the pictures of docs/screenshots, from the demo. */
const file = (name: string): string => fileURLToPath(new URL(`../../docs/screenshots/${name}.png`, import.meta.url))

test('the projects page', async ({ page, demo }) => {
  await page.goto(demo.address)
  await expect(page.locator('.drawer')).toHaveCount(1)
  for (const name of ['Ferry timetable', 'Pennant study']) {
    await page.evaluate((n) => fetch('/api/projects/lanternfall/duplicate', { method: 'POST' }).then((r) => r.json()).then((p: { id: string }) => fetch('/api/projects/' + p.id, { method: 'PATCH', headers: { 'Content-Type': 'application/json' }, body: JSON.stringify({ name: n }) })), name)
  }
  await page.reload()
  await expect(page.locator('.drawer')).toHaveCount(3)
  await page.locator('.picture img').last().evaluate((img: HTMLImageElement) => img.decode())
  await page.screenshot({ path: file('projects') })
})

test('the demo in both themes, and a cable being pulled', async ({ page, demo, studio }) => {
  await studio.open(demo.address, 'lanternfall')
  await studio.select('LANTERNFALL')
  await studio.field('scale').locator('.chip').click()
  await studio.seek(120)
  await page.screenshot({ path: file('studio-daylight') })
  await page.getByRole('button', { name: 'Switch to lamplight' }).click()
  await page.screenshot({ path: file('studio-lamplight') })
  await page.getByRole('button', { name: 'Switch to daylight' }).click()

  await studio.row('Sky').getByRole('button', { name: 'Unfold' }).click()
  await studio.select('Moon')
  const from = await studio.middle(studio.control('Beam angle').locator('.jack'))
  const to = await studio.middle(studio.field('opacity').locator('.jack'))
  await page.mouse.move(from.x, from.y)
  await page.mouse.down()
  await page.mouse.move(to.x, to.y, { steps: 6 })
  await page.screenshot({ path: file('cable') })
  await page.keyboard.press('Escape')
  await page.mouse.up()
})

async function composition(page: Page, name: string): Promise<void> {
  await page.getByRole('button', { name: 'Compositions' }).click()
  await page.locator('.n-dropdown-option').filter({ hasText: name }).click()
  await expect(page.getByRole('button', { name: `Composition name: ${name}` })).toBeVisible()
}

test('handles, a light, a flipbook, vertices, and the view from the side', async ({ page, demo, studio }) => {
  await studio.open(demo.address, 'lanternfall')
  await studio.seek(150)
  await studio.row('Lighthouse').getByRole('button', { name: 'Unfold' }).click()
  await studio.select('Lighthouse spot')
  await page.screenshot({ path: file('light') })
  await page.getByLabel('Find items by name').fill('signal flag')
  await studio.select('Signal flag')
  await page.screenshot({ path: file('flipbook') })
  await page.getByLabel('Find items by name').fill('garland line')
  await studio.select('Upper garland line')
  await page.getByRole('button', { name: 'vertices', exact: true }).click()
  await expect(page.locator('[data-vertex]')).toHaveCount(14)
  await page.screenshot({ path: file('vertices') })
  await page.keyboard.press('Escape')
  await composition(page, 'Ferry deck')
  await studio.select('Crate')
  await page.getByRole('button', { name: 'look around' }).click()
  await page.waitForFunction(() => document.querySelectorAll('[data-handle]').length > 0)
  await page.screenshot({ path: file('look-around') })
})
