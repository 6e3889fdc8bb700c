import type { Page } from '@playwright/test'
import { add, projectOf } from '../helpers/api'
import type { Studio } from '../helpers/studio'
import { expect, test } from '../helpers/test'

const rectangle = (id: string, x: number, more: object = {}): object =>
  add({ id, name: id, kind: 'rectangle', states: { position: { own: [x, 0, 0] }, size: { own: [120, 120] } }, ...more })
const rig = (...controls: object[]): object => add({ id: 'rig', name: 'Rig', kind: 'null', controls })
const fader = (id: string, name: string, value: number): object => ({ id, name, kind: 'fader', softMax: 100, default: value })

const frame = async (page: Page): Promise<number> => Number((await page.getByTestId('stage').getAttribute('data-drawn'))?.split(':')[0])
const rotation = (studio: Studio) => studio.field('rotation').locator('button.value')

async function drag(page: Page, from: { x: number; y: number }, dx: number, dy = 0): Promise<void> {
  await page.mouse.move(from.x, from.y)
  await page.mouse.down()
  await page.mouse.move(from.x + dx / 2, from.y + dy / 2, { steps: 4 })
  await page.mouse.move(from.x + dx, from.y + dy, { steps: 4 })
  await page.mouse.up()
}

test('Del acts on what the hand is at: a stop, a pin, a control, an item; what was driven is said', async ({ page, server, studio }) => {
  await studio.open(
    server.address,
    await projectOf(server, 'Del', [rig(fader('go', 'Go', 20), fader('idle', 'Idle', 1)), rectangle('box', 0)]),
  )
  await studio.select('box')
  await studio.field('rotation').getByRole('button', { name: 'rotation', exact: true }).click()
  await page.keyboard.press('l')
  await page.getByRole('dialog').getByText('Map', { exact: true }).click()
  await page.keyboard.type('go')
  await page.keyboard.press('Enter')
  const stops = page.locator('[data-stop]')
  await expect(stops).toHaveCount(2)
  // A stop more, where the curve passes; nothing changes by it. Picked, it alone goes.
  await studio.control('Go').locator('.name').click()
  const plot = page.getByRole('group', { name: /Response of the map/ })
  await plot.dblclick({ position: { x: 120, y: 20 } })
  await expect(stops).toHaveCount(3)
  await expect(rotation(studio)).toHaveAttribute('data-value', '0')
  await stops.nth(1).click()
  await page.keyboard.press('Delete')
  await expect(stops).toHaveCount(2)
  await expect(studio.control('Go')).toHaveCount(1)
  await expect(studio.row('box')).toHaveCount(1)
  await stops.first().click()
  await page.keyboard.press('Delete')
  await expect(page.getByText('A map has two stops at least.')).toBeVisible()
  // A pin, with a control picked elsewhere.
  await studio.control('Idle').getByRole('button', { name: 'Pin Idle at this frame' }).click()
  await studio.track('Idle').getByRole('button').click()
  await page.keyboard.press('Delete')
  await expect(studio.track('Idle').getByRole('button')).toHaveCount(0)
  await expect(studio.control('Idle')).toHaveCount(1)
  // On the Card, Del removes neither the item nor the control.
  await studio.field('opacity').locator('.name').click()
  await page.keyboard.press('Delete')
  await expect(studio.row('box')).toHaveCount(1)
  // The control, with what it drove.
  await studio.control('Go').locator('.name').click()
  await page.keyboard.press('Delete')
  await expect(studio.control('Go')).toHaveCount(0)
  await expect(page.getByText('Deleted Go, which drove box: rotation.')).toBeVisible()
  await page.locator('.n-message').getByRole('button', { name: 'Undo' }).click()
  await expect(studio.control('Go')).toHaveCount(1)
})

test('time keys move time after every gesture; a fader has them when it was reached by Tab; letters hold with Caps Lock', async ({
  page,
  server,
  studio,
}) => {
  await studio.open(
    server.address,
    await projectOf(server, 'Time', [rig(fader('go', 'Go', 20), fader('b', 'Other', 1)), rectangle('box', 0)]),
  )
  const value = studio.control('Go').locator('button.value')
  await studio.fader('Go', 0.5)
  const half = await value.getAttribute('data-value')
  await page.keyboard.press('ArrowRight')
  await expect.poll(() => frame(page)).toBe(1)
  await page.keyboard.press('End')
  await expect.poll(() => frame(page)).toBeGreaterThan(100)
  await page.keyboard.press('Home')
  await expect.poll(() => frame(page)).toBe(0)
  await expect(value).toHaveAttribute('data-value', half ?? '')
  // K pins what was touched last; a click that moves nothing changes nothing.
  await studio.fader('Other', 0.3)
  await page.keyboard.press('k')
  await expect(studio.track('Other').getByRole('button')).toHaveCount(1)
  await expect(studio.track('Go').getByRole('button')).toHaveCount(0)
  const undo = page.getByRole('button', { name: 'Undo', exact: true })
  await page.keyboard.press('Control+z')
  await page.keyboard.press('Control+z')
  await page.keyboard.press('Control+z')
  await expect(undo).toBeDisabled()
  const handle = await studio.control('Go').locator('.handle').boundingBox()
  await page.mouse.click((handle?.x ?? 0) + 4, (handle?.y ?? 0) + 8)
  await page.waitForTimeout(300)
  await expect(undo).toBeDisabled()
  // The same by keyboard: the fader that was reached by Tab has the arrows, and K pins it.
  await page.keyboard.press('Tab')
  await studio.control('Other').getByRole('slider').focus()
  await page.keyboard.press('ArrowRight')
  await expect(studio.control('Other').locator('button.value')).toHaveAttribute('data-value', '2')
  expect(await frame(page)).toBe(0)
  await page.keyboard.press('k')
  await expect(studio.track('Other').getByRole('button')).toHaveCount(1)
  // Caps Lock, and a layout without Latin letters.
  await studio.select('box')
  await page.evaluate(() => window.dispatchEvent(new KeyboardEvent('keydown', { key: 'C', code: 'KeyC', bubbles: true, cancelable: true })))
  await expect(page.getByRole('dialog', { name: 'New control' })).toBeVisible()
  await expect(page.getByLabel('Name of the control')).toBeFocused()
  await page.keyboard.press('Escape')
  await expect(page.getByRole('dialog')).toHaveCount(0)
  await page.evaluate(() => window.dispatchEvent(new KeyboardEvent('keydown', { key: 'с', code: 'KeyC', bubbles: true, cancelable: true })))
  await expect(page.getByRole('dialog', { name: 'New control' })).toBeVisible()
  await page.keyboard.press('Escape')
  // Switched off, letters are none.
  await page.keyboard.press('?')
  await page.getByRole('switch', { name: 'Shortcuts of a single letter or digit' }).click()
  await page.keyboard.press('Escape')
  await expect(page.getByRole('dialog')).toHaveCount(0)
  await page.keyboard.press('c')
  await page.waitForTimeout(200)
  await expect(page.getByRole('dialog')).toHaveCount(0)
})

test('Esc closes the topmost thing only; the selection and its order outlive it', async ({ page, server, studio }) => {
  await studio.open(
    server.address,
    await projectOf(server, 'Esc', [
      rig(fader('go', 'Go', 20), { id: 'spot', name: 'Spot', kind: 'point', softMin: -500, softMax: 500, default: [0, 0] }),
      rectangle('one', -100),
      rectangle('two', 100),
    ]),
  )
  await studio.select('two', 'one')
  const kept = async (): Promise<void> => {
    await expect(page.getByRole('treeitem', { selected: true })).toHaveCount(2)
    await expect(studio.row('two')).toContainText('1')
  }
  const opens: [string, () => Promise<void>, string][] = [
    ['a menu', () => studio.field('rotation').getByRole('button', { name: 'Actions for rotation' }).click(), '.n-dropdown-menu'],
    ['a choice', () => page.locator('[data-panel=card] .n-base-selection').first().click(), '.n-base-select-menu'],
    [
      'a colour picker',
      () =>
        studio
          .field('fill')
          .getByRole('button', { name: /^fill:/ })
          .click(),
      '.n-color-picker-panel',
    ],
    ['the list of problems', () => page.getByTestId('checks').click(), '[role=dialog][aria-label=Problems]'],
    ['the list of what can be added', () => page.getByRole('button', { name: '+ Add' }).click(), '[aria-label="Add an item"]'],
  ]
  for (const [, open, what] of opens) {
    await open()
    await expect(page.locator(what)).toBeVisible()
    await page.keyboard.press('Escape')
    await expect(page.locator(what)).toBeHidden()
    await page.waitForTimeout(300) // until it has faded away
    await kept()
  }
  await page.keyboard.press('Control+k')
  await expect(page.getByRole('dialog', { name: 'Search' })).toBeVisible()
  await page.keyboard.press('Escape')
  await expect(page.getByRole('dialog')).toHaveCount(0)
  await kept()
  await page.keyboard.press('Escape')
  await expect(page.getByRole('treeitem', { selected: true })).toHaveCount(0)
})

test('what is selected wins a press over what lies on top of it; nulls that carry are grabbed', async ({ page, server, studio }) => {
  await studio.open(
    server.address,
    await projectOf(server, 'Press', [
      add({ id: 'top', name: 'top', kind: 'rectangle', states: { size: { own: [300, 300] } } }),
      add({ id: 'low', name: 'low', kind: 'rectangle', states: { size: { own: [200, 200] } } }),
      add({ id: 'hook', name: 'hook', kind: 'null', states: { position: { own: [300, 0, 0] } } }),
      add({ id: 'kid', name: 'kid', kind: 'ellipse', parent: 'hook', states: { size: { own: [20, 20] } } }),
    ]),
  )
  const x = (): Promise<number> => studio.value(studio.field('position').locator('button.value').first())
  const box = await page.getByTestId('stage').boundingBox()
  const middle = { x: (box?.x ?? 0) + (box?.width ?? 0) / 2, y: (box?.y ?? 0) + (box?.height ?? 0) / 2 }
  await studio.select('low')
  await drag(page, middle, 60)
  await expect(page.getByRole('treeitem', { selected: true })).toContainText('low')
  expect(await x()).toBeGreaterThan(20)
  await page.mouse.click(middle.x, middle.y)
  await expect(page.getByRole('treeitem', { selected: true })).toContainText('top')
  await page.keyboard.press('Escape')
  const hook = await studio.middle(page.locator('[data-mark=hook] .hit'))
  await drag(page, { x: hook.x, y: hook.y - 8 }, 0, 60)
  await expect(page.getByRole('treeitem', { selected: true })).toContainText('hook')
})

test('x of one thing drives x of another, a vertex the place of a ball, by L alone', async ({ page, server, studio }) => {
  await studio.open(
    server.address,
    await projectOf(server, 'Parts', [
      rectangle('from', -200),
      rectangle('to', 100),
      add({
        id: 'line',
        name: 'line',
        kind: 'path',
        path: {
          contours: [
            {
              vertices: [
                { id: 1, at: [-50, 40] },
                { id: 2, at: [80, 90] },
              ],
            },
          ],
        },
      }),
    ]),
  )
  await studio.select('to')
  await studio.field('position').getByRole('button', { name: 'Components of position' }).click()
  await studio.field('position.x').getByRole('button', { name: 'x', exact: true }).click()
  await page.keyboard.press('l')
  await page.keyboard.type('from position.x')
  await expect(page.getByRole('dialog').getByRole('option').first()).toContainText('from: position.x')
  await page.keyboard.press('Enter')
  const place = studio.field('position').locator('button.value')
  await expect(place.first()).toHaveAttribute('data-value', '-200')
  await expect(place.nth(1)).toHaveAttribute('data-value', '0')
  await page.keyboard.press('Control+z')
  // By a vertex, as it stands in the composition.
  await expect(place.first()).toHaveAttribute('data-value', '100')
  await studio.field('position').getByRole('button', { name: 'position', exact: true }).click()
  await page.keyboard.press('l')
  await page.keyboard.type('world vertex 2')
  await expect(page.getByRole('dialog').getByRole('option').first()).toContainText('line: world vertex 2')
  await page.keyboard.press('Enter')
  await expect(place.first()).toHaveAttribute('data-value', '80')
  await expect(studio.field('position').locator('.chip')).toContainText('world vertex 2')

  // The space is chosen and seen; where the choice gives nothing, the editor says so.
  const editor = page.getByRole('group', { name: /^Link from/ })
  await editor.getByLabel('Space').click()
  await page.locator('.n-base-select-option').filter({ hasText: 'Composition' }).click()
  await expect(editor.getByText('Composition space is the same as parent space here')).toBeVisible()
  // Offsets go by axis.
  await editor.getByRole('button', { name: /^Offset y:/ }).click()
  await page.keyboard.type('25')
  await page.keyboard.press('Enter')
  await expect(place.first()).toHaveAttribute('data-value', '80')
  await expect(place.nth(1)).toHaveAttribute('data-value', '115')
})

test('rows are counted as picked; copies join at the end, set apart by the last move; the order is dragged', async ({
  page,
  server,
  studio,
}) => {
  await studio.open(
    server.address,
    await projectOf(server, 'Row', [
      add({ id: 'crew', name: 'crew', kind: 'null' }),
      ...['a', 'b', 'c'].map((id, k) => rectangle(id, k * 50, { parent: 'crew' })),
    ]),
  )
  await studio.select('c', 'a', 'b')
  await studio.field('rotation').getByRole('button', { name: 'Actions for rotation' }).click()
  await page.locator('.n-dropdown-option').filter({ hasText: 'One formula for all 3' }).click()
  await expect(page.locator('.cm-content')).toBeFocused()
  await page.keyboard.insertText('number * 10')
  await page.keyboard.press('Control+Enter')
  const turned = async (name: string): Promise<number> => {
    await studio.select(name)
    return studio.value(rotation(studio))
  }
  expect([await turned('c'), await turned('a'), await turned('b')]).toEqual([10, 20, 30])
  // A copy joins behind; it lies a step away, and the next one as far again as it was moved.
  await studio.select('a')
  await page.keyboard.press('Control+d')
  await expect(studio.row('a 2')).toHaveCount(1)
  await page.keyboard.press('Alt+Shift+ArrowRight')
  await page.keyboard.press('Control+d')
  await expect(studio.row('a 3')).toHaveCount(1)
  const x = async (name: string): Promise<number> => {
    await studio.select(name)
    return studio.value(studio.field('position').locator('button.value').first())
  }
  expect([await x('a'), await x('a 2'), await x('a 3')]).toEqual([0, 30, 60])
  expect([await turned('a 2'), await turned('a 3')]).toEqual([40, 50])
  // The row stays open, the numbers stand in the tree meanwhile, and its order is changed from the keyboard.
  await expect(studio.row('a 3')).toContainText('5')
  await page.getByRole('button', { name: /Members: order/ }).click()
  await page.keyboard.press('Tab')
  await page.locator('[data-place="4"]').focus()
  await page.keyboard.press('Alt+ArrowUp')
  await expect.poll(() => turned('a 3')).toBe(40)
})

test('the Desk: a control goes into another drawer with its links; focus mode; limits, default and depth in the form; text drives texts', async ({
  page,
  server,
  studio,
}) => {
  await studio.open(
    server.address,
    await projectOf(server, 'Desk', [
      rig(fader('go', 'Go', 20)),
      add({ id: 'other', name: 'Other', kind: 'null', controls: [fader('idle', 'Idle', 5)] }),
      rectangle('box', 0),
      add({ id: 'word', name: 'word', kind: 'text' }),
    ]),
  )
  await studio.select('box')
  await studio.cable('Go', 'rotation')
  await studio.type('Go', '33')
  await expect(rotation(studio)).toHaveAttribute('data-value', '33')
  await studio.control('Go').locator('.name').dragTo(studio.control('Idle'))
  await expect(page.getByRole('region', { name: 'Drawer Rig' })).toHaveCount(0)
  await expect(studio.drives('Go')).toHaveText('1')
  await studio.type('Go', '44')
  await expect(rotation(studio)).toHaveAttribute('data-value', '44')
  // Beyond its range it is seen to be; with a limit it goes no further.
  await studio.type('Go', '150')
  await expect(studio.control('Go').locator('.above')).toHaveCount(1)
  await studio.control('Go').hover()
  await studio.control('Go').getByRole('button', { name: 'Actions for Go' }).click()
  await page.locator('.n-dropdown-option').filter({ hasText: 'Settings…' }).click()
  await page.getByLabel('Upper limit').fill('120')
  await page.getByLabel('Default').fill('12')
  await page.getByRole('button', { name: 'Save', exact: true }).click()
  await expect(rotation(studio)).toHaveAttribute('data-value', '120')
  await page.getByRole('button', { name: 'Reset all' }).click()
  await expect(rotation(studio)).toHaveAttribute('data-value', '12')
  await page.keyboard.press('d')
  await expect(page.locator('.row.tall')).toHaveCount(2)
  await page.keyboard.press('d')
  await expect(page.locator('.row.tall')).toHaveCount(0)
  // A text is written on the Desk, and pinned and held like anything else.
  await studio.addControl('Other', 'Text', 'Headline')
  await studio.select('word')
  await studio.cable('Headline', 'text')
  const field = studio.control('Headline').getByRole('textbox')
  await field.fill('Low tide')
  await field.blur()
  await expect(studio.field('text').getByRole('textbox')).toHaveValue('Low tide')
  await studio.saved()
  await page.reload()
  await studio.drawn()
  await expect(field).toHaveValue('Low tide') // it was kept, and not only shown
  await page.keyboard.press('Escape')
  await page.getByRole('switch', { name: 'Auto pin' }).click()
  await studio.seek(20)
  await field.fill('High tide')
  await field.blur()
  await expect(studio.track('Headline').getByRole('button')).toHaveCount(1)
})

test('Ctrl K finds commands, controls, properties and help, and goes there', async ({ page, server, studio }) => {
  await studio.open(server.address, await projectOf(server, 'Find', [rig(fader('wind', 'Wind', 20)), rectangle('window', 0)]))
  const find = async (text: string): Promise<void> => {
    await page.keyboard.press('Control+k')
    await expect(page.getByLabel('Search everything')).toBeFocused()
    await page.keyboard.type(text)
  }
  const first = page.getByRole('dialog').getByRole('option').first()
  await find('wind')
  await expect(first).toContainText('Rig: Wind')
  await page.keyboard.press('Enter')
  await expect(studio.control('Wind')).toHaveClass(/picked/)
  await find('window rotation')
  await expect(first).toContainText('window: rotation')
  await page.keyboard.press('Enter')
  await expect(studio.field('rotation')).toHaveClass(/picked/)
  await expect(studio.field('rotation').getByRole('button', { name: 'rotation', exact: true })).toBeFocused()
  await page.waitForTimeout(400) // the dialog has faded
  await expect(studio.field('rotation')).toHaveClass(/picked/)
  await expect(studio.control('Wind')).not.toHaveClass(/picked/)
  await find('ledger')
  await page.keyboard.press('Enter')
  await expect(page.getByRole('grid', { name: 'Links' })).toBeVisible()
  await find('smoothstep')
  await page.keyboard.press('Enter')
  await expect(page.locator('.n-dialog')).toContainText('smoothstep(low, high, x)')
})
