import type { Page } from '@playwright/test'
import { nearest } from '../../web/src/composables/snapping'
import { add, projectOf } from '../helpers/api'
import { expect, test } from '../helpers/test'

const rectangle = (id: string, x: number, y: number): object =>
  add({ id, name: id, kind: 'rectangle', states: { position: { own: [x, y, 0] }, size: { own: [170, 110] } } })

/** The middle of the composition on the screen. */
async function middle(page: Page): Promise<{ x: number; y: number }> {
  await page.getByRole('button', { name: '1:1' }).click()
  const box = await page.getByTestId('stage').boundingBox()
  if (!box) throw new Error('there is no stage')
  return { x: box.x + box.width / 2, y: box.y + box.height / 2 }
}

test('of two edges within reach the nearer one pulls', () => {
  const box = { left: 10, right: 70, top: 300, bottom: 390 }
  const one = { left: 15, right: 2000, top: 5000, bottom: 9000 }
  const two = { left: 12, right: 3000, top: 5000, bottom: 9000 }
  for (const others of [
    [one, two],
    [two, one],
  ])
    expect(nearest(box, 1, 0, others)).toEqual({ dx: 1, dy: 0, guides: [{ x: 12 }] })
  expect(nearest(box, -6, 0, [one])).toEqual({ dx: 0, dy: 0, guides: [] })
})

test('Shift keeps a drag to the longer of its ways and turns in steps of 15°; Esc ends only the drag', async ({ page, server, studio }) => {
  await studio.open(server.address, await projectOf(server, 'Exact hands', [rectangle('a', -190, 70), rectangle('b', 230, 73)]))
  const { x, y } = await middle(page)
  const part = (key: string, n: number): Promise<number> => studio.value(studio.field(key).locator('button.value').nth(n))
  const place = async (): Promise<number[]> => [await part('position', 0), await part('position', 1)]
  await page.mouse.click(x - 190, y - 70)
  // Shift may be held before the press: the item is dragged, and stays selected.
  await page.keyboard.down('Shift')
  await page.mouse.move(x - 190, y - 70)
  await page.mouse.down()
  await page.mouse.move(x - 150, y - 90, { steps: 3 })
  await page.mouse.move(x - 117, y - 101, { steps: 3 })
  await page.mouse.up()
  await page.keyboard.up('Shift')
  await expect.poll(async () => (await place())[1]).toBe(70)
  await expect.poll(async () => Math.abs((await part('position', 0)) + 117)).toBeLessThan(8) // it may have snapped
  const stands = await place()
  // A click with Shift takes an item out, and in again.
  await page.keyboard.down('Shift')
  await page.mouse.click(x - 117, y - 70)
  await expect(page.getByRole('treeitem', { selected: true })).toHaveCount(0)
  await page.mouse.click(x - 117, y - 70)
  await page.keyboard.up('Shift')
  await expect(page.getByRole('treeitem', { selected: true })).toHaveCount(1)
  // A turn of about 47° is 45° with Shift, which no step of 10° or 30° gives.
  const knob = await studio.middle(page.locator('[data-handle=turn]'))
  const at = await studio.middle(page.locator('[data-handle=pivot]'))
  const radius = Math.hypot(knob.x - at.x, knob.y - at.y)
  const begun = Math.atan2(knob.y - at.y, knob.x - at.x)
  const turned = (by: number): [number, number] => [
    at.x + radius * Math.cos(begun + (by * Math.PI) / 180),
    at.y + radius * Math.sin(begun + (by * Math.PI) / 180),
  ]
  await page.keyboard.down('Shift')
  await page.mouse.move(knob.x, knob.y)
  await page.mouse.down()
  await page.mouse.move(...turned(25), { steps: 4 })
  await page.mouse.move(...turned(47), { steps: 4 })
  await page.mouse.up()
  await page.keyboard.up('Shift')
  await expect.poll(async () => Math.abs(await part('rotation', 0))).toBe(45)
  // Esc in the middle of a drag: the item is where it was, and still selected; nothing comes back when the button is let go.
  await page.mouse.move(x - 117, y - 70)
  await page.mouse.down()
  await page.mouse.move(x - 60, y - 33, { steps: 5 })
  await expect.poll(place).not.toEqual(stands)
  await page.keyboard.press('Escape')
  await expect.poll(place).toEqual(stands)
  await page.mouse.move(x - 20, y - 10, { steps: 3 })
  await page.mouse.up()
  await expect(page.getByRole('treeitem', { selected: true })).toHaveCount(1)
  await page.waitForTimeout(150)
  expect(await place()).toEqual(stands)
})

test('the arrow keys move a fader by one, with Shift by ten, with Alt by a tenth', { tag: '@quick' }, async ({ page, server, studio }) => {
  await studio.open(server.address, await projectOf(server, 'Exact keys', [rectangle('a', -190, 70)]))
  await studio.addControl('a', 'Fader', 'Lean')
  await studio.type('Lean', '23')
  const fader = studio.control('Lean').getByRole('slider')
  await page.keyboard.press('Tab') // the fader has the keys where the hand is at the keyboard
  await fader.focus()
  for (const [key, value] of [
    ['ArrowRight', '24'],
    ['Shift+ArrowRight', '34'],
    ['Alt+ArrowLeft', '33.9'],
    ['PageDown', '23.9'],
  ] as const) {
    await page.keyboard.press(key)
    await expect(fader).toHaveAttribute('aria-valuenow', value)
  }
})

test('Del is about what was picked last: an item picked after a control', { tag: '@quick' }, async ({ page, server, studio }) => {
  await studio.open(server.address, await projectOf(server, 'What was picked', [rectangle('a', -190, 70), rectangle('b', 230, -170)]))
  await studio.addControl('a', 'Fader', 'Lean')
  await studio.control('Lean').getByText('Lean', { exact: true }).click()
  await studio.row('b').click()
  await page.keyboard.press('Delete')
  await expect(studio.row('b')).toHaveCount(0)
  await expect(studio.control('Lean')).toBeVisible()
})
