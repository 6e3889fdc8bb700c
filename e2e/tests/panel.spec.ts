import type { Page } from '@playwright/test'
import { add, projectOf } from '../helpers/api'
import { expect, test } from '../helpers/test'
import type { Studio } from '../helpers/studio'

/** Drags a number field by some pixels: two of them are one step. */
async function pull(page: Page, studio: Studio, property: string, dx: number): Promise<void> {
  const at = await studio.middle(studio.field(property).locator('button.value').first())
  await page.mouse.move(at.x, at.y)
  await page.mouse.down()
  await page.mouse.move(at.x + dx / 2, at.y, { steps: 4 })
  await page.mouse.move(at.x + dx, at.y, { steps: 4 })
  await page.mouse.up()
}

const shown = (studio: Studio, property: string): Promise<number> => studio.value(studio.field(property).locator('button.value').first())

test('from an empty project to a drawbridge by gestures and marks, without a typed number', async ({ page, server, studio }) => {
  test.setTimeout(120_000)
  await studio.newProject(server.address, 'Drawbridge')
  for (const [kind, name] of [
    ['ellipse', 'Lamp'],
    ['rectangle', 'Barrier'],
    ['rectangle', 'Leaf'],
    ['null', 'Keeper'],
  ] as const)
    await studio.add(kind, name)
  await studio.addControl('Keeper', 'Fader', 'Sequence')
  const bar = page.getByRole('status').filter({ hasText: 'Temporary pose' })
  // Each part: wired by a map, posed and marked at both ends of its own span.
  for (const part of [
    { item: 'Lamp', property: 'opacity', name: 'opacity', from: 0.02, to: 0.2, low: -180, high: 190 },
    { item: 'Barrier', property: 'rotation', name: 'rotation', from: 0.25, to: 0.45, low: -120, high: 120 },
    { item: 'Leaf', property: 'rotation', name: 'rotation', from: 0.6, to: 0.98, low: 0, high: 140 },
  ]) {
    await studio.select(part.item)
    await studio.field(part.property).getByRole('button', { name: part.name, exact: true }).click()
    await page.keyboard.press('l')
    await page.getByRole('dialog').getByText('Map', { exact: true }).click()
    await page.getByLabel('Find a source').fill('sequ')
    await page.keyboard.press('Enter')
    await expect(page.getByRole('dialog')).toHaveCount(0)
    await expect(studio.field(part.property).locator('.chip')).toContainText('Sequence')
    await studio.fader('Sequence', part.from)
    if (part.low) {
      await pull(page, studio, part.property, part.low)
      await expect(bar).toContainText(`${part.item}: ${part.name}`)
      await bar.getByRole('button', { name: 'Set low' }).click()
    } else await page.locator('.link').getByRole('button', { name: 'Set low' }).click()
    await expect(bar).toHaveCount(0)
    await studio.fader('Sequence', part.to)
    await pull(page, studio, part.property, part.high)
    await bar.getByRole('button', { name: 'Set high' }).click()
    await expect(bar).toHaveCount(0)
  }
  await expect(studio.drives('Sequence')).toHaveText('3')
  // In order: the lamp comes up first, the leaf moves last.
  const at = async (item: string, property: string, share: number): Promise<number> => {
    await studio.select(item)
    await studio.fader('Sequence', share)
    let last = NaN // until it stands still
    await expect
      .poll(
        async () => {
          const was = last
          last = await shown(studio, property)
          return was === last
        },
        { intervals: [250] },
      )
      .toBe(true)
    return last
  }
  expect(await at('Lamp', 'opacity', 0.02)).toBeLessThan(40)
  expect(await at('Lamp', 'opacity', 0.3)).toBeGreaterThan(95)
  const down = await at('Barrier', 'rotation', 0.1)
  expect(down).toBeLessThan(-50)
  expect(await at('Barrier', 'rotation', 0.5)).toBeGreaterThan(down + 30)
  expect(await at('Leaf', 'rotation', 0.5)).toBeCloseTo(0, 6)
  expect(await at('Leaf', 'rotation', 0.98)).toBeGreaterThan(50)
  await expect(page.getByTestId('checks')).toContainText('No problems')
  await studio.saved()
  await page.reload()
  await studio.drawn()
  expect(await at('Leaf', 'rotation', 0.98)).toBeGreaterThan(50)
})

const lanterns = (n: number): object[] =>
  Array.from({ length: n }, (_, i) =>
    add({
      id: `k${i}`,
      name: `Lantern ${i + 1}`,
      kind: 'ellipse',
      states: { size: { own: [40, 50] }, position: { own: [i * 90 - 500, 0, 0] } },
    }),
  )
const rig = (...controls: object[]): object => add({ id: 'rig', name: 'Rig', kind: 'null', controls })

test('one link has to be made once: twelve lanterns in two gestures, one opts out, undo, redo', async ({ page, server, studio }) => {
  const project = await projectOf(server, 'Twelve', [
    rig(
      { id: 'hue', name: 'Tint', kind: 'colour', default: [0, 0, 1, 1] },
      { id: 'swing', name: 'Swing', kind: 'slider', softMax: 90, default: 30 },
    ),
    ...lanterns(12),
  ])
  await studio.open(server.address, project)
  await studio.select('Lantern 1')
  await studio.row('Lantern 12').click({ modifiers: ['Shift'] })
  await expect(page.getByRole('treeitem', { selected: true })).toHaveCount(12)
  await studio.cable('Tint', 'fill')
  await studio.cable('Swing', 'rotation')
  await studio.type('Swing', '30') // it had taken over where they stood
  await expect(studio.drives('Tint')).toHaveText('12')
  await expect(studio.drives('Swing')).toHaveText('12')
  await studio.select('Lantern 5')
  await page.getByRole('switch', { name: 'Include this item' }).click()
  await expect(studio.field('rotation').locator('button.value')).toHaveAttribute('data-value', '0')
  await studio.select('Lantern 6')
  await expect(studio.field('rotation').locator('button.value')).toHaveAttribute('data-value', '30')
  for (let i = 0; i < 3; i++) await page.keyboard.press('Control+z')
  await expect(studio.drives('Swing')).toHaveText('–')
  await expect(studio.drives('Tint')).toHaveText('12')
  await page.keyboard.press('Control+Shift+Z')
  await expect(studio.drives('Swing')).toHaveText('12')
})

test('parameters of many kinds are gathered on one drawer, and a weight loosens an attachment', async ({ page, demo, studio }) => {
  await studio.open(demo.address, 'lanternfall')
  await page.getByRole('button', { name: 'Compositions' }).click()
  await page.locator('.n-dropdown-option').filter({ hasText: 'Ferry deck' }).click()
  await studio.select('Crate')
  const world = async (): Promise<number> =>
    (JSON.parse((await studio.field('worldPosition').locator('.read').getAttribute('data-value')) ?? '[0]') as number[])[0] ?? 0
  await page.getByRole('button', { name: 'Read-only' }).click()
  await studio.control('Crane').click({ position: { x: 60, y: 4 } })
  await studio.seek(120)
  const settled = async (): Promise<number> => {
    let last = NaN
    await expect
      .poll(
        async () => {
          const was = last
          last = await world()
          return was === last
        },
        { intervals: [300] },
      )
      .toBe(true)
    return last
  }
  const held = await settled()
  // The four lamps' ranges go onto the Deck in one gesture, and nothing changes.
  await studio.select('Lamp 1', 'Lamp 2', 'Lamp 3', 'Lamp 4')
  await studio.field('range').getByRole('button', { name: 'Actions for range' }).click()
  await page.locator('.n-dropdown-option').filter({ hasText: 'Turn into a control on…' }).hover()
  await page
    .locator('.n-dropdown-option')
    .filter({ hasText: /^Deck$/ })
    .click()
  for (const n of [1, 2, 3, 4]) await expect(studio.drives(`Lamp ${n} range`)).toHaveText('1')
  await expect(studio.field('range').locator('.chip')).toContainText('×4')
  // The weight of the crate's attachment is a control already: let go of the hook.
  await studio.select('Crate')
  await studio.type('Hold of the hook', '0')
  await expect.poll(world).not.toBeCloseTo(held, 0)
  const loose = await settled()
  await studio.type('Hold of the hook', '50')
  await expect.poll(world).toBeCloseTo((held + loose) / 2, 3)
})

test('it should move and it does not: why; two controls fight: checks say so and mend it', async ({ page, server, studio }) => {
  const follow = (id: string, property: string): object => ({ id, kind: 'follow', source: { item: 'rig', property }, gain: 1, offset: 0 })
  const project = await projectOf(server, 'Fight', [
    rig(
      { id: 'one', name: 'One', kind: 'slider', softMax: 100, default: 10 },
      { id: 'two', name: 'Two', kind: 'slider', softMax: 100, default: 20 },
    ),
    add({
      id: 'box',
      name: 'Box',
      kind: 'rectangle',
      states: { rotation: { own: null, links: [follow('a', 'one'), follow('b', 'two')] } },
    }),
  ])
  await studio.open(server.address, project)
  await expect(page.getByTestId('checks')).toContainText('1 problem')
  await studio.select('Box')
  await studio.field('rotation').getByRole('button', { name: 'Actions for rotation' }).click()
  await page.locator('.n-dropdown-option').filter({ hasText: 'Why' }).click()
  await expect(page.getByRole('dialog')).toContainText('it replaces the links below it (1)')
  await expect(page.getByRole('dialog')).toContainText('Rig: Two has no pins and no links')
  await page.getByRole('button', { name: 'Close' }).click()
  await page.getByTestId('checks').click()
  await page.getByRole('button', { name: 'set the upper link to Add' }).click()
  await expect(page.getByTestId('checks')).toContainText('No problems')
  await expect(studio.field('rotation').locator('button.value')).toHaveAttribute('data-value', '30')
  // The weight of a link is a property: half of what it adds.
  await page.keyboard.press('Escape')
  await studio.select('Box')
  await studio.field('rotation').locator('.chip').click()
  await page
    .locator('.link')
    .first()
    .getByRole('button', { name: /^Weight/ })
    .click()
  await page.keyboard.type('50')
  await page.keyboard.press('Enter')
  await expect(studio.field('rotation').locator('button.value')).toHaveAttribute('data-value', '20')
})

test('with many links one still knows what drives what: the Ledger', async ({ page, server, studio }) => {
  const follow = (id: string) => ({
    own: null,
    links: [{ id, kind: 'follow', source: { item: 'rig', property: 'one' }, gain: 1, offset: 0 }],
  })
  const many = Array.from({ length: 300 }, (_, i) =>
    add({ id: `x${i}`, name: `Lamp ${i}`, kind: 'ellipse', hidden: i > 20, states: { rotation: follow(`l${i}`) } }),
  )
  const project = await projectOf(server, 'Ledger', [
    rig(
      { id: 'one', name: 'One', kind: 'slider', softMax: 100, default: 10 },
      { id: 'two', name: 'Two', kind: 'slider', softMax: 100, default: 20 },
    ),
    ...many,
  ])
  await studio.open(server.address, project)
  await page.keyboard.press('3')
  await expect(page.getByText('300 links')).toBeVisible()
  const rows = page.getByRole('grid', { name: 'Links' }).locator('[data-entry]')
  await page.getByLabel('Search links by source, target or type').fill('lamp 27')
  await expect(page.getByText('13 of 300')).toBeVisible()
  await rows.first().click()
  await rows.last().click({ modifiers: ['Shift'] })
  await page.getByRole('button', { name: 'Source ▾' }).click()
  await page.locator('.n-dropdown-option').filter({ hasText: 'Rig: Two' }).click()
  await expect(rows.first()).toContainText('Rig: Two')
  await expect(rows.first()).toContainText('20')
  await page.getByRole('button', { name: 'Off', exact: true }).click()
  await expect(rows.first()).toContainText('Off')
  // Scrolled to its end at once, no row is blank.
  await page.getByLabel('Search links by source, target or type').fill('')
  const list = page.getByRole('grid', { name: 'Links' }).getByRole('rowgroup')
  await list.evaluate((e) => (e.scrollTop = e.scrollHeight))
  await expect(rows.last()).toContainText('Lamp 299')
})

test('a cable is dropped on an item; a menu control; what is tried out springs back; curves', async ({ page, server, studio }) => {
  await studio.open(
    server.address,
    await projectOf(server, 'Drops', [rig({ id: 'one', name: 'Turn', kind: 'angle', default: 25 }), ...lanterns(3)]),
  )
  const from = await studio.middle(studio.control('Turn').locator('.jack'))
  const to = await studio.middle(studio.row('Lantern 2'))
  await page.mouse.move(from.x, from.y)
  await page.mouse.down()
  await page.mouse.move(to.x, to.y, { steps: 5 })
  await page.mouse.up()
  await page.getByRole('combobox', { name: 'Property' }).fill('rotation')
  await page.keyboard.press('Enter')
  await studio.select('Lantern 2')
  await expect(studio.field('rotation').locator('button.value')).toHaveAttribute('data-value', '0')
  await studio.type('Turn', '25')
  await expect(studio.field('rotation').locator('button.value')).toHaveAttribute('data-value', '25')
  await studio.addControl('Rig', 'Choice', 'Weather')
  await studio.control('Weather').locator('.n-base-selection').click()
  await page.locator('.n-base-select-option').filter({ hasText: 'Option 2' }).click()
  await expect(studio.control('Weather')).toContainText('Option 2')
  // Tried out, nothing stays.
  await studio.select('Lantern 2')
  await studio.saved()
  await page.getByRole('button', { name: 'Try out' }).click()
  await studio.type('Turn', '60')
  await expect(studio.field('rotation').locator('button.value')).toHaveAttribute('data-value', '60')
  await page.getByRole('button', { name: 'Discard', exact: true }).click()
  await expect(studio.field('rotation').locator('button.value')).toHaveAttribute('data-value', '25')
  // The picked property's curve, with its source.
  await studio.field('rotation').getByRole('button', { name: 'Actions for rotation' }).click()
  await page.locator('.n-dropdown-option').filter({ hasText: 'Show its curve' }).click()
  await expect(page.getByRole('list', { name: 'Values at the playhead' })).toContainText('Rig: Turn')
  await expect(page.getByRole('group', { name: '2 curves over 300 frames' })).toBeVisible()
})
