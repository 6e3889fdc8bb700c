import { readFileSync } from 'node:fs'
import { add, projectOf } from '../helpers/api'
import { expect, test } from '../helpers/test'

const slider = (id: string, name: string, value: number): object => ({ id, name, kind: 'slider', softMax: 100, default: value })

test('a link is spread over what is selected, staggered, shuffled, found by names, and paired with another row', async ({
  page,
  server,
  studio,
}) => {
  const crates = Array.from({ length: 4 }, (_, i) =>
    add({
      id: `c${i}`,
      name: `Crate ${i + 1}`,
      kind: 'rectangle',
      states: { size: { own: [50, 50] }, position: { own: [i * 90 - 150, 60, 0] } },
    }),
  )
  const shades = Array.from({ length: 4 }, (_, i) =>
    add({
      id: `s${i}`,
      name: `Shade ${i + 1}`,
      kind: 'ellipse',
      parent: 'shades',
      states: { size: { own: [50, 14] }, position: { own: [i * 90 - 150, -60, 0] } },
    }),
  )
  await studio.open(
    server.address,
    await projectOf(server, 'Rows', [
      add({ id: 'rig', name: 'Rig', kind: 'null', controls: [slider('lift', 'Lift', 12)] }),
      add({ id: 'shades', name: 'Shades', kind: 'null' }),
      ...crates,
      ...shades,
    ]),
  )
  const value = studio.field('rotation').locator('button.value')
  const at = async (name: string): Promise<number> => {
    await studio.select(name)
    return studio.value(value)
  }
  const more = async (entry: string | RegExp, sub?: string): Promise<void> => {
    await expect(page.locator('.n-dropdown-menu')).toHaveCount(0)
    await page.getByRole('button', { name: /^Actions for rotation of / }).click()
    await page.locator('.n-dropdown-option').filter({ hasText: entry }).click()
    if (sub) await page.locator('.n-dropdown-option').filter({ hasText: sub }).last().click()
  }

  // A plain link on the first; then the first and three others, in order, and the link spread over them.
  await studio.select('Crate 1')
  await studio.cable('Lift', 'rotation')
  await studio.type('Lift', '12')
  await studio.select('Crate 1', 'Crate 2', 'Crate 3')
  await page.getByRole('button', { name: 'Actions for the link from Rig: Lift' }).click()
  await page.locator('.n-dropdown-option').filter({ hasText: 'Apply to all 3 selected' }).click()
  await expect(page.getByText('3 items: chosen items, in order')).toBeVisible()
  expect(await at('Crate 3')).toBe(12) // the row stays open
  await expect(page.getByText('3 items: chosen items, in order')).toBeVisible()

  // Each adds five degrees: counted from 0, from 1, over the row.
  await page
    .getByRole('group', { name: /^Row: / })
    .getByRole('button', { name: 'Stagger of offset' })
    .click()
  await page.keyboard.type('5')
  await page.keyboard.press('Enter')
  await expect(value).toHaveAttribute('data-value', '22')
  expect(await at('Crate 1')).toBe(12)
  await studio.select('Crate 3') // its editor stands open still
  await page.getByLabel('How members are counted').click()
  await page.locator('.n-base-select-option').filter({ hasText: '× number' }).click()
  await expect(value).toHaveAttribute('data-value', '27')

  // By their names: the fourth is in at once, and so is one that is renamed to fit.
  await more('Members: by name')
  await expect(page.getByText('4 items: items named “Crate *”')).toBeVisible()
  expect(await at('Crate 4')).toBe(32)
  await page.getByLabel('Name pattern (* matches anything)').fill('Cra*4')
  await page.getByLabel('Name pattern (* matches anything)').press('Enter')
  await expect(page.getByText('1 item: items named “Cra*4”')).toBeVisible()
  await expect(value).toHaveAttribute('data-value', '17')
  expect(await at('Crate 1')).toBe(0)

  // Another row, paired with the shades: each crate looks at its own.
  await studio.select('Crate 1', 'Crate 2')
  await studio.field('rotation').getByRole('button', { name: 'Actions for' }).click()
  await page.locator('.n-dropdown-option').filter({ hasText: 'One formula for all 2' }).click()
  await more('Pair with children of', 'Shades')
  await expect(page.getByText('paired with the children of Shades')).toBeVisible()
  await page.locator('.cm-content').click()
  await page.keyboard.press('Control+a')
  await page.keyboard.insertText('{partner: position.x} / 10')
  await expect(page.locator('.line-value')).toHaveText('-15')
  await page.keyboard.press('Control+Enter')
  expect(await at('Crate 1')).toBe(-15)
  expect(await at('Crate 2')).toBe(-6)
  await page.keyboard.press('Control+z')
  expect(await at('Crate 2')).not.toBe(-6)

  // The row's curves lie over each other, and go into a table.
  await page.keyboard.press('Control+Shift+Z')
  await studio.select('Crate 1')
  await studio.field('rotation').locator('.name').click()
  await page.keyboard.press('2')
  await expect(page.getByRole('list', { name: 'Values at the playhead' })).toContainText('Crate 2: rotation')
  const [file] = await Promise.all([page.waitForEvent('download'), page.getByRole('button', { name: 'Export CSV' }).click()])
  const rows = readFileSync(await file.path(), 'utf8')
    .trim()
    .split('\n')
  expect(rows[0]).toBe('frame,Crate 1: rotation,Crate 2: rotation')
  expect(rows[300]).toBe('299,-15,-6')
})
