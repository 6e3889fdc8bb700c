import { projectOf } from '../helpers/api'
import { expect, test } from '../helpers/test'

// What is focused here is reached by Tab; no pointer is used.
test('by keyboard alone: items, a control, a link, pins, the Ledger, a control put elsewhere, a weight driven', async ({
  page,
  server,
  studio,
}) => {
  const { keyboard } = page
  await studio.open(server.address, await projectOf(server, 'Keys', []))
  await keyboard.press('Tab')
  // Items are added and named in one stroke, and again by Enter.
  await keyboard.press('a')
  await expect(page.getByLabel('What to add, and its name')).toBeFocused()
  await keyboard.type('null Rig')
  await keyboard.press('Enter')
  await expect(studio.row('Rig')).toHaveCount(1)
  await keyboard.type('rectangle Box')
  await keyboard.press('Enter')
  await expect(studio.row('Box')).toHaveCount(1)
  await keyboard.press('Enter')
  await expect(page.getByRole('treeitem')).toHaveCount(3)
  await keyboard.press('Escape')
  await expect(page.getByLabel('What to add, and its name')).toHaveCount(0)
  // Two controls.
  const tree = page.getByRole('tree')
  await tree.focus()
  for (let k = 0; k < 2; k++) await keyboard.press('ArrowDown')
  await expect(page.getByRole('treeitem', { selected: true })).toContainText('Rig')
  for (const name of ['Go', 'Mix']) {
    await keyboard.press('c')
    await expect(page.getByLabel('Name of the control')).toBeFocused()
    await keyboard.type(name)
    await keyboard.press('Enter')
    await expect(studio.control(name)).toHaveCount(1)
    await expect(page.getByRole('dialog')).toHaveCount(0)
  }
  // A link, by typing.
  await tree.focus()
  await keyboard.press('ArrowUp')
  await expect(page.getByRole('treeitem', { selected: true })).toContainText('Box')
  await studio.field('rotation').getByRole('button', { name: 'rotation', exact: true }).focus()
  await keyboard.press('Enter')
  await keyboard.press('l')
  await keyboard.type('go')
  await keyboard.press('Enter')
  await expect(studio.field('rotation').locator('.chip')).toContainText('Go')
  await expect(page.getByRole('dialog')).toHaveCount(0)
  // Its weight is driven from the menu of the link.
  await page.getByRole('button', { name: 'Actions for the link from Rig: Go' }).focus()
  await keyboard.press('Enter')
  const entry = page.locator('.n-dropdown-option').filter({ hasText: 'Drive weight with…' })
  await expect(entry).toBeVisible()
  for (let k = 0; k < 12 && !(await entry.locator('.n-dropdown-option-body--pending').count()); k++) await keyboard.press('ArrowDown')
  await keyboard.press('Enter')
  await expect(page.getByRole('dialog')).toBeVisible()
  await keyboard.type('mix')
  await keyboard.press('Enter')
  await expect(studio.drives('Mix')).toHaveText('1')
  await expect(page.getByRole('dialog')).toHaveCount(0)
  // Pins: put, and moved.
  await studio.control('Go').getByRole('slider').focus()
  await keyboard.press('ArrowRight')
  await keyboard.press('k')
  const pin = studio.track('Go').getByRole('button')
  await expect(pin).toHaveAttribute('aria-label', 'Pin of Go at frame 0')
  await pin.focus()
  await keyboard.press('Shift+ArrowRight')
  await expect(pin).toHaveAttribute('aria-label', 'Pin of Go at frame 10')
  await keyboard.press('ArrowLeft')
  await expect(pin).toHaveAttribute('aria-label', 'Pin of Go at frame 9')
  await expect(pin).toBeFocused()
  // The control goes below the other one.
  await page.getByRole('button', { name: 'Actions for Go' }).focus()
  await keyboard.press('Enter')
  const down = page.locator('.n-dropdown-option').filter({ hasText: 'Move down' })
  await expect(down).toBeVisible()
  for (let k = 0; k < 20 && !(await down.locator('.n-dropdown-option-body--pending').count()); k++) await keyboard.press('ArrowDown')
  await keyboard.press('Enter')
  await expect(page.locator('[data-control]').first()).toHaveAttribute('data-control', 'Mix')
  // A link is switched off in the Ledger.
  await expect(page.locator('.n-dropdown-menu')).toHaveCount(0)
  await keyboard.press('3')
  const rows = page.getByRole('grid', { name: 'Links' }).locator('[data-entry]')
  await rows.first().focus()
  await keyboard.press('ArrowDown')
  await expect(rows.nth(1)).toBeFocused()
  await keyboard.press('ArrowUp')
  await keyboard.press(' ')
  await expect(rows.first()).toHaveAttribute('aria-selected', 'true')
  await page.getByRole('button', { name: 'Off', exact: true }).focus()
  await keyboard.press('Enter')
  await expect(rows.first()).toContainText('Off')
})
