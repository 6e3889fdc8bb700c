import { fileURLToPath } from 'node:url'
import type { Page } from '@playwright/test'
import { expect, test } from '../helpers/test'

/** Takes the pictures of docs/screenshots, from the demo. */
const file = (name: string): string => fileURLToPath(new URL(`../../docs/screenshots/${name}.png`, import.meta.url))

// With smooth edges, as a graphics card draws them.
test.beforeEach(({ page }) => page.addInitScript(() => localStorage.setItem('wunderkammer:smooth', 'on')))

test('the projects page', async ({ page, demo }) => {
  await page.goto(demo.address)
  await expect(page.locator('.drawer')).toHaveCount(1)
  for (const name of ['Ferry timetable', 'Pennant study']) {
    await page.evaluate(
      (n) =>
        fetch('/api/projects/lanternfall/duplicate', { method: 'POST' })
          .then((r) => r.json())
          .then((p: { id: string }) =>
            fetch('/api/projects/' + p.id, {
              method: 'PATCH',
              headers: { 'Content-Type': 'application/json' },
              body: JSON.stringify({ name: n }),
            }),
          ),
      name,
    )
  }
  await page.reload()
  await expect(page.locator('.drawer')).toHaveCount(3)
  await page
    .locator('.picture img')
    .last()
    .evaluate((img: HTMLImageElement) => img.decode())
  await page.screenshot({ path: file('projects') })
})

test('the demo in both themes, and a cable being pulled', async ({ page, demo, studio }) => {
  await studio.open(demo.address, 'lanternfall')
  await studio.row('Upper garland').getByRole('button', { name: 'Expand' }).click()
  await studio.select('Lantern 9')
  await studio.seek(120)
  await page.screenshot({ path: file('studio-daylight') })
  await page.getByRole('button', { name: 'Switch to lamplight' }).click()
  await take(page, 'studio-lamplight')
  await page.getByRole('button', { name: 'Switch to daylight' }).click()

  await studio.seek(190) // where the looks are mixed
  await page.keyboard.press('d')
  await take(page, 'desk-focus')
  await page.keyboard.press('d')

  await studio.row('Sky').getByRole('button', { name: 'Expand' }).click()
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

/** Takes a picture as soon as menus and messages have faded in or away. */
async function take(page: Page, name: string): Promise<void> {
  await page.waitForTimeout(450)
  await page.screenshot({ path: file(name) })
}

async function composition(page: Page, name: string): Promise<void> {
  await page.getByRole('button', { name: 'Compositions' }).click()
  await page.locator('.n-dropdown-option').filter({ hasText: name }).click()
  await expect(page.getByRole('button', { name: `Composition name: ${name}` })).toBeVisible()
}

test('wiring: the Ledger, checks, curves', async ({ page, demo, studio }) => {
  await studio.open(demo.address, 'lanternfall')
  await studio.seek(120)
  await studio.control('Wind').locator('.name').click()
  await page.keyboard.press('3')
  await page.getByLabel('Search links by source, target or type').fill('wind')
  await page.getByRole('grid', { name: 'Links' }).getByRole('row').nth(3).click()
  await take(page, 'ledger')
  await page.keyboard.press('Escape')
  // Curves in the hand, with those of before behind them, and the picture of before beside the one of now.
  await page.keyboard.press('1')
  await studio.control('Gusts').locator('.name').click()
  await studio
    .control('Wind')
    .locator('.name')
    .click({ modifiers: ['Control'] })
  await page.keyboard.press('2')
  await page.getByRole('button', { name: 'Keep for comparison' }).click()
  const before = async (entry: string): Promise<void> => {
    await page.getByRole('toolbar', { name: 'Viewport' }).getByRole('button', { name: 'Before' }).click()
    await page.locator('.n-dropdown-option').filter({ hasText: entry }).click()
  }
  await before('Keep as before')
  await page.getByRole('list', { name: 'Values at the playhead' }).getByRole('listitem').filter({ hasText: 'Wind' }).hover()
  const pin = await studio.middle(page.getByRole('button', { name: 'Pin of Weather: Wind at frame 100', exact: true }))
  await page.mouse.move(pin.x, pin.y)
  await page.mouse.down()
  await page.mouse.move(pin.x + 10, pin.y + 40, { steps: 4 })
  await page.mouse.move(pin.x + 34, pin.y + 52, { steps: 4 })
  await page.mouse.up()
  await expect(page.locator('.n-message')).toHaveCount(0, { timeout: 15_000 })
  await before('Compare with Before 1')
  await expect(page.getByTestId('before')).toHaveAttribute('data-drawn', '120')
  await take(page, 'curves')
  await page.getByRole('button', { name: 'Done', exact: true }).click()
  await page.keyboard.press('1')
  await composition(page, 'Drawbridge')
  await studio.control('Signal').getByRole('button', { name: 'Actions for Signal' }).click()
  await page.getByRole('menuitem', { name: 'Delete', exact: true }).click()
  await page.getByTestId('checks').click()
  await expect(page.getByRole('list', { name: 'Problems' })).toBeVisible()
  await take(page, 'checks')
})

test('formulas on rows', async ({ page, demo, studio }) => {
  await studio.open(demo.address, 'lanternfall')
  await studio.seek(96)
  await studio.row('Upper garland').getByRole('button', { name: 'Expand' }).click()
  await studio.select('Lantern 5')
  await studio.field('rotation').locator('.chip').click()
  await page.getByRole('button', { name: 'Open wide' }).click()
  await expect(page.locator('.line-value').last()).toBeVisible()
  await take(page, 'formula')
})

test('graphs: beside the picture', async ({ page, demo, studio }) => {
  await studio.open(demo.address, 'lanternfall')
  await composition(page, 'Ferry deck')
  await studio.seek(150)
  await page.keyboard.press('4')
  await expect(page.locator('.slip .value').nth(8)).not.toHaveText('–')
  await page.locator('[data-slip="flicker"] h3').click({ position: { x: 12, y: 8 } })
  await expect(page.getByLabel('About the slip')).toBeVisible()
  await take(page, 'graph')
})

test('poses, copies, recipes', async ({ page, demo, studio }) => {
  await studio.open(demo.address, 'lanternfall')
  await composition(page, 'Dusk')
  await studio.seek(60)
  await studio.control('Hour').getByRole('button', { name: 'Actions for Hour' }).click()
  await page.locator('.n-dropdown-option').filter({ hasText: 'Edit poses…' }).click()
  await page.getByTitle('Pose dusk').click()
  await page.getByLabel('Search items').fill('sun')
  await studio.select('Sun')
  await page.getByLabel('Search items').fill('')
  await take(page, 'poses')
  await page.getByRole('button', { name: 'Done' }).click()
  await page.getByRole('button', { name: 'Close', exact: true }).click()
  await page.getByLabel('Search items').fill('house')
  await studio.select('House 1', 'House 2', 'House 3', 'House 4', 'House 5', 'House 6')
  await page.keyboard.press('r')
  await page.getByRole('button', { name: 'Wave along a row' }).click()
  await take(page, 'recipes')
  await page.keyboard.press('Escape')
  await studio.seek(240)
  await page.getByLabel('Search items').fill('festoon')
  await studio.select('Festoon')
  await page.getByRole('button', { name: 'Transform' }).click()
  await page.getByRole('button', { name: 'Drive delay of each copy' }).scrollIntoViewIfNeeded()
  await page.locator('[data-each="copyLate"] .chip').click()
  await expect(page.locator('.line-value').last()).toBeVisible()
  await take(page, 'copies')
})

test('a group of pins in hand', async ({ page, demo, studio }) => {
  await studio.open(demo.address, 'lanternfall')
  const from = await studio.middle(page.getByRole('button', { name: 'Pin of Wind at frame 50', exact: true }))
  const to = await studio.middle(page.getByRole('button', { name: 'Pin of Tide at frame 220', exact: true }))
  await page.mouse.move(to.x + 17, to.y + 9)
  await page.mouse.down()
  await page.mouse.move(from.x - 9, from.y - 9, { steps: 5 })
  await page.mouse.up()
  await studio.seek(120)
  await take(page, 'pins')
})

test('an export, and a table that drives bars', async ({ page, demo, studio }) => {
  await studio.open(demo.address, 'lanternfall')
  await page.getByRole('button', { name: 'Export', exact: true }).click()
  const dialog = page.getByRole('dialog', { name: /^Export / })
  await dialog.getByRole('radio', { name: 'Lottie' }).check()
  await expect(dialog.getByRole('img', { name: 'Frame 0 as it will be exported' })).toBeVisible()
  await take(page, 'export')
  await page.keyboard.press('Escape')
  await composition(page, 'Tide table')
  await studio.seek(150)
  await studio.select('Tides')
  await expect(page.locator('[data-panel=card]')).toContainText('tides.csv, 12 rows')
  await expect(page.locator('.n-message')).toHaveCount(0, { timeout: 15_000 })
  await take(page, 'table')
})

test('handing over: what is chosen, and the page that a colleague gets, by day and by lamp', async ({ page, demo, studio }) => {
  await studio.open(demo.address, 'lanternfall')
  await page.getByRole('button', { name: 'Hand off', exact: true }).click()
  const dialog = page.getByRole('dialog', { name: /^Hand off / })
  await dialog.getByLabel('For whom the address is').fill('Ines')
  await dialog.getByRole('button', { name: 'New address' }).click()
  const link = dialog.getByRole('link', { name: /hand-off\// })
  await expect(page.locator('.n-message')).toHaveCount(0, { timeout: 15_000 })
  await take(page, 'handoff')
  await page.goto((await link.getAttribute('href')) ?? '')
  await expect(page.getByTestId('picture')).toHaveAttribute('data-drawn', /\d+:\d+/)
  await page.getByRole('slider', { name: 'Frame', exact: true }).fill('141')
  await expect(page.getByTestId('picture')).toHaveAttribute('data-drawn', /^141:/)
  await take(page, 'handed-daylight')
  await page.getByRole('button', { name: 'Compare' }).click()
  await page.getByText('As it was handed off', { exact: true }).click()
  await expect(page.getByTestId('other')).toHaveAttribute('data-drawn', '141')
  await page.getByRole('button', { name: 'Switch to lamplight' }).click()
  await take(page, 'handed-lamplight')
})
