import type { Browser, Page } from '@playwright/test'
import { add, change, projectOf } from '../helpers/api'
import type { Server } from '../helpers/server'
import type { Studio } from '../helpers/studio'
import { expect, test } from '../helpers/test'

const fader = (id: string, name: string, begin: number, from = 0, to = 100): object => ({
  id,
  name,
  kind: 'fader',
  softMin: from,
  softMax: to,
  default: begin,
})
const follow = (id: string, item: string, property: string): object => ({ id, kind: 'follow', gain: 1, source: { item, property } })

/** A flag that two drawers move: six controls. */
const flag = (server: Server): Promise<string> =>
  projectOf(server, 'Signals', [
    add({
      id: 'light',
      name: 'Light',
      kind: 'null',
      controls: [
        { id: 'dye', name: 'Dye', kind: 'colour', default: [0.8, 0.2, 0.3, 1] },
        fader('glow', 'Glow', 83),
        { id: 'word', name: 'Word', kind: 'text', default: 'Quay' },
      ],
    }),
    add({
      id: 'weather',
      name: 'Weather',
      kind: 'null',
      controls: [fader('wind', 'Wind', 7, -90, 90), fader('gusts', 'Gusts', 31), fader('tide', 'Tide', 1.3, 0, 4)],
    }),
    add({
      id: 'flag',
      name: 'Flag',
      kind: 'rectangle',
      states: {
        rotation: { links: [follow('l1', 'weather', 'wind')] },
        fill: { links: [follow('l2', 'light', 'dye')] },
        opacity: { links: [follow('l3', 'light', 'glow')] },
      },
    }),
    add({ id: 'sign', name: 'Sign', kind: 'text', states: { text: { links: [follow('l4', 'light', 'word')] } } }),
  ])

const dialogOf = (page: Page) => page.getByRole('dialog', { name: /^Hand off / })
const given = (page: Page, name: string) => page.locator(`[data-control="${name}"]`)
const valueOf = (page: Page, name: string) => given(page, name).locator('button.value').first()

/** Hands all of both drawers off, and returns the address that was made. */
async function handOff(page: Page): Promise<string> {
  await page.getByRole('button', { name: 'Hand off', exact: true }).click()
  const dialog = dialogOf(page)
  await dialog.getByRole('button', { name: 'Hand off all of Weather' }).click()
  await dialog.getByRole('button', { name: 'Hand off all of Light' }).click()
  await expect(dialog.getByRole('listitem').filter({ has: page.locator('.handle') })).toHaveCount(6)
  await dialog.getByLabel('For whom the address is').fill('Mara')
  await dialog.getByRole('button', { name: 'New address' }).click()
  return (await dialog.getByRole('link', { name: /hand-off\// }).getAttribute('href')) ?? ''
}

/** Opens an address in a profile of its own. */
async function visit(browser: Browser, address: string, watch: (page: Page) => void): Promise<Page> {
  const page = await (await browser.newContext()).newPage()
  watch(page)
  await page.goto(address)
  await expect(page.getByTestId('picture')).toHaveAttribute('data-drawn', /\d+:\d+/)
  return page
}
const saved = (page: Page): Promise<void> => expect(page.getByRole('status').filter({ hasText: /^Saved$/ })).toBeVisible()

async function opened(server: Server, studio: Studio): Promise<string> {
  const project = await flag(server)
  await studio.open(server.address, project)
  return project
}

test('controls of two drawers are handed off, named, ordered and limited, and set by a colleague @quick', async ({
  page,
  browser,
  server,
  studio,
  watch,
}) => {
  await opened(server, studio)
  const address = await handOff(page)
  const dialog = dialogOf(page)
  await dialog.getByRole('button', { name: /Name where it is handed off: Wind/ }).dblclick()
  await page.keyboard.type('Breeze')
  await page.keyboard.press('Enter')
  await dialog.getByLabel('Glow, at most').fill('60')
  await dialog.getByLabel('Glow, at most').press('Enter')
  await dialog.getByRole('checkbox', { name: 'Tide may be pinned' }).uncheck()
  await dialog.getByRole('button', { name: 'Move Glow: drag, or arrow up and down' }).focus()
  await page.keyboard.press('ArrowUp')
  await expect(dialog.locator('[data-offer]').nth(3)).toHaveAttribute('data-offer', 'Glow')
  await dialog.getByRole('button', { name: 'Done' }).click()
  await studio.saved()

  const theirs = await visit(browser, address, watch)
  await expect(theirs.locator('.control > .name')).toHaveText(['Breeze', 'Gusts', 'Tide', 'Glow', 'Dye', 'Word'])
  await expect(given(theirs, 'Tide').getByRole('button', { name: /^Pin / })).toHaveCount(0)
  await valueOf(theirs, 'Glow').click()
  await theirs.keyboard.type('42')
  await theirs.keyboard.press('Enter')
  await valueOf(theirs, 'Glow').click()
  await theirs.keyboard.type('97')
  await theirs.keyboard.press('Enter')
  await expect(valueOf(theirs, 'Glow')).toHaveAttribute('data-value', '60') // its limit
  await given(theirs, 'Gusts').getByRole('button', { name: 'Pin Gusts at this frame' }).click()
  await valueOf(theirs, 'Breeze').click()
  await theirs.keyboard.type('-23')
  await theirs.keyboard.press('Enter')
  await expect(theirs.getByText('3 of 6 changed')).toBeVisible()
  await saved(theirs)

  // It plays, and goes out as a file.
  await theirs.locator('body').press(' ')
  await expect(theirs.getByTestId('picture')).toHaveAttribute('data-drawn', /^[1-9]\d*:/)
  await theirs.locator('body').press(' ')
  await theirs.getByRole('button', { name: 'Export…' }).click()
  const out = theirs.getByRole('dialog', { name: /^Export / })
  await out.getByRole('radio', { name: 'PNG of a frame' }).check()
  const [download] = await Promise.all([theirs.waitForEvent('download'), out.getByRole('button', { name: 'Export', exact: true }).click()])
  expect(download.suggestedFilename()).toContain('First reading')
  await theirs.keyboard.press('Escape')
  await expect(out).toHaveCount(0)

  // The designer renames a control and adds an item; the reading follows, and keeps what was set.
  await studio
    .control('Gusts')
    .getByRole('button', { name: /Press to rename/ })
    .first()
    .dblclick()
  await page.keyboard.type('Squalls')
  await page.keyboard.press('Enter')
  await studio.add('ellipse')
  await expect(theirs.locator('.control > .name')).toHaveText(['Breeze', 'Squalls', 'Tide', 'Glow', 'Dye', 'Word'])
  await expect(valueOf(theirs, 'Breeze')).toHaveAttribute('data-value', '-23')
  await expect(theirs.getByText('3 of 6 changed')).toBeVisible()
  expect(await studio.value(studio.control('Wind').locator('button.value').first())).toBe(7) // the rig stays as it was

  // Undone, reset, undone.
  await theirs.getByRole('button', { name: 'Reset Breeze to how it was handed off' }).click()
  await expect(valueOf(theirs, 'Breeze')).toHaveAttribute('data-value', '7')
  await theirs.locator('body').press('Control+z')
  await expect(valueOf(theirs, 'Breeze')).toHaveAttribute('data-value', '-23')
})

test('what was set for a control that is deleted is kept, and comes back with it', async ({ page, browser, server, studio, watch }) => {
  await opened(server, studio)
  const address = await handOff(page)
  await dialogOf(page).getByRole('button', { name: 'Done' }).click()
  const theirs = await visit(browser, address, watch)
  await valueOf(theirs, 'Tide').click()
  await theirs.keyboard.type('2.7')
  await theirs.keyboard.press('Enter')
  await saved(theirs)
  await studio.control('Tide').locator('.called').click()
  await page.keyboard.press('Delete')
  await expect(studio.control('Tide')).toHaveCount(0)
  await expect(theirs.getByText('A value is kept for controls that are not handed off any more')).toBeVisible()
  await expect(given(theirs, 'Tide')).toHaveCount(0)
  await page.keyboard.press('Control+z')
  await expect(valueOf(theirs, 'Tide')).toHaveAttribute('data-value', '2.7')
})

test('two colleagues work on one reading, a third one makes another; an address is withdrawn', async ({
  page,
  browser,
  server,
  studio,
  watch,
}) => {
  await opened(server, studio)
  const address = await handOff(page)
  const a = await visit(browser, address, watch)
  await a.waitForURL(/reading=/) // the first one, which the other is to open as well
  await saved(a)
  const b = await visit(browser, a.url(), watch)
  const type = async (on: Page, name: string, text: string): Promise<void> => {
    await valueOf(on, name).click()
    await on.keyboard.type(text)
    await on.keyboard.press('Enter')
  }
  await Promise.all([type(a, 'Wind', '17'), type(b, 'Gusts', '63')])
  for (const on of [a, b]) {
    await expect(valueOf(on, 'Wind')).toHaveAttribute('data-value', '17')
    await expect(valueOf(on, 'Gusts')).toHaveAttribute('data-value', '63')
  }
  await Promise.all([type(a, 'Tide', '0.9'), type(b, 'Tide', '3.1')])
  await saved(a)
  await saved(b)
  await expect
    .poll(async () => (await valueOf(a, 'Tide').getAttribute('data-value')) === (await valueOf(b, 'Tide').getAttribute('data-value')))
    .toBe(true)

  await b.getByRole('button', { name: 'Readings', exact: true }).click()
  await b.getByRole('menuitem', { name: 'New reading, as it was handed off' }).click()
  await expect(b.getByRole('menuitem')).toHaveCount(0) // a menu that fades away has a *First reading* as well
  await expect(valueOf(b, 'Wind')).toHaveAttribute('data-value', '7')
  await b.getByRole('button', { name: 'Compare' }).click()
  await b.getByRole('menuitem', { name: 'First reading' }).click()
  await expect(b.getByTestId('other')).toHaveAttribute('data-drawn', /\d+/)
  await expect(dialogOf(page).getByRole('list', { name: 'Readings' }).getByRole('listitem')).toHaveCount(2)

  // What they decided becomes the composition's own, by keyboard as well, and the reading stays.
  const apply = dialogOf(page).getByRole('button', { name: /^Apply First reading to / })
  await apply.focus()
  await page.keyboard.press('Enter')
  await expect(studio.control('Wind').locator('button.value').first()).toHaveAttribute('data-value', '17')
  await expect(studio.control('Gusts').locator('button.value').first()).toHaveAttribute('data-value', '63')
  await expect(apply).toBeFocused()
  await expect(valueOf(a, 'Wind')).toHaveAttribute('data-value', '17')

  await dialogOf(page).getByRole('button', { name: 'Withdraw the address for Mara' }).click()
  await a.reload()
  await expect(a.getByText('This hand-off can')).toBeVisible()
  await expect(a.getByText('it may have been withdrawn')).toBeVisible()
})

test('an address with a password asks for it', async ({ page, browser, server, studio, watch }) => {
  await opened(server, studio)
  await handOff(page)
  const dialog = dialogOf(page)
  await dialog.getByLabel('For whom the address is').fill('Client')
  await dialog.getByLabel('Password of the address').fill('wick')
  await dialog.getByRole('button', { name: 'New address' }).click()
  const address =
    (await dialog
      .getByRole('link', { name: /hand-off\// })
      .nth(1)
      .getAttribute('href')) ?? ''
  const theirs = await (await browser.newContext()).newPage()
  watch(theirs)
  await theirs.goto(address)
  await theirs.getByLabel('Password').fill('oil')
  await theirs.getByLabel('Password').press('Enter')
  await expect(theirs.getByRole('alert')).toHaveText('Wrong password.')
  await theirs.getByLabel('Password').fill('wick')
  await theirs.getByLabel('Password').press('Enter')
  await expect(theirs.locator('.control > .name').first()).toHaveText('Wind')
})

test('a composition is used twelve times, each in its colour and at its time; one is pinned, and the inner one changed', async ({
  page,
  server,
  studio,
}) => {
  const project = await opened(server, studio)
  await page.getByRole('button', { name: 'Hand off', exact: true }).click()
  await dialogOf(page).getByRole('checkbox', { name: 'Dye' }).check()
  await dialogOf(page).getByRole('button', { name: 'Done' }).click()
  await page.getByRole('button', { name: 'Compositions', exact: true }).click()
  await page.getByRole('menuitem', { name: 'New composition' }).click()
  await page.getByRole('button', { name: '+ Add' }).click()
  await page.getByLabel('What to add, and its name').fill('12 piece')
  await page.keyboard.press('Shift+Enter')
  await expect(page.getByRole('treeitem')).toHaveCount(12)
  const dye = await page.locator('[data-property]').first().getAttribute('data-property') // what is handed off comes first
  const forAll = async (key: string, text: string): Promise<void> => {
    await studio.field(key).getByRole('button', { name: 'Actions for' }).click()
    await page.locator('.n-dropdown-option').filter({ hasText: 'One formula for all 12' }).click()
    await expect(page.locator('.n-dropdown-option')).toHaveCount(0) // the next one has the same
    await page.locator('.cm-content').click()
    await page.keyboard.press('Control+a')
    await page.keyboard.insertText(text)
    await page.keyboard.press('Control+Enter')
    await expect(page.locator('.problems')).toHaveCount(0)
  }
  await forAll(dye ?? '', 'hsl(300 * share, 0.7, 0.5)')
  await forAll('pieceStart', 'number * 0.28')
  // One of them is pinned.
  await studio.row('Composition 1 5').click()
  await studio.field('pieceSpeed').getByRole('button', { name: /^Pin / }).click()
  await studio.saved()
  await studio.seek(20)
  const told = async (name: string, key: string): Promise<number[]> =>
    page.evaluate(
      async ([name, key]) => {
        const values = await window.wunderkammer.values(20)
        const item = [...document.querySelectorAll('[role=treeitem]')]
          .find((row) => row.querySelector(`[title="${name}"]`))
          ?.getAttribute('data-item')
        const at = window.wunderkammer.properties().find((p) => p.item === item && p.property === key)
        return at ? [...values.subarray(at.slot, at.slot + at.size)] : []
      },
      [name, key] as const,
    )
  const starts = await Promise.all([1, 7, 12].map((n) => told(`Composition 1 ${n}`, 'pieceStart')))
  expect(starts.flat().sort((x, y) => x - y)).toEqual([1, 7, 12].map((n) => expect.closeTo(n * 0.28, 9)))
  const colours = await Promise.all([1, 5, 9, 12].map((n) => told(`Composition 1 ${n}`, dye ?? '')))
  expect(new Set(colours.map(String)).size).toBe(4)

  // What is changed of the composition is changed of all of them.
  const picture = async (): Promise<string> => (await studio.stage.screenshot()).toString('base64')
  const before = await picture()
  await change(server, project, await revision(server, project), [{ op: 'own.set', item: 'weather', property: 'wind', value: 61 }])
  await expect.poll(async () => (await picture()) !== before).toBe(true)
  await page.getByRole('button', { name: 'Compositions', exact: true }).click()
  await page.getByRole('menuitem', { name: 'Composition 1', exact: true }).click()
  await expect(studio.control('Wind').locator('button.value').first()).toHaveAttribute('data-value', '61')
})

async function revision(server: Server, project: string): Promise<number> {
  return ((await (await fetch(`${server.address}/api/projects/${project}`)).json()) as { revision: number }).revision
}
