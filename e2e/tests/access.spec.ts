import { add, projectOf } from '../helpers/api'
import { expect, test } from '../helpers/test'

test('colours that the system forces: what is selected, on or off, and every rail and swatch is seen', async ({ page, demo, studio }) => {
  await page.emulateMedia({ forcedColors: 'active' })
  await studio.open(demo.address, 'lanternfall')
  await studio.select('LANTERNFALL')
  /** The ground of an element, and that behind it. */
  const grounds = (selector: string): Promise<string[]> =>
    page
      .locator(selector)
      .first()
      .evaluate((e) => [e, document.body].map((x) => getComputedStyle(x).backgroundColor))
  for (const selector of [
    '[role=treeitem][aria-selected=true]',
    '[role=tab][aria-selected=true]',
    'button[aria-pressed=true]',
    '.rail .from',
    '.swatch',
  ]) {
    const [own, page] = await grounds(selector)
    expect(own, selector).not.toBe(page)
  }
  const auto = page.getByRole('switch', { name: 'Auto pin' })
  const rail = (): Promise<string> => auto.locator('.n-switch__rail').evaluate((e) => getComputedStyle(e).backgroundColor)
  const off = await rail()
  await auto.click()
  await expect.poll(rail).not.toBe(off)
})

test('at 200 % everything is reached: panels below each other, nothing lies over anything else, a fader moves the picture', async ({
  page,
  demo,
  studio,
}) => {
  await page.setViewportSize({ width: 640, height: 400 })
  await studio.open(demo.address, 'lanternfall')
  await studio.select('LANTERNFALL')
  const sideways = await page.evaluate(() => document.documentElement.scrollWidth - document.documentElement.clientWidth)
  expect(sideways).toBe(0)
  const boxes = await page
    .locator('header.bar button, header.bar .figures, header.bar [role=status]')
    .evaluateAll((list) => list.map((e) => e.getBoundingClientRect()).map(({ left, top, right, bottom }) => [left, top, right, bottom]))
  boxes.forEach((a, i) => {
    for (const b of boxes.slice(i + 1)) {
      const apart = a[2]! <= b[0]! + 1 || b[2]! <= a[0]! + 1 || a[3]! <= b[1]! + 1 || b[3]! <= a[1]! + 1
      expect(apart, `${a} and ${b}`).toBe(true)
    }
  })
  await studio.field('scale').scrollIntoViewIfNeeded()
  await expect(studio.field('scale').locator('.chip')).toBeVisible()
  await studio.control('Beam angle').scrollIntoViewIfNeeded()
  const before = await studio.stage.getAttribute('data-drawn')
  await studio.control('Wind').scrollIntoViewIfNeeded()
  await studio.fader('Wind', 0.9)
  await expect(studio.stage).not.toHaveAttribute('data-drawn', before ?? '')
  await expect(studio.stage).toBeInViewport()
})

test('a menu says which of its entries the arrow keys are at', async ({ page, demo, studio }) => {
  await studio.open(demo.address, 'lanternfall')
  const opener = studio.control('Wind').getByRole('button', { name: 'Actions for Wind' })
  await opener.focus()
  await page.keyboard.press('Enter')
  await expect(page.getByRole('menu')).toBeVisible()
  await expect(opener).toHaveAttribute('aria-expanded', 'true')
  const said = async (): Promise<string> => {
    const id = await opener.getAttribute('aria-activedescendant')
    return id ? ((await page.locator(`[id="${id}"]`).textContent()) ?? '') : ''
  }
  await page.keyboard.press('ArrowDown')
  await expect.poll(said).toContain('Settings')
  await page.keyboard.press('ArrowDown')
  await expect.poll(said).toContain('Rename')
  await page.keyboard.press('Escape')
  await expect(page.getByRole('menu')).toHaveCount(0)
  await expect(opener).not.toHaveAttribute('aria-activedescendant', /./)
})

test('a choice is a combobox with its name, and says which of its entries the arrow keys are at', async ({ page, server, studio }) => {
  await studio.open(
    server.address,
    await projectOf(server, 'Choices', [
      add({ id: 'post', name: 'Post', kind: 'null' }),
      add({ id: 'quay', name: 'Quay', kind: 'null' }),
      add({ id: 'box', name: 'Box', kind: 'rectangle' }),
    ]),
  )
  await studio.select('Box')
  for (const [name, sought, chosen] of [
    ['cap', '', 'round'],
    ['Parent', 'qu', 'Quay'],
  ] as const) {
    const field = page.getByRole('combobox', { name, exact: true })
    await field.focus()
    await expect(field).toHaveAttribute('aria-expanded', 'false')
    await page.keyboard.press('Enter')
    const list = page.getByRole('listbox', { name, exact: true })
    await expect(list).toBeVisible()
    if (sought) await page.keyboard.type(sought)
    await expect(list.getByRole('option', { name: chosen, exact: true })).toBeVisible()
    const open = page.getByRole('combobox', { name, exact: true, expanded: true })
    await expect(open).toBeFocused()
    await expect(open).toHaveAttribute('aria-controls', (await list.getAttribute('id')) ?? '')
    const said = async (): Promise<string> => {
      const id = await open.getAttribute('aria-activedescendant')
      return id ? ((await page.locator(`[id="${id}"]`).textContent()) ?? '') : ''
    }
    for (let k = 0; k < 3 && (await said()) !== chosen; k++) {
      await page.keyboard.press('ArrowDown')
      await expect.poll(said).not.toBe('')
    }
    expect(await said()).toBe(chosen)
    await page.keyboard.press('Enter')
    await expect(list).toHaveCount(0)
    await expect(field).toContainText(chosen)
    await expect(field).toBeFocused()
  }
})

test('F6 goes from panel to panel and back to what had the keys there; Shift F10 opens the menu of what has them', async ({
  page,
  server,
  studio,
}) => {
  await studio.open(
    server.address,
    await projectOf(server, 'Panels', [
      add({ id: 'rig', name: 'Rig', kind: 'null', controls: [{ id: 'go', name: 'Go', kind: 'fader', softMax: 100, default: 3 }] }),
      add({ id: 'box', name: 'Box', kind: 'rectangle' }),
    ]),
  )
  const panel = (): Promise<string> =>
    page.evaluate(() => document.activeElement?.closest<HTMLElement>('header.bar, [data-panel]')?.dataset.panel ?? 'bar')
  const seen: string[] = []
  await studio.select('Box')
  await page.getByRole('tree').focus()
  for (let k = 0; k < 5; k++) {
    await page.keyboard.press('F6')
    seen.push(await panel())
  }
  expect(seen).toEqual(['viewport', 'card', 'desk', 'bar', 'items'])
  await page.keyboard.press('Shift+F10')
  await expect(page.getByRole('menu')).toContainText('Duplicate')
  await page.keyboard.press('Escape')
  await expect(page.getByRole('menu')).toHaveCount(0)

  // From a field of the Card to the fader, and back to the field.
  const field = studio.field('rotation').getByRole('button', { name: 'rotation', exact: true })
  await field.focus()
  await page.keyboard.press('F6')
  await page.getByRole('slider', { name: 'Go', exact: true }).focus()
  await page.keyboard.press('Shift+F6')
  await expect(field).toBeFocused()
  await page.keyboard.press('Shift+F10')
  await expect(page.getByRole('menu')).toContainText('Formula')
  await page.keyboard.press('Escape')
  await expect(page.getByRole('menu')).toHaveCount(0)
  await page.keyboard.press('F6')
  await expect(page.getByRole('slider', { name: 'Go', exact: true })).toBeFocused()
  await page.keyboard.press('ContextMenu')
  await expect(page.getByRole('menu')).toContainText('Rename')
  await page.keyboard.press('Escape')
  await expect(page.getByRole('menu')).toHaveCount(0)

  // Where nothing has the keys there is no menu, and F6 begins where the hand was.
  await page.evaluate(() => (document.activeElement as HTMLElement).blur())
  await page.keyboard.press('Shift+F10')
  await page.keyboard.press('ContextMenu')
  await page.keyboard.press('F6')
  expect(await panel()).toBe('desk')
  await expect(page.getByRole('menu')).toHaveCount(0)
})

test('a track is one stop of Tab; arrow keys go along its pins, and move those that are picked', async ({ page, server, studio }) => {
  const pin = (frame: number, value: number): object => ({ frame, value, easing: 'linear' })
  await studio.open(
    server.address,
    await projectOf(server, 'Pins', [
      add({
        id: 'rig',
        name: 'Rig',
        kind: 'null',
        controls: [
          { id: 'go', name: 'Go', kind: 'fader', softMax: 100, default: 3 },
          { id: 'mix', name: 'Mix', kind: 'fader', softMax: 100, default: 8 },
        ],
        states: { go: { pins: [pin(3, 12), pin(17, 61), pin(40, 5)] }, mix: { pins: [pin(8, 1)] } },
      }),
    ]),
  )
  const at = page.locator(':focus')
  await page.getByRole('button', { name: 'Pin Go at this frame' }).focus()
  await page.keyboard.press('Tab')
  await expect(at).toHaveAccessibleName('Pin of Go at frame 3')
  for (const [key, frame] of [
    ['ArrowRight', 17],
    ['ArrowRight', 40],
    ['ArrowRight', 40],
    ['Home', 3],
    ['End', 40],
    ['ArrowLeft', 17],
  ] as const) {
    await page.keyboard.press(key)
    await expect(at).toHaveAccessibleName(`Pin of Go at frame ${frame}`)
  }
  await expect(page.locator('.pin[aria-pressed=true]')).toHaveCount(0)
  await page.keyboard.press('Shift+Tab')
  await page.keyboard.press('Tab') // where it was
  await expect(at).toHaveAccessibleName('Pin of Go at frame 17')
  await page.keyboard.press('Enter')
  for (let k = 0; k < 4; k++) await page.keyboard.press('ArrowRight')
  await expect(at).toHaveAccessibleName('Pin of Go at frame 21')
  await page.keyboard.press('Tab')
  await expect(at).not.toHaveAccessibleName(/^Pin of Go at/)
})

test('what has the keys and is deleted leaves them to what is next to it; a panel that stands aside takes and gives them back', async ({
  page,
  server,
  studio,
}) => {
  const fader = (id: string, name: string): object => ({ id, name, kind: 'fader', softMax: 100, default: 3 })
  await studio.open(
    server.address,
    await projectOf(server, 'Keys', [
      add({ id: 'rig', name: 'Rig', kind: 'null', controls: [fader('go', 'Go'), fader('mix', 'Mix'), fader('lag', 'Lag')] }),
    ]),
  )
  const panel = (): Promise<string> =>
    page.evaluate(
      () =>
        document.activeElement?.closest<HTMLElement>('[role=dialog], [data-panel]')?.dataset.panel ?? document.activeElement?.tagName ?? '',
    )
  const opener = page.getByRole('button', { name: 'Actions for Mix' })
  await page.getByRole('slider', { name: 'Go', exact: true }).focus()
  await page.keyboard.press('Tab')
  await opener.focus()
  await page.keyboard.press('Enter')
  const at = async (): Promise<string> => {
    const id = await opener.getAttribute('aria-activedescendant')
    return id ? ((await page.locator(`[id="${id}"]`).textContent()) ?? '') : ''
  }
  for (let k = 0; k < 30 && !/^(Remove|Delete)/.test(await at()); k++) {
    const before = await at()
    await page.keyboard.press('ArrowDown')
    await expect.poll(at).not.toBe(before)
  }
  await page.keyboard.press('Enter')
  await expect(studio.control('Mix')).toHaveCount(0)
  await expect.poll(panel).toBe('desk')

  // The rehearsal stands aside: it takes the keys, F6 leaves it and comes back, Esc closes it and gives them back.
  const slider = page.getByRole('slider', { name: 'Lag', exact: true })
  await slider.focus()
  await page.keyboard.press('Shift+r')
  const rehearsal = page.getByRole('dialog', { name: 'Rehearsal' })
  await expect(rehearsal).toBeFocused()
  await page.keyboard.press('Tab')
  await expect(rehearsal.getByRole('checkbox').first()).toBeFocused()
  await page.keyboard.press('F6')
  await expect.poll(panel).not.toBe('DIV')
  expect(await page.evaluate(() => document.activeElement?.closest('[role=dialog]') === null)).toBe(true)
  await page.keyboard.press('Shift+F6')
  await expect(rehearsal.getByRole('checkbox').first()).toBeFocused()
  await page.keyboard.press('Escape')
  await expect(rehearsal).toHaveCount(0)
  await expect(slider).toBeFocused()

  // Esc in a search first empties it, then closes what it stands in.
  await page.getByRole('button', { name: 'Hand off', exact: true }).click()
  const hand = page.getByRole('dialog', { name: /^Hand off/ })
  await hand.getByLabel('Search controls').fill('la')
  await page.keyboard.press('Escape')
  await expect(hand.getByLabel('Search controls')).toHaveValue('')
  await page.keyboard.press('Escape')
  await expect(hand).toHaveCount(0)
})

test('two windows: steps tick in both, and what is deleted in one takes no keys along in the other', async ({
  page,
  server,
  studio,
  second,
}) => {
  const fader = (id: string, name: string): object => ({ id, name, kind: 'fader', softMax: 100, default: 3 })
  await studio.newProject(server.address, 'Twice')
  const other = await second()
  // The steps tick in both; the chosen beginning is each window's own.
  await other.page.getByRole('button', { name: 'A row that trails' }).click()
  await page.bringToFront()
  await studio.addMany('5 ellipse Bead')
  const done = (w: typeof page) => w.getByRole('region', { name: 'First steps' }).getByLabel('Done')
  await expect(done(other.page)).toHaveCount(1)
  await expect(done(page)).toHaveCount(0)
  // What the other window searches for is seen after this one deletes below it.
  await other.page.bringToFront()
  await other.page.getByLabel('Search items').fill('bead 2')
  await expect(other.row('Bead 2')).toBeInViewport()
  await other.select('Bead 2')
  await other.page.getByRole('tree').focus()
  await page.bringToFront()
  await studio.select('Bead 2')
  await page.keyboard.press('Delete')
  await expect(other.page.getByRole('treeitem')).toHaveCount(0)
  await other.page.bringToFront()
  await expect(other.page.getByRole('tree')).toBeFocused()
  // A control that has the keys in one window is deleted in the other.
  await other.page.getByLabel('Search items').fill('')
  const id = await projectOf(server, 'Driven', [
    add({ id: 'rig', name: 'Rig', kind: 'null', controls: [fader('go', 'Go'), fader('mix', 'Mix')] }),
    add({ id: 'a', name: 'A1', kind: 'rectangle' }),
    add({ id: 'b', name: 'B1', kind: 'rectangle' }),
    {
      op: 'spread.add',
      at: -1,
      value: {
        id: 'turned',
        name: 'turned',
        roster: { kind: 'picked', items: ['a', 'b'] },
        property: 'rotation',
        link: { id: 'turn', kind: 'follow', gain: 1, source: { item: 'rig', property: 'go' } },
      },
    },
  ])
  await studio.open(server.address, id)
  await other.open(server.address, id)
  await other.select('A1')
  await other.field('rotation').locator('.chip').focus()
  await other.page.keyboard.press('Tab')
  await other.page.keyboard.press('Shift+Tab')
  await expect(other.field('rotation').locator('.chip')).toBeFocused()
  await page.bringToFront()
  await studio.control('Go').locator('.name').click()
  await page.keyboard.press('Delete')
  await expect(studio.control('Go')).toHaveCount(0)
  await other.page.bringToFront()
  await expect(other.control('Go')).toHaveCount(0)
  await expect(other.field('rotation').locator('.chip')).toBeFocused()
  await expect(other.field('rotation').locator('.chip')).toContainText('deleted')
  const slider = other.page.getByRole('slider', { name: 'Mix', exact: true })
  await slider.focus()
  await other.page.keyboard.press('Tab')
  await other.page.keyboard.press('Shift+Tab')
  await page.bringToFront()
  await studio.control('Mix').locator('.name').click()
  await page.keyboard.press('Delete')
  await other.page.bringToFront()
  await expect(other.control('Mix')).toHaveCount(0)
  await expect
    .poll(() => other.page.evaluate(() => document.activeElement?.closest<HTMLElement>('[data-panel]')?.dataset.panel))
    .toBe('desk')
  // Nothing has the focus: rehearsal by key, Esc.
  await page.bringToFront()
  await page.evaluate(() => (document.activeElement as HTMLElement).blur())
  await page.keyboard.press('Shift+r')
  await expect(page.getByRole('dialog', { name: 'Rehearsal' })).toBeFocused()
  await page.keyboard.press('Escape')
  await expect(page.getByRole('dialog', { name: 'Rehearsal' })).toHaveCount(0)
  await page.keyboard.press('a')
  await expect(page.getByLabel('What to add, and its name')).toBeFocused()
  await page.keyboard.press('Escape')
})
