import { add, projectOf } from '../helpers/api'
import { expect, test } from '../helpers/test'

test('Ctrl K knows the other words of the trade, and what the menus and the viewport do', async ({ page, server, studio }) => {
  await studio.open(
    server.address,
    await projectOf(server, 'Words', [
      add({ id: 'word', name: 'Word', kind: 'text', states: { text: { own: 'Quay' } } }),
      add({ id: 'crate', name: 'Crate', kind: 'rectangle', states: { pivot: { own: [37, -12, 0] } } }),
    ]),
  )
  const find = async (typed: string, entry: RegExp): Promise<void> => {
    await page.keyboard.press('Control+k')
    await page.getByLabel('Search everything').fill(typed)
    await page.getByRole('option', { name: entry }).first().click()
    await expect(page.getByRole('dialog').filter({ hasText: 'Search' })).toHaveCount(0)
  }
  // With nothing selected, what wants a selection says so.
  await find('center anchor', /^Centre the pivot/)
  await expect(page.getByText('Select an item first.')).toBeVisible()
  await studio.select('Crate')
  await find('center anchor', /^Centre the pivot/)
  await expect(studio.field('pivot').locator('button.value').first()).toHaveAttribute('data-value', '0')
  await studio.field('rotation').locator('.name').click()
  await find('keyframe', /^Pin at this frame/)
  await expect(studio.field('rotation').getByRole('button', { name: /^Remove the pin of/ })).toBeVisible()
  await studio.select('Word')
  await find('characters', /^Split the selected text/)
  await expect.poll(() => page.getByRole('treeitem').count()).toBeGreaterThan(2)
  await find('experiment', /^Try out/)
  await expect(page.getByRole('button', { name: 'Try out' })).toHaveAttribute('aria-pressed', 'true')
})
