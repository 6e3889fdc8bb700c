import type { Page } from '@playwright/test'
import { add, change, projectOf } from './api'
import { sheet, slip } from './sheet'
import type { Server } from './server'
import { expect } from './test'
import type { Studio } from './studio'

/** What a walk through the screens has at hand. */
export interface Walk {
  page: Page
  studio: Studio
  server: Server
  demo: Server
}

type Step = (walk: Walk) => Promise<unknown>

/** Screens that are reached one after the other from one beginning: the name of each, and the step to it. What lies over the page is closed after each. */
export interface Journey {
  name: string
  begin: Step
  states: [name: string, step: Step][]
}

const entry = (page: Page, words: string): Promise<void> => page.locator('.n-dropdown-option').filter({ hasText: words }).click()

async function menu(page: Page, of: string, words?: string): Promise<void> {
  await page.getByRole('button', { name: `Actions for ${of}`, exact: true }).click()
  if (words) await entry(page, words)
}

async function run(page: Page, command: string): Promise<void> {
  await page.keyboard.press('Control+k')
  await page.getByLabel('Search everything').fill(command)
  await expect(page.getByRole('option', { selected: true })).toContainText(new RegExp(command, 'i'))
  await page.keyboard.press('Enter')
}

async function composition(page: Page, name: string): Promise<void> {
  await page.getByRole('button', { name: 'Compositions' }).click()
  await entry(page, name)
  await expect(page.getByRole('button', { name: `Composition name: ${name}` })).toBeVisible()
}

/** Selects items by what the field above the tree finds, whatever is folded. */
async function seek(page: Page, studio: Studio, words: string, ...names: string[]): Promise<void> {
  await page.getByLabel('Search items').fill(words)
  await studio.select(...names)
}

/** Brings the corner of a slip, where it is pressed, into the window: F shows what can be read, and once more all. */
async function sight(page: Page, name: string): Promise<void> {
  await sheet(page).focus()
  for (let tries = 0; tries < 3; tries++) {
    const box = await slip(page, name).boundingBox()
    const size = page.viewportSize()
    if (box && size && box.x > 0 && box.y > 0 && box.x + 9 < size.width && box.y + 9 < size.height) return
    await page.keyboard.press('f')
    await page.waitForTimeout(250)
  }
}

/** A project with what the demo has not: a formula with a mistake, a link of each kind, a control of each kind. */
async function odds(server: Server): Promise<string> {
  const options = ['calm', 'squall', 'storm']
  const control = (kind: string, rest: object): object => ({
    id: `c${kind}`,
    name: `A ${kind}`,
    kind,
    ...rest,
  })
  const link = (item: string, property: string, value: object): object => ({
    op: 'link.add',
    item,
    property,
    at: -1,
    link: { gain: 1, ...value },
  })
  const id = await projectOf(server, 'Odds and ends', [
    add({
      id: 'rig',
      name: 'Rig',
      kind: 'null',
      controls: [
        control('fader', { softMax: 100, default: 37 }),
        control('dial', { softMax: 360, default: 12 }),
        control('colour', { default: [0.2, 0.4, 0.7, 1] }),
        control('point', { default: [12, -31] }),
        control('switch', { default: 1 }),
        control('choice', { options, default: 1 }),
        control('text', { default: 'Ferry' }),
      ],
    }),
    ...['rectangle Box', 'rectangle Tin', 'text Word', 'path Rope', 'zone Field', 'emitter Dust', 'pointLight Lamp', 'camera Eye'].map(
      (what) => {
        const [kind = '', name = ''] = what.split(' ')
        return add({
          id: name.toLowerCase(),
          name,
          kind,
          ...(kind === 'path'
            ? {
                path: {
                  contours: [
                    {
                      vertices: [
                        [-90, 12],
                        [14, -31],
                        [96, 40],
                      ].map((at, k) => ({
                        id: k + 1,
                        at,
                        in: [0, 0],
                        out: [0, 0],
                      })),
                    },
                  ],
                },
              }
            : {}),
        })
      },
    ),
  ])
  await change(server, id, 1, [
    link('box', 'rotation', {
      id: 'bad',
      kind: 'formula',
      formula: 'wave(time *',
    }),
    link('box', 'opacity', {
      id: 'map',
      kind: 'map',
      source: { item: 'rig', property: 'cfader' },
      stops: [
        { in: 0, out: 12, easing: 'linear' },
        { in: 41, out: 77, easing: 'linear' },
      ],
    }),
    link('tin', 'rotation', {
      id: 'follow',
      kind: 'follow',
      gain: 1.7,
      source: { item: 'rig', property: 'cdial' },
    }),
  ])
  return id
}

const project: Journey = {
  name: 'projects',
  begin: async ({ page, demo }) => {
    await page.goto(demo.address)
    await page.getByText('Lanternfall').first().waitFor()
  },
  states: [
    ['projects', async () => undefined],
    [
      'menu of a project',
      ({ page }) =>
        page
          .getByRole('button', { name: /^Actions for/ })
          .first()
          .click(),
    ],
    ['new project', ({ page }) => page.getByRole('button', { name: 'New project' }).click()],
  ],
}

const empty: Journey = {
  name: 'an empty project',
  begin: ({ studio, server }) => studio.newProject(server.address, 'Quiet'),
  states: [
    ['empty', async () => undefined],
    ['curves', ({ page }) => page.keyboard.press('2')],
    ['ledger', ({ page }) => page.keyboard.press('3')],
    ['graph', ({ page }) => page.keyboard.press('4')],
    ['add', async ({ page }) => (await page.keyboard.press('1'), page.keyboard.press('a'))],
    ['new control', ({ page }) => page.keyboard.press('c')],
    ['recipes', ({ page }) => page.keyboard.press('r')],
    ['rehearsal', ({ page }) => page.keyboard.press('Shift+r')],
    ['hand off', ({ page }) => page.getByRole('button', { name: 'Hand off', exact: true }).click()],
    ['export', ({ page }) => page.getByRole('button', { name: 'Export', exact: true }).click()],
    ['problems', ({ page }) => page.getByTestId('checks').click()],
    ['compositions', ({ page }) => page.getByRole('button', { name: 'Compositions' }).click()],
    ['settings of a composition', ({ page }) => (page.getByRole('button', { name: 'Compositions' }).click(), entry(page, 'Settings'))],
  ],
}

const studio: Journey = {
  name: 'the studio',
  begin: ({ studio, demo }) => studio.open(demo.address, 'lanternfall'),
  states: [
    ['studio', async () => undefined],
    ['add', ({ page }) => page.keyboard.press('a')],
    ['add: nothing found', async ({ page }) => (await page.keyboard.press('a'), page.getByLabel('What to add, and its name').fill('zzz'))],
    ['search', ({ page }) => page.keyboard.press('Control+k')],
    [
      'search: nothing found',
      async ({ page }) => (await page.keyboard.press('Control+k'), page.getByLabel('Search everything').fill('zzz')),
    ],
    ['keys', ({ page }) => page.keyboard.press('?')],
    ['problems', ({ page }) => page.getByTestId('checks').click()],
    ['compositions', ({ page }) => page.getByRole('button', { name: 'Compositions' }).click()],
    [
      'menu of an item',
      async ({ page, studio }) => (await page.getByLabel('Search items').fill('wea'), studio.row('Weather').click({ button: 'right' })),
    ],
    ['menu of a control', ({ page }) => menu(page, 'Wind')],
    ['settings of a control', ({ page }) => menu(page, 'Wind', 'Settings…')],
    ['new control', async ({ page, studio }) => (await seek(page, studio, 'wea', 'Weather'), page.keyboard.press('c'))],
    ['performing', ({ page }) => page.keyboard.press('d')],
    [
      'rehearsal',
      async ({ page }) => {
        await page.keyboard.press('d')
        await page.keyboard.press('Shift+r')
        await page.getByRole('button', { name: 'Rehearse', exact: true }).click()
        await expect(page.getByText(/^Last rehearsal/)).toBeVisible({
          timeout: 60_000,
        })
      },
    ],
    ['insert time', ({ page }) => run(page, 'insert or take out time')],
    [
      'export',
      async ({ page }) => {
        await page.getByRole('button', { name: 'Export', exact: true }).click()
        await page.getByRole('radio', { name: 'Lottie' }).check()
      },
    ],
    ['hand off', ({ page }) => page.getByRole('button', { name: 'Hand off', exact: true }).click()],
    ['before', ({ page }) => page.getByRole('toolbar', { name: 'Viewport' }).getByRole('button', { name: 'Before' }).click()],
    ['trying out', ({ page }) => page.getByRole('button', { name: 'Try out' }).click()],
  ],
}

const card: Journey = {
  name: 'the Card',
  begin: ({ studio, demo }) => studio.open(demo.address, 'lanternfall'),
  states: [
    ['card', ({ page, studio }) => seek(page, studio, 'flag', 'Signal flag')],
    ['link', ({ page }) => page.locator('.chip').first().click()],
    ['menu of a property', ({ page }) => menu(page, 'rotation')],
    ['limits', ({ page }) => menu(page, 'rotation', 'Limits…')],
    ['why', ({ page }) => menu(page, 'rotation', 'Why doesn')],
    ['reach', ({ page }) => menu(page, 'rotation', 'What does it drive')],
    ['several', ({ page, studio }) => seek(page, studio, 'house', 'House 1', 'House 2', 'House 3')],
    ['search properties', ({ page }) => page.getByLabel(/^Search properties/).fill('stroke')],
    ['colour picker', ({ page }) => page.locator('[data-panel=card] .swatch').first().click()],
    [
      'source finder',
      async ({ page, studio }) => {
        await page.getByLabel(/^Search properties/).fill('')
        await studio.field('rotation').getByRole('button', { name: 'rotation', exact: true }).click()
        await page.keyboard.press('l')
        await page.getByLabel('Find a source').fill('wi')
      },
    ],
    ['bake', async ({ page, studio }) => (await seek(page, studio, 'lantern 9', 'Lantern 9'), menu(page, 'rotation', 'Bake to pins'))],
    [
      'formula',
      async ({ page, studio }) => (
        await studio.field('rotation').locator('.chip').click(),
        page.getByRole('button', { name: 'Open wide' }).click()
      ),
    ],
  ],
}

const time: Journey = {
  name: 'time',
  begin: async ({ studio, demo }) => (await studio.open(demo.address, 'lanternfall'), studio.control('Gusts').scrollIntoViewIfNeeded()),
  states: [
    ['menu of a pin', ({ page }) => page.getByRole('button', { name: 'Pin of Wind at frame 50', exact: true }).click({ button: 'right' })],
    [
      'pins in hand',
      async ({ page, studio }) => {
        const from = await studio.middle(
          page.getByRole('button', {
            name: 'Pin of Wind at frame 50',
            exact: true,
          }),
        )
        const to = await studio.middle(
          page.getByRole('button', {
            name: 'Pin of Gusts at frame 150',
            exact: true,
          }),
        )
        await page.mouse.move(to.x + 17, to.y + 9)
        await page.mouse.down()
        await page.mouse.move(from.x - 9, from.y - 9, { steps: 5 })
        await page.mouse.up()
      },
    ],
    ['more of the pins', ({ page }) => page.getByRole('button', { name: 'More to do with the pins' }).click()],
    [
      'smoothing',
      async ({ page }) => (await page.getByRole('button', { name: 'More to do with the pins' }).click(), entry(page, 'Smooth…')),
    ],
    ['curves', async ({ page, studio }) => (await studio.control('Wind').locator('.name').click(), page.keyboard.press('2'))],
    ['ledger', ({ page }) => page.keyboard.press('3')],
    ['a link of the ledger', ({ page }) => page.getByRole('grid', { name: 'Links' }).getByRole('row').nth(3).click()],
  ],
}

const graph: Journey = {
  name: 'a graph',
  begin: async ({ page, studio, demo }) => (await studio.open(demo.address, 'lanternfall'), composition(page, 'Ferry deck')),
  states: [
    ['sheet', ({ page }) => page.keyboard.press('4')],
    ['a slip', async ({ page }) => (await sight(page, 'flicker'), slip(page, 'flicker').click({ position: { x: 3, y: 3 } }))],
    ['menu of a slip', ({ page }) => slip(page, 'flicker').click({ button: 'right', position: { x: 3, y: 3 } })],
    ['finder', ({ page }) => page.keyboard.press('/')],
    ['finder: nothing found', async ({ page }) => (await page.keyboard.press('/'), page.keyboard.type('zzz'))],
    ['raised', ({ page }) => page.keyboard.press('g')],
  ],
}

const poses: Journey = {
  name: 'poses, copies, recipes',
  begin: async ({ page, studio, demo }) => (await studio.open(demo.address, 'lanternfall'), composition(page, 'Dusk')),
  states: [
    ['poses', ({ page }) => menu(page, 'Hour', 'Edit poses…')],
    ['posing', ({ page }) => page.getByRole('button', { name: 'Pose', exact: true }).nth(1).click()],
    [
      'copies',
      async ({ page, studio }) => {
        await page.keyboard.press('Escape')
        await page.keyboard.press('Escape')
        await seek(page, studio, 'festoon', 'Festoon')
      },
    ],
    ['recipes', async ({ page, studio }) => (await seek(page, studio, 'house', 'House 1', 'House 2', 'House 3'), page.keyboard.press('r'))],
    [
      'a recipe with many fields',
      async ({ page }) => (await page.keyboard.press('r'), page.getByRole('button', { name: 'Wave along a row' }).click()),
    ],
    ['save a recipe', async ({ page }) => (await page.keyboard.press('r'), page.getByRole('button', { name: 'Save selection…' }).click())],
  ],
}

const oddEnds: Journey = {
  name: 'odds and ends',
  begin: async ({ studio, server }) => studio.open(server.address, await odds(server)),
  states: [
    ['every kind of control', async () => undefined],
    ['problems of a formula', ({ page }) => page.getByTestId('checks').click()],
    ['a formula with a mistake', async ({ studio }) => (await studio.select('Box'), studio.field('rotation').locator('.chip').click())],
    ['map', ({ studio }) => studio.field('opacity').locator('.chip').click()],
    ['follow', async ({ studio }) => (await studio.select('Tin'), studio.field('rotation').locator('.chip').click())],
    ...['Field', 'Word', 'Rope', 'Dust', 'Lamp', 'Eye', 'Rig'].map((name): [string, Step] => [name, ({ studio }) => studio.select(name)]),
    ['colour of a control', ({ studio }) => studio.control('A colour').locator('.swatch').click()],
  ],
}

/** All that the application shows. */
export const journeys: Journey[] = [project, empty, studio, card, time, graph, poses, oddEnds]

/** Walks a journey, and looks at each of its states once it stands still. */
export async function walk(journey: Journey, by: Walk, look: (state: string) => Promise<void>): Promise<void> {
  const over = by.page
    .locator('.n-modal, .n-dropdown-menu, .n-popover:not(.n-tooltip, .passive), .n-color-picker-panel, .search[role=dialog]')
    .filter({ visible: true })
  await journey.begin(by)
  for (const [name, step] of journey.states) {
    await step(by)
    await by.page.waitForTimeout(350) // what fades in is there
    await look(`${journey.name}: ${name}`)
    if (await over.count()) await by.page.keyboard.press('Escape')
    await expect(over).toHaveCount(0)
  }
}
