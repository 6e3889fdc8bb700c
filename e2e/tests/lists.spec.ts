import type { Page } from '@playwright/test'
import { Hand } from '../helpers/hand'
import { add, projectOf } from '../helpers/api'
import { overlook, plug, port, put, sheet, slip } from '../helpers/sheet'
import type { Studio } from '../helpers/studio'
import { expect, test } from '../helpers/test'

const lamp = (n: number, opacity: number, red: number): object =>
  add({
    id: `lamp${n}`,
    name: `Lamp ${n}`,
    kind: 'ellipse',
    parent: 'post',
    states: { opacity: { own: opacity }, fill: { own: [red, 0.3, 0.7, 1] }, position: { own: [n * 90 - 200, 40, 0] } },
  })
const wall = add({ id: 'wall', name: 'Wall', kind: 'rectangle', states: { position: { own: [230, 0, 0] } } })
const lamps = [add({ id: 'post', name: 'Post', kind: 'null' }), lamp(1, 20, 0.9), lamp(2, 70, 0.1), lamp(3, 33, 0.4), wall]

/** The red of the only rectangle. */
const red = (page: Page): Promise<number> =>
  page.evaluate(async () => {
    const all = window.wunderkammer.properties()
    const wall = all.find((p) => p.property === 'cornerRadius')?.item
    return (await window.wunderkammer.values(0))[all.find((p) => p.item === wall && p.property === 'fill')?.slot ?? -1] ?? NaN
  })

/** Writes into the formula editor that is open, and applies it. */
async function write(studio: Studio, text: string): Promise<void> {
  await studio.page.locator('.cm-content').click()
  await studio.page.keyboard.press('Control+a')
  await studio.page.keyboard.insertText(text)
  await studio.page.keyboard.press('Control+Enter')
}

test('three lamps’ colours and strengths are gathered on a wall by weight in 10 gestures, and a fourth joins by one', async ({
  page,
  server,
  studio,
}) => {
  await studio.newProject(server.address, 'Gathering')
  const hand = new Hand(page)
  await hand.key('a')
  await hand.type('3 ellipse Lamp')
  await hand.type('rectangle Wall', 'Shift+Enter')
  await expect(studio.row('Wall')).toBeVisible()
  await hand.press(studio.field('fill').getByRole('button', { name: 'fill', exact: true }))
  await hand.key('l')
  await hand.type('mean lamp fill')
  await hand.press(page.locator('.cm-content'))
  await page.keyboard.press('Control+a') // before it is typed over
  await page.keyboard.insertText('weighted({Lamp *: fill}, {Lamp *: opacity})')
  await page.keyboard.press('Control+Enter')
  hand.count += 2
  console.log(`three lamps gathered by weight: ${hand.count} gestures`)
  expect(hand.count).toBeLessThanOrEqual(10)
  await expect(page.locator('.problems')).toHaveCount(0)
  await expect(page.locator('.words')).toContainText('the mean of fill of every Lamp * weighted by opacity of every Lamp *')

  for (const [name, colour, strength] of [
    ['Lamp 1', '#e64d1a', '20'],
    ['Lamp 2', '#1a99b3', '70'],
    ['Lamp 3', '#66334d', '33'],
  ] as const) {
    await studio.select(name)
    await studio.field('fill').locator('.n-color-picker-trigger, .swatch').first().click()
    await page.locator('.n-color-picker-panel input').last().fill(colour)
    await page.keyboard.press('Enter')
    await page.keyboard.press('Escape')
    await studio.field('opacity').locator('button.value').click()
    await page.keyboard.type(strength)
    await page.keyboard.press('Enter')
  }
  const [one, two, three] = [0xe6 / 255, 0x1a / 255, 0x66 / 255]
  await expect.poll(() => red(page)).toBeCloseTo((one * 20 + two * 70 + three * 33) / 123, 6)

  await studio.select('Lamp 2')
  await page.keyboard.press('Control+d') // one gesture
  await expect(studio.row('Lamp 4')).toBeVisible()
  await expect.poll(() => red(page)).toBeCloseTo((one * 20 + 2 * two * 70 + three * 33) / 193, 6)

  // Removed, it leaves; nothing is broken by it, and loaded again it is the same.
  await studio.select('Lamp 1')
  await page.keyboard.press('Delete')
  await expect.poll(() => red(page)).toBeCloseTo((2 * two * 70 + three * 33) / 173, 6)
  await expect(page.getByTestId('checks')).toContainText('No problems')
  await studio.saved()
  await page.reload()
  await studio.drawn()
  expect(await red(page)).toBeCloseTo((2 * two * 70 + three * 33) / 173, 6)
})

test('a list where one value is wanted is told with its mends; names follow; what is gathered is told by Why', async ({
  page,
  server,
  studio,
}) => {
  await studio.open(server.address, await projectOf(server, 'Lists', lamps))
  await studio.select('Wall')
  await studio.field('rotation').getByRole('button', { name: 'Actions for' }).click()
  await page.locator('.n-dropdown-option').filter({ hasText: 'Formula' }).first().click()
  await write(studio, '{Post > *: opacity}')
  const problems = page.locator('.problems')
  await expect(problems).toContainText('this is a list of 3 values, not one; make one of them')
  await problems.getByRole('button', { name: 'sum' }).click()
  await expect(problems).toHaveText(/the formula gives %, but rotation is in °/)
  await expect(page.locator('.cm-content')).toContainText('sum({Post > *: opacity})')
  await page.keyboard.press('Control+Enter')
  await expect(studio.field('rotation').locator('button.value')).toHaveText(/123/)

  await write(studio, 'sum({Lamb *: opacity})')
  await expect(problems).toContainText('no item is named Lamb *')
  await problems.getByRole('button', { name: 'Lamp *' }).click()
  await write(studio, 'strong = {Lamp *: opacity} > 30\nsum(if(strong, {Lamp *: position.x}, 0))')
  await expect(page.locator('.line-value').first()).toHaveText('3: 1 · 1 · 0')
  await expect(studio.field('rotation').locator('button.value')).toHaveText(/50/) // -20 + 70

  await studio.select('Lamp 3')
  await page.keyboard.press('F2')
  await page.keyboard.type('Torch')
  await page.keyboard.press('Enter')
  await studio.select('Wall')
  await expect(studio.field('rotation').locator('button.value')).toHaveText(/-20/)

  await studio.field('rotation').getByRole('button', { name: 'Actions for' }).click()
  await page.locator('.n-dropdown-option').filter({ hasText: 'Why' }).click()
  await expect(page.getByText('it gathers opacity of the items named Lamp *: 2 in all')).toBeVisible()
})

test('on the sheet a slip reads many, shows whose and what, and a reducing slip makes one value of it', async ({
  page,
  server,
  studio,
}) => {
  const glow = { id: 'glow', kind: 'formula', gain: 1, formula: '33 + frame * 0.3' }
  await studio.open(
    server.address,
    await projectOf(server, 'Many', [...lamps, { op: 'link.add', item: 'lamp3', property: 'opacity', at: -1, link: glow }]),
  )
  await page.keyboard.press('4')
  await page.getByRole('button', { name: '+ Graph' }).click()
  await page.keyboard.press('g')
  await put(page, 'Lamp *: opacity')
  await put(page, 'sum')
  await put(page, 'drive')
  await overlook(page)
  const many = slip(page, 'Lamp *: opacity')
  await expect(many.getByRole('listitem')).toHaveText(['Lamp 333', 'Lamp 270', 'Lamp 120']) // from the back to the front
  await expect(port(page, 'Lamp *: opacity', 'out')).toHaveText('≡%')
  await plug(page, port(page, 'Lamp *: opacity', 'out'), port(page, 'sum', 'in'))
  await expect(page.locator('.vue-flow__edge')).toHaveCount(1)
  await plug(page, port(page, 'sum', 'out'), port(page, 'drive', 'in'))
  await expect(page.locator('.vue-flow__edge')).toHaveCount(2)
  await studio.select('Wall')
  await studio.field('rotation').locator('.name').click()
  await slip(page, 'drive').getByRole('button', { name: 'Drive the selection' }).click()
  await expect(studio.field('rotation').locator('button.value')).toHaveText(/123/)

  // While it plays, the slip goes on showing what each of them gives.
  await sheet(page).focus()
  await page.keyboard.press(' ')
  await expect(page.getByRole('button', { name: 'Pause' })).toBeVisible()
  for (const tens of [4, 5, 6]) await expect(many.getByRole('listitem').first()).toHaveText(new RegExp(`^Lamp 3${tens}`))
  await expect(page.getByRole('button', { name: 'Pause' })).toBeVisible()
  await page.keyboard.press(' ')

  // A list that is led where one value is wanted is refused, with what makes one of it.
  await put(page, 'drive')
  await overlook(page)
  await sheet(page).focus()
  await plug(page, port(page, 'Lamp *: opacity', 'out'), slip(page, 'drive').nth(1).locator('.in .vue-flow__handle'))
  await expect(page.getByText(/this is a list of 3 values, not one/).first()).toBeVisible()
})
