import { add, projectOf } from '../helpers/api'
import { expect, test } from '../helpers/test'

test('an item dragged onto another in the tree is attached and stays where it is', async ({ page, server, studio }) => {
  await studio.newProject(server.address, 'Crane')
  await studio.add('rectangle', 'Crate')
  await studio.add('null', 'Hook')
  await studio.field('position').locator('button.value').first().click()
  await page.keyboard.type('150')
  await page.keyboard.press('Enter')
  await studio.field('rotation').locator('button.value').click()
  await page.keyboard.type('90')
  await page.keyboard.press('Enter')
  await studio.row('Crate').dragTo(studio.row('Hook'))
  await expect(studio.row('Crate')).toHaveAttribute('aria-level', '2')
  await studio.select('Crate')
  // In the hook's space, which is turned by 90°, the crate stands 150 above it.
  await expect(studio.field('position').locator('button.value').last()).toHaveAttribute('data-value', '150')
  await expect(studio.field('rotation').locator('button.value')).toHaveAttribute('data-value', '-90')
  await page.keyboard.press('Control+z')
  await expect(studio.row('Crate')).toHaveAttribute('aria-level', '1')
})

test('several items show their order and are edited together', async ({ page, server, studio }) => {
  await studio.newProject(server.address, 'Several')
  for (const name of ['One', 'Two', 'Three']) await studio.add('ellipse', name)
  await studio.select('Three', 'One', 'Two')
  await expect(studio.row('Three').locator('.order')).toHaveText('1')
  await expect(studio.row('Two').locator('.order')).toHaveText('3')
  await studio.field('opacity').locator('button.value').click()
  await page.keyboard.type('40')
  await page.keyboard.press('Enter')
  await studio.select('Two')
  await expect(studio.field('opacity').locator('button.value')).toHaveAttribute('data-value', '40')
  await studio.field('opacity').locator('button.value').click()
  await page.keyboard.type('70')
  await page.keyboard.press('Enter')
  await studio.select('One', 'Two')
  await expect(studio.field('opacity')).toContainText('mixed')
})

test('the picture is clicked to select, and hiding takes an item out of it', { tag: '@quick' }, async ({ page, server, studio }) => {
  await studio.newProject(server.address, 'Picture')
  await studio.add('rectangle', 'Box')
  const stage = await studio.stage.boundingBox()
  if (!stage) throw new Error('no stage')
  await page.mouse.click(stage.x + 40, stage.y + 200)
  await expect(page.getByRole('treeitem', { selected: true })).toHaveCount(0)
  await page.mouse.click(stage.x + stage.width / 2, stage.y + stage.height / 2)
  await expect(page.getByRole('treeitem', { selected: true })).toHaveText(/Box/)
  await studio.row('Box').hover()
  await studio.row('Box').getByRole('button', { name: 'Hide' }).click()
  await expect(studio.row('Box')).toHaveClass(/hidden/)
  await page.mouse.click(stage.x + stage.width / 2 + 20, stage.y + stage.height / 2 + 20)
  await expect(page.getByRole('treeitem', { selected: true })).toHaveCount(0)
})

test('items are found, grouped, labelled, duplicated with their links, and pasted into another composition', async ({
  page,
  server,
  studio,
}) => {
  await studio.newProject(server.address, 'Tree')
  await studio.add('null', 'Rig')
  await studio.addControl('Rig', 'Dial', 'Swing')
  await studio.add('ellipse', 'Lantern')
  await studio.cable('Swing', 'rotation')
  await studio.add('star', 'Spark')
  // Duplicate keeps the link: one control drives both.
  await studio.select('Lantern')
  await page.keyboard.press('Control+d')
  await expect(studio.row('Lantern 2')).toHaveCount(1)
  await expect(studio.drives('Swing')).toHaveText('2')
  await studio.type('Swing', '30')
  await studio.select('Lantern 2')
  await expect(studio.field('rotation').locator('button.value')).toHaveAttribute('data-value', '30')
  // Group, by the menu of the row.
  await studio.select('Lantern', 'Lantern 2')
  await studio.row('Lantern 2').click({ button: 'right' })
  await page.locator('.n-dropdown-option').filter({ hasText: 'Group' }).click()
  await expect(studio.row('Group')).toHaveCount(1)
  await expect(studio.row('Lantern')).toHaveAttribute('aria-level', '2')
  // Hiding the group hides what is in it.
  await studio.row('Group').hover()
  await studio.row('Group').getByRole('button', { name: 'Hide' }).click()
  await expect(studio.row('Lantern')).toHaveClass(/hidden/)
  // A label, and not in output.
  await studio.select('Spark')
  await studio.row('Spark').click({ button: 'right' })
  await page.locator('.n-dropdown-option').filter({ hasText: 'Exclude from output' }).click()
  await expect(studio.row('Spark').getByTitle(/^Excluded from output/)).toBeVisible()
  await page.getByLabel('Search items').fill('lan')
  await expect(page.getByRole('treeitem')).toHaveCount(2)
  await page.getByLabel('Search items').fill('')
  // Copied into another composition, the rig and what it drives go on working there.
  await studio.select('Rig', 'Lantern')
  await page.keyboard.press('Control+c')
  await page.getByRole('button', { name: 'Compositions' }).click()
  await page.locator('.n-dropdown-option').filter({ hasText: 'New composition' }).click()
  await expect(page.getByRole('treeitem')).toHaveCount(0)
  await page.keyboard.press('Control+v')
  await expect(page.getByRole('treeitem')).toHaveCount(2)
  await expect(studio.drives('Swing')).toHaveText('1')
  await studio.saved()
  await page.reload()
  await studio.drawn()
  await expect(studio.row('Spark')).toHaveCount(1)
  // Removing a composition asks, and undo brings it back.
  await page.getByRole('button', { name: 'Compositions' }).click()
  await page.locator('.n-dropdown-option').filter({ hasText: 'Delete composition' }).click()
  await page.getByRole('button', { name: 'Delete', exact: true }).click()
  await expect(page.getByRole('treeitem')).toHaveCount(2)
  await page.keyboard.press('Control+z')
  await page.getByRole('button', { name: 'Compositions' }).click()
  await expect(page.locator('.n-dropdown-option').filter({ hasText: 'Composition' })).toHaveCount(5)
})

test('a field for a number takes sums and formulas, and says what is wrong with one', async ({ page, server, studio }) => {
  await studio.open(
    server.address,
    await projectOf(server, 'Sums', [
      add({
        id: 'rig',
        name: 'Rig',
        kind: 'null',
        controls: [{ id: 'amount', name: 'Amount', kind: 'slider', softMax: 100, default: 12 }],
      }),
      add({ id: 'box', name: 'Box', kind: 'rectangle' }),
    ]),
  )
  await studio.select('Box')
  const field = studio.field('rotation').locator('button.value')
  const open = async (text: string): Promise<void> => {
    await field.click()
    await page.keyboard.type(text)
  }
  await open('320/3')
  await page.keyboard.press('Enter')
  await expect(field).toHaveAttribute('data-value', '106.666667')
  // Left by a click elsewhere, it counts as well.
  await open('{Rig: Amount} * 2,5')
  await page.getByText('Items', { exact: true }).first().click()
  await expect(field).toHaveAttribute('data-value', '106.666667') // a comma separates in formulas, so that is none
  await open('{Rig: Amount} * 2.5')
  await page.getByText('Items', { exact: true }).first().click()
  await expect(field).toHaveAttribute('data-value', '30')
  await open('7,5')
  await page.keyboard.press('Enter')
  await expect(field).toHaveAttribute('data-value', '7.5')
  // What is wrong is said, and Esc leaves all as it was.
  await open('3 +')
  await page.keyboard.press('Enter')
  const input = studio.field('rotation').locator('input.value')
  await expect(input).toHaveAttribute('aria-invalid', 'true')
  await expect(input).toHaveAttribute('title', /missing/)
  await page.keyboard.press('Escape')
  await expect(field).toHaveAttribute('data-value', '7.5')
})

test('a hundred items are selected from the keyboard, set, pinned and taken back as one', async ({ page, server, studio }) => {
  const crate = (i: number): object =>
    add({
      id: `c${i}`,
      name: `Crate ${i}`,
      kind: 'rectangle',
      states: {
        rotation: { own: i === 99 ? 13 : 7 },
        opacity: { links: [{ id: `l${i}`, kind: 'follow', gain: 0.9, source: { item: 'rig', property: 'amount' } }] },
      },
    })
  await studio.open(
    server.address,
    await projectOf(server, 'Crates', [
      add({ id: 'rig', name: 'Rig', kind: 'null', controls: [{ id: 'amount', name: 'Amount', kind: 'fader', softMax: 100, default: 40 }] }),
      ...Array.from({ length: 100 }, (_, i) => crate(i)),
    ]),
  )
  await studio.row('Crate 0').click()
  await page.keyboard.press('Shift+End')
  await expect(page.getByRole('heading', { name: '100 rectangles' })).toBeVisible()
  const value = (key: string) => studio.field(key).locator('button.value')
  await expect(value('rotation')).toHaveText(/mixed/) // one of them is turned otherwise
  await expect(value('opacity')).toHaveAttribute('data-value', '36')
  await expect(studio.field('opacity').getByText('×100')).toBeVisible()
  await studio.type('Amount', '71')
  await expect(value('opacity')).toHaveAttribute('data-value', '63.9')
  await value('rotation').click()
  await page.keyboard.type('23')
  await page.keyboard.press('Enter')
  await expect(value('rotation')).toHaveAttribute('data-value', '23')
  await studio.field('rotation').getByRole('button', { name: 'Pin rotation at this frame' }).click()
  await expect(studio.field('rotation').getByRole('button', { name: 'Remove the pin of rotation' })).toBeVisible()
  // One more hand on one of them, and all is mixed.
  await studio.row('Crate 99').click()
  await expect(value('rotation')).toHaveAttribute('data-value', '23')
  await studio.field('rotation').getByRole('button', { name: 'Remove the pin of rotation' }).click()
  await value('rotation').click()
  await page.keyboard.type('31')
  await page.keyboard.press('Enter')
  await studio.row('Crate 99').click()
  await page.keyboard.press('Shift+Home') // the rig as well, which has a rotation, too
  await expect(page.getByRole('heading', { name: '101 items' })).toBeVisible()
  await expect(value('rotation')).toHaveText(/mixed/)
  await expect(studio.field('rotation').getByRole('button', { name: 'Pin rotation at this frame' })).toBeVisible()
  for (let k = 0; k < 4; k++) await page.keyboard.press('Control+z')
  await studio.row('Crate 3').click()
  await expect(value('rotation')).toHaveAttribute('data-value', '7')
  await page.keyboard.press('Shift+End')
  await expect(page.getByRole('heading', { name: '97 rectangles' })).toBeVisible()
  await expect(value('rotation')).toHaveText(/mixed/)
  await studio.row('Crate 99').click()
  await expect(value('rotation')).toHaveAttribute('data-value', '13')
})

test('what is sought is seen, however far the tree and the Ledger were scrolled', async ({ page, server, studio }) => {
  const crates = Array.from({ length: 67 }, (_, k) => add({ id: `crate${k}`, name: `Crate ${k + 1}`, kind: 'rectangle' }))
  const follow = (k: number): object => ({ id: `turns${k}`, kind: 'follow', gain: 1, source: { item: 'rig', property: 'go' } })
  await studio.open(
    server.address,
    await projectOf(server, 'Many', [
      add({ id: 'rig', name: 'Rig', kind: 'null', controls: [{ id: 'go', name: 'Go', kind: 'fader', softMax: 100, default: 3 }] }),
      ...crates,
      ...crates.map((_, k) => ({ op: 'link.add', item: `crate${k}`, property: 'rotation', at: -1, link: follow(k) })),
    ]),
  )
  await page.getByRole('tree').focus()
  await page.keyboard.press('End')
  await expect(studio.row('Crate 67')).toBeInViewport()
  await page.getByLabel('Search items').fill('crate 31')
  await expect(studio.row('Crate 31')).toBeInViewport()
  await page.keyboard.press('Escape')
  await page.keyboard.press('Escape') // and out of the field
  await expect(page.getByRole('tree')).toBeFocused()
  await page.keyboard.press('3')
  const links = page.getByRole('grid', { name: 'Links' })
  await links.getByRole('row').nth(5).hover()
  await page.mouse.wheel(0, 4000)
  await expect(links.getByRole('row').filter({ hasText: 'Crate 67' })).toBeInViewport()
  await page.getByLabel('Search links by source, target or type').fill('crate 31')
  await expect(links.getByRole('row').filter({ hasText: 'Crate 31' })).toBeInViewport()
})
