import type { Locator, Page } from '@playwright/test'
import { add, projectOf } from '../helpers/api'
import { expect, test } from '../helpers/test'

const pinned = (pins: [frame: number, value: unknown][]) => ({
  pins: pins.map(([frame, value]) => ({ frame, value, easing: 'linear' })),
})
const rig = add({
  id: 'rig',
  name: 'Rig',
  kind: 'null',
  controls: [
    { id: 'wind', name: 'Wind', kind: 'fader', softMax: 100, default: 0 },
    { id: 'glow', name: 'Glow', kind: 'fader', softMax: 100, default: 0 },
  ],
  states: {
    wind: pinned([
      [20, 14],
      [140, 83],
      [260, 31],
    ]),
    glow: pinned([
      [50, 3],
      [210, 9],
    ]),
    position: pinned([
      [30, [100, -40, 0]],
      [170, [-220, 80, 0]],
    ]),
  },
})

const pins = (page: Page): Promise<string[]> =>
  page
    .locator('[data-panel=curves] .pin')
    .evaluateAll((all) =>
      all.map((p) => (p.ariaLabel ?? '').replace('Pin of ', '').replace('at frame ', '') + (p.ariaPressed === 'true' ? '*' : '')),
    )
const has = (page: Page, want: string[]) => expect.poll(async () => (await pins(page)).sort()).toEqual(want)
const pin = (page: Page, name: string): Locator => page.getByRole('button', { name: `Pin of ${name}`, exact: true })
const typed = (page: Page, name: string): Locator => page.getByRole('group', { name: 'Picked pins' }).getByRole('button', { name })

async function drag(page: Page, of: Locator, dx: number, dy: number, held?: 'Shift' | 'Control'): Promise<void> {
  const at = await of.locator('circle').last().boundingBox()
  if (!at) throw new Error('not in sight')
  const [x, y] = [at.x + at.width / 2, at.y + at.height / 2]
  await page.mouse.move(x, y)
  await page.mouse.down()
  if (held) await page.keyboard.down(held)
  await page.mouse.move(x + dx / 2, y + dy / 2, { steps: 3 })
  await page.mouse.move(x + dx, y + dy, { steps: 3 })
  await page.mouse.up()
  if (held) await page.keyboard.up(held)
}

test('pins are moved in time and value in Curves, a span is shaped by its handles, several curves at once', async ({
  page,
  server,
  studio,
}) => {
  await studio.open(server.address, await projectOf(server, 'Curves', [rig]))
  await studio.control('Wind').locator('.name').click()
  await studio
    .control('Glow')
    .locator('.name')
    .click({ modifiers: ['Control'] })
  await page.keyboard.press('2')
  const panel = page.getByRole('region', { name: 'Curves' })
  await expect(panel.getByRole('group', { name: '2 curves over 300 frames' })).toBeVisible()
  await has(page, ['Rig: Glow 210', 'Rig: Glow 50', 'Rig: Wind 140', 'Rig: Wind 20', 'Rig: Wind 260'])
  const far = async (a: string, b: string): Promise<number> => (await studio.middle(pin(page, b))).x - (await studio.middle(pin(page, a))).x
  const per = (await far('Rig: Wind at frame 20', 'Rig: Wind at frame 260')) / 240

  // Both ways at once; with Shift, the further one alone. The others stay in sight.
  await drag(page, pin(page, 'Rig: Wind at frame 140'), -17 * per, 40, 'Control')
  await has(page, ['Rig: Glow 210', 'Rig: Glow 50', 'Rig: Wind 123*', 'Rig: Wind 20', 'Rig: Wind 260'])
  const value = async (): Promise<number> => Number((await typed(page, 'Value of the pins').getAttribute('data-value')) ?? NaN)
  const lowered = await value()
  expect(lowered).toBeGreaterThan(40)
  expect(lowered).toBeLessThan(82)
  await drag(page, pin(page, 'Rig: Wind at frame 123'), 9, 31, 'Shift')
  await has(page, ['Rig: Glow 210', 'Rig: Glow 50', 'Rig: Wind 123*', 'Rig: Wind 20', 'Rig: Wind 260'])
  await expect.poll(value).toBeLessThan(lowered - 3)

  // By keys: along, and up.
  const before = await value()
  await page.keyboard.press('Tab')
  await page.keyboard.press('Shift+Tab')
  await expect(pin(page, 'Rig: Wind at frame 123')).toBeFocused()
  await page.keyboard.press('ArrowRight')
  await page.keyboard.press('Shift+ArrowUp')
  await expect.poll(value).toBeGreaterThan(before)
  await has(page, ['Rig: Glow 210', 'Rig: Glow 50', 'Rig: Wind 124*', 'Rig: Wind 20', 'Rig: Wind 260'])

  // The handles of the picked pin's span, by hand and by keys; what lies beyond the range comes into sight.
  const leaving = page.getByRole('button', { name: /^Leaving handle/ })
  await expect(leaving).toHaveAttribute('aria-label', 'Leaving handle: 0.333, 0.333')
  await drag(page, leaving, 0, -90)
  await expect(leaving).toHaveAttribute('aria-label', /^Leaving handle: 0\.333, -\d/)
  expect((await studio.middle(leaving)).y).toBeGreaterThan((await panel.locator('.plot').boundingBox())?.y ?? Infinity)
  await page.waitForTimeout(550)
  await page.getByRole('button', { name: /^Arriving handle/ }).focus()
  await page.keyboard.press('Shift+ArrowLeft')
  await page.keyboard.press('ArrowUp') // it falls: up is back
  await expect(page.getByRole('button', { name: /^Arriving handle/ })).toHaveAttribute('aria-label', 'Arriving handle: 0.567, 0.657')

  // A frame over pins of both, which move together; a double click pins the nearest curve.
  const plot = await panel.locator('.plot').boundingBox()
  if (!plot) throw new Error('no plot')
  const x = (f: number): number => plot.x + 10 + f * per
  await page.mouse.move(x(108), plot.y + 2)
  await page.mouse.down()
  await page.mouse.move(x(190), plot.y + 60, { steps: 3 })
  await page.mouse.move(x(224), plot.y + plot.height - 2, { steps: 3 })
  await page.mouse.up()
  await has(page, ['Rig: Glow 210*', 'Rig: Glow 50', 'Rig: Wind 124*', 'Rig: Wind 20', 'Rig: Wind 260'])
  await page.keyboard.press('Alt+ArrowLeft')
  await has(page, ['Rig: Glow 209*', 'Rig: Glow 50', 'Rig: Wind 123*', 'Rig: Wind 20', 'Rig: Wind 260'])
  const middle = await studio.middle(pin(page, 'Rig: Wind at frame 20'))
  await page.mouse.dblclick(x(11), middle.y)
  await has(page, ['Rig: Glow 209', 'Rig: Glow 50', 'Rig: Wind 11', 'Rig: Wind 123', 'Rig: Wind 20', 'Rig: Wind 260'])
  await page.keyboard.press('Delete') // nothing is picked
  await has(page, ['Rig: Glow 209', 'Rig: Glow 50', 'Rig: Wind 11', 'Rig: Wind 123', 'Rig: Wind 20', 'Rig: Wind 260'])
  await pin(page, 'Rig: Wind at frame 123').click()
  await page.keyboard.press('Delete')
  await has(page, ['Rig: Glow 209', 'Rig: Glow 50', 'Rig: Wind 11', 'Rig: Wind 20', 'Rig: Wind 260'])
  await expect(page.locator('[data-panel=curves] .pin:focus')).toHaveCount(1)
})

test('one scale for all, and how fast they change; a component of a point moves alone', async ({ page, server, studio }) => {
  await studio.open(server.address, await projectOf(server, 'Scales', [rig]))
  await studio.control('Wind').locator('.name').click()
  await studio
    .control('Glow')
    .locator('.name')
    .click({ modifiers: ['Control'] })
  await page.keyboard.press('2')
  const high = async (name: string): Promise<number> => (await studio.middle(pin(page, name))).y
  // Fitted, the highest of both stand at one height; by one scale, Glow hardly moves.
  expect(Math.abs((await high('Rig: Wind at frame 140')) - (await high('Rig: Glow at frame 210')))).toBeLessThan(2)
  await page.getByRole('button', { name: 'True scale' }).click()
  await expect.poll(async () => (await high('Rig: Glow at frame 210')) - (await high('Rig: Wind at frame 140'))).toBeGreaterThan(80)
  // Per second: 69 in 120 frames of 25.
  await page.getByRole('button', { name: 'Speed' }).click()
  await studio.seek(77)
  await page.mouse.move(500, 300)
  const list = page.getByRole('list', { name: 'Values at the playhead' })
  await expect(list.getByRole('listitem').filter({ hasText: 'Rig: Wind' })).toContainText(/14\.3[78]/)
  await expect(list.getByRole('listitem').filter({ hasText: 'Rig: Glow' })).toContainText(/0\.93[78]/)
  await page.getByRole('button', { name: 'Speed' }).click()
  await page.keyboard.press('1')
  await studio.select('Rig')
  await studio.field('position').locator('.name').click()
  await page.keyboard.press('2')
  await page.getByRole('button', { name: 'Fitted' }).click()
  await drag(page, pin(page, 'Rig: position.y at frame 170'), 0, 35, 'Shift')
  await studio.seek(170)
  const field = studio.field('position').locator('button.value')
  await expect(field.first()).toHaveAttribute('data-value', '-220')
  expect(Number(await field.nth(1).getAttribute('data-value'))).toBeLessThan(75)
})
