import { mkdtempSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import type { Locator, Page } from '@playwright/test'
import { run } from '../helpers/server'
import { expect, test } from '../helpers/test'

let folder = ''
test.beforeAll(() => (folder = mkdtempSync(join(tmpdir(), 'tables-'))))
test.afterAll(() => rmSync(folder, { recursive: true, force: true }))

/** The row of a column on the Card. */
const column = (page: Page, name: string): Locator =>
  page.locator('[data-panel=card] [data-property]').filter({ has: page.getByText(name, { exact: true }) })

const csv = (name: string, text: string): { name: string; mimeType: string; buffer: Buffer } => ({
  name,
  mimeType: 'text/csv',
  buffer: Buffer.from(text),
})

const year = [1.4, 1.9, 2.6, 2.2, 1.7, 1.2, 0.9, 1.3, 2.4, 2.9, 2.1, 1.6]
const months = ['Jan', 'Feb', 'Mar', 'Apr', 'May', 'Jun', 'Jul', 'Aug', 'Sep', 'Oct', 'Nov', 'Dec']

test('a CSV of twelve months drives twelve bars with labels, and a newer one takes its place', async ({ page, server, studio }) => {
  await studio.newProject(server.address, 'Year')
  const rows = months.map((m, k) => `${m};${String(year[k]).replace('.', ',')};${3 * k + 7}`)
  await studio.bring(csv('tides.csv', `\uFEFFmonth;tide;ferries\r\n${rows.join('\r\n')}\r\n`))
  await expect(studio.row('tides')).toHaveAttribute('aria-selected', 'true')
  const card = page.locator('[data-panel=card]')
  await expect(card).toContainText('tides.csv, 12 rows')
  await expect(column(page, 'tide')).toContainText('1.4')
  await expect(column(page, 'month')).toContainText('Jan')
  // In one step, by its recipe.
  await page.keyboard.press('r')
  const dialog = page.getByRole('dialog').filter({ hasText: 'Recipes' })
  await dialog.getByRole('button', { name: 'Bars of a table', exact: true }).click()
  await dialog.getByRole('button', { name: 'Apply' }).click()
  await expect(dialog).toHaveCount(0)
  await studio.saved()
  const value = async (of: string): Promise<string> => {
    const answer = await fetch(`${server.address}/api/projects/${page.url().split('/').pop()}/package`)
    const file = join(folder, 'year.wunderkammer')
    writeFileSync(file, Buffer.from(await answer.arrayBuffer()))
    return run('eval', file, '--frame', '0', of).trim()
  }
  expect(await value('tide bar 10: size')).toBe('[44, 319.87]')
  expect(await value('tide name 7: text')).toBe('"Jul"')
  expect(await value('tide value 3: text')).toBe('"2.6"')
  // Its row moves what reads it.
  await page.getByPlaceholder('Search items').fill('tides')
  await studio.select('tides')
  await studio.field('row').locator('button.value').dblclick()
  await page.keyboard.type('3.5')
  await page.keyboard.press('Enter')
  await expect(column(page, 'tide')).toContainText('2.4')
  await expect(column(page, 'month')).toContainText('Mar')
  // A newer file: columns in another order, one of them missing.
  const chosen = page.waitForEvent('filechooser')
  await card.getByRole('button', { name: 'Replace…' }).click()
  await (
    await chosen
  ).setFiles(csv('tides-new.csv', `tide,month\n${months.map((m, k) => `${5 - (k % 4)},${m.toUpperCase()}`).join('\n')}\n`))
  await expect(card).toContainText('tides-new.csv, 12 rows')
  await studio.saved()
  expect(await value('tide name 7: text')).toBe('"JUL"')
  expect(await value('tide value 3: text')).toBe('"3"')
  await expect(page.getByRole('button', { name: 'No problems' })).toBeVisible()
  await page.keyboard.press('Control+z')
  await expect(card).toContainText('tides.csv, 12 rows')
})

test('what is no table is said, and a table without numbers is one', async ({ page, server, studio }) => {
  await studio.newProject(server.address, 'No tables')
  for (const [file, says] of [
    [csv('empty.csv', '\n\n'), 'empty.csv: The file is empty'],
    [csv('sheet.csv', 'PK\u0003\u0004\0\0\0'), 'sheet.csv: It is not a table of text'],
    [csv('half.json', '[{"a": 1}'), 'half.json: It is not valid JSON'],
    [csv('long.csv', '1\n'.repeat(20_010)), 'long.csv: It has more than 20000 rows'],
  ] as const) {
    await studio.bring(file)
    await expect(page.getByText(says).last()).toBeVisible()
  }
  await expect(page.getByRole('treeitem')).toHaveCount(0)
  await studio.bring(csv('names.json', '[{"name": "Ada"}, {"name": "Grace"}]'))
  await expect(studio.row('names')).toHaveCount(1)
  await expect(column(page, 'name')).toContainText('Ada')
})
