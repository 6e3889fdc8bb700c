import { add, projectOf } from '../helpers/api'
import { difference } from '../helpers/pixels'
import { overlook, plug, port, pull, put, sheet, slip } from '../helpers/sheet'
import type { Studio } from '../helpers/studio'
import { expect, test } from '../helpers/test'

const rotation = (studio: Studio) => studio.field('rotation').locator('button.value')

test('one slider drives parts through maps of their own, whose ends are marked; its range changes, and the maps are stretched', async ({
  page,
  server,
  studio,
}) => {
  await studio.newProject(server.address, 'Hatches')
  await studio.add('null', 'Rig')
  await studio.addControl('Rig', 'Fader', 'Open', [0, 100])
  const parts = ['Hatch', 'Lid', 'Ramp', 'Bolt']
  for (const name of parts) await studio.add('rectangle', name)
  await page.keyboard.press('4')
  await page.getByRole('button', { name: '+ Graph' }).click()
  await page.keyboard.press('g')
  await put(page, 'open')
  await put(page, 'map')
  await put(page, 'drive')
  await overlook(page)
  await plug(page, port(page, 'Rig: Open', 'out'), port(page, 'map', 'in'))
  await plug(page, port(page, 'map', 'out'), port(page, 'drive', 'in'))
  await expect(page.locator('.vue-flow__edge')).toHaveCount(2)
  // The map and its drive slip once more for each part, wired as they are.
  for (let n = 1; n < parts.length; n++) {
    if (n === 1) {
      await slip(page, 'map').locator('h3').click()
      await slip(page, 'drive')
        .locator('h3')
        .click({ modifiers: ['Control'] })
    }
    await sheet(page).focus()
    await page.keyboard.press('Control+d')
    await expect(page.locator('.vue-flow__edge')).toHaveCount(2 + 2 * n)
  }
  await overlook(page)
  for (const [n, name] of parts.entries()) {
    await studio.select(name)
    await studio.field('rotation').locator('.name').click()
    await slip(page, 'drive').nth(n).getByRole('button', { name: 'Drive the selection' }).click()
    await expect(slip(page, 'drive').nth(n)).toContainText(name + ': rotation')
  }

  // Their ends are marked where the parts are turned to.
  const open = async (x: string): Promise<void> => {
    await page.keyboard.press('1')
    await studio.type('Open', x)
    await page.keyboard.press('4')
  }
  await open('100')
  for (const [n, name] of parts.slice(0, 3).entries()) {
    await studio.select(name)
    await rotation(studio).click()
    await page.keyboard.type(String(30 * (n + 1)))
    await page.keyboard.press('Enter')
    await slip(page, 'map').nth(n).getByRole('button', { name: 'Set high' }).click()
  }
  await open('45')
  await studio.select('Bolt')
  await rotation(studio).click()
  await page.keyboard.type('-80')
  await page.keyboard.press('Enter')
  await studio.field('rotation').locator('.chip').click()
  await page.getByRole('button', { name: 'Set high' }).last().click() // on the Card
  const turned = async (name: string): Promise<number> => {
    await studio.select(name)
    return studio.value(rotation(studio))
  }
  await open('50')
  for (const [name, want] of [
    ['Hatch', 15],
    ['Lid', 30],
    ['Ramp', 45],
    ['Bolt', -80],
  ] as const)
    expect(await turned(name)).toBeCloseTo(want, 6)

  // The slider runs from 0 to 1 from now on: what has to be mended is said, and done with a press.
  await page.keyboard.press('1')
  await studio.control('Open').hover()
  await page.getByRole('button', { name: 'Actions for Open' }).click()
  await page.getByText('Settings…').click()
  const form = page.getByRole('dialog')
  await form.getByLabel('Unit').click()
  await page.locator('.n-base-select-option').filter({ hasText: 'No unit' }).click()
  await form.getByLabel('Range to').fill('1')
  await form.getByRole('button', { name: 'Save', exact: true }).click()
  await expect(page.getByTestId('checks')).toHaveText('4 problems')
  await page.getByTestId('checks').click()
  for (let left = 4; left > 0; left--) {
    await expect(page.getByText(/has stops from 0 to (100|45), and Rig: Open runs from 0 to 1/)).toHaveCount(left)
    await page.getByRole('button', { name: 'stretch its stops to 0 to 1' }).first().click()
  }
  await expect(page.getByText('No problems found.')).toBeVisible()
  await page.keyboard.press('Escape')
  await studio.type('Open', '0.5')
  expect(await turned('Ramp')).toBeCloseTo(45, 6)
})

test('one master drives all that hangs on a group in the composition, each shifted and late; copies join', async ({
  page,
  server,
  studio,
}) => {
  await studio.newProject(server.address, 'Crew')
  await studio.add('null', 'Master')
  for (const name of ['One', 'Two', 'Three']) await studio.add('rectangle', name)
  await studio.select('One', 'Two', 'Three')
  await page.keyboard.press('Control+g')
  await expect(page.getByRole('treeitem')).toHaveCount(5)
  await page.keyboard.press('4')
  await page.getByRole('button', { name: '+ Graph' }).click()
  await page.keyboard.press('g')
  await put(page, 'master world.position')
  await put(page, 'delay')
  await plug(page, port(page, 'Master: world.position', 'out'), port(page, 'delay', 'in'))
  await put(page, '+')
  await put(page, 'row')
  await put(page, 'drive')
  await page.getByRole('button', { name: 'Lay out' }).click()
  await overlook(page)

  // A bare number where a time is wanted: what mends it is offered, and a press puts it between.
  await plug(page, port(page, 'row', 'out', 1), port(page, 'delay', 'in', 1))
  await expect(page.getByText(/this needs a time, but this value is a plain number/)).toBeVisible()
  await page.getByRole('button', { name: 'frames', exact: true }).click()
  await expect(slip(page, 'times')).toBeVisible()
  await slip(page, 'times').getByLabel('b of times').fill('4f')
  await page.keyboard.press('Tab')
  await sheet(page).focus()
  await page.keyboard.press('Escape')
  await put(page, '* 200')
  await put(page, 'point')
  await page.getByRole('button', { name: 'Lay out' }).click()
  await sheet(page).focus()
  await overlook(page)
  const by = page.locator('[data-slip="times"]').filter({ hasText: 'needs' })
  await plug(page, port(page, 'row', 'out', 1), by.locator('.in .vue-flow__handle').first())
  await expect(by).toHaveCount(0)
  await plug(page, slip(page, 'times').last().locator('.out .vue-flow__handle'), port(page, 'point', 'in'))
  for (const key of ['y', 'z']) {
    await slip(page, 'point').getByLabel(`${key} of point`).fill('0')
    await page.keyboard.press('Tab')
  }
  await plug(page, port(page, 'delay', 'out'), port(page, 'plus', 'in'))
  await plug(page, port(page, 'point', 'out'), port(page, 'plus', 'in', 1))
  await plug(page, port(page, 'plus', 'out'), port(page, 'drive', 'in'))
  await studio.select('Three', 'Two', 'One') // all that hangs on the group, in its order
  await studio.field('position').locator('.name').click()
  await slip(page, 'drive').getByRole('button', { name: 'As a row' }).click()
  await expect(page.locator('.slip .wrong')).toHaveCount(0)
  await page.keyboard.press('1')
  await studio.field('position').locator('.chip').click()
  await page
    .getByRole('group', { name: /^Row: position of/ })
    .getByLabel('Space')
    .click()
  await page.locator('.n-base-select-option').filter({ hasText: 'Composition' }).click()

  const x = async (name: string): Promise<number> => {
    await studio.select(name)
    return studio.value(studio.field('position').locator('button.value').first())
  }
  const before = [await x('Three'), await x('Two'), await x('One')]
  expect(before[0]).toBeCloseTo(200, 6) // the first one is shifted, too
  expect(before[1]! - before[0]!).toBeCloseTo(200, 6)
  expect(before[2]! - before[1]!).toBeCloseTo(200, 6)
  // Copies join behind or before the others: all of them stand 200 apart.
  await studio.select('Three')
  await page.keyboard.press('Control+d')
  await page.keyboard.press('Control+d')
  await expect(page.getByRole('treeitem')).toHaveCount(7)
  const all: number[] = []
  for (const row of await page
    .getByRole('treeitem')
    .locator('[title]')
    .evaluateAll((l) => l.map((e) => e.getAttribute('title') ?? '')))
    if (/^(One|Two|Three)/.test(row)) all.push(await x(row))
  all.sort((a, b) => a - b)
  expect(all.map((v) => Math.round(v - all[0]!))).toEqual([0, 200, 400, 600, 800])
})

test('a vertex of a box carries a ball; turned round with one gesture, the ball moves the vertex', async ({ page, server, studio }) => {
  await studio.newProject(server.address, 'Corner')
  await studio.add('box', 'Crate')
  await studio.add('sphere', 'Lamp')
  await studio.select('Lamp')
  await studio.field('position').locator('.name').click()
  await page.keyboard.press('4')
  await page.getByRole('button', { name: '+ Graph' }).click()
  await page.keyboard.press('g')
  // What is typed on is not lost while the slip before is still being put down.
  await sheet(page).focus()
  await page.keyboard.press('/')
  await page.getByLabel('Find what to put on the sheet').fill('crate world vertex 3')
  await page.evaluate(() => {
    const search = document.querySelector('[aria-label="Put on the sheet"]')
    const seen = new MutationObserver(() => {
      if (search?.isConnected) return
      seen.disconnect()
      for (const key of ['l', ...'drive', 'Enter'])
        document.activeElement?.dispatchEvent(new KeyboardEvent('keydown', { key, bubbles: true, cancelable: true }))
    })
    seen.observe(document.body, { childList: true, subtree: true })
  })
  await page.keyboard.press('Enter')
  await slip(page, 'drive').getByRole('button', { name: 'Drive the selection' }).click()
  const place = async (): Promise<string> =>
    (
      await studio
        .field('position')
        .locator('button.value')
        .evaluateAll((l) => l.map((e) => e.getAttribute('data-value')))
    ).join(' ')
  await expect.poll(place).not.toMatch(/^0 0/)
  const carried = await place()
  await slip(page, 'drive').getByRole('button', { name: 'turn round' }).click()
  await expect(slip(page, 'Lamp: world.position').or(slip(page, 'Lamp: position'))).toBeVisible()
  await expect(slip(page, 'drive')).toContainText('Crate: vertex 3')
  await expect.poll(place).toBe(carried)
  await studio.field('position').locator('button.value').first().click()
  await page.keyboard.type('-90')
  await page.keyboard.press('Enter')
  await expect(slip(page, 'drive').locator('.in .value')).toContainText('-90')
  await page.keyboard.press('1')
  await page.keyboard.press('Control+z')
  await expect.poll(place).toBe(carried)
})

test('slips by hand: between two others, out by X, copied, folded and opened, made a control; all of it undone', async ({
  page,
  server,
  studio,
}) => {
  await studio.newProject(server.address, 'Hands')
  await studio.add('rectangle', 'Box')
  await page.keyboard.press('4')
  await page.getByRole('button', { name: 'something that sways' }).click()
  await page.keyboard.press('g')
  await sheet(page).focus()
  await put(page, 'abs')
  await overlook(page)
  const edges = page.locator('.vue-flow__edge')
  await expect(edges).toHaveCount(4)

  // Dragged onto a cable it goes between.
  const grip = await slip(page, 'abs').locator('h3').boundingBox()
  const from = await port(page, 'sway', 'out').boundingBox()
  const to = await slip(page, 'times').last().locator('.in .vue-flow__handle').first().boundingBox()
  if (!grip || !from || !to) throw new Error('they are not there')
  await page.mouse.move(grip.x + 12, grip.y + 8)
  await page.mouse.down()
  await page.mouse.move((from.x + to.x) / 2 + 20, (from.y + to.y) / 2 + 40, { steps: 6 })
  await page.mouse.move((from.x + to.x) / 2 + 10, (from.y + to.y) / 2 + 10, { steps: 4 })
  await expect(page.locator('.cable.over')).toHaveCount(1)
  await page.mouse.up()
  await expect(edges).toHaveCount(5)
  await expect(slip(page, 'abs')).toHaveAttribute('aria-label', /input x from sway/)

  // By X it leaves its cables, and its neighbours are wired as before.
  await slip(page, 'abs')
    .locator('h3')
    .click({ position: { x: 12, y: 8 } })
  await sheet(page).focus()
  await page.keyboard.press('x')
  await expect(edges).toHaveCount(4)
  await expect(slip(page, 'abs')).toHaveAttribute('aria-label', /input x empty/)
  const again = await slip(page, 'abs').locator('h3').boundingBox()
  if (!again) throw new Error('it is gone')
  await page.mouse.move(again.x + 12, again.y + 8)
  await page.mouse.down()
  await page.mouse.move(again.x + 40, again.y + 160, { steps: 6 })
  await page.mouse.up()

  // Copied and put down again, with the wires between them.
  await sheet(page).focus()
  await page.keyboard.press('Control+a')
  await page.keyboard.press('Control+c')
  await page.keyboard.press('Control+v')
  await expect(edges).toHaveCount(8)
  await page.keyboard.press('Control+z')
  await expect(edges).toHaveCount(4)

  // Folded, wired through the fold, opened.
  await slip(page, 'sway')
    .locator('h3')
    .click({ position: { x: 12, y: 8 } })
  await slip(page, 'times')
    .last()
    .locator('h3')
    .click({ modifiers: ['Control'], position: { x: 12, y: 8 } })
  await page.keyboard.press('Control+g')
  await expect(slip(page, 'Fold')).toBeVisible()
  await expect(slip(page, 'sway')).toHaveCount(0)
  await slip(page, 'Fold').getByRole('button', { name: 'Open' }).click()
  await expect(slip(page, 'sway')).toBeVisible()
  await page.getByRole('button', { name: 'Close', exact: true }).click()
  await expect(slip(page, 'sway')).toHaveCount(0)
  await page.keyboard.press('Control+z')
  await page.keyboard.press('Control+z')
  await page.keyboard.press('Control+z')
  await expect(slip(page, 'sway')).toBeVisible()

  // A menu that is open has the keys; Esc closes it and nothing else.
  await slip(page, 'abs')
    .locator('h3')
    .click({ position: { x: 12, y: 8 } })
  await slip(page, 'abs').getByRole('button', { name: 'Actions for abs' }).click()
  await expect(page.locator('.n-dropdown-menu')).toBeVisible()
  await page.keyboard.press('ArrowDown')
  await page.keyboard.press('Delete')
  await page.keyboard.press('Escape')
  await expect(page.locator('.n-dropdown-menu')).toHaveCount(0)
  await expect(slip(page, 'abs')).toBeVisible()
  await expect(page.locator('.slip.selected')).toHaveAttribute('data-slip', 'abs')

  // A value becomes a control of A new null.
  await slip(page, 'times').last().hover()
  await slip(page, 'times').last().getByRole('button', { name: 'Actions for times' }).click()
  await page.getByText(/^Make b \(12\) a control/).hover()
  await page.getByText('of A new null').click()
  await expect(slip(page, 'Panel: times b')).toBeVisible()
  await expect(page.getByRole('treeitem')).toHaveCount(2)

  // What is removed takes the keys with it to the sheet: Del again removes nothing else.
  await studio.select('Box')
  await slip(page, 'Panel: times b')
    .locator('h3')
    .click({ position: { x: 12, y: 8 } })
  await page.keyboard.press('Delete')
  await expect(slip(page, 'Panel: times b')).toHaveCount(0)
  await page.keyboard.press('Delete')
  await page.keyboard.press('Delete')
  await expect(studio.row('Box')).toHaveCount(1)
  await expect(sheet(page)).toBeFocused()
})

test('a graph drives all copies of an item: by search, and by a cable from the Card that is dropped on the sheet', async ({
  page,
  server,
  studio,
}) => {
  const ops = [
    add({ id: 'beads', name: 'Beads', kind: 'copies', states: { copiesNumber: { own: 5 } } }),
    add({ id: 'bead', name: 'Bead', kind: 'rectangle', parent: 'beads', states: { size: { own: [60, 60] } } }),
  ]
  await studio.open(server.address, await projectOf(server, 'Copies by a graph', ops))
  const before = await studio.stage.screenshot()
  await page.keyboard.press('4')
  await page.getByRole('button', { name: '+ Graph' }).click()
  await page.keyboard.press('g')
  await put(page, 'row number')
  await put(page, '* 20')
  await put(page, 'drive')
  await overlook(page)
  await slip(page, 'drive').getByRole('button', { name: 'Drive a property' }).click()
  const chooser = page.getByRole('dialog').filter({ hasText: 'drive?' })
  await page.keyboard.type('each copy tint strength')
  await page.keyboard.press('Enter')
  await expect(chooser).toHaveCount(0)
  await expect(slip(page, 'drive')).toContainText('tint strength of the copies of Beads')
  // A second one by a cable from the Card; over a slip that gives something it is refused with a sentence.
  await studio.select('Beads')
  const jack = page.locator('[data-each="rotation"] .jack')
  await jack.scrollIntoViewIfNeeded()
  const box = await sheet(page).boundingBox()
  if (!box) throw new Error('there is no sheet')
  const over = await slip(page, 'times').locator('h3').boundingBox()
  await pull(page, jack, { x: (over?.x ?? 0) + 10, y: (over?.y ?? 0) + 8 })
  await expect(page.getByText('Copies can be driven, not read')).toBeVisible()
  await pull(page, jack, { x: box.x + box.width * 0.4, y: box.y + box.height - 60 })
  await expect(slip(page, 'drive')).toHaveCount(2)
  await expect(slip(page, 'drive').nth(1)).toContainText('rotation of the copies of Beads')
  await sheet(page).focus()
  await overlook(page)
  await plug(page, port(page, 'row', 'out', 1), port(page, 'times', 'in'))
  for (const n of [0, 1]) await plug(page, port(page, 'times', 'out'), slip(page, 'drive').nth(n).locator('.in .vue-flow__handle'))
  await expect(page.getByTestId('checks')).toContainText('No problems')
  await expect(page.getByLabel('Member shown')).toHaveValue('2')
  await expect(page.getByText('of 5')).toBeVisible()
  await expect(slip(page, 'times')).toContainText('40') // the second copy
  await page.keyboard.press('g')
  await page.waitForTimeout(400)
  expect(await difference(page, before, await studio.stage.screenshot())).toBeGreaterThan(0.2)
})
