import { add, projectOf } from '../helpers/api'
import { Hand } from '../helpers/hand'
import { difference } from '../helpers/pixels'
import { expect, test } from '../helpers/test'

test('copies from an empty project: in a ring, smaller and later one by one, and broken up into items that look the same', async ({
  page,
  server,
  studio,
}) => {
  await studio.newProject(server.address, 'Copies')
  const hand = new Hand(page)
  const card = page.locator('[data-panel="card"]')
  await hand.key('a')
  await hand.type('star Leaf', 'Shift+Enter')
  await expect(page.getByRole('treeitem')).toHaveCount(1)
  await studio.field('size').locator('button.value').first().click()
  await page.keyboard.type('90')
  await page.keyboard.press('Tab')
  await studio.field('rotation').getByRole('button', { name: /pin/i }).first().click()
  await studio.seek(50)
  await studio.field('rotation').locator('button.value').click()
  await page.keyboard.type('180')
  await page.keyboard.press('Enter')
  await hand.key('a')
  await hand.type('copies Wreath', 'Shift+Enter')
  await expect(page.getByRole('treeitem', { selected: true })).toContainText('Wreath')
  await expect(studio.row('Leaf')).toHaveAttribute('aria-level', '2')
  await studio.field('copiesArrangement').locator('.n-base-selection').click()
  await page.getByText('ring', { exact: true }).click()
  await expect(studio.field('copiesColumns')).toHaveCount(0) // which a ring does not have
  const before = await studio.stage.screenshot()
  await card.getByRole('button', { name: 'Drive scale of each copy' }).click()
  await expect(card.locator('.cm-content')).toContainText('mix(1, 0.4, share)')
  await card.getByRole('button', { name: 'Drive delay of each copy' }).click()
  await expect(card.locator('.cm-content')).toContainText('index * 3f')
  await page.waitForTimeout(300)
  const driven = await studio.stage.screenshot()
  expect(await difference(page, before, driven)).toBeGreaterThan(0.5)
  // A click on a copy takes the copies, not what they show.
  await page.keyboard.press('m')
  const shown = await studio.stage.screenshot()
  await card.getByRole('button', { name: 'Break up into items' }).click()
  await expect(page.getByText('Wreath became 8 groups')).toBeVisible()
  await expect(page.getByTestId('checks')).toContainText('No problems')
  await page.keyboard.press('Escape')
  await page.waitForTimeout(300)
  expect(await difference(page, shown, await studio.stage.screenshot())).toBeLessThan(0.3)
  await page.keyboard.press('Control+z')
  await expect(page.getByRole('treeitem')).toHaveCount(2)
  await page.waitForTimeout(300)
  expect(await difference(page, shown, await studio.stage.screenshot())).toBeLessThan(0.3)
})

test('copies with mistakes: nothing to show, more than the limit, along no path, nested too deep; one click takes the copies', async ({
  page,
  server,
  studio,
}) => {
  const nested = [
    add({ id: 'outer', name: 'Outer', kind: 'copies', states: { copiesNumber: { own: 3 }, copiesSpacing: { own: [0, 90, 0] } } }),
    add({ id: 'inner', name: 'Inner', kind: 'copies', parent: 'outer', states: { copiesNumber: { own: 4 } } }),
    add({ id: 'dot', name: 'Dot', kind: 'ellipse', parent: 'inner', states: { size: { own: [60, 60] } } }),
    add({ id: 'more', name: 'More', kind: 'copies', hidden: true }),
  ]
  await studio.open(server.address, await projectOf(server, 'Nested', nested))
  const checks = page.getByTestId('checks')
  await checks.click()
  await expect(page.getByText('More has nothing to show yet')).toBeVisible()
  await page.keyboard.press('Escape')
  // Copies of copies are shown; a third level is refused.
  await studio.stage.click({ position: { x: 430, y: 188 } })
  await expect(page.getByRole('treeitem', { selected: true })).toContainText('Outer')
  await studio.row('Dot').dragTo(studio.row('More'))
  await expect(studio.row('Dot')).toHaveAttribute('aria-level', '2')
  await studio.row('More').dragTo(studio.row('Inner'))
  await expect(page.getByText(/copies of copies of copies/)).toBeVisible()
  // More than the limit, which is raised by one press.
  await studio.select('Outer')
  const number = studio.field('copiesNumber').locator('button.value')
  await number.click()
  await page.keyboard.type('250')
  await page.keyboard.press('Enter')
  await checks.click()
  await expect(page.getByText('Outer shows 200 of 250 copies')).toBeVisible()
  await page.getByRole('button', { name: 'raise the limit to 250' }).click()
  await expect(page.getByText('Outer shows 200 of 250 copies')).toHaveCount(0)
  await page.keyboard.press('Escape')
  await number.click()
  await page.keyboard.type('-3')
  await page.keyboard.press('Enter')
  await expect.poll(() => studio.value(number)).toBe(0)
  // A cable drives all copies.
  await number.click()
  await page.keyboard.type('3')
  await page.keyboard.press('Enter')
  await studio.addControl('More', 'Fader', 'Dim', [0, 100])
  await studio.select('Outer')
  const from = await studio.middle(studio.control('Dim').locator('.jack'))
  const to = await studio.middle(page.locator('[data-each="opacity"] .jack'))
  await page.mouse.move(from.x, from.y)
  await page.mouse.down()
  await page.mouse.move((from.x + to.x) / 2, (from.y + to.y) / 2, { steps: 4 })
  await page.mouse.move(to.x, to.y, { steps: 4 })
  await page.mouse.up()
  await expect(page.locator('[data-each="opacity"] .chip')).toHaveText('follow')
  await expect(studio.drives('Dim')).toHaveText('1')
})

test('objects as copies look as the items do that they break up into: lit, mirrored, seen through, with flat ones between', async ({
  page,
  server,
  studio,
}) => {
  const spaced = { copiesNumber: { own: 6 }, copiesSpacing: { own: [110, 0, 0] }, copiesArrangement: { own: 2 }, copiesColumns: { own: 3 } }
  const mirrored = { kind: 'formula', gain: 1, formula: 'if(index == 1, [-100, 100, 100], below)' }
  const row = (item: string, link: object): object => ({
    op: 'spread.add',
    at: -1,
    value: { id: `row${item}`, name: 'mirrored', roster: { kind: 'copies', item }, property: 'scale', link },
  })
  const ops = [
    add({ id: 'lamp', name: 'Lamp', kind: 'pointLight', states: { position: { own: [-200, 300, 400] } } }),
    add({ id: 'blocks', name: 'Blocks', kind: 'copies', states: { ...spaced, position: { own: [-250, 120, 0] } } }),
    add({
      id: 'block',
      name: 'Block',
      kind: 'box',
      parent: 'blocks',
      states: { scale: { own: [40, 70, 40] }, rotation: { own: 20 }, rotationX: { own: 35 }, rotationY: { own: 25 } },
    }),
    add({ id: 'panes', name: 'Panes', kind: 'copies', states: { ...spaced, position: { own: [-250, -80, 0] } } }),
    add({ id: 'dot', name: 'Dot', kind: 'ellipse', parent: 'panes', states: { size: { own: [60, 60] } } }),
    add({
      id: 'pane',
      name: 'Pane',
      kind: 'box',
      parent: 'panes',
      states: { scale: { own: [50, 50, 50] }, opacity: { own: 50 }, rotationX: { own: 35 }, rotationY: { own: 25 } },
    }),
    row('blocks', { id: 'm1', ...mirrored }),
    row('panes', { id: 'm2', ...mirrored }),
  ]
  await studio.open(server.address, await projectOf(server, 'Objects', ops))
  await page.waitForTimeout(500)
  const shown = await studio.stage.screenshot()
  await studio.select('Blocks')
  await page.getByRole('button', { name: 'Break up into items' }).click()
  await expect(page.getByRole('treeitem')).toHaveCount(17)
  await studio.select('Panes')
  await page.getByRole('button', { name: 'Break up into items' }).click()
  await expect(page.getByText('Panes became 6 groups')).toBeVisible()
  await page.keyboard.press('Escape')
  await page.waitForTimeout(500)
  expect(await difference(page, shown, await studio.stage.screenshot())).toBeLessThan(0.1)
})

test('six crates with shadows from a lamp: at most 10 gestures; a seventh by one', async ({ page, server, studio }) => {
  await studio.newProject(server.address, 'Shadows')
  const hand = new Hand(page)
  await hand.key('a')
  await hand.type('6 rectangle Crate', 'Shift+Enter')
  await expect(page.getByRole('treeitem', { selected: true })).toHaveCount(6)
  await hand.key('Control+k')
  await hand.type('recipe: cast shadows')
  const dialog = page.getByRole('dialog').filter({ hasText: 'a shadow of each item' })
  await hand.press(dialog.getByRole('button', { name: 'Apply' }))
  await expect(dialog).toHaveCount(0)
  console.log(`six crates with shadows: ${hand.count} gestures`)
  expect(hand.count).toBeLessThanOrEqual(10)
  await expect(page.getByRole('treeitem')).toHaveCount(14)
  await studio.select('Crate 6')
  const more = new Hand(page)
  await more.key('Shift+D')
  expect(more.count).toBe(1)
  await expect(page.getByRole('treeitem')).toHaveCount(16)
  await expect(page.getByText('one more like Crate 6, with its own Crate 7 shadow', { exact: false })).toBeVisible()
  await expect(page.getByTestId('checks')).toContainText('No problems')
})

test('three rows of three joints that wave and trail: at most 12 gestures; a fourth by one', async ({ page, server, studio }) => {
  await studio.newProject(server.address, 'Rows')
  const hand = new Hand(page)
  const onto = async (what: string, on: string): Promise<void> => {
    hand.count++
    await studio.row(what).dragTo(studio.row(on))
    await expect(studio.row(what)).not.toHaveAttribute('aria-level', '1')
  }
  await hand.key('a')
  await hand.type('3 rectangle Joint', 'Shift+Enter')
  await expect(page.getByRole('treeitem')).toHaveCount(3)
  await onto('Joint 3', 'Joint 2')
  await onto('Joint 2', 'Joint 1')
  await hand.press(studio.row('Joint 1'))
  await hand.key('Control+d')
  await expect(page.getByRole('treeitem', { selected: true })).toContainText('Joint 4')
  await hand.key('Control+d')
  await expect(page.getByRole('treeitem', { selected: true })).toContainText('Joint 7')
  await hand.press(studio.row('Joint 4'), ['Control'])
  await hand.press(studio.row('Joint 1'), ['Control'])
  await hand.key('Control+k')
  await hand.type('recipe: rows that trail')
  const dialog = page.getByRole('dialog').filter({ hasText: 'each joint follows the one before' })
  await hand.press(dialog.getByRole('button', { name: 'Apply' }))
  await expect(dialog).toHaveCount(0)
  console.log(`three rows of three joints: ${hand.count} gestures`)
  expect(hand.count).toBeLessThanOrEqual(12)
  // The joint that was selected first waves, the others come after it.
  await studio.seek(12)
  const turned = async (name: string): Promise<number> => {
    await studio.select(name)
    return studio.value(studio.field('rotation').locator('button.value').first())
  }
  const [first, next, last] = [await turned('Joint 7'), await turned('Joint 8'), await turned('Joint 1')]
  expect(Math.abs(first)).toBeGreaterThan(15)
  expect(new Set([first, next, last].map(Math.round)).size).toBe(3)
  await studio.seek(0)
  await studio.select('Joint 4')
  const more = new Hand(page)
  await more.key('Shift+D')
  expect(more.count).toBe(1)
  await expect(page.getByText('one more like Joint 4', { exact: false })).toBeVisible()
  await expect(page.getByTestId('checks')).toContainText('No problems')
})

test('face frames on a handle with limits: at most 8 gestures', async ({ page, server, studio }) => {
  const face = {
    id: 'face',
    name: 'Face',
    kind: 'flipbook',
    frames: Array.from({ length: 5 }, () => ({ asset: 'ab'.repeat(32) })),
  }
  await studio.open(server.address, await projectOf(server, 'Face', [add(face)]))
  const hand = new Hand(page)
  await hand.press(studio.row('Face'))
  await hand.key('Control+k')
  await hand.type('recipe: scrub frames')
  const dialog = page.getByRole('dialog').filter({ hasText: 'One fader scrubs all frames' })
  await hand.press(dialog.getByRole('button', { name: 'Apply' }))
  await expect(dialog).toHaveCount(0)
  console.log(`face frames on a handle with limits: ${hand.count} gestures`)
  expect(hand.count).toBeLessThanOrEqual(8)
  await studio.type('Frame', '40')
  await studio.select('Face')
  await expect.poll(() => studio.value(studio.field('frame').locator('button.value'))).toBe(5)
})

test('a rig that is pasted into another project is whole; what is not there is asked for by name', async ({ page, server, studio }) => {
  await studio.newProject(server.address, 'From')
  await studio.add('null', 'Weather')
  await studio.addControl('Weather', 'Fader', 'Amount', [0, 73])
  await page.keyboard.press('a')
  await page.keyboard.type('3 ellipse Dot')
  await page.keyboard.press('Shift+Enter')
  await expect(page.getByRole('treeitem', { selected: true })).toHaveCount(3)
  await studio.cable('Amount', 'rotation')
  await page.keyboard.press('Control+c')
  await page.waitForFunction(() => localStorage.getItem('wunderkammer:clip') !== null)
  await studio.newProject(server.address, 'To')
  await studio.add('null', 'Climate')
  await studio.addControl('Climate', 'Fader', 'Amount', [0, 73])
  await page.keyboard.press('Control+v')
  const dialog = page.getByRole('dialog').filter({ hasText: 'Choose what takes their places' })
  await expect(dialog).toContainText('Weather (Amount)')
  await dialog.locator('.n-base-selection').click()
  await page.locator('.n-base-select-option').filter({ hasText: 'Climate' }).click()
  await dialog.getByRole('button', { name: 'Paste' }).click()
  await expect(page.getByRole('treeitem')).toHaveCount(4)
  await studio.type('Amount', '41')
  await studio.select('Dot 3')
  await expect(studio.field('rotation').locator('button.value')).toHaveAttribute('data-value', '41')
})

test('a thing with a time of its own stands still, and runs on, as its time is pinned', async ({ page, server, studio }) => {
  const linear = (frame: number, value: unknown) => ({ frame, value, easing: 'linear' })
  const cart = add({
    id: 'cart',
    name: 'Cart',
    kind: 'rectangle',
    states: { position: { pins: [linear(0, [-400, 30, 0]), linear(200, [400, 30, 0])] } },
  })
  await studio.open(server.address, await projectOf(server, 'Own time', [cart]))
  const seen = async (frame: number): Promise<Buffer> => {
    await studio.seek(frame)
    await page.waitForTimeout(150)
    return studio.stage.screenshot()
  }
  const [at60, at150] = [await seen(60), await seen(150)]
  await studio.row('Cart').click({ button: 'right' })
  await page.locator('.n-dropdown-option').filter({ hasText: 'Give it a time of its own' }).click()
  await expect(page.getByRole('treeitem', { selected: true })).toContainText('Retimed')
  const time = studio.field('copiesTime').locator('button.value')
  await studio.seek(150)
  await expect.poll(() => studio.value(time)).toBeCloseTo(6, 5)
  // At frame 150 it is 2.4 s, frame 60: typed, which pins it.
  await time.click()
  await page.keyboard.type('2.4')
  await page.keyboard.press('Enter')
  await expect.poll(() => studio.value(time)).toBe(2.4)
  await page.mouse.click(30, 480) // beside the picture and the items: nothing is selected
  expect(await difference(page, await seen(150), at60)).toBeLessThan(0.2)
  expect(await difference(page, await seen(150), at150)).toBeGreaterThan(1)
  await studio.saved()
  await page.reload()
  await studio.drawn()
  expect(await difference(page, await seen(150), at60)).toBeLessThan(0.2)
})
