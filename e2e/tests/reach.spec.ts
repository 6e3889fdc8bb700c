import type { Page } from '@playwright/test'
import { option } from '../helpers/hand'
import { add, projectOf } from '../helpers/api'
import { Studio } from '../helpers/studio'
import { expect, test } from '../helpers/test'

/** Finds something by its name, as somebody without a pointer goes there. */
async function goTo(page: Page, text: string): Promise<void> {
  await page.keyboard.press('Control+k')
  await expect(page.getByLabel('Search everything')).toBeFocused()
  await page.keyboard.type(text)
  await expect(page.getByRole('listbox', { name: 'What was found' }).getByRole('option').first()).toContainText(text.split(' ')[0] ?? '', {
    ignoreCase: true,
  })
  await page.keyboard.press('Enter')
  await expect(page.getByRole('dialog')).toHaveCount(0)
}

async function tabTo(page: Page, name: string | RegExp): Promise<void> {
  const at = page
    .getByRole('button', { name, exact: true })
    .or(page.getByRole('slider', { name, exact: true }))
    .first()
  for (let k = 0; k < 60; k++) {
    await page.keyboard.press('Tab')
    if (await at.evaluate((e) => e === document.activeElement)) return
  }
  throw new Error(`Tab does not come to ${name}`)
}

/** Takes an entry of the menu of what has the focus. */
async function take(page: Page, entry: string): Promise<void> {
  await page.keyboard.press('Enter')
  const at = option(page, entry)
  await expect(at).toBeVisible()
  for (let k = 0; k < 40 && !(await at.locator('.n-dropdown-option-body--pending').count()); k++) await page.keyboard.press('ArrowDown')
  await page.keyboard.press('Enter')
  await expect(page.locator('.n-dropdown-menu')).toHaveCount(0)
}

test('by keyboard alone: what is found has the keys; values, limits and nudges; quick steps add up', async ({ page, server, studio }) => {
  const { keyboard } = page
  await studio.open(
    server.address,
    await projectOf(server, 'Reach', [
      add({ id: 'n', name: 'Holder', kind: 'null' }),
      add({ id: 'b', name: 'Box', kind: 'rectangle', parent: 'n' }),
    ]),
  )
  await goTo(page, 'Box position')
  const row = studio.field('position')
  await expect(row.getByRole('button', { name: 'position', exact: true })).toBeFocused()
  // A value that is typed, or left, gives the keys back.
  await tabTo(page, /^position x/)
  await keyboard.type('73')
  await keyboard.press('Enter')
  await expect(row.getByRole('button', { name: 'position x: 73' })).toBeFocused()
  for (let k = 0; k < 4; k++) await keyboard.press('Shift+ArrowUp')
  await expect(row.getByRole('button', { name: 'position x: 113' })).toBeFocused()
  await keyboard.press('Enter')
  await keyboard.press('Escape')
  await expect(row.getByRole('button', { name: 'position x: 113' })).toBeFocused()
  // Its first component is locked, and says so to who types on.
  await keyboard.press('Shift+Tab')
  await keyboard.press('Enter')
  await tabTo(page, 'Actions for position.x')
  await take(page, 'Lock at this value')
  await expect(page.getByLabel('X locked at 113')).toBeVisible()
  await keyboard.press('Shift+Tab')
  await keyboard.type('91')
  await keyboard.press('Enter')
  await expect(page.getByText('Position x is locked at 113; its menu unlocks it.')).toBeVisible()
  await expect(page.getByRole('button', { name: 'position x: 113' }).last()).toBeFocused()
  await tabTo(page, 'Actions for position.y')
  await take(page, 'Limits…')
  await keyboard.press('Tab')
  await keyboard.type('7.25')
  await keyboard.press('Enter')
  await expect(page.getByRole('dialog')).toHaveCount(0)
  await keyboard.press('Shift+Tab')
  await keyboard.type('20')
  await keyboard.press('Enter')
  await expect(page.getByText('Position y is at most 7.25.')).toBeVisible()
  // Tab leaves a menu, and closes it.
  await keyboard.press('Tab')
  await keyboard.press('Enter')
  await expect(option(page, 'Limits…')).toBeVisible()
  await keyboard.press('Tab')
  await expect(page.locator('.n-dropdown-menu')).toHaveCount(0)
  // An item is found in what is folded; in the tree, a nudge is a nudge, up to the limit.
  await page.getByRole('treeitem').first().locator('button').first().click()
  await expect(page.getByRole('treeitem')).toHaveCount(1)
  await page.waitForTimeout(550) // what is reached so long after a press was reached by keys
  await goTo(page, 'Box')
  await expect(page.getByRole('tree')).toBeFocused()
  await expect(page.getByRole('treeitem', { selected: true })).toContainText('Box')
  const y = row.locator('button.value').nth(1)
  await expect(y).toHaveAttribute('data-value', '7.25')
  await keyboard.press('Alt+Shift+ArrowDown')
  await expect(y).toHaveAttribute('data-value', '-2.75')
  await keyboard.press('Alt+Shift+ArrowUp')
  await keyboard.press('Alt+Shift+ArrowUp')
  await expect(y).toHaveAttribute('data-value', '7.25')
  await expect(page.getByRole('treeitem', { selected: true })).toContainText('Box')
  // Renamed in its place, the tree has the keys again.
  await keyboard.press('F2')
  await keyboard.type('Crate')
  await keyboard.press('Enter')
  await expect(page.getByRole('treeitem', { selected: true })).toContainText('Crate')
  await expect(page.getByRole('tree')).toBeFocused()
})

test('stops by keyboard alone: the table has the keys, Esc closes one thing, Del leaves the control; a stop posed elsewhere goes', async ({
  page,
  demo,
  studio,
  watch,
}) => {
  const { keyboard } = page
  await studio.open(demo.address, 'lanternfall')
  const second = await page.context().newPage()
  watch(second)
  const other = new Studio(second)
  await other.open(demo.address, 'lanternfall')
  await goTo(second, 'Dusk')
  await expect(other.control('Hour')).toBeVisible()
  await page.bringToFront()
  await goTo(page, 'Dusk')
  await expect(studio.control('Hour')).toBeVisible()
  await goTo(page, 'Hour')
  await expect(studio.control('Hour').getByRole('slider')).toBeFocused()
  await keyboard.press('Shift+Tab')
  await take(page, 'Edit poses…')
  const table = page.getByRole('region', { name: 'Poses of Hour' })
  await expect(table).toBeFocused()
  // One more stop, called otherwise; Esc in a field and in a menu closes that, and no more.
  await tabTo(page, 'Actions for dusk')
  await take(page, 'Duplicate')
  await tabTo(page, /^Name of the stop: dusk 2/)
  await keyboard.press('Enter')
  await keyboard.type('eve')
  await keyboard.press('Enter')
  await expect(table.getByRole('button', { name: /^Name of the stop: eve/ })).toBeFocused()
  await tabTo(page, /^Place of eve/)
  await keyboard.press('Enter')
  await keyboard.press('Escape')
  await keyboard.press('Tab')
  await keyboard.press('Enter')
  await expect(option(page, 'Duplicate')).toBeVisible()
  await keyboard.press('Escape')
  await expect(page.locator('.n-dropdown-menu')).toHaveCount(0)
  await expect(table).toBeVisible()
  // Whoever presses Del here means a stop, and is told how.
  await keyboard.press('Delete')
  await expect(page.getByText('Delete a stop by its menu', { exact: false })).toBeVisible()
  await expect(table).toBeVisible()
  // It is posed in another window, and removed here.
  await second.bringToFront()
  await goTo(second, 'Pose Hour: eve')
  await expect(second.getByRole('status').filter({ hasText: 'Posing Hour: eve' })).toBeVisible()
  await page.bringToFront()
  await take(page, 'Delete')
  await second.bringToFront()
  await expect(second.getByText('Posing has ended: Hour has no stop eve any more.')).toBeVisible()
  await page.bringToFront()
  await keyboard.press('Escape')
  await expect(table).toHaveCount(0)
  await expect(page.getByRole('button', { name: 'Actions for Hour', exact: true })).toBeFocused()
})

test('a picture is cut by Enter, once', { tag: '@quick' }, async ({ page, server, studio }) => {
  await studio.newProject(server.address, 'Sheet')
  const png = await page.evaluate(() => {
    const canvas = document.createElement('canvas')
    canvas.width = 84
    canvas.height = 40
    return canvas.toDataURL('image/png').split(',')[1] ?? ''
  })
  await page.keyboard.press('a')
  await expect(page.getByLabel('What to add, and its name')).toBeFocused()
  await page.keyboard.type('import')
  const asked = page.waitForEvent('filechooser')
  await page.waitForTimeout(100)
  await page.keyboard.press('Enter')
  await (await asked).setFiles({ name: 'Fish.png', mimeType: 'image/png', buffer: Buffer.from(png, 'base64') })
  await expect(studio.row('Fish')).toHaveCount(1)
  await expect(page.getByLabel('What to add, and its name')).toHaveCount(0)
  await page.getByRole('button', { name: 'Cut…' }).focus()
  await page.keyboard.press('Enter')
  const dialog = page.getByRole('dialog', { name: 'Cut Fish into frames' })
  await expect(dialog.getByLabel('Columns')).toBeFocused()
  await dialog.getByLabel('Columns').fill('7')
  await page.keyboard.press('Enter')
  await expect(page.getByText('Fish is a flipbook of 14 frames now', { exact: false })).toBeVisible()
  await expect(page.getByRole('dialog')).toHaveCount(0)
  await expect(studio.field('size').locator('button.value').first()).toHaveAttribute('data-value', '12')
})
