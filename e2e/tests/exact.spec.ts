import { run } from '../helpers/server'
import { expect, test } from '../helpers/test'

/** Reads what the command line prints, frame by frame: every number of every property, and texts as they are. */
function printed(last: number): (number | string)[][] {
  const frames: (number | string)[][] = []
  for (const line of run('eval', 'demo', '--frame', '0', '--to', String(last)).trimEnd().split('\n')) {
    if (/^frame \d+$/.test(line)) {
      frames.push([])
      continue
    }
    const out = frames[frames.length - 1] as (number | string)[]
    const value = line.slice(line.indexOf('\t') + 1)
    if (value.startsWith('"')) out.push(JSON.parse(value) as string)
    else for (const x of value.replace(/[[\]]/g, '').split(', ')) out.push(Number(x))
  }
  return frames
}

test('the browser and the command line give the same bits at every frame of the demo', async ({ page, demo, studio }) => {
  test.setTimeout(180_000)
  await studio.open(demo.address, 'lanternfall')
  const frames = printed(299)
  expect(frames).toHaveLength(300)
  let compared = 0
  for (const [frame, expected] of frames.entries()) {
    const shown = await page.evaluate(async (f) => ({ values: Array.from(await window.wunderkammer.values(f)), texts: window.wunderkammer.texts() }), frame)
    const wrong = expected.findIndex((want, i) => (typeof want === 'string' ? shown.texts[shown.values[i] as number] !== want : !Object.is(shown.values[i], want)))
    if (wrong >= 0) throw new Error(`frame ${frame}, number ${wrong}: the browser has ${shown.values[wrong]}, the command line ${expected[wrong]}`)
    compared += expected.length
  }
  expect(compared).toBeGreaterThan(300 * 5000)
})

test('what the Card shows is what the command line prints', async ({ demo, studio }) => {
  await studio.open(demo.address, 'lanternfall')
  await studio.row('Upper garland').getByRole('button', { name: 'Unfold' }).click()
  await studio.select('Lantern 3')
  for (const frame of [0, 50]) {
    await studio.seek(frame)
    const printedValue = run('eval', 'demo', '--frame', String(frame), 'Lantern 3: rotation').trim()
    await expect(studio.property('rotation').locator('button.value')).toHaveAttribute('data-value', printedValue)
  }
})
