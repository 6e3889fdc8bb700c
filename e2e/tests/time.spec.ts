import type { Page } from '@playwright/test'
import { add, projectOf } from '../helpers/api'
import { option } from '../helpers/hand'
import { Studio } from '../helpers/studio'
import { expect, test } from '../helpers/test'

const fader = (id: string, name: string, pins: [frame: number, value: number][]): { control: object; state: object } => ({
  control: { id, name, kind: 'fader', softMax: 100, default: 0 },
  state: { pins: pins.map(([frame, value]) => ({ frame, value, easing: 'smooth' })) },
})
const wind = fader('wind', 'Wind', [
  [3, 20],
  [17, 83],
  [40, 31],
  [77, 60],
])
const glow = fader('glow', 'Glow', [
  [8, 11],
  [29, 74],
  [120, 5],
])
const point = { id: 'place', name: 'Place', kind: 'point', softMin: -500, softMax: 500, default: [-310, 40] }
const rig = add({
  id: 'rig',
  name: 'Rig',
  kind: 'null',
  controls: [wind.control, glow.control, point],
  states: { wind: wind.state, glow: glow.state },
})

const frames = (page: Page, track: string): Promise<string> =>
  page.locator(`[data-track="${track}"] .pin`).evaluateAll((all) => all.map((p) => p.ariaLabel?.replace(/.*frame /, '')).join(' '))
const has = (page: Page, track: string, want: string) => expect.poll(() => frames(page, track)).toBe(want)

/** Draws a frame over the pins between two frames of some tracks. */
async function frame(
  page: Page,
  studio: Studio,
  first: [track: string, frame: number],
  last: [track: string, frame: number],
): Promise<void> {
  const at = async ([track, f]: [string, number]): Promise<{ x: number; y: number }> => {
    const pin = await studio.middle(studio.track(track).getByRole('button', { name: `Pin of ${track} at frame ${f}`, exact: true }))
    return { x: pin.x, y: pin.y }
  }
  const [from, to] = [await at(first), await at(last)]
  await page.mouse.move(to.x + 17, to.y + 9)
  await page.mouse.down()
  await page.mouse.move((from.x + to.x) / 2, from.y, { steps: 3 })
  await page.mouse.move(from.x - 9, from.y - 9, { steps: 3 })
  await page.mouse.up()
}

test('pins of two drawers are framed, stretched, moved onto others only when told, copied and pasted', async ({ page, server, studio }) => {
  await studio.open(server.address, await projectOf(server, 'Groups', [rig]))
  await frame(page, studio, ['Wind', 17], ['Glow', 29])
  const tools = page.getByRole('group', { name: 'Picked pins' })
  await expect(tools).toContainText('2 pins of 2 rows')
  await frame(page, studio, ['Wind', 3], ['Glow', 29])
  await expect(tools).toContainText('4 pins of 2 rows')
  // Its last frame is typed, in seconds: all of them go along.
  await tools.getByRole('button', { name: 'Last frame: 29' }).click()
  await page.keyboard.type('2.2s')
  await page.keyboard.press('Enter')
  await has(page, 'Wind', '3 31 40 77')
  await has(page, 'Glow', '13 55 120')
  await expect(tools.getByRole('button', { name: 'Last frame: 55' })).toBeVisible()
  // By its end, back again: the first one stays.
  const end = await studio.middle(page.locator('[data-end=last]'))
  const per =
    (await studio.middle(studio.track('Wind').getByRole('button').nth(1))).x -
    (await studio.middle(studio.track('Wind').getByRole('button').nth(0))).x
  await page.mouse.move(end.x, end.y)
  await page.mouse.down()
  await page.mouse.move(end.x - 12, end.y, { steps: 3 })
  await page.mouse.move(end.x - (per / 28) * 26, end.y, { steps: 3 })
  await page.mouse.up()
  await has(page, 'Wind', '3 17 40 77')
  await has(page, 'Glow', '8 29 120')
  // Moved onto another pin, it asks.
  await studio.track('Wind').getByRole('button').nth(1).click()
  await tools.getByRole('button', { name: 'Frame: 17' }).click()
  await page.keyboard.type('40')
  await page.keyboard.press('Enter')
  await expect(page.getByText('There is a pin of Rig: Wind at that frame already.')).toBeVisible()
  await has(page, 'Wind', '3 17 40 77')
  await page.getByRole('button', { name: 'Replace' }).click()
  await has(page, 'Wind', '3 40 77')
  await page.keyboard.press('Control+z')
  await has(page, 'Wind', '3 17 40 77')
  // Copied, and pasted at the playhead; undone, redone.
  await frame(page, studio, ['Wind', 17], ['Glow', 29])
  await page.keyboard.press('Control+c')
  await studio.seek(150)
  await studio.track('Glow').hover({ position: { x: 300, y: 4 } })
  await page.mouse.down()
  await page.mouse.up()
  await page.keyboard.press('Control+v')
  await has(page, 'Wind', '3 17 40 77 150')
  await has(page, 'Glow', '8 29 120 162')
  await page.keyboard.press('Alt+ArrowRight')
  await has(page, 'Glow', '8 29 120 163')
})

test(
  'a span is eased by the palette and shaped by its handles, on the track and by keys',
  { tag: '@quick' },
  async ({ page, server, studio }) => {
    await studio.open(server.address, await projectOf(server, 'Shapes', [rig]))
    const track = studio.track('Wind')
    await track.getByRole('button').nth(2).click()
    await page.getByRole('group', { name: 'Easing' }).getByRole('button', { name: 'Settle' }).click()
    await expect(track.getByRole('button').nth(2)).toHaveAttribute('title', 'frame 40 · settle 12 3 35')
    await page.getByRole('button', { name: 'Shape', exact: true }).click()
    const shape = page.getByRole('group', { name: 'Shape from frame 40 to 77' })
    await shape.getByRole('button', { name: 'overshoot: 12' }).click()
    await page.keyboard.type('23')
    await page.keyboard.press('Enter')
    await expect(shape).toContainText('overshoots by 23 %')
    // A cubic, typed: what the Card shows is the curve of the handles.
    await page.getByRole('group', { name: 'Easing' }).getByRole('button', { name: 'Soft both' }).click()
    await shape.getByRole('button', { name: 'arrive y: 1' }).click()
    await page.keyboard.type('1.35')
    await page.keyboard.press('Enter')
    await expect(track.getByRole('button').nth(2)).toHaveAttribute('title', 'frame 40 · cubic 0.42 0 0.58 1.35')
    await studio.seek(61)
    const cubic = (u: number): number => {
      const along = (a: number, b: number, s: number): number => 3 * s * (1 - s) * (1 - s) * a + 3 * s * s * (1 - s) * b + s * s * s
      let [lo, hi] = [0, 1]
      for (let k = 0; k < 100; k++) [lo, hi] = along(0.42, 0.58, (lo + hi) / 2) < u ? [(lo + hi) / 2, hi] : [lo, (lo + hi) / 2]
      return along(0, 1.35, lo)
    }
    await expect.poll(() => studio.value(studio.control('Wind').locator('button.value'))).toBeCloseTo(31 + 29 * cubic(21 / 37), 9)
    // By its handle, dragged, and by the arrows.
    const knob = await studio.middle(page.getByRole('button', { name: /^Leaving handle/ }))
    await page.mouse.move(knob.x, knob.y)
    await page.mouse.down()
    await page.mouse.move(knob.x + 14, knob.y - 9, { steps: 4 })
    await page.mouse.up()
    await expect(page.getByRole('button', { name: /^Leaving handle/ })).not.toHaveAttribute('aria-label', 'Leaving handle: 0.42, 0')
    await page.keyboard.press('Control+z')
    await expect(page.getByRole('button', { name: 'Leaving handle: 0.42, 0' })).toBeVisible()
    await page.waitForTimeout(550)
    await page.getByRole('button', { name: /^Arriving handle/ }).focus()
    for (let k = 0; k < 3; k++) await page.keyboard.press('ArrowLeft')
    await page.keyboard.press('Shift+ArrowDown')
    await expect(page.getByRole('button', { name: 'Arriving handle: 0.55, 1.25' })).toBeVisible()
  },
)

test('by keyboard alone: pins are picked, moved, eased and spread', { tag: '@quick' }, async ({ page, server, studio }) => {
  const { keyboard } = page
  await studio.open(server.address, await projectOf(server, 'Keys', [rig]))
  const pin = (n: number) => studio.track('Wind').getByRole('button').nth(n)
  await keyboard.press('Tab')
  await pin(0).focus()
  await keyboard.press('Enter')
  for (const n of [1, 2]) {
    await pin(n).focus()
    await keyboard.press('Shift+Enter')
  }
  await expect(page.getByRole('group', { name: 'Picked pins' })).toContainText('3 pins')
  await keyboard.press('Shift+ArrowRight')
  await has(page, 'Wind', '13 27 50 77')
  await page.getByRole('group', { name: 'Easing' }).getByRole('button', { name: 'Overshoot' }).focus()
  await keyboard.press('Enter')
  for (const n of [0, 1, 2]) await expect(pin(n)).toHaveAttribute('title', /cubic 0.3 0.2 0.45 1.35/)
  await page.getByRole('button', { name: 'More to do with the pins' }).focus()
  await keyboard.press('Enter')
  const spread = option(page, 'Spread evenly')
  await expect(spread).toBeVisible()
  for (let k = 0; k < 20 && !(await spread.locator('.n-dropdown-option-body--pending').count()); k++) await keyboard.press('ArrowDown')
  await keyboard.press('Enter')
  await has(page, 'Wind', '13 32 50 77')
  // Removed, the keys go on at the next pin; after the last one, in time.
  await pin(1).focus()
  await keyboard.press('Enter')
  await keyboard.press('Delete')
  await has(page, 'Wind', '13 50 77')
  await expect(pin(1)).toBeFocused()
  await pin(0).focus()
  await keyboard.press('Enter')
  for (const n of [1, 2]) {
    await pin(n).focus()
    await keyboard.press('Shift+Enter')
  }
  await keyboard.press('Delete')
  await has(page, 'Wind', '')
  await expect(page.getByRole('slider', { name: 'Playhead' })).toBeFocused()
})

test('a path drawn in the picture is recorded into a point, smoothed, undone and smoothed less: at most 8 gestures', async ({
  page,
  server,
  studio,
}) => {
  await studio.open(server.address, await projectOf(server, 'Path', [rig]))
  let gestures = 0
  const press = async (name: string): Promise<void> => {
    gestures++
    await page.getByRole('button', { name, exact: true }).click()
  }
  await studio.control('Place').hover()
  await press('Arm Place for recording')
  await expect(page.getByRole('status').filter({ hasText: 'Armed' })).toContainText('Rig: Place')
  // Time runs at half speed, and the hand draws for a while.
  await page.getByRole('button', { name: 'Half', exact: true }).click()
  await press('Record')
  gestures++
  const at = await studio.middle(page.locator('[data-point="Place"] .hit'))
  await page.mouse.move(at.x, at.y)
  await page.mouse.down()
  for (let k = 0; k < 60; k++) {
    await page.mouse.move(at.x + k * 4, at.y - 60 * Math.sin(k / 9))
    await page.waitForTimeout(30)
  }
  await page.mouse.up()
  gestures++
  await page.keyboard.press('Shift+Space')
  await expect(page.getByText(/^Performed 1 control into \d+ pins\.$/)).toBeVisible()
  const count = async (): Promise<number> => (await frames(page, 'Place')).split(' ').length
  const performed = await count()
  expect(performed).toBeGreaterThan(15)
  const smooth = async (tolerance: string): Promise<void> => {
    await page.getByRole('button', { name: 'More to do with the pins' }).click()
    await option(page, 'Smooth…').click()
    await page
      .getByRole('group', { name: 'Smooth the picked pins' })
      .getByRole('button', { name: /^Tolerance/ })
      .click()
    await page.keyboard.type(tolerance)
    await page.keyboard.press('Enter')
    await expect(page.getByRole('group', { name: 'Smooth the picked pins' }).getByRole('status')).toContainText(/ pins? to \d+, at most/)
    await page.getByRole('button', { name: 'Smooth', exact: true }).click()
    gestures++
  }
  await smooth('60')
  await expect.poll(count).toBeLessThanOrEqual(performed / 3)
  const few = await count()
  await page.keyboard.press('Control+z')
  gestures++
  await expect.poll(count).toBe(performed)
  await frame(
    page,
    studio,
    ['Place', Number((await frames(page, 'Place')).split(' ')[0])],
    ['Place', Number((await frames(page, 'Place')).split(' ').at(-1))],
  )
  gestures++
  await smooth('3')
  await expect.poll(count).toBeLessThan(performed)
  expect(await count()).toBeGreaterThan(few)
  console.log(`a path drawn, smoothed, undone, smoothed less: ${gestures} gestures`)
  expect(gestures).toBeLessThanOrEqual(8)
})

test('nothing is armed; Esc ends recording; what is being performed when the page goes away is kept', async ({ page, server, studio }) => {
  await studio.open(server.address, await projectOf(server, 'Kept', [rig]))
  await page.keyboard.press('Shift+Space')
  await expect(page.getByText('Arm a control first', { exact: false })).toBeVisible()
  await studio.control('Glow').hover()
  await page.getByRole('button', { name: 'Arm Glow for recording' }).click()
  const band = page.getByRole('status').filter({ hasText: 'Rig: Glow' })
  // Not touched, nothing is performed.
  await page.keyboard.press('Shift+Space')
  await expect(band).toContainText('Recording')
  await page.keyboard.press('Escape')
  await expect(page.getByText('Nothing was performed', { exact: false })).toBeVisible()
  await has(page, 'Glow', '8 29 120')
  await page.keyboard.press('Home')
  await page.keyboard.press('Shift+Space')
  await expect(band).toContainText('Recording')
  const rail = await studio.control('Glow').getByRole('slider').boundingBox()
  if (!rail) throw new Error('no fader')
  await page.mouse.move(rail.x + 20, rail.y + 9)
  await page.mouse.down()
  for (let k = 0; k < 15; k++) {
    await page.mouse.move(rail.x + 20 + 5 * k, rail.y + 9)
    await page.waitForTimeout(40)
  }
  await page.reload()
  await studio.drawn()
  await expect(page.getByText('What was being performed when the page closed was kept.')).toBeVisible()
  await expect.poll(async () => (await frames(page, 'Glow')).split(' ').length).toBeGreaterThan(8)
})

test('two windows record one control at once: both are kept, one over the other, and both show the same', async ({
  page,
  server,
  studio,
  second,
}) => {
  await studio.open(server.address, await projectOf(server, 'Two hands', [rig]))
  const other = await second()
  const page2 = other.page
  const hands = [studio, other]
  for (const { page } of hands) {
    await page.locator('[data-control=Glow]').hover()
    await page.getByRole('button', { name: 'Arm Glow for recording' }).click()
  }
  const grip = async ({ page }: Studio): Promise<{ x: number; y: number }> => {
    const rail = await page.locator('[data-control=Glow]').getByRole('slider').boundingBox()
    if (!rail) throw new Error('no fader')
    await page.getByRole('button', { name: 'Record', exact: true }).click()
    await page.mouse.move(rail.x + 20, rail.y + 9)
    await page.mouse.down()
    return { x: rail.x + 20, y: rail.y + 9 }
  }
  const at = [await grip(studio), await grip(other)]
  for (let k = 1; k < 16; k++) for (const [n, { page }] of hands.entries()) await page.mouse.move((at[n]?.x ?? 0) + 5 * k, at[n]?.y ?? 0)
  const alike = async (): Promise<string> => {
    const [mine, theirs] = [await frames(page, 'Glow'), await frames(page2, 'Glow')]
    return mine === theirs ? mine : ''
  }
  for (const { page } of hands) {
    await page.keyboard.press('Escape')
    await page.mouse.up()
    await expect(page.getByText(/^Performed 1 control into \d+ pins\.$/)).toBeVisible()
  }
  for (const s of hands) await s.saved()
  await expect.poll(async () => (await alike()).split(' ').length).toBeGreaterThan(8)
  const both = await alike()
  // Each takes back what is its own.
  await page2.keyboard.press('Control+z')
  await expect.poll(async () => (await alike()) !== '' && (await alike()) !== both).toBe(true)
  await page.keyboard.press('Control+z')
  await expect.poll(alike).toBe('8 29 120')
})

test('a performance goes round the range, is added to what is pinned, and counted in; what is driven is not armed', async ({
  page,
  server,
  studio,
}) => {
  const follows = { links: [{ id: 'l', kind: 'follow', source: { item: 'rig', property: 'wind' }, gain: 1, offset: 0 }] }
  const sway = { id: 'sway', name: 'Sway', kind: 'fader', softMax: 100, default: 0 }
  const rigged = add({
    id: 'rig',
    name: 'Rig',
    kind: 'null',
    controls: [wind.control, glow.control, sway],
    states: { wind: wind.state, glow: glow.state, sway: follows },
  })
  await studio.open(server.address, await projectOf(server, 'Rounds', [rigged]))
  const arm = async (name: string): Promise<void> => {
    await studio.control(name).hover()
    await page.getByRole('button', { name: `Arm ${name} for recording` }).click()
  }
  await arm('Sway')
  await expect(page.getByText('Rig: Sway is driven by Rig: Wind', { exact: false })).toBeVisible()
  await expect(page.getByRole('status').filter({ hasText: 'Armed' })).toHaveCount(0)
  await arm('Glow')
  const way = (name: string) => page.getByRole('button', { name, exact: true })
  await way('Counts in').click()
  await way('Adds').click()
  await way('Loops').click()
  // The range: from frame 40 to about 60, where Glow falls from 74 to 5.
  const ruler = await page.getByRole('slider', { name: 'Playhead' }).boundingBox()
  if (!ruler) throw new Error('no ruler')
  const pinAt = (f: number) => studio.middle(studio.track('Glow').getByRole('button', { name: `Pin of Glow at frame ${f}`, exact: true }))
  const [early, late] = [(await pinAt(29)).x, (await pinAt(120)).x]
  const x = (f: number): number => early + ((f - 29) / 91) * (late - early)
  await page.keyboard.down('Shift')
  await page.mouse.move(x(40), ruler.y + 10)
  await page.mouse.down()
  await page.mouse.move(x(60), ruler.y + 10, { steps: 4 })
  await page.mouse.up()
  await page.keyboard.up('Shift')
  await way('Record').click()
  const band = page.getByRole('status').filter({ hasText: 'Rig: Glow' })
  await expect(band).toContainText('3')
  await expect(band).toContainText('Recording', { timeout: 6000 })
  const rail = await studio.control('Glow').getByRole('slider').boundingBox()
  if (!rail) throw new Error('no fader')
  const began = Date.now()
  await page.mouse.move(rail.x + rail.width * 0.2, rail.y + 9)
  await page.mouse.down()
  for (let k = 0; k < 40; k++) {
    await page.mouse.move(rail.x + rail.width * (0.2 + 0.002 * k), rail.y + 9)
    await page.waitForTimeout(40)
  }
  await page.keyboard.press('Escape') // the hand goes on, and that changes nothing any more
  const took = Date.now() - began
  await page.mouse.move(rail.x + rail.width * 0.9, rail.y + 9)
  await page.mouse.up()
  const all = (await frames(page, 'Glow')).split(' ').map(Number)
  expect(all).toContain(120)
  expect(all.length).toBeGreaterThan(12)
  expect(all.filter((f) => f < 38 && f !== 8 && f !== 29)).toEqual([])
  expect(all.filter((f) => f > 63 && f !== 120)).toEqual([])
  await expect(page.getByText('Temporary pose', { exact: false })).toHaveCount(0)
  // Each time round (20 frames, some 0.8 s) is a step of its own: not one for all, and not one for each move.
  const most = Math.ceil(took / 700) + 2
  let rounds = 0
  for (; (await frames(page, 'Glow')) !== '8 29 120' && rounds < most; rounds++) {
    await page.keyboard.press('Control+z')
    await page.waitForTimeout(150)
  }
  await expect.poll(() => frames(page, 'Glow')).toBe('8 29 120')
  expect(rounds).toBeGreaterThan(1)
  // Esc ends the counting, too.
  await way('Record').click()
  await expect(band).toContainText('3')
  await page.keyboard.press('Escape')
  await expect(band).toContainText('Armed')
})

test('markers are put, named, moved and removed, by hand and by keys; pins snap to them', async ({ page, server, studio }) => {
  await studio.open(server.address, await projectOf(server, 'Markers', [rig]))
  const flags = (): Promise<string[]> => page.locator('.flag').evaluateAll((all) => all.map((f) => f.ariaLabel ?? ''))
  await studio.seek(47)
  await page.keyboard.press('Shift+M')
  await expect.poll(flags).toEqual(['Marker 1, marker at frame 47'])
  await page.keyboard.press('Shift+M')
  await expect(page.getByText('Marker 1 is at frame 47 already', { exact: false })).toBeVisible()
  await page.getByRole('button', { name: 'Marker 1, marker' }).dblclick()
  await page.keyboard.type('Gust')
  await page.keyboard.press('Enter')
  await expect.poll(flags).toEqual(['Gust, marker at frame 47'])
  // By keys: along, there, away.
  const gust = page.getByRole('button', { name: 'Gust, marker' })
  await studio.seek(90)
  await page.waitForTimeout(600)
  await gust.focus()
  await page.keyboard.press('Shift+ArrowRight')
  await page.keyboard.press('ArrowLeft')
  await expect.poll(flags).toEqual(['Gust, marker at frame 56'])
  await expect(gust).toBeFocused()
  await page.keyboard.press('Enter')
  await expect(page.getByRole('slider', { name: 'Playhead' })).toHaveAttribute('aria-valuenow', '56')
  await studio.seek(200)
  // A pin that is dragged near it goes there, and with Ctrl only to whole frames.
  const pinAt = (f: number) => studio.middle(studio.track('Wind').getByRole('button', { name: `Pin of Wind at frame ${f}`, exact: true }))
  const per = ((await pinAt(77)).x - (await pinAt(3)).x) / 74
  const drag = async (from: number, to: number): Promise<void> => {
    const at = await pinAt(from)
    await page.mouse.move(at.x, at.y)
    await page.mouse.down()
    await page.mouse.move(at.x - 30, at.y, { steps: 3 })
    await page.mouse.move(at.x + (to - from) * per, at.y, { steps: 3 })
    await page.mouse.up()
  }
  await drag(77, 57.7)
  await has(page, 'Wind', '3 17 40 56')
  await page.keyboard.down('Control')
  await drag(56, 57.7)
  await page.keyboard.up('Control')
  await has(page, 'Wind', '3 17 40 58')
  await page.waitForTimeout(600)
  await gust.focus()
  await page.keyboard.press('Delete')
  await expect.poll(flags).toEqual([])
  await expect(page.getByRole('slider', { name: 'Playhead' })).toBeFocused()
  await page.keyboard.press('Control+z')
  await expect.poll(flags).toEqual(['Gust, marker at frame 56'])
  // Pressed on its name it has the keys: arrows are those of time, and Del removes it.
  await page.getByText('Gust', { exact: true }).click()
  await page.keyboard.press('ArrowRight')
  await expect(page.getByRole('slider', { name: 'Playhead' })).toHaveAttribute('aria-valuenow', '57')
  expect(await flags()).toEqual(['Gust, marker at frame 56'])
  await page.keyboard.press('Delete')
  await expect.poll(flags).toEqual([])
})

test('a frame that is held at the edge of the Desk goes on over what is out of sight', async ({ page, server, studio }) => {
  const many = Array.from({ length: 30 }, (_, k) => fader(`f${k}`, `Row ${k}`, [[37 + k, 20]]))
  const tall = add({
    id: 'tall',
    name: 'Tall',
    kind: 'null',
    controls: many.map((f) => f.control),
    states: Object.fromEntries(many.map((f, k) => [`f${k}`, f.state])),
  })
  await studio.open(server.address, await projectOf(server, 'Tall', [tall]))
  const body = await page.locator('[data-panel=desk] .body').boundingBox()
  const first = await studio.middle(page.locator('[data-track] .pin').first())
  if (!body) throw new Error('no Desk')
  await page.mouse.move(first.x - 12, first.y - 14)
  await page.mouse.down()
  await page.mouse.move(first.x + 60, first.y + 60, { steps: 3 })
  await page.mouse.move(first.x + 170, body.y + body.height - 3, { steps: 3 })
  const tools = page.getByRole('group', { name: 'Picked pins' })
  await expect(tools).toContainText('30 pins of 30 rows')
  // Back up, it lets go of those below.
  await page.mouse.move(first.x + 170, body.y + 4, { steps: 3 })
  await expect(tools).not.toContainText('30 pins')
  await expect.poll(() => page.locator('[data-panel=desk] .body').evaluate((b) => b.scrollTop)).toBe(0)
  await page.mouse.up()
})

test('a control goes on behind its last pin, as its menu says', async ({ page, server, studio }) => {
  await studio.open(server.address, await projectOf(server, 'Behind', [rig]))
  const value = studio.control('Wind').locator('button.value')
  await studio.seek(114) // 37 frames behind the last pin, whose way is 74 long
  await expect(value).toHaveAttribute('data-value', '60')
  const go = async (how: string): Promise<void> => {
    await studio.control('Wind').hover()
    await page.getByRole('button', { name: 'Actions for Wind', exact: true }).click()
    await page.locator('.n-dropdown-option').filter({ hasText: 'After the last pin' }).hover()
    await page
      .locator('.n-dropdown-option')
      .filter({ hasText: new RegExp(`^${how}`) })
      .last()
      .click()
  }
  await go('Repeat$')
  await expect(value).toHaveAttribute('data-value', '31') // as at frame 40
  await go('Repeat, going on')
  await expect(value).toHaveAttribute('data-value', '71') // and 40 more each time
  await go('There and back')
  await expect(value).toHaveAttribute('data-value', '31')
  await page.keyboard.press('Control+z')
  await expect(value).toHaveAttribute('data-value', '71')
  await studio.saved()
  await page.reload()
  await studio.drawn()
  await studio.seek(114)
  await expect(value).toHaveAttribute('data-value', '71')
})
