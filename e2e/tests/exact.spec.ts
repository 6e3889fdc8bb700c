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
    const numbers = Buffer.from(Float64Array.from(expected, (want) => (typeof want === 'string' ? NaN : want)).buffer).toString('base64')
    const texts = expected.flatMap((want, at) => (typeof want === 'string' ? [{ at, want }] : []))
    const wrong = await page.evaluate(async (given) => {
      const want = new Float64Array(Uint8Array.from(atob(given.numbers), (c) => c.charCodeAt(0)).buffer)
      const values = await window.wunderkammer.values(given.frame)
      const written = new Map(given.texts.map((t) => [t.at, t.want]))
      const at = want.findIndex((x, i) => (written.has(i) ? window.wunderkammer.texts()[values[i] as number] !== written.get(i) : !Object.is(values[i], x)))
      return at < 0 ? '' : `number ${at}: the browser has ${values[at]}, the command line ${written.get(at) ?? want[at]}`
    }, { frame, numbers, texts })
    expect(wrong, `frame ${frame}`).toBe('')
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
    await expect(studio.field('rotation').locator('button.value')).toHaveAttribute('data-value', printedValue)
  }
})

test('particles are the same played to and jumped to, in the browser and on the command line', async ({ page, demo, studio }) => {
  await studio.open(demo.address, 'lanternfall')
  const fly = (frame: number): Promise<number[]> => page.evaluate(async (f) => Array.from(await window.wunderkammer.particles(f)), frame)
  const jumped = await fly(200)
  for (let f = 150; f < 200; f++) await fly(f)
  const played = await fly(200)
  expect(played).toEqual(jumped)
  const printedLines = run('eval', 'demo', '--frame', '200', '--particles', 'Sparks').trimEnd().split('\n')
  expect(printedLines.length).toBeGreaterThan(50)
  // The browser hands them over as single precision, behind the index of the emitter and their number.
  const expected = printedLines.flatMap((line) => line.split('\t').map((x) => Math.fround(Number(x))))
  expect(played[1]).toBe(printedLines.length)
  expect(played.slice(2)).toEqual(expected)
})
