import type { Page } from '@playwright/test'
import { watchScript } from '../helpers/costs'
import { add, projectOf } from '../helpers/api'
import { pictured } from '../helpers/picture'
import { test } from '../helpers/test'

/** Prints how many frames a second are drawn while a composition plays, and what they cost the page. */

const rig = add({
  id: 'rig',
  name: 'Rig',
  kind: 'null',
  controls: [{ id: 'turn', name: 'Turn', kind: 'angle', default: 0 }],
  states: {
    turn: {
      own: null,
      pins: [
        { frame: 0, value: 0, easing: 'linear' },
        { frame: 299, value: 720, easing: 'linear' },
      ],
    },
  },
})
const follow = (id: string): object => ({
  own: null,
  links: [{ id, kind: 'follow', source: { item: 'rig', property: 'turn' }, gain: 1, offset: 0 }],
})
const colour = (i: number): number[] => [0.3 + (0.6 * ((i * 7) % 10)) / 10, 0.3 + (0.6 * ((i * 3) % 10)) / 10, 0.4, 1]

const shapes = (n: number): object[] => [
  rig,
  ...Array.from({ length: n }, (_, i) =>
    add({
      id: `i${i}`,
      name: `Item ${i}`,
      kind: ['rectangle', 'ellipse', 'star', 'polygon'][i % 4],
      states: {
        size: { own: [22, 22] },
        position: { own: [(i % 40) * 31 - 605, Math.floor(i / 40) * 27 - 340, 0] },
        fill: { own: colour(i) },
        rotation: follow(`l${i}`),
      },
    }),
  ),
]

const objects = (n: number): object[] => [
  rig,
  add({ id: 'sun', name: 'Sun', kind: 'directionalLight', states: { position: { own: [-300, 400, 500] } } }),
  add({ id: 'lamp', name: 'Lamp', kind: 'pointLight', states: { position: { own: [0, 0, 200] } } }),
  add({ id: 'sky', name: 'Sky', kind: 'ambientLight', states: { intensity: { own: 40 } } }),
  ...Array.from({ length: n }, (_, i) =>
    add({
      id: `o${i}`,
      name: `Object ${i}`,
      kind: ['box', 'ball', 'cylinder', 'cone', 'torus', 'capsule'][i % 6],
      states: {
        size: { own: [44, 44, 44] },
        position: { own: [(i % 20) * 62 - 590, Math.floor(i / 20) * 66 - 300, 0] },
        colour: { own: colour(i) },
        rotationX: { own: 30 },
        rotationY: follow(`l${i}`),
      },
    }),
  ),
]

const sparks = (n: number): object[] => [
  add({
    id: 'e',
    name: 'Sparks',
    kind: 'emitter',
    states: {
      rate: { own: n / 2 },
      life: { own: 2 },
      variety: { own: 0 },
      warmUp: { own: 3 },
      spread: { own: 360 },
      speed: { own: 250 },
      gravity: { own: 20 },
    },
  }),
]

async function play(page: Page, seconds: number): Promise<string> {
  const drawn = async (): Promise<number> => Number((await page.getByTestId('stage').getAttribute('data-drawn'))?.split(':')[1])
  await page.keyboard.press('Space')
  await page.waitForTimeout(500)
  const [first, began, script] = [await drawn(), Date.now(), await watchScript(page)]
  await page.waitForTimeout(seconds * 1000)
  const frames = (await drawn()) - first
  const took = (Date.now() - began) / 1000
  return `${(frames / took).toFixed(1)} frames a second, ${((await script()) / frames).toFixed(1)} ms of the page's script for each`
}

for (const [name, ops] of [
  ['1,000 shapes', shapes(1000)],
  ['200 lit objects', objects(200)],
  ['20,000 particles', sparks(20_000)],
] as const) {
  test(`playing ${name}`, async ({ page, server, studio }) => {
    const id = await projectOf(server, name, [...ops])
    const began = Date.now()
    await studio.open(server.address, id)
    console.log(`\n${name}: opened until the first picture: ${await pictured(page)} ms; until the core is ready: ${Date.now() - began} ms`)
    console.log(`${name}: ${await play(page, 4)}`)
  })
}
