import { readFileSync } from 'node:fs'
import { fileURLToPath } from 'node:url'
import type { Page } from '@playwright/test'
import { add, projectOf } from '../helpers/api'
import { png } from '../helpers/pictures'
import { expect, test } from '../helpers/test'

const rectangle = (id: string, x: number, y: number, more: object = {}): object =>
  add({ id, name: id, kind: 'rectangle', states: { position: { own: [x, y, 0] }, size: { own: [200, 120] }, ...more } })

/** The middle of the composition on the screen, and the zoom. */
async function sight(page: Page): Promise<{ x: number; y: number; zoom: number }> {
  const box = await page.getByTestId('stage').boundingBox()
  const zoom =
    Number(
      (
        await page
          .getByRole('toolbar', { name: 'Viewport' })
          .getByTitle(/Fit the composition/)
          .textContent()
      )?.replace(' %', ''),
    ) / 100
  if (!box) throw new Error('there is no stage')
  return { x: box.x + box.width / 2, y: box.y + box.height / 2, zoom }
}

async function drag(page: Page, from: [number, number], to: [number, number]): Promise<void> {
  await page.mouse.move(...from)
  await page.mouse.down()
  await page.mouse.move((from[0] + to[0]) / 2, (from[1] + to[1]) / 2, { steps: 4 })
  await page.mouse.move(...to, { steps: 4 })
  await page.mouse.up()
}

test('things are picked, moved, turned, scaled and given another pivot by hand', async ({ page, server, studio }) => {
  await studio.open(
    server.address,
    await projectOf(server, 'Hands', [rectangle('a', -200, 100), rectangle('b', 200, 100), rectangle('c', 0, -200)]),
  )
  await page.getByRole('button', { name: '1:1' }).click()
  const { x, y } = await sight(page)
  const place = async (): Promise<number[]> =>
    Promise.all([0, 1].map((k) => studio.value(studio.field('position').locator('button.value').nth(k))))
  // A click selects, a drag moves; Shift keeps to one axis.
  await page.mouse.click(x - 200, y - 100)
  await expect(page.getByRole('treeitem', { selected: true })).toContainText('a')
  await drag(page, [x - 200, y - 100], [x - 137, y - 67])
  const off = async (): Promise<number> => Math.hypot(((await place())[0] ?? 0) + 137, ((await place())[1] ?? 0) - 67)
  await expect.poll(off).toBeLessThan(10) // it may have snapped
  await page.keyboard.press('Control+z')
  await expect.poll(place).toEqual([-200, 100])
  // The pendulum turns about the pivot, with Shift in steps.
  const knob = await studio.middle(page.locator('[data-handle=turn]'))
  await page.keyboard.down('Shift')
  await drag(page, [knob.x, knob.y], [x - 120, y - 100])
  await page.keyboard.up('Shift')
  await expect(studio.field('rotation').locator('button.value')).toHaveAttribute('data-value', '-90')
  await page.keyboard.press('Control+z')
  await expect(studio.field('rotation').locator('button.value')).toHaveAttribute('data-value', '0')
  // A corner scales.
  const corner = await studio.middle(page.locator('[data-handle=scale]').nth(2))
  await drag(page, [corner.x, corner.y], [corner.x + 100, corner.y])
  await expect.poll(() => studio.value(studio.field('scale').locator('button.value').nth(0))).toBeCloseTo(200, 0)
  await expect.poll(() => studio.value(studio.field('scale').locator('button.value').nth(1))).toBeCloseTo(100, 0)
  await page.keyboard.press('Control+z')
  await expect.poll(() => studio.value(studio.field('scale').locator('button.value').nth(0))).toBe(100)
  // Its middle is no handle of the pivot: the item moves. While P is held the pivot goes elsewhere, and the item stays.
  const pin = await studio.middle(page.locator('[data-handle=pivot]'))
  const before = await page.locator('[data-handle=scale]').nth(0).getAttribute('cx')
  const [stood] = await place()
  await drag(page, [pin.x, pin.y], [pin.x + 40, pin.y])
  await expect.poll(async () => (await place())[0]).toBeCloseTo((stood ?? 0) + 40, 0)
  await page.keyboard.press('Control+z')
  await expect.poll(async () => (await place())[0]).toBe(stood)
  await page.keyboard.down('p')
  await drag(page, [pin.x, pin.y], [pin.x - 100, pin.y + 60])
  await page.keyboard.up('p')
  await expect.poll(() => studio.value(studio.field('pivot').locator('button.value').nth(0))).toBeCloseTo(-100, 0)
  await expect.poll(async () => Number(await page.locator('[data-handle=scale]').nth(0).getAttribute('cx'))).toBeCloseTo(Number(before), 0)
  // Alt with arrow keys nudges.
  const [was] = await place()
  await page.keyboard.press('Alt+Shift+ArrowRight')
  await expect.poll(async () => (await place())[0]).toBeCloseTo((was ?? 0) + 10, 6)
})

test('a frame drawn around things selects them in their order; edges snap to other edges', async ({ page, server, studio }) => {
  await studio.open(
    server.address,
    await projectOf(server, 'Snap', [rectangle('a', -200, 100), rectangle('b', 200, 150), rectangle('c', 0, -200)]),
  )
  await page.getByRole('button', { name: '1:1' }).click()
  const { x, y } = await sight(page)
  await drag(page, [x - 340, y - 220], [x + 340, y - 20])
  await expect(page.getByRole('treeitem', { selected: true })).toHaveCount(2)
  await expect(studio.row('b')).toContainText('2')
  await page.mouse.click(x, y + 20)
  await expect(page.getByRole('treeitem', { selected: true })).toHaveCount(0)
  // a is dragged up by 47 pixels: 3 short of standing as high as b.
  await drag(page, [x - 200, y - 100], [x - 200, y - 147])
  await expect(studio.field('position').locator('button.value').nth(1)).toHaveAttribute('data-value', '150')
  // With Alt it goes where the hand goes.
  await page.keyboard.down('Alt')
  await drag(page, [x - 200, y - 150], [x - 200, y - 147])
  await page.keyboard.up('Alt')
  await expect(studio.field('position').locator('button.value').nth(1)).toHaveAttribute('data-value', '147')
})

test('the view is panned, zoomed to the pointer and looked around in, and the composition stays as it is', async ({
  page,
  server,
  studio,
}) => {
  await studio.open(
    server.address,
    await projectOf(server, 'Views', [
      rectangle('a', 0, 0),
      add({ id: 'box', name: 'Box', kind: 'box', states: { position: { own: [0, -250, 0] } } }),
    ]),
  )
  const { x, y, zoom } = await sight(page)
  await studio.select('a')
  const handle = page.locator('[data-handle=pivot]')
  await page.mouse.move(x, y)
  await page.mouse.wheel(0, -400)
  await expect.poll(async () => (await sight(page)).zoom).toBeGreaterThan(zoom * 1.5)
  await expect
    .poll(async () => {
      const h = await studio.middle(handle)
      return Math.hypot(h.x - x, h.y - y)
    })
    .toBeLessThan(2)
  const at = await studio.middle(handle)
  expect(Math.hypot(at.x - x, at.y - y)).toBeLessThan(2) // what lay under the pointer lies there still
  await page.mouse.down({ button: 'middle' })
  await page.mouse.move(x + 80, y + 30, { steps: 3 })
  await page.mouse.up({ button: 'middle' })
  await expect.poll(async () => Math.abs((await studio.middle(handle)).x - at.x - 80)).toBeLessThan(2)
  await page.keyboard.press('f')
  await expect.poll(async () => (await sight(page)).zoom).toBe(zoom)
  await page.getByRole('button', { name: 'Free view' }).click()
  const free = await studio.middle(handle)
  await drag(page, [x + 300, y - 150], [x + 200, y - 190])
  await expect
    .poll(async () => Math.abs((await studio.middle(handle)).x - free.x) + Math.abs((await studio.middle(handle)).y - free.y))
    .toBeLessThan(3) // it turns about the middle
  await page.getByRole('button', { name: 'Free view' }).click()
  await page.getByRole('button', { name: 'Safe margins' }).click()
  await expect(page.getByTestId('margins')).toBeVisible()
  await expect(page.getByRole('button', { name: 'Undo' })).toBeDisabled()
})

test('a path is shaped vertex by vertex, and a vertex is driven', async ({ page, server, studio }) => {
  await studio.newProject(server.address, 'Vertices')
  await studio.add('path', 'Rope')
  await page.getByRole('button', { name: '1:1' }).click()
  const { x, y } = await sight(page)
  await page.getByRole('toolbar', { name: 'Viewport' }).getByRole('button', { name: 'Vertices' }).click()
  await expect(page.locator('[data-vertex]')).toHaveCount(3)
  const first = await studio.middle(page.locator('[data-vertex="1"]'))
  await drag(page, [first.x, first.y], [first.x - 40, first.y + 60])
  await expect.poll(async () => (await studio.middle(page.locator('[data-vertex="1"]'))).y - first.y).toBeCloseTo(60, 0)
  // A double click on the line puts a vertex there; Del takes it away again.
  // Halfway from the second vertex to the third, the line of a new path passes through (75, 30).
  await page.mouse.dblclick(x + 75, y - 30)
  await expect(page.locator('[data-vertex]')).toHaveCount(4)
  await page.locator('[data-vertex="3"]').click()
  await page.keyboard.press('Delete')
  await expect(page.locator('[data-vertex]')).toHaveCount(3)
  await page.keyboard.press('Escape')
  // A point drives the first vertex.
  await studio.add('null', 'Rig')
  await studio.addControl('Rig', 'Point', 'End')
  await studio.select('Rope')
  await page.locator('[data-panel=card]').getByRole('button', { name: 'Vertices', exact: true }).click()
  await studio.cable('End', 'vertex1')
  await studio.type('End', '33')
  await expect(studio.field('vertex1').locator('button.value').first()).toHaveAttribute('data-value', '33')
  await expect(studio.field('worldVertex1')).toContainText('33')
})

test('a drawing, a flipbook on a box, a light; a crate follows the hook by half its way', async ({ page, server, studio }) => {
  await studio.newProject(server.address, 'Crane')
  // The SVG is dropped onto the window.
  const text = readFileSync(fileURLToPath(new URL('../files/crane.svg', import.meta.url)), 'utf8')
  const data = await page.evaluateHandle((svg) => {
    const d = new DataTransfer()
    d.items.add(new File([svg], 'crane.svg', { type: 'image/svg+xml' }))
    return d
  }, text)
  await page.getByTestId('stage').dispatchEvent('dragover', { dataTransfer: data })
  await page.getByTestId('stage').dispatchEvent('drop', { dataTransfer: data })
  for (const name of ['crane', 'tower', 'Jib', 'hook', 'claw']) await expect(studio.row(name).first()).toBeVisible()
  // Six pictures become one flipbook on the surface of a box.
  await studio.add('box', 'Sign')
  const flags = [1, 2, 3, 4, 5, 6].map((n) => ({
    name: `flag ${n}.png`,
    mimeType: 'image/png',
    buffer: png(24, 16, [40 * n, 90, 255 - 40 * n]),
  }))
  const [chooser] = await Promise.all([page.waitForEvent('filechooser'), page.getByRole('button', { name: 'choose pictures' }).click()])
  await chooser.setFiles(flags)
  await page.getByRole('button', { name: 'Import' }).click()
  await expect(page.getByAltText('Frame 4')).toBeVisible()
  await expect(page.getByText('+2', { exact: true })).toBeVisible()
  await studio.field('frame').locator('button.value').click()
  await page.keyboard.type('4')
  await page.keyboard.press('Enter')
  await studio.add('point light', 'Lamp')
  await expect(page.locator('[data-mark=Lamp]')).toBeVisible()
  // A crate is attached to the hook by dragging it there in the tree, and stays where it is.
  await studio.add('rectangle', 'Crate')
  await studio.field('position').locator('button.value').nth(1).click() // it was put beside the lamp
  await page.keyboard.type('0')
  await page.keyboard.press('Enter')
  await expect(studio.field('position').locator('button.value').nth(1)).toHaveAttribute('data-value', '0')
  const hook = page
    .getByRole('treeitem')
    .filter({ hasText: /^.?hook/ })
    .first()
  await studio.row('Crate').dragTo(hook, { targetPosition: { x: 90, y: 18 } })
  const world = async (): Promise<number[]> =>
    JSON.parse((await studio.field('worldPosition').locator('.read').getAttribute('data-value')) ?? '[]') as number[]
  await studio.select('Crate')
  await page.getByRole('button', { name: 'Read-only' }).click()
  await expect.poll(async () => (await world()).map(Math.round)).toEqual([0, 0, 0])
  await expect(page.locator('[data-panel=card] .n-base-selection').filter({ hasText: 'hook' })).toHaveCount(1)
  // The hook is dragged: the crate follows all the way; at half the weight, half the way.
  await hook.click()
  const drive = async (dx: number): Promise<void> => {
    const at = await studio.middle(page.locator('[data-mark=hook] .hit'))
    await page.keyboard.down('Alt')
    await drag(page, [at.x + 3, at.y + 9], [at.x + 3 + dx, at.y + 9])
    await page.keyboard.up('Alt')
  }
  await drive(100)
  await studio.select('Crate')
  await expect.poll(async () => (await world())[0]).toBeGreaterThan(60)
  await studio.saved()
  const whole = (await world())[0] ?? 0
  await studio.field('attachWeight').locator('button.value').click()
  await page.keyboard.type('50')
  await page.keyboard.press('Enter')
  await expect.poll(async () => (await world())[0]).toBeCloseTo(whole / 2, 3)
})
