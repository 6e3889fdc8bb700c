import { add, projectOf } from '../helpers/api'
import { difference } from '../helpers/pixels'
import { expect, test } from '../helpers/test'

const slider = (id: string, name: string, value: number): object => ({ id, name, kind: 'slider', softMax: 100, default: value })

test('one link drives rows of rows, the vertices of a path, and members at components of their own', async ({ page, server, studio }) => {
  const poles = [0, 1, 2].map((k) =>
    add({ id: `p${k}`, name: `Pole ${k + 1}`, kind: 'null', parent: 'rig', states: { position: { own: [k * 160 - 160, 0, 0] } } }),
  )
  const flags = [0, 1, 2].flatMap((k) =>
    [0, 1].map((f) =>
      add({
        id: `f${k}${f}`,
        name: `Flag ${k + 1}.${f + 1}`,
        kind: 'rectangle',
        parent: `p${k}`,
        states: { size: { own: [60, 30] }, position: { own: [0, f * 60, 0] } },
      }),
    ),
  )
  await studio.open(
    server.address,
    await projectOf(server, 'Rows of rows', [
      add({ id: 'rig', name: 'Rig', kind: 'null', controls: [slider('lift', 'Lift', 12), slider('share', 'Part', 50)] }),
      ...poles,
      ...flags,
      add({
        id: 'rope',
        name: 'Rope',
        kind: 'path',
        path: { contours: [{ vertices: [0, 1, 2, 3].map((k) => ({ id: k + 1, at: [k * 80 - 120, -150], in: [0, 0], out: [0, 0] })) }] },
      }),
    ]),
  )
  const value = studio.field('rotation').locator('button.value')
  const at = async (name: string): Promise<number> => {
    await studio.select(name)
    return studio.value(value)
  }
  const more = async (entry: string, sub?: string): Promise<void> => {
    await page.getByRole('button', { name: /^Actions for (rotation of|position of|vertices of) / }).click()
    await page.locator('.n-dropdown-option').filter({ hasText: entry }).click()
    if (sub) await page.locator('.n-dropdown-option').filter({ hasText: sub }).last().click()
  }
  const write = async (text: string): Promise<void> => {
    await page.locator('.cm-content').click()
    await page.keyboard.press('Control+a')
    await page.keyboard.insertText(text)
    await page.keyboard.press('Control+Enter')
  }

  // The flags of one pole, then those of all of them: a row for each.
  await studio.select('Flag 1.1', 'Flag 1.2')
  await studio.field('rotation').getByRole('button', { name: 'Actions for' }).click()
  await page.locator('.n-dropdown-option').filter({ hasText: 'One formula for all 2' }).click()
  await more('Members: one row per sibling')
  await expect(page.getByText('6 items: the children of each of children of Rig')).toBeVisible()
  await more('Members: one row of descendants')
  await expect(page.getByText('6 items: all descendants of each of children of Rig')).toBeVisible()
  await more('Members: one row per sibling')
  await expect(page.getByText('6 items: the children of each of children of Rig')).toBeVisible()
  await write('outer index * 10 + index + {outer self: position.x} / 160')
  expect(await at('Flag 3.2')).toBe(22)
  expect(await at('Flag 1.1')).toBe(-1)

  // Half of it, by a slider.
  await more('Drive weight with', 'Rig: Part')
  await expect(page.getByText('weight from Rig: Part')).toBeVisible()
  expect(await at('Flag 3.2')).toBe(11)
  // A flag that comes onto a pole is in at once.
  await studio.select('Flag 3.2')
  await page.keyboard.press('Control+d')
  await expect(value).toHaveAttribute('data-value', '11.5') // the copy stands behind it
  expect(await at('Flag 3.2')).toBe(11)
  await page.keyboard.press('Control+z')

  // A formula on all vertices; one of them opts out.
  await studio.select('Rope')
  await page.locator('[data-panel=card]').getByRole('button', { name: 'Vertices', exact: true }).click()
  const vertex = (n: number) => studio.field(`vertex${n}`)
  await vertex(2).getByRole('button', { name: 'Actions for vertex 2' }).click()
  await page.locator('.n-dropdown-option').filter({ hasText: 'One formula for all vertices' }).click()
  await write('[own.x, own.y + number * {Rig: Lift} + (({prev: vertex.y} else own.y) - own.y)]')
  const height = (n: number) => vertex(n).locator('button.value').last()
  await expect(height(4)).toHaveAttribute('data-value', '-30')
  await page.getByLabel('Include this item').click()
  await expect(height(2)).toHaveAttribute('data-value', '-150')
  await expect(height(4)).toHaveAttribute('data-value', '-66')
  await page.keyboard.press('Control+z')

  // Members at components of their own.
  await studio.select('Pole 1', 'Pole 2')
  await studio.field('position').getByRole('button', { name: 'Actions for' }).click()
  await page.locator('.n-dropdown-option').filter({ hasText: 'One formula for all 2' }).click()
  await write('500')
  await studio.select('Pole 2') // the row stays open
  await page.getByRole('button', { name: /Members: order/ }).click()
  await page.getByLabel('What Pole 2 drives here').click()
  await page.locator('.n-base-select-option').filter({ hasText: 'position.y' }).last().click()
  const place = studio.field('position').locator('button.value')
  await expect(place.first()).toHaveAttribute('data-value', '0')
  await expect(place.nth(1)).toHaveAttribute('data-value', '500')
})

test('a text is taken apart into letters, which are a row', async ({ page, server, studio }) => {
  await studio.open(
    server.address,
    await projectOf(server, 'Letters', [
      add({ id: 'rig', name: 'Rig', kind: 'null', controls: [slider('lift', 'Lift', 20)] }),
      add({
        id: 'word',
        name: 'HARBOUR',
        kind: 'text',
        states: { text: { own: 'HARBOUR' }, position: { own: [40, 30, 0] }, fill: { own: [0.6, 0.2, 0.1, 1] } },
      }),
    ]),
  )
  const canvas = studio.stage
  const before = await canvas.screenshot()
  await studio.row('HARBOUR').click({ button: 'right' })
  await page.locator('.n-dropdown-option').filter({ hasText: 'Split into letters' }).click()
  await expect(page.getByText('Split into 7 letters under HARBOUR')).toBeVisible()
  await expect(page.getByRole('treeitem', { selected: true })).toHaveCount(7)
  await page.keyboard.press('Escape')
  await page.keyboard.press('Escape')
  await expect(page.getByRole('treeitem', { selected: true })).toHaveCount(0)
  await expect.poll(async () => difference(page, before, await canvas.screenshot())).toBeLessThan(0.02)
  await studio.row('HARBOUR 1 H').click()
  await studio.row('HARBOUR 7 R').click({ modifiers: ['Shift'] })
  await studio.field('position').getByRole('button', { name: 'Actions for' }).click()
  await page.locator('.n-dropdown-option').filter({ hasText: 'One formula for all 7' }).click()
  await page.locator('.cm-content').click()
  await page.keyboard.press('Control+a')
  await page.keyboard.insertText('[own.x, own.y + wave(share) * {Rig: Lift}]')
  await page.keyboard.press('Control+Enter')
  await studio.select('HARBOUR 3 R')
  await expect
    .poll(() => studio.value(studio.field('position').locator('button.value').nth(1)))
    .toBeCloseTo(20 * Math.sin((2 * Math.PI) / 3), 6)
})
