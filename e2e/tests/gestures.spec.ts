import type { Locator } from '@playwright/test'
import { Hand, option } from '../helpers/hand'
import { expect, test } from '../helpers/test'

test(
  'three controls of the properties of a text, pinned twice: at most 12 gestures',
  { tag: '@quick' },
  async ({ page, server, studio }) => {
    await studio.newProject(server.address, 'Text')
    const hand = new Hand(page)
    await hand.key('a')
    await hand.type('text Title', 'Shift+Enter')
    for (const [k, name] of ['font size', 'letter spacing', 'opacity'].entries())
      await hand.press(page.getByRole('button', { name, exact: true }), k ? ['Control'] : [])
    await hand.press(page.getByRole('button', { name: 'Actions for opacity' }))
    await hand.press(option(page, 'Turn 3 into controls on…'))
    await hand.press(option(page, 'A new null'))
    await expect(page.locator('[data-control]')).toHaveCount(3)
    await hand.press(studio.control('Title font size').locator('.name'))
    await hand.key('Shift+k')
    await hand.key('End')
    await hand.key('Shift+k')
    for (const name of ['Title font size', 'Title letter spacing', 'Title opacity']) {
      await expect(studio.drives(name)).toHaveText('1')
      await expect(studio.track(name).getByRole('button')).toHaveCount(2)
    }
    console.log(`a text's properties: ${hand.count} gestures`)
    expect(hand.count).toBeLessThanOrEqual(12)
  },
)

test('x of a circle drives the colour of a box through two stops: at most 12 gestures', async ({ page, server, studio }) => {
  await studio.newProject(server.address, 'Colour')
  const hand = new Hand(page)
  await hand.key('a')
  await hand.type('ellipse Circle')
  await hand.type('rectangle Box', 'Shift+Enter')
  await hand.press(page.getByRole('button', { name: 'fill', exact: true }))
  await hand.key('l')
  await hand.type('circle: position.x')
  const editor = page.getByRole('group', { name: /^Link from/ })
  for (const [k, hex] of [
    [1, '#c03030'],
    [2, '#3030c0'],
  ] as const) {
    await hand.press(editor.getByRole('button', { name: `Output of stop ${k}` }))
    await hand.press(page.locator('.n-color-picker-panel input').last())
    await page.keyboard.press('Control+a')
    await hand.type(hex)
    await page.keyboard.press('Escape')
  }
  const colours = (): Promise<(string | null)[]> =>
    editor.locator('[aria-label^="Output of stop"]').evaluateAll((list) => list.map((e) => e.getAttribute('title')))
  await expect.poll(async () => (await colours()).join(' ').toLowerCase()).toContain('c03030')
  console.log(`x to a colour: ${hand.count} gestures`)
  expect(hand.count).toBeLessThanOrEqual(12)
})

test('twenty ovals made, spaced, and turned by one dial: at most 14 gestures', { tag: '@quick' }, async ({ page, server, studio }) => {
  await studio.newProject(server.address, 'Ovals')
  const hand = new Hand(page)
  await hand.key('a')
  await hand.type('20 ellipse Oval', 'Shift+Enter')
  await expect(page.getByRole('treeitem', { selected: true })).toHaveCount(20)
  await hand.press(page.getByRole('button', { name: 'rotation', exact: true }))
  await hand.key('c')
  await hand.press(page.getByRole('dialog').getByText('Dial', { exact: true }))
  await hand.press(page.getByLabel('Name of the control'))
  await hand.type('Turn')
  await expect(studio.control('Turn')).toBeVisible()
  await expect(studio.drives('Turn')).toHaveText('20')
  console.log(`twenty ovals: ${hand.count} gestures`)
  expect(hand.count).toBeLessThanOrEqual(14)
})

test('three parts of a tube and two doors on one percent fader, each with its own stops: at most 24 gestures', async ({
  page,
  server,
  studio,
}) => {
  await studio.newProject(server.address, 'Tube')
  const hand = new Hand(page)
  await hand.key('a')
  await hand.type('3 rectangle Tube')
  await hand.type('2 rectangle Door', 'Shift+Enter')
  await hand.key('c')
  await hand.type('Open')
  await expect(studio.control('Open')).toBeVisible()
  const value = (): Locator => studio.field('position').locator('button.value')
  const wire = async (from: string, to: string, part: 'x' | 'y'): Promise<void> => {
    await hand.press(studio.row(from))
    await hand.press(studio.row(to), ['Shift'])
    if (!(await studio.field(`position.${part}`).count())) await hand.press(page.getByRole('button', { name: 'Components of position' }))
    await hand.press(studio.field(`position.${part}`).locator('.name'))
    await hand.key('l')
    if (!(await page.getByRole('radio', { name: 'Map' }).isChecked()))
      await hand.press(page.getByRole('dialog').getByText('Map', { exact: true }))
    await hand.type('open')
    await expect(page.getByRole('dialog')).toHaveCount(0)
  }
  const bar = page.getByRole('status').filter({ hasText: 'Temporary pose' })
  const high = async (field: number, dx: number): Promise<void> => {
    await hand.drag(value().nth(field), dx)
    await hand.press(bar.getByRole('button', { name: 'Set high' }))
    await expect(bar).toHaveCount(0)
  }
  await wire('Tube 1', 'Tube 3', 'y')
  await high(1, 80)
  await wire('Door 1', 'Door 2', 'x')
  await high(0, 60)
  await hand.press(studio.row('Door 2'))
  await high(0, -120)
  await expect(studio.drives('Open')).toHaveText('5')
  await expect(page.getByTestId('checks')).toContainText('No problems')
  console.log(`tube and doors: ${hand.count} gestures`)
  expect(hand.count).toBeLessThanOrEqual(24)
})
