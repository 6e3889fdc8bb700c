import type { Page } from '@playwright/test'
import { add, projectOf } from '../helpers/api'
import { Hand } from '../helpers/hand'
import { port, pull, put, sheet, slip } from '../helpers/sheet'
import type { Studio } from '../helpers/studio'
import { expect, test } from '../helpers/test'

const found = (page: Page) => page.getByLabel('Find what to put on the sheet')

/** The height of the only rectangle, at some frames. */
const heights = (page: Page, frames: number[]): Promise<number[]> =>
  page.evaluate(async (frames) => {
    const all = window.wunderkammer.properties()
    const box = all.find((p) => p.property === 'cornerRadius')?.item
    const at = all.find((p) => p.item === box && p.property === 'size')?.slot ?? -1
    const out: number[] = []
    for (const f of frames) out.push((await window.wunderkammer.values(f))[at + 1] ?? NaN)
    return out
  }, frames)

const swayed = (f: number): number => Math.max(0, 37 * Math.sin(2 * Math.PI * ((f / 25) * 0.3)))

async function begin(page: Page, hand: Hand, studio: Studio): Promise<void> {
  await hand.key('a')
  await hand.type('rectangle Tower')
  await hand.type('null Rig', 'Shift+Enter')
  await expect(studio.row('Rig')).toBeVisible()
  await hand.key('c')
  await hand.type('Lift')
  await expect(studio.control('Lift')).toBeVisible()
  await expect(page.getByRole('dialog')).toHaveCount(0)
}

async function checked(page: Page, studio: Studio): Promise<void> {
  await page.keyboard.press('1')
  await studio.type('Lift', '37')
  const frames = [3, 17, 31]
  await expect.poll(async () => (await heights(page, frames)).map((x) => x.toFixed(6))).toEqual(frames.map((f) => swayed(f).toFixed(6)))
  await expect(page.getByTestId('checks')).toContainText('No problems')
}

test('a fader times a wave into a height, by mouse: at most 18 gestures', async ({ page, server, studio }) => {
  await studio.newProject(server.address, 'By mouse')
  const hand = new Hand(page)
  await begin(page, hand, studio)
  await hand.press(page.getByRole('tab', { name: 'Graph' }))
  await hand.press(page.getByRole('button', { name: '+ Graph' }))
  await expect(sheet(page)).toBeFocused() // / and Ctrl V are the sheet’s at once
  const box = await sheet(page).boundingBox()
  if (!box) throw new Error('there is no sheet')
  hand.count++
  await page.mouse.dblclick(box.x + 160, box.y + 80)
  await expect(found(page)).toBeFocused()
  await hand.type('lift')
  await expect(slip(page, 'Rig: Lift')).toBeVisible()
  const onto = async (name: string, x: number): Promise<void> => {
    hand.count++
    await pull(page, port(page, name, 'out'), { x: box.x + x, y: box.y + 90 })
    await expect(found(page)).toBeFocused()
  }
  await onto('Rig: Lift', 520)
  await hand.type('* wave(time * 0.3)')
  await expect(slip(page, 'formula')).toBeVisible() // what is made of parts is no field
  await onto('times', 900)
  await hand.type('tower size.y')
  await expect(slip(page, 'drive')).toContainText('Tower: size.y')
  console.log(`a fader times a wave, by mouse: ${hand.count} gestures`)
  expect(hand.count).toBeLessThanOrEqual(18)
  await checked(page, studio)
})

test('the same by keyboard alone, where two branches meet: at most 24 gestures', async ({ page, server, studio }) => {
  await studio.newProject(server.address, 'By keyboard')
  const hand = new Hand(page)
  const search = async (key: string, what: string): Promise<void> => {
    hand.count++
    await page.keyboard.press(key)
    await expect(found(page)).toBeFocused()
    await hand.type(what)
    await expect(sheet(page)).toBeFocused()
  }
  await begin(page, hand, studio)
  await search('/', 'lift') // on a new sheet
  await search('l', '*')
  await search('/', 'wave')
  await expect(slip(page, 'wave')).toBeVisible()
  await hand.key('Enter')
  await expect(slip(page, 'wave').locator('input')).toBeFocused()
  await hand.type('time * 0.3')
  await expect(sheet(page)).toBeFocused()
  await search('l', 'times') // a port that is there comes before anything new
  await search('l', 'tower size.y')
  await expect(slip(page, 'drive')).toContainText('Tower: size.y')
  await expect(page.locator('[data-slip="times"]')).toHaveCount(1)
  console.log(`a fader times a wave, by keyboard: ${hand.count} gestures`)
  expect(hand.count).toBeLessThanOrEqual(24)
  await checked(page, studio)
})

test('thirty members late by their index through a graph: at most 16 gestures', async ({ page, server, studio }) => {
  await studio.newProject(server.address, 'Late')
  const hand = new Hand(page)
  await hand.key('a')
  await hand.type('30 rectangle Bar', 'Shift+Enter')
  await expect(studio.row('Bar 30')).toBeVisible()
  await hand.key('c')
  await hand.type('Turn')
  await expect(studio.control('Turn')).toBeVisible()
  await expect(page.getByRole('dialog')).toHaveCount(0)
  await hand.press(studio.field('rotation').locator('.name'))
  hand.count++
  await page.keyboard.press('/')
  await expect(found(page)).toBeFocused()
  await hand.type('turn')
  await expect(sheet(page)).toBeFocused()
  hand.count++
  await page.keyboard.press('l')
  await expect(found(page)).toBeFocused()
  await hand.type('delay')
  await expect(sheet(page)).toBeFocused()
  await expect(slip(page, 'delay')).toBeVisible()
  await hand.key('Enter')
  await expect(slip(page, 'delay').locator('input').first()).toBeFocused()
  await hand.type('index * 2f')
  await expect(sheet(page)).toBeFocused()
  hand.count++
  await page.keyboard.press('l')
  await expect(found(page)).toBeFocused()
  await hand.type('selection')
  await expect(slip(page, 'drive')).toContainText('rotation')
  await page.keyboard.press('1')
  await studio.type('Turn', '37')
  const turns = await page.evaluate(async () => {
    const all = window.wunderkammer.properties().filter((p) => p.property === 'rotation')
    const values = await window.wunderkammer.values(0)
    return all.map((p) => values[p.slot]).filter((x) => x === 37).length
  })
  expect(turns).toBe(30)
  console.log(`thirty late by index: ${hand.count} gestures`)
  expect(hand.count).toBeLessThanOrEqual(16)
})

test('fields hold one value; keys come back to the sheet; folds are selected; slips leave their cables by X', async ({
  page,
  server,
  studio,
}) => {
  const rig = add({
    id: 'rig',
    name: 'Rig',
    kind: 'null',
    controls: [{ id: 'pct', name: 'Pct', kind: 'slider', softMax: 100, default: 40 }],
  })
  await studio.open(server.address, await projectOf(server, 'Fields', [rig, add({ id: 'box', name: 'Box', kind: 'rectangle' })]))
  await page.keyboard.press('4')
  await page.getByRole('button', { name: '+ Graph' }).click()
  await put(page, 'pct')
  await page.keyboard.press('l')
  await found(page).fill('*')
  await page.keyboard.press('Enter')
  const field = slip(page, 'times').locator('input')
  await expect(field).toBeVisible()
  await page.keyboard.press('Enter')
  await expect(field).toBeFocused()
  await page.keyboard.type('2 + 1')
  await page.keyboard.press('Escape') // nothing was meant
  await expect(sheet(page)).toBeFocused()
  await expect(field).toHaveValue('')
  await page.keyboard.press('Enter')
  await page.keyboard.type('2 + 1')
  await page.keyboard.press('Enter')
  await expect(slip(page, 'formula').locator('textarea')).toHaveValue('2 + 1')
  await expect(slip(page, 'times').locator('.out .value')).toHaveText('120') // and not 81
  await expect(sheet(page)).toBeFocused()

  // In the middle of its cables, it leaves them by X, and what came to it goes on.
  await page.keyboard.press('l')
  await found(page).fill('readout')
  await page.keyboard.press('Enter')
  await expect(page.locator('.vue-flow__edge')).toHaveCount(3)
  await slip(page, 'times').locator('h3').click()
  await sheet(page).focus()
  await page.keyboard.press('x')
  await expect(page.locator('.vue-flow__edge')).toHaveCount(1)
  await expect(slip(page, 'readout').locator('.large')).toHaveText('40')

  await page.keyboard.press('Control+a')
  await page.keyboard.press('Control+g')
  await expect(page.locator('.slip.fold')).toHaveClass(/selected/)
})

test('by keys slips are picked along their wires and moved; what lies in a fold goes along', async ({ page, server, studio }) => {
  await studio.open(server.address, await projectOf(server, 'Moved', [add({ id: 'box', name: 'Box', kind: 'rectangle' })]))
  await page.keyboard.press('4')
  await page.getByRole('button', { name: '+ Graph' }).click()
  await put(page, 'time') // of what the clock gives, before what is called times
  await expect(slip(page, 'clock')).toBeVisible()
  const lead = async (what: string): Promise<void> => {
    await page.keyboard.press('l')
    await found(page).fill(what)
    await page.keyboard.press('Enter')
    await expect(slip(page, what)).toBeVisible()
    await expect(sheet(page)).toBeFocused()
  }
  await lead('abs')
  await lead('floor')
  const places = async (): Promise<Record<string, string>> =>
    page.evaluate(() =>
      Object.fromEntries(
        [...document.querySelectorAll<HTMLElement>('.vue-flow__node')].map((n) => [
          n.querySelector('[data-slip]')?.getAttribute('data-slip') ?? '',
          /translate\(.*?\)/.exec(n.style.transform)?.[0] ?? '',
        ]),
      ),
    )
  const by = (at: string | undefined, x: number, y: number): string => {
    const [was, wasY] =
      /(-?[\d.]+)px, (-?[\d.]+)px/
        .exec(at ?? '')
        ?.slice(1)
        .map(Number) ?? []
    return `translate(${(was ?? 0) + x}px, ${(wasY ?? 0) + y}px)`
  }
  const was = await places()
  await page.keyboard.press('Shift+ArrowLeft') // abs as well
  await expect(page.locator('.slip.selected')).toHaveCount(2)
  // As fast as keys come, all of it counts.
  await page.evaluate(() => {
    for (const [key, shiftKey] of [
      ['ArrowDown', false],
      ['ArrowDown', false],
      ['ArrowDown', true],
      ['ArrowLeft', false],
    ] as const)
      document.activeElement?.dispatchEvent(new KeyboardEvent('keydown', { key, altKey: true, shiftKey, bubbles: true, cancelable: true }))
  })
  await expect.poll(places).toEqual({ clock: was.clock, abs: by(was.abs, -10, 120), floor: by(was.floor, -10, 120) })
  await page.keyboard.press('Control+z')
  await expect.poll(places).toEqual({ clock: was.clock, abs: by(was.abs, 0, 120), floor: by(was.floor, 0, 120) })

  // A fold takes what lies in it along.
  const inside = await places()
  await page.keyboard.press('Control+g')
  await expect(page.locator('.slip.fold')).toHaveClass(/selected/)
  await page.keyboard.press('Alt+Shift+ArrowRight')
  await expect.poll(async () => Object.keys(await places()).length).toBe(2)
  await page.keyboard.press('Enter') // it opens
  await expect.poll(places).toMatchObject({ clock: was.clock, abs: by(inside.abs, 100, 0), floor: by(inside.floor, 100, 0) })
})
