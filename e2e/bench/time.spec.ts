import { watchScript } from '../helpers/costs'
import { add, projectOf } from '../helpers/api'
import { learnt, setFaders } from '../helpers/box'
import { expect, test } from '../helpers/test'

/** Prints what pins by thousands cost the page, a step each. */

const tracks = Array.from({ length: 20 }, (_, d) =>
  add({
    id: `d${d}`,
    name: `Drawer ${d}`,
    kind: 'null',
    controls: Array.from({ length: 10 }, (_, k) => ({
      id: `c${d}x${k}`,
      name: `Control ${d}.${k}`,
      kind: 'fader',
      softMax: 100,
      default: 0,
    })),
    states: Object.fromEntries(
      Array.from({ length: 10 }, (_, k) => [
        `c${d}x${k}`,
        { pins: Array.from({ length: 25 }, (_, n) => ({ frame: n * 11 + (k % 5), value: (n * 37 + k * 11) % 100, easing: 'smooth' })) },
      ]),
    ),
  }),
)

test('5,000 pins on 200 tracks', async ({ page, server, studio }) => {
  await studio.open(server.address, await projectOf(server, 'Pins', tracks))
  const body = page.locator('[data-panel=desk] .body')
  await expect(page.locator('[data-track]')).toHaveCount(200)
  const step = async (what: string, times: number, act: (k: number) => Promise<void>): Promise<void> => {
    const script = await watchScript(page)
    for (let k = 0; k < times; k++) {
      await act(k)
      await page.waitForTimeout(30)
    }
    console.log(`\n5,000 pins, ${what}: ${((await script()) / times).toFixed(1)} ms of the page's script for each step`)
  }
  const box = await body.boundingBox()
  if (!box) throw new Error('no desk')
  await page.mouse.move(box.x + box.width - 200, box.y + 100)
  await step('scrolling', 40, (k) => page.mouse.wheel(0, k < 20 ? 260 : -260))
  await step('zooming', 20, async (k) => {
    await page.keyboard.down('Control')
    await page.mouse.wheel(0, k < 10 ? -60 : 60)
    await page.keyboard.up('Control')
  })
  await body.evaluate((b) => (b.scrollTop = 0))
  // A frame over all that can be seen, then on while it scrolls: picked by what the core of the page has, 2,000 of them.
  const first = await studio.middle(page.locator('[data-track] .pin').first())
  const right = box.x + box.width - 40
  await page.mouse.move(right, first.y - 9)
  await page.mouse.down()
  await step('drawing a frame over them', 30, (k) => page.mouse.move(right - 20 * k, first.y + 5 * k))
  // On to the edge, over what is out of sight, until there are 2,000.
  const tools = page.getByRole('group', { name: 'Picked pins' })
  await page.mouse.move(first.x + 190, box.y + box.height - 2)
  await expect.poll(async () => parseInt(await tools.innerText()), { timeout: 60_000, intervals: [50] }).toBeGreaterThan(2000)
  await page.mouse.up()
  console.log(`picked: ${(await tools.innerText()).split('\n')[0]}`)
  await body.evaluate((b) => (b.scrollTop = 0))
  await page.waitForTimeout(500)
  const grip = await studio.middle(page.locator('[data-track] .pin.on').nth(3))
  await page.mouse.move(grip.x, grip.y)
  await page.mouse.down()
  await step('dragging those that are picked', 30, (k) => page.mouse.move(grip.x + 3 + 4 * k, grip.y))
  await page.mouse.up()
})

const names = ['Wind', 'Glow', 'Tide', 'Sway']
const desk = add({
  id: 'rig',
  name: 'Rig',
  kind: 'null',
  controls: names.map((name) => ({ id: name.toLowerCase(), name, kind: 'fader', softMax: 100, default: 0 })),
})

test('four controls performed for 20 seconds', async ({ page, server, studio, watch }) => {
  await studio.open(
    server.address,
    await projectOf(server, 'Performance', [desk, { op: 'composition.set', composition: 'main', frames: 900 }]),
  )
  // What it takes in the studio alone: the box that is performed with is a page of its own process.
  await (await learnt(page, studio, watch, 'Rig', names)).close()
  const box = await page.context().newPage()
  await box.goto(`${server.address}/box`)
  await page.bringToFront()
  await setFaders(box, [1, 2, 3, 4], 0)
  await page.waitForTimeout(800)
  await page.getByRole('button', { name: 'Record', exact: true }).click()
  await expect(page.getByRole('status').filter({ hasText: 'Recording' })).toBeVisible()
  const script = await watchScript(page)
  // The box moves all four by itself, fifty times a second, each in its own way.
  await box.evaluate(
    () =>
      new Promise<void>((done) => {
        const began = performance.now()
        const timer = setInterval(() => {
          const t = (performance.now() - began) / 1000
          for (let k = 1; k <= 4; k++) {
            const fader = document.querySelector<HTMLInputElement>(`[aria-label="Fader ${k}"]`)
            if (!fader) throw new Error('no fader')
            fader.value = String(0.5 - 0.5 * Math.cos(t * (0.7 + 0.3 * k)))
            fader.dispatchEvent(new Event('input', { bubbles: true }))
          }
          if (t > 20) {
            clearInterval(timer)
            done()
          }
        }, 20)
      }),
  )
  const ran = await script()
  await page.keyboard.press('Escape')
  await expect(page.getByText(/^Performed 4 controls into \d+ pins\.$/)).toBeVisible()
  for (const name of names) {
    const frames = await studio
      .track(name)
      .locator('.pin')
      .evaluateAll((all) => all.map((p) => Number((p.ariaLabel ?? '').split(' ').at(-1))))
    const holes = frames.slice(1).filter((f, k) => f - (frames[k] ?? 0) !== 1).length
    console.log(`\n${name}: ${frames.length} pins from frame ${frames[0]} to ${frames.at(-1)}, ${holes} holes`)
  }
  // Playing what was performed, without a hand and without the box, for comparison.
  await box.close()
  await page.keyboard.press('Home')
  const playing = await watchScript(page)
  await page.keyboard.press('Space')
  await page.waitForTimeout(10_000)
  await page.keyboard.press('Space')
  const [performed, played] = [ran / (20 * 25), (await playing()) / (10 * 25)]
  console.log(`\nperforming four controls: ${performed.toFixed(1)} ms of script a frame; playing: ${played.toFixed(1)} ms`)
})
