import type { Page } from '@playwright/test'
import { add, projectOf } from '../helpers/api'
import type { Studio } from '../helpers/studio'
import { expect, test } from '../helpers/test'

async function menu(page: Page, studio: Studio, key: string, entry: string | RegExp): Promise<void> {
  await expect(page.locator('.n-dropdown-menu')).toHaveCount(0)
  await studio.field(key).getByRole('button', { name: 'Actions for' }).click()
  await page.locator('.n-dropdown-option').filter({ hasText: entry }).click()
}

/** Replaces the text of the formula editor by typing. */
async function write(page: Page, text: string): Promise<void> {
  const editor = page.locator('.cm-content')
  await editor.click()
  await page.keyboard.press('Control+a')
  await page.keyboard.press('Delete')
  await page.keyboard.insertText(text)
}

const row = (n: number): object[] =>
  Array.from({ length: n }, (_, i) =>
    add({
      id: `f${i}`,
      name: `Flag ${i + 1}`,
      kind: 'rectangle',
      parent: 'row',
      states: { size: { own: [40, 120] }, position: { own: [i * 80 - 440, 0, 0] } },
    }),
  )
const rig = add({
  id: 'rig',
  name: 'Breeze',
  kind: 'null',
  controls: [
    { id: 'swing', name: 'Swing', kind: 'slider', softMax: 90, default: 40 },
    { id: 'lag', name: 'Lag', kind: 'slider', softMax: 20, default: 3 },
    { id: 'pace', name: 'Pace', kind: 'slider', softMax: 2, default: 0.5 },
  ],
})

test('one formula on a row: each trails the one before by as many frames as a slider says; what is put into the row follows at once', async ({
  page,
  server,
  studio,
}) => {
  await studio.open(server.address, await projectOf(server, 'Row', [rig, add({ id: 'row', name: 'Row', kind: 'null' }), ...row(12)]))
  await studio.row('Flag 1').click()
  await studio.row('Flag 12').scrollIntoViewIfNeeded()
  await studio.row('Flag 12').click({ modifiers: ['Shift'] })
  await menu(page, studio, 'rotation', 'One formula for all 12')
  await expect(page.getByText('12 items: children of Row')).toBeVisible()
  await write(page, 'if(index = 0, wave(time * {Breeze: Pace}) * {Breeze: Swing}, delay({prev: rotation}, {Breeze: Lag} * 1f))')
  await page.keyboard.press('Control+Enter')
  await expect(page.locator('.problems')).toHaveCount(0)

  const turned = async (frame: number): Promise<number[]> => {
    await studio.seek(frame)
    const out: number[] = []
    for (const name of ['Flag 1', 'Flag 2', 'Flag 12']) {
      await studio.row(name).scrollIntoViewIfNeeded()
      await studio.row(name).click()
      out.push(await studio.value(studio.field('rotation').locator('button.value')))
    }
    return out
  }
  const at40 = await turned(40)
  const at37 = await turned(37)
  expect(at40[1]).toBeCloseTo(at37[0] as number, 9) // three frames late
  const again = await turned(40)
  expect(again).toEqual(at40)

  // Two more, duplicated into the row, follow at once.
  await studio.row('Flag 12').scrollIntoViewIfNeeded()
  await studio.row('Flag 11').click()
  await studio.row('Flag 12').click({ modifiers: ['Control'] })
  await page.keyboard.press('Control+d')
  await studio.row('Flag 1').scrollIntoViewIfNeeded()
  await studio.row('Flag 1').click()
  await expect(page.getByText('14 items: children of Row')).toBeVisible()

  // One opts out, and stands still.
  await page.getByRole('switch', { name: 'Include this item' }).click()
  await expect(studio.field('rotation').locator('button.value')).toHaveAttribute('data-value', '0')
  await page.keyboard.press('Control+z')
  await expect.poll(() => studio.value(studio.field('rotation').locator('button.value'))).not.toBe(0)
})

test('a formula is written with references that survive renaming; mistakes have a place and a way out; a cable drops a reference', async ({
  page,
  server,
  studio,
}) => {
  await studio.open(
    server.address,
    await projectOf(server, 'Formula', [
      rig,
      ...row(1).map((op) => ({ ...op, value: { ...(op as { value: object }).value, parent: undefined } })),
    ]),
  )
  await studio.select('Flag 1')
  await menu(page, studio, 'rotation', /^Formula$/)
  await write(page, 'lift = {breeze: SWING} / 2\nlift + 1')
  await expect(page.locator('.line-value').last()).toHaveText('21')
  await page.keyboard.press('Control+Enter')
  const value = studio.field('rotation').locator('button.value')
  await expect(value).toHaveAttribute('data-value', '21')

  // Renamed, the formula says the new name and goes on.
  await studio.row('Breeze').dblclick()
  await page.getByRole('textbox', { name: 'Item name' }).fill('Gale: north')
  await page.getByRole('textbox', { name: 'Item name' }).press('Enter')
  await studio.select('Flag 1')
  await expect(page.locator('.cm-content')).toContainText('{"Gale: north": Swing}')
  await expect(value).toHaveAttribute('data-value', '21')

  // What is undone is shown where it stands open.
  await write(page, '5')
  await page.keyboard.press('Control+Enter')
  await expect(value).toHaveAttribute('data-value', '5')
  await studio.row('Flag 1').click()
  await page.keyboard.press('Control+z')
  await expect(page.locator('.cm-content')).toContainText('{"Gale: north": Swing}')
  await expect(value).toHaveAttribute('data-value', '21')

  // The right property under the wrong owner: the sentence says where it is, one click mends it.
  await write(page, '{Flag 1: Swing} * 2')
  await expect(page.locator('.problems')).toContainText('Flag 1 has no property named Swing; it is a property of Gale: north')
  await page.locator('.problems').getByRole('button', { name: 'Gale: north: Swing' }).click()
  await expect(page.locator('.line-value')).toHaveText('80')

  // A bare number where a time is wanted; the version before goes on meanwhile.
  await page.keyboard.press('Control+Enter')
  await write(page, 'delay({"Gale: north": Swing}, 5)')
  await expect(page.locator('.problems')).toContainText('this needs a time')
  await page.keyboard.press('Control+Enter')
  await expect(value).toHaveAttribute('data-value', '80')
  await expect(studio.field('rotation').locator('.chip')).toHaveText('formula ✕')
  await page.getByRole('button', { name: 'frames' }).click()
  await expect(page.locator('.line-value')).toHaveText('40')

  // A cable that is dropped into the text is a reference.
  await write(page, '1 + ')
  const from = await studio.middle(studio.control('Pace').locator('.jack'))
  const to = await studio.middle(page.locator('.cm-content'))
  await page.mouse.move(from.x, from.y)
  await page.mouse.down()
  await page.mouse.move(to.x, to.y, { steps: 5 })
  await page.mouse.up()
  await expect(page.locator('.cm-content')).toContainText('1 + {"Gale: north": Pace}')
  await expect(page.locator('.line-value')).toHaveText('1.5')
})

test('one of a row is baked and compared with its live neighbour; the Ledger tells formulas; a hue is driven; functions are found', async ({
  page,
  server,
  studio,
}) => {
  await studio.open(
    server.address,
    await projectOf(server, 'Bake', [
      rig,
      ...row(2).map((op) => ({ ...op, value: { ...(op as { value: object }).value, parent: undefined } })),
    ]),
  )
  await studio.select('Flag 1', 'Flag 2')
  await menu(page, studio, 'rotation', 'One formula for all 2')
  await write(page, 'wave(time * 0.25) * {Breeze: Swing}')
  await page.keyboard.press('Control+Enter')
  await studio.select('Flag 1')
  await menu(page, studio, 'rotation', 'Bake to pins')
  await page
    .getByLabel('Tolerance: the largest allowed error')
    .getByRole('textbox')
    .or(page.getByRole('textbox', { name: 'Tolerance' }))
    .first()
    .fill('0.05')
  await page.getByRole('button', { name: 'Bake', exact: true }).click()
  await expect(page.getByText(/Created \d+ pins; the links are turned off, not deleted/)).toBeVisible()
  await studio.seek(47)
  const value = studio.field('rotation').locator('button.value')
  const there = 40 * Math.sin(2 * Math.PI * 0.47)
  await expect.poll(async () => Math.abs((await studio.value(value)) - there)).toBeLessThan(0.051) // baked
  await studio.select('Flag 2')
  await expect.poll(async () => Math.abs((await studio.value(value)) - there)).toBeLessThan(1e-9)
  const live = await studio.value(value)
  await studio.select('Flag 1')
  await menu(page, studio, 'rotation', 'Undo bake')
  await expect(value).toHaveAttribute('data-value', String(live))
  await expect(studio.field('rotation').locator('.chip')).toBeVisible()

  await page.keyboard.press('3')
  await expect(page.getByRole('grid', { name: 'Links' }).getByRole('row').nth(1)).toContainText('wave(time * 0.25) * {Breeze: Swing}')
  await page.keyboard.press('1')

  // The hue of a fill follows a slider; a formula found in the list of functions drives the opacity.
  await studio.field('fill').getByRole('button', { name: 'Components of fill' }).click()
  await studio.field('fill.hue').locator('.name').click()
  await page.keyboard.press('l')
  await page.getByLabel('Find a source').fill('swing')
  await page.keyboard.press('Enter')
  await expect(studio.field('fill').locator('.chip')).toContainText('Swing')
  await menu(page, studio, 'opacity', /^Formula$/)
  const wide = page.getByRole('region', { name: 'Formula editor: opacity' })
  await expect(wide).toBeVisible()
  await wide.getByLabel('Search functions').fill('limited to')
  await page.locator('.cm-content').click()
  await page.keyboard.press('Control+a')
  await page.keyboard.press('Delete')
  await page.getByRole('button', { name: 'clamp(x, low, high)' }).click()
  await expect(page.locator('.cm-content')).toContainText('clamp(120, 0, 100)')
  await expect(page.locator('.line-value')).toHaveText('100')
  await page.keyboard.type('+cla')
  await expect(page.locator('.cm-tooltip-autocomplete')).toBeVisible()
  await page.keyboard.press('Escape') // the list of completions, and no more
  await expect(page.locator('.cm-tooltip-autocomplete')).toHaveCount(0)
  await expect(wide).toBeVisible()
  await page.keyboard.press('Escape')
  await expect(wide).toHaveCount(0)
  await expect(page.locator('.cm-content')).toBeFocused() // back in its place
  await expect(page.locator('.cm-content')).toContainText('clamp(120, 0, 100)')
  await expect(studio.control('Swing')).toBeVisible()
})

test('a long bake shows how far it is and can be stopped', async ({ page, server, studio }) => {
  const many = Array.from({ length: 150 }, (_, i) => add({ id: `m${i}`, name: `Member ${i + 1}`, kind: 'null' }))
  const link = {
    id: 'l',
    kind: 'formula',
    gain: 1,
    formula: 'noise(time, index) * 40 + noise(time * 3, number) * 9',
    source: { item: '', property: '' },
  }
  await studio.open(
    server.address,
    await projectOf(server, 'Long bake', [
      ...many,
      {
        op: 'spread.add',
        at: -1,
        value: { id: 's', name: 'Sway', roster: { kind: 'named', pattern: 'Member *' }, property: 'rotation', link },
      },
    ]),
  )
  await studio.select('Member 1')
  await page.keyboard.press('Control+a')
  await menu(page, studio, 'rotation', 'Bake to pins')
  const last = page
    .getByLabel('Last frame to bake')
    .getByRole('textbox')
    .or(page.getByRole('textbox', { name: 'Last frame' }))
    .first()
  await last.fill('9000')
  await page.getByRole('button', { name: 'Bake', exact: true }).click()
  await expect(page.getByRole('progressbar')).toBeVisible()
  await page.getByRole('button', { name: 'Cancel' }).click()
  await expect(page.getByRole('progressbar')).toHaveCount(0)
  await expect(studio.field('rotation').locator('.pin.some')).toHaveCount(0)
  await last.fill('20')
  await page.getByRole('button', { name: 'Bake', exact: true }).click()
  await expect(page.getByText(/Created \d+ pins; the links are turned off, not deleted/)).toBeVisible()
  await expect(page.getByRole('dialog')).toHaveCount(0)
})
