import { Hand } from '../helpers/hand'
import { add, projectOf } from '../helpers/api'
import { expect, test } from '../helpers/test'

/** Places that look thrown, and are the same every time. */
const scattered = (n: number): object[] =>
  Array.from({ length: n }, (_, k) =>
    add({
      id: `b${k}`,
      name: `Bit ${k + 1}`,
      kind: 'rectangle',
      states: { size: { own: [40, 40] }, position: { own: [((k * 211) % 1100) - 550, ((k * 97) % 560) - 280, 0] } },
    }),
  )

test('thirty scattered items sweep in by one zone: scale, rotation and rise, eased in and out: at most 12 gestures', async ({
  page,
  server,
  studio,
}) => {
  await studio.open(server.address, await projectOf(server, 'Sweep', scattered(30)))
  const hand = new Hand(page)
  const scale = (name: string) => async (): Promise<number> => {
    await studio.select(name)
    return studio.value(studio.field('scale').locator('button.value').first())
  }
  await hand.key('Control+a')
  await expect(page.getByRole('heading', { name: '30 rectangles' })).toBeVisible()
  await hand.key('Control+k')
  await hand.type('recipe: sweep in')
  const dialog = page.getByRole('dialog').filter({ hasText: 'A zone passes over the row' })
  await expect(dialog).toBeVisible()
  await hand.press(dialog.getByText('Rotation from', { exact: true }))
  await hand.press(dialog.getByRole('button', { name: 'Apply' }))
  await expect(dialog).toHaveCount(0)
  await expect(page.getByRole('treeitem', { selected: true })).toContainText('Sweep')
  console.log(`thirty items swept in: ${hand.count} gestures`)
  expect(hand.count).toBeLessThanOrEqual(12)
  // The zone stands in the middle: what is left of it is in, what is right of it is not.
  await expect.poll(scale('Bit 1')).toBe(100) // at -550
  await expect.poll(scale('Bit 6')).toBe(0) // at 505
  // Its falloff is dragged in the viewport, and so is the zone.
  await studio.select('Sweep')
  const falloff = studio.field('falloff').locator('button.value')
  const before = await studio.value(falloff)
  await hand.drag(page.locator('[data-zone="Sweep"] [data-knob="Falloff"]'), -60)
  await expect.poll(() => studio.value(falloff)).toBeGreaterThan(before + 50)
  await studio.field('position').locator('button.value').first().click()
  await page.keyboard.type('2000')
  await page.keyboard.press('Enter')
  await expect.poll(scale('Bit 6')).toBe(100)
  await expect(page.getByTestId('checks')).toContainText('No problems')
  // All of it is one step back.
  for (let k = 0; k < 3; k++) await page.keyboard.press('Control+z')
  await expect(page.getByRole('treeitem').filter({ hasText: 'Sweep' })).toHaveCount(0)
})

test('a zone by hand: its edge and shape, in a formula with a mistake, and removed', async ({ page, server, studio }) => {
  await studio.open(
    server.address,
    await projectOf(server, 'Zone', [
      add({ id: 'dot', name: 'Dot', kind: 'ellipse', states: { size: { own: [60, 60] }, position: { own: [150, 0, 0] } } }),
    ]),
  )
  await studio.add('zone', 'Glow')
  const size = studio.field('zoneSize').locator('button.value')
  await expect(size.first()).toHaveAttribute('data-value', '400')
  await new Hand(page).drag(page.locator('[data-zone="Glow"] [data-knob="Edge"]'), -40)
  await expect.poll(() => studio.value(size.first())).toBeLessThan(330)
  await page.keyboard.press('Control+z')
  await expect(size.first()).toHaveAttribute('data-value', '400')
  await studio.select('Dot')
  await studio.field('opacity').getByRole('button', { name: 'Actions for opacity' }).click()
  await page
    .locator('.n-dropdown-option')
    .filter({ hasText: /^Formula$/ })
    .click()
  const write = async (text: string): Promise<void> => {
    await page.locator('.cm-content').click()
    await page.keyboard.press('Control+a')
    await page.keyboard.insertText(text)
  }
  await write('100 * zone({Dot})')
  await expect(page.locator('.problems')).toContainText('Dot is an ellipse, not a zone')
  await write('100 * zone({Glow})')
  await page.keyboard.press('Control+Enter')
  const opacity = studio.field('opacity').locator('button.value')
  // 50 px inside the edge, of 150: eased in and out.
  await expect.poll(() => studio.value(opacity)).toBeCloseTo(100 * (3 / 9 - 2 / 27), 6)
  await studio.select('Glow')
  await studio.field('inverted').getByRole('switch').click()
  await studio.select('Dot')
  await expect.poll(() => studio.value(opacity)).toBeCloseTo(100 - 100 * (3 / 9 - 2 / 27), 6)
  // What a formula looks at removed: said, with undo in the message.
  await studio.select('Glow')
  await page.keyboard.press('Delete')
  await expect(page.getByTestId('checks')).toContainText('1 problem')
  await page.keyboard.press('Control+z')
  await expect(page.getByTestId('checks')).toContainText('No problems')
})
