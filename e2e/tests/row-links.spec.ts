import { add, projectOf } from '../helpers/api'
import { Hand, option } from '../helpers/hand'
import { put, slip } from '../helpers/sheet'
import { Studio } from '../helpers/studio'
import { expect, test } from '../helpers/test'

/** An empty project with a control on a null. */
async function begin(studio: Studio, address: string, kind: string, control: string): Promise<void> {
  await studio.newProject(address, 'Rows')
  await studio.add('null', 'Rig')
  await studio.addControl('Rig', kind, control)
}

const shown = async (studio: Studio, item: string, field = 0): Promise<number> => {
  await studio.select(item)
  return studio.value(studio.field('position').locator('button.value').nth(field))
}

test('one fader drives five things on mixed axes, four frames apart, in an order that is dragged: at most 10 gestures', async ({
  page,
  server,
  studio,
}) => {
  await begin(studio, server.address, 'Fader', 'Sway')
  await studio.addMany('5 rectangle Crate')
  await expect(page.getByRole('treeitem', { selected: true })).toHaveCount(5)
  const was = [await shown(studio, 'Crate 1'), await shown(studio, 'Crate 4', 1)]
  await studio.select('Crate 1')

  const hand = new Hand(page)
  await hand.press(studio.row('Crate 5'), ['Shift'])
  await hand.press(page.getByRole('button', { name: 'Components of position' }))
  hand.count++ // the cable
  const from = await studio.middle(studio.control('Sway').locator('.jack'))
  const to = await studio.middle(studio.field('position.x').locator('.jack'))
  await page.mouse.move(from.x, from.y)
  await page.mouse.down()
  await page.mouse.move(to.x, to.y, { steps: 4 })
  await page.mouse.up()
  const editor = page.getByRole('group', { name: /^Row: / })
  await expect(editor).toHaveCount(1)
  await expect(studio.drives('Sway')).toHaveText('5')
  await hand.press(editor.getByRole('button', { name: 'Stagger of delay' }))
  await hand.type('4')
  await hand.press(editor.getByRole('button', { name: /Members: order/ }))
  hand.count++ // dragged
  await editor.getByRole('listitem').nth(4).dragTo(editor.getByRole('listitem').nth(0))
  await expect(editor.getByRole('listitem').first()).toContainText('Crate 5')
  await hand.press(editor.getByLabel('What Crate 4 drives here'))
  await hand.press(page.locator('.n-base-select-option').filter({ hasText: 'position.y' }).last())
  console.log(`five on mixed axes: ${hand.count} gestures`)
  expect(hand.count).toBeLessThanOrEqual(10)

  await studio.type('Sway', '37')
  expect((await shown(studio, 'Crate 1')) - (was[0] ?? 0)).toBeCloseTo(37, 6)
  expect((await shown(studio, 'Crate 4', 1)) - (was[1] ?? 0)).toBeCloseTo(37, 6)
  await expect(page.getByTestId('checks')).toContainText('No problems')
  await studio.saved()
  await page.reload()
  await studio.drawn()
  expect((await shown(studio, 'Crate 4', 1)) - (was[1] ?? 0)).toBeCloseTo(37, 6)
})

test('single links are asked for, become one by a tip, and one member has its own link again', async ({ page, server, studio }) => {
  await begin(studio, server.address, 'Dial', 'Lean')
  await studio.addMany('4 rectangle Post')
  await studio.field('rotation').getByRole('button', { name: 'rotation', exact: true }).click()
  await page.keyboard.press('l')
  await page.getByRole('dialog').getByText('A link for each item').click()
  await page.getByLabel('Find a source').fill('lean')
  await page.keyboard.press('Enter')
  await expect(studio.field('rotation').locator('.chip')).toContainText('×4')
  await page.getByTestId('checks').click()
  const tip = page.getByRole('dialog', { name: 'Problems' })
  await expect(tip).toContainText(/Rotation of 4 items is driven by Rig: Lean with a link each/i)
  await expect(page.getByTestId('checks')).toContainText('No problems')
  await tip.getByRole('button', { name: 'make it one link' }).click()
  await expect(studio.field('rotation').locator('.chip')).toContainText('Rig: Lean, row of 4')
  await page.keyboard.press('Escape')
  await studio.type('Lean', '23')
  await studio.select('Post 3') // the row stays open
  await page.getByRole('button', { name: /^Actions for rotation of / }).click()
  await option(page, 'Own link for this item').click()
  await expect(page.getByRole('group', { name: /^Link from/ })).toHaveCount(1)
  await expect(studio.field('rotation').locator('button.value')).toHaveAttribute('data-value', '23')
  await studio.select('Post 2')
  await expect(studio.field('rotation').locator('.chip')).toContainText('row of 4')
})

test('a stagger along a curve', async ({ page, server, studio }) => {
  await begin(studio, server.address, 'Fader', 'Lift')
  await studio.addMany('5 rectangle Key')
  await studio.field('opacity').getByRole('button', { name: 'opacity', exact: true }).click()
  await page.keyboard.press('l')
  await page.keyboard.type('lift')
  await page.keyboard.press('Enter')
  const editor = page.getByRole('group', { name: /^Row: / })
  await editor.getByLabel('How members are counted').click()
  await page.locator('.n-base-select-option').filter({ hasText: 'along a curve' }).click()
  await expect(editor.getByRole('group', { name: /^Curve of the stagger/ })).toBeVisible()
  await editor.getByRole('button', { name: 'Stagger of offset' }).press('Enter')
  await page.keyboard.type('-40')
  await page.keyboard.press('Enter')
  const at = async (name: string): Promise<number> => {
    await studio.select(name)
    return studio.value(studio.field('opacity').locator('button.value'))
  }
  expect([await at('Key 1'), await at('Key 3'), await at('Key 5')]).toEqual([100, 60, 100])
})

test('a cable dropped on one of several, the source changed for all, one more joins; what was removed can be reattached', async ({
  page,
  server,
  studio,
}) => {
  await begin(studio, server.address, 'Dial', 'Lean')
  await studio.addControl('Rig', 'Dial', 'Turn')
  await studio.addMany('4 rectangle Post')
  await studio.row('Post 1').click()
  await studio.row('Post 3').click({ modifiers: ['Shift'] })
  await expect(page.getByRole('treeitem', { selected: true })).toHaveCount(3)
  // Onto one of the three in the list of items: its property is chosen, and all three are driven.
  const from = await studio.middle(studio.control('Lean').locator('.jack'))
  const to = await studio.middle(studio.row('Post 2'))
  await page.mouse.move(from.x, from.y)
  await page.mouse.down()
  await page.mouse.move(to.x, to.y, { steps: 5 })
  await page.mouse.up()
  await page.keyboard.type('rotation')
  await page.keyboard.press('Enter')
  await expect(studio.drives('Lean')).toHaveText('3')
  await expect(studio.field('rotation').locator('.chip')).toContainText('Rig: Lean, row of 3')
  const editor = page.getByRole('group', { name: /^Row: / })
  await expect(editor).toHaveCount(1)
  await studio.select('Post 4')
  await studio.cable('Lean', 'rotation')
  await expect(studio.field('rotation').locator('.chip')).toContainText('Rig: Lean, row of 4')
  await editor.getByRole('button', { name: 'Rig: Lean' }).click()
  await page.keyboard.type('turn')
  await page.keyboard.press('Enter')
  await expect(studio.drives('Turn')).toHaveText('4')
  await expect(studio.drives('Lean')).toHaveText('–')
  await studio.control('Turn').locator('.name').click()
  await page.keyboard.press('Delete')
  await expect(page.getByTestId('checks')).toContainText(/problem/)
  await page.getByTestId('checks').click()
  await page.getByRole('dialog', { name: 'Problems' }).getByRole('button', { name: 'reattach' }).click()
  await page.keyboard.type('lean')
  await page.keyboard.press('Enter')
  await expect(studio.drives('Lean')).toHaveText('4')
})

test('a percent fader opens three parts in sequence, one of them early: at most 24 gestures', async ({ page, server, studio }) => {
  await studio.newProject(server.address, 'Sequence')
  const hand = new Hand(page)
  const turned = async (name: string): Promise<number> => {
    await studio.select(name)
    return studio.value(studio.field('rotation').locator('button.value'))
  }
  await hand.key('a')
  await hand.type('3 rectangle Part', 'Shift+Enter')
  await expect(studio.row('Part 3')).toBeVisible()
  await hand.key('c')
  await hand.type('Open')
  await expect(studio.control('Open')).toBeVisible()
  await hand.press(studio.field('rotation').getByRole('button', { name: 'Actions for' }))
  await hand.press(option(page, 'One formula for all 3'))
  const editor = page.locator('.cm-content')
  await expect(editor).toBeFocused()
  const written = (from: string): string => `smoothstep(${from}, ${from} + 30, {Panel: Open}) * 90`
  const write = async (text: string): Promise<void> => {
    hand.count++
    await page.keyboard.press('Control+a')
    await page.keyboard.insertText(text)
    await page.keyboard.press('Control+Enter')
  }
  await write(written('index * 33'))
  await hand.press(studio.row('Part 3'))
  const row = page.getByRole('group', { name: /^Row: / })
  await hand.press(row.getByRole('button', { name: /^Actions for / }))
  await hand.press(option(page, 'Own link for this item'))
  await hand.press(page.getByRole('group', { name: /^Link from/ }).locator('.cm-content'))
  await write(written('47')) // and not 66
  console.log(`a sequence over three parts: ${hand.count} gestures`)
  expect(hand.count).toBeLessThanOrEqual(24)

  await studio.type('Open', '62')
  const smooth = (from: number): number => {
    const t = Math.max(0, Math.min(1, (62 - from) / 30))
    return 90 * t * t * (3 - 2 * t)
  }
  expect(await turned('Part 1')).toBeCloseTo(90, 6)
  expect(await turned('Part 2')).toBeCloseTo(smooth(33), 6)
  expect(await turned('Part 3')).toBeCloseTo(smooth(47), 6)
})

test('by keyboard alone: a row that keeps the picture, staggered, put in another order, with a component of its own for one', async ({
  page,
  server,
  studio,
}) => {
  const { keyboard } = page
  await studio.open(server.address, await projectOf(server, 'Keys', []))
  await keyboard.press('Tab')
  await keyboard.press('a')
  await expect(page.getByLabel('What to add, and its name')).toBeFocused()
  await keyboard.type('null Rig')
  await keyboard.press('Enter')
  await expect(studio.row('Rig')).toHaveCount(1)
  await keyboard.press('Escape') // and the keys go on at once
  await keyboard.press('c')
  await expect(page.getByLabel('Name of the control')).toBeFocused()
  await keyboard.type('Sway')
  await keyboard.press('Enter')
  await expect(studio.control('Sway')).toHaveCount(1)
  await studio.addMany('5 rectangle Crate')
  await expect(page.getByRole('tree')).toBeFocused()
  const xs = (frame = 0): Promise<number[]> =>
    page.evaluate(async (frame) => {
      const all = window.wunderkammer.properties().filter((p) => p.property === 'position')
      const values = await window.wunderkammer.values(frame)
      return all.map((p) => values[p.slot] ?? NaN)
    }, frame) // as in the tree: Crate 5 to Crate 1, Rig
  const was = await xs()

  // What has the word itself comes first, and the property of all that is selected before that of each.
  await keyboard.press('Control+k')
  await expect(page.getByLabel('Search everything')).toBeFocused()
  await keyboard.type('position')
  await expect(page.getByRole('option', { selected: true })).toContainText('All 5 selected: position')
  await keyboard.press('Enter')
  await expect(studio.field('position').getByRole('button', { name: 'position', exact: true })).toBeFocused()
  await keyboard.press('l')
  await keyboard.type('sway')
  await keyboard.press('Enter')
  const editor = page.getByRole('group', { name: /^Row: / })
  await expect(editor).toHaveCount(1)
  expect(await xs()).toEqual(was) // though they are at five places

  const tabTo = async (name: string, key = 'Tab'): Promise<void> => {
    for (let k = 0; k < 40; k++) {
      await keyboard.press(key)
      const at = page.locator(':focus')
      if (`${await at.getAttribute('aria-label')} ${await at.textContent()}`.includes(name)) return
    }
    throw new Error(`${name} is not reached`)
  }
  await tabTo('Stagger of delay')
  await keyboard.press('Enter')
  await keyboard.type('4')
  await keyboard.press('Enter')
  await expect(editor.getByRole('button', { name: 'Stagger of delay: 4' })).toBeFocused()
  await tabTo('Members:', 'Shift+Tab')
  await keyboard.press('Enter')
  await tabTo('Crate 5')
  for (let k = 0; k < 4; k++) await keyboard.press('Alt+ArrowUp')
  await expect(editor.getByRole('listitem')).toContainText(['Crate 5', 'Crate 1', 'Crate 2', 'Crate 3', 'Crate 4'])
  await expect(editor.getByRole('listitem').first()).toBeFocused()
  await keyboard.press('ArrowDown')
  await keyboard.press('Tab')
  await keyboard.press('Enter')
  await keyboard.type('n.y')
  await expect(page.locator('.n-base-select-option').filter({ hasText: 'position.y' })).toBeVisible()
  await keyboard.press('Enter')
  await expect(editor.getByRole('listitem').nth(1)).toHaveText(/Crate 1.*position\.y/)

  // The fader moves all of them along x, but for Crate 1.
  await keyboard.press('Control+k')
  await expect(page.getByLabel('Search everything')).toBeFocused()
  await keyboard.type('rig: sway')
  await keyboard.press('Enter')
  const fader = page.getByRole('slider', { name: 'Sway', exact: true })
  await expect(fader).toBeFocused()
  for (let k = 0; k < 3; k++) await keyboard.press('ArrowRight')
  await expect(fader).not.toHaveAttribute('aria-valuenow', '0')
  const moved = Number(await fader.getAttribute('aria-valuenow'))
  await expect.poll(async () => (await xs(100)).map((x, k) => x - (was[k] ?? 0))).toEqual([moved, moved, moved, moved, 0, 0])
})

test('two windows on one row: an order, a member that is removed, a member that is left out; a graph beside it', async ({
  page,
  server,
  studio,
  second,
}) => {
  const posts = [1, 2, 3, 4].map((n) =>
    add({ id: `p${n}`, name: `Post ${n}`, kind: 'rectangle', states: { position: { own: [n * 90 - 300, 0, 0] } } }),
  )
  const fader = (id: string, name: string): object => ({ id, name, kind: 'fader', softMax: 100, default: 0 })
  await studio.open(
    server.address,
    await projectOf(server, 'Row', [
      ...posts,
      add({ id: 'rig', name: 'Rig', kind: 'null', controls: [fader('lean', 'Lean'), fader('mood', 'Mood')] }),
    ]),
  )
  await studio.select('Post 4', 'Post 3', 'Post 2', 'Post 1')
  await studio.field('rotation').getByRole('button', { name: 'rotation', exact: true }).click()
  await page.keyboard.press('l')
  await page.keyboard.type('lean')
  await page.keyboard.press('Enter')
  const editor = (s: Studio) => s.page.getByRole('group', { name: /^Row: / })
  await editor(studio)
    .getByRole('button', { name: /Members: order/ })
    .click()
  const other = await second()
  const page2 = other.page
  await other.select('Post 2')
  await other.field('rotation').locator('.chip').click()
  await editor(other)
    .getByRole('button', { name: /Members: order/ })
    .click()
  const order = (s: Studio): Promise<string> =>
    editor(s)
      .getByRole('listitem')
      .evaluateAll((all) => all.map((e) => /Post \d(, left out)?/.exec(e.textContent ?? '')?.[0]).join(' '))
  await expect.poll(() => order(other)).toBe('Post 4 Post 3 Post 2 Post 1')

  // One puts a member elsewhere, the other leaves one out, and a third is removed and comes back: both see the same.
  await editor(studio).getByRole('listitem').nth(3).focus()
  await page.keyboard.press('Alt+ArrowUp')
  await expect.poll(() => order(other)).toBe('Post 4 Post 3 Post 1 Post 2')
  await editor(other).getByRole('switch', { name: 'Include this item' }).click()
  for (const s of [studio, other]) await expect.poll(() => order(s)).toBe('Post 4 Post 3 Post 1 Post 2, left out')
  await other.select('Post 3')
  await page2.keyboard.press('Delete')
  await expect.poll(() => order(studio)).toBe('Post 4 Post 1 Post 2, left out')
  await page2.keyboard.press('Control+z')
  await expect.poll(() => order(studio)).toBe('Post 4 Post 3 Post 1 Post 2, left out')

  // Beside it: a graph that drives one of them over the row.
  await studio.type('Lean', '23')
  await studio.select('Post 4')
  const turned = studio.field('rotation').locator('button.value')
  await expect(turned).toHaveAttribute('data-value', '23')
  await studio.select('Post 2')
  await expect(turned).toHaveAttribute('data-value', '0') // left out
  await studio.select('Post 3')
  await page.keyboard.press('4')
  await page.getByRole('button', { name: '+ Graph' }).click()
  await put(page, 'Rig: Mood')
  await page.keyboard.press('l')
  await page.keyboard.type('drive Post 3: rotation')
  await page.keyboard.press('Enter')
  await expect(slip(page, 'drive')).toContainText('Post 3: rotation')
  await page.keyboard.press('1')
  await studio.type('Mood', '61')
  await studio.select('Post 3')
  await expect(turned).toHaveAttribute('data-value', '61')
  await studio.select('Post 1')
  await expect(turned).toHaveAttribute('data-value', '23')
  await other.select('Post 3')
  await expect(other.field('rotation').locator('button.value')).toHaveAttribute('data-value', '61')
})
