import { expect, test } from '../helpers/test'

test('an empty project and an empty composition show their panels, first steps and tools', async ({ page, server, studio }) => {
  const whole = async (): Promise<void> => {
    await expect(page.getByRole('toolbar', { name: 'Viewport' })).toBeVisible()
    await expect(page.getByRole('tab', { name: 'Desk' })).toBeVisible()
    await expect(page.locator('[data-panel="card"]')).toBeVisible()
    await expect(page.getByText('Opening the project…')).toHaveCount(0)
  }
  await studio.newProject(server.address, 'Nothing yet')
  await whole()
  await expect(page.getByText('Make a null (an item that only carries) with a fader.')).toBeVisible()
  await studio.add('ellipse', 'Only one')
  await whole()
  await studio.select('Only one')
  await page.keyboard.press('Delete')
  await expect(page.getByRole('treeitem')).toHaveCount(0)
  await whole()
  await page.reload()
  await studio.drawn()
  await whole()
  await page.getByRole('button', { name: 'Compositions' }).click()
  await page.locator('.n-dropdown-option').filter({ hasText: 'New composition' }).click()
  await expect(page.getByText('Make a null (an item that only carries) with a fader.')).toBeVisible()
  await whole()
})

test('a source is chosen with Enter wherever the focus was, and the page goes on', async ({ page, server, studio }) => {
  await studio.newProject(server.address, 'Source')
  await studio.add('null', 'Rig')
  await studio.addControl('Rig', 'Fader', 'Amount', [0, 137])
  await studio.add('rectangle', 'Box')
  await studio.select('Box')
  const more = studio.field('rotation').getByRole('button', { name: 'Actions for rotation' })
  await more.click()
  await page.locator('.n-dropdown-option').filter({ hasText: 'Link…' }).click()
  await page.keyboard.type('amo') // at once: what is typed reaches the field
  await expect(page.getByLabel('Find a source')).toHaveValue('amo')
  await page.keyboard.press('Enter')
  await expect(studio.drives('Amount')).toHaveText('1')
  await expect(page.locator('.n-modal-body-wrapper')).toHaveCount(0)
  // Nothing lies over the page: its buttons can be pressed.
  await studio.select('Rig')
  await studio.select('Box')
  await studio.field('rotation').locator('.chip').click()
  await expect(page.getByText('What should drive')).toHaveCount(0)
})

test('trying out ends by Keep or by Discard, and never without a word', async ({ page, server, studio }) => {
  await studio.newProject(server.address, 'Trial')
  await studio.add('ellipse', 'Kept before')
  const toggle = page.getByRole('button', { name: 'Try out', exact: true })
  const band = page.getByRole('status').filter({ hasText: 'Trying out' })
  await toggle.click()
  await expect(band).toBeVisible()
  await studio.add('rectangle', 'Tried')
  await expect(band).toContainText('2 changes so far')
  await toggle.click()
  await expect(page.getByText('You made 2 changes while trying out. Keep them?')).toBeVisible()
  await page.getByRole('button', { name: 'Keep', exact: true }).last().click()
  await expect(band).toHaveCount(0)
  await expect(studio.row('Tried')).toHaveCount(1)
  await studio.saved()
  await page.reload()
  await expect(studio.row('Tried')).toHaveCount(1)
  await studio.drawn()
  await page.keyboard.press('Control+z')
  await toggle.click()
  await studio.add('star', 'Dropped')
  await page.keyboard.press('Control+z')
  await expect(studio.row('Dropped')).toHaveCount(0)
  await page.keyboard.press('Control+Shift+z')
  await expect(studio.row('Dropped')).toHaveCount(1)
  await band.getByRole('button', { name: 'Discard' }).click()
  await expect(studio.row('Dropped')).toHaveCount(0)
  await expect(studio.row('Kept before')).toHaveCount(1)
})

test('Enter in Recipes makes what the search found', async ({ page, server, studio }) => {
  await studio.newProject(server.address, 'Orbits')
  await studio.add('ellipse', 'Moon')
  await studio.add('ellipse', 'Sun')
  await studio.select('Moon', 'Sun')
  await page.keyboard.press('r')
  await page.keyboard.type('orbit')
  await expect(page.getByRole('button', { name: 'Orbit', exact: true })).toHaveAttribute('aria-pressed', 'true')
  await page.keyboard.press('Enter')
  await expect(page.getByRole('dialog').filter({ hasText: 'Recipes' })).toHaveCount(0)
  await expect(studio.field('position').locator('.chip')).toContainText('orbit')
  await expect(page.getByRole('treeitem')).toHaveCount(2) // a sweep would have added its zone
})

test('what is selected wins a drag within its frame; a text is gripped between its letters', async ({ page, server, studio }) => {
  await studio.newProject(server.address, 'Grip')
  await studio.add('text', 'Sign')
  await studio.add('null', 'Rig')
  const place = async (name: string): Promise<[number, number]> => {
    await studio.select(name)
    await expect(page.locator('.card-title, [data-panel="card"]').first()).toContainText(name)
    const fields = studio.field('position').locator('button.value')
    return [await studio.value(fields.nth(0)), await studio.value(fields.nth(1))]
  }
  const rig = await place('Rig')
  const sign = await place('Sign')
  expect(rig).not.toEqual(sign) // they stand apart
  const frame = await page.locator('.handles .edge.dark').first().boundingBox()
  if (!frame) throw new Error('no frame is drawn around the selection')
  // Six places within the frame of the text, most of them between its letters, and its very middle.
  for (const [x, y] of [
    [0.5, 0.5],
    [0.23, 0.21],
    [0.77, 0.19],
    [0.31, 0.83],
    [0.64, 0.18],
    [0.79, 0.81],
  ] as const) {
    const before = await place('Sign')
    const box = await page.locator('.handles .edge.dark').first().boundingBox()
    if (!box) throw new Error('no frame')
    const at = { x: box.x + box.width * x, y: box.y + box.height * y }
    await page.keyboard.down('Alt')
    await page.mouse.move(at.x, at.y)
    await page.mouse.down()
    await page.mouse.move(at.x + 11, at.y - 7, { steps: 3 })
    await page.mouse.up()
    await page.keyboard.up('Alt')
    await expect.poll(async () => (await place('Sign'))[0]).toBeGreaterThan(before[0])
  }
  expect(await place('Rig')).toEqual(rig)
})

test('what is typed for a formula that is still opening reaches it, and nothing else', async ({ page, server, studio }) => {
  await studio.newProject(server.address, 'Ahead')
  await studio.add('rectangle', 'Box')
  await studio.select('Box')
  await studio.field('rotation').getByRole('button', { name: 'Actions for rotation' }).click()
  await page
    .locator('.n-dropdown-option')
    .filter({ hasText: /^Formula/ })
    .first()
    .click()
  await page.keyboard.type('123 + 4') // digits are tabs, letters are commands
  await expect(page.locator('.cm-content')).toContainText('123 + 4')
  await expect(page.getByRole('tab', { name: 'Desk' })).toHaveAttribute('aria-selected', 'true')
  await page.keyboard.press('Control+Enter')
  await expect(studio.field('rotation').locator('button.value')).toHaveAttribute('data-value', '127')
})

test('a press beside a menu closes it, on a field or a fader as elsewhere', async ({ page, server, studio }) => {
  await studio.newProject(server.address, 'Menus')
  await page.keyboard.press('a')
  await page.keyboard.type('rectangle Box')
  await page.keyboard.press('Enter')
  await expect(studio.row('Box')).toHaveCount(1)
  const adding = page.getByRole('dialog', { name: 'Add an item' })
  await expect(adding).toBeVisible()
  await studio.field('rotation').locator('button.value').first().click()
  await expect(adding).toHaveCount(0)
  await page.keyboard.press('Escape')
  await page.getByRole('button', { name: 'Actions for rotation', exact: true }).click()
  await expect(page.getByRole('menu')).toHaveCount(1)
  await studio.field('opacity').locator('button.value').first().click()
  await expect(page.getByRole('menu')).toHaveCount(0)
  // What opens a menu closes it, too; a press on the menu does what it says.
  await page.keyboard.press('Escape')
  await page.getByRole('button', { name: 'Actions for rotation', exact: true }).click()
  await page.getByRole('button', { name: 'Actions for rotation', exact: true }).click()
  await expect(page.getByRole('menu')).toHaveCount(0)
  await page.getByRole('button', { name: 'Actions for rotation', exact: true }).click()
  await page.getByRole('menu').getByText('Lock at this value').click()
  await expect(page.getByLabel('Locked at 0')).toBeVisible()
})
