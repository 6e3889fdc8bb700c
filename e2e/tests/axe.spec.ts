import AxeBuilder from '@axe-core/playwright'
import type { Page } from '@playwright/test'
import { expect, test } from '../helpers/test'

/** What axe finds on the page, a line each: the rule, and where. */
async function faults(page: Page): Promise<string[]> {
  const { violations } = await new AxeBuilder({ page })
    .withTags(['wcag2a', 'wcag2aa', 'wcag21a', 'wcag21aa', 'wcag22aa', 'best-practice'])
    .analyze()
  return violations.flatMap((v) => v.nodes.map((n) => `${v.id}: ${n.target.join(' ')} ${n.html.slice(0, 160)}`))
}

for (const light of ['daylight', 'lamplight'] as const)
  test(`${light}: axe finds nothing on any view`, async ({ page, demo, studio }) => {
    test.setTimeout(300_000)
    await page.addInitScript((name) => localStorage.setItem('wunderkammer:theme', name), light)
    const found: string[] = []
    const look = async (view: string): Promise<void> => {
      await page.waitForTimeout(400) // what fades in is there
      found.push(...(await faults(page)).map((f) => `${view}: ${f}`))
    }
    await page.goto(demo.address)
    await page.getByText('Lanternfall').first().waitFor()
    await look('projects')
    await studio.open(demo.address, 'lanternfall')
    await look('studio')
    await studio.select('Signal flag')
    await look('card')
    await page.locator('.chip').first().click()
    await look('link')
    await page.keyboard.press('d')
    await look('focus')
    await page.keyboard.press('d')
    for (const [key, view] of [
      ['2', 'curves'],
      ['3', 'ledger'],
      ['4', 'graph'],
    ] as const) {
      await page.keyboard.press(key)
      await look(view)
    }
    await page.keyboard.press('1')
    await page.keyboard.press('c')
    await look('control form')
    await page.keyboard.press('Escape')
    await page.keyboard.press('?')
    await look('keys')
    await page.keyboard.press('Escape')
    await page.getByRole('button', { name: '+ Add' }).click()
    await look('add')
    await page.keyboard.press('Escape')
    await page.getByTestId('checks').click()
    await look('problems')
    await page.keyboard.press('Escape')
    await page.keyboard.press('Control+k')
    await look('search')
    await page.keyboard.press('Escape')
    await page.getByRole('button', { name: 'Compositions' }).click()
    await page.locator('.n-dropdown-option').filter({ hasText: 'Dusk' }).click()
    await studio.control('Hour').getByRole('button', { name: 'Actions for Hour' }).click()
    await page.locator('.n-dropdown-option').filter({ hasText: 'Stops, and what they move' }).click()
    await page.getByTitle('Pose dusk').click()
    await look('poses')
    await page.keyboard.press('Escape')
    await page.keyboard.press('Escape')
    await studio.select('House 1', 'House 2')
    await page.keyboard.press('r')
    await look('recipes')
    await page.keyboard.press('Escape')
    await studio.select('Letter 2')
    await studio.field('position').locator('.chip').click()
    await page.getByRole('button', { name: 'Open wide' }).click()
    await look('formula')
    expect(found).toEqual([])
  })
