import { readFileSync } from 'node:fs'
import { inflateRawSync } from 'node:zlib'
import type { Download, Page } from '@playwright/test'
import { add, change, projectOf } from '../helpers/api'
import { difference, staged } from '../helpers/pixels'
import { expect, test } from '../helpers/test'
import { tone } from '../helpers/tone'

/** The files of a zip, by name: what its directory at the end says of each. */
function unzipped(zip: Buffer): Map<string, Buffer> {
  const out = new Map<string, Buffer>()
  const end = zip.lastIndexOf(Buffer.from('PK\x05\x06', 'latin1'))
  let at = zip.readUInt32LE(end + 16)
  for (let k = 0; k < zip.readUInt16LE(end + 10); k++) {
    const [how, size, named, extra, comment, local] = [
      zip.readUInt16LE(at + 10),
      zip.readUInt32LE(at + 20),
      zip.readUInt16LE(at + 28),
      zip.readUInt16LE(at + 30),
      zip.readUInt16LE(at + 32),
      zip.readUInt32LE(at + 42),
    ]
    const name = zip.toString('utf8', at + 46, at + 46 + named)
    const begin = local + 30 + zip.readUInt16LE(local + 26) + zip.readUInt16LE(local + 28)
    const data = zip.subarray(begin, begin + size)
    out.set(name, how ? inflateRawSync(data) : data)
    at += 46 + named + extra + comment
  }
  return out
}

const whole = async (download: Download): Promise<Buffer> => readFileSync(await download.path())

/** The colour of some pixels of a picture, as the browser reads it. */
const pixels = (page: Page, png: Buffer, places: [x: number, y: number][]): Promise<{ size: number[]; at: number[][] }> =>
  page.evaluate(
    async ({ source, places }) => {
      const image = new Image()
      image.src = 'data:image/png;base64,' + source
      await image.decode()
      const canvas = new OffscreenCanvas(image.width, image.height)
      const context = canvas.getContext('2d')
      context?.drawImage(image, 0, 0)
      return { size: [image.width, image.height], at: places.map(([x, y]) => [...(context?.getImageData(x, y, 1, 1).data ?? [])]) }
    },
    { source: png.toString('base64'), places },
  )

/** A red box that moves by 11 pixels a frame, on a blue ground of 120 × 80; a guide that is no output lies over all of it. */
const moving = [
  { op: 'composition.set', composition: 'main', width: 120, height: 80, frames: 9, background: [0, 0, 1, 1] },
  add({
    id: 'box',
    name: 'Box',
    kind: 'rectangle',
    states: {
      size: { own: [20, 20] },
      fill: { own: [1, 0, 0, 1] },
      position: { links: [{ id: 'l', kind: 'formula', gain: 1, formula: '[frame * 11 - 40, 10]' }] },
    },
  }),
  add({
    id: 'guide',
    name: 'Guide',
    kind: 'rectangle',
    notInOutput: true,
    states: { size: { own: [300, 300] }, fill: { own: [0, 1, 0, 1] } },
  }),
]

test('numbered pictures: of a range, at a size, without the background, and without what is no output', async ({
  page,
  server,
  studio,
}) => {
  await studio.open(server.address, await projectOf(server, 'Numbered', moving))
  await page.getByRole('button', { name: 'Export', exact: true }).click()
  const dialog = page.getByRole('dialog', { name: /^Export / })
  await dialog.getByRole('radio', { name: 'Numbered PNG' }).check()
  await dialog.getByLabel('Width in pixels').fill('240')
  await dialog.getByLabel('Width in pixels').press('Tab')
  await expect(dialog.getByLabel('Height in pixels')).toHaveValue('160')
  await dialog.getByLabel('Range', { exact: true }).click()
  await page.locator('.n-base-select-option:visible').filter({ hasText: 'From … to …' }).click()
  await dialog.getByLabel('First frame').fill('3')
  await dialog.getByLabel('Last frame').fill('7')
  await dialog.getByLabel('Last frame').press('Tab')
  const written = async (): Promise<Map<string, Buffer>> => {
    const [download] = await Promise.all([
      page.waitForEvent('download'),
      dialog.getByRole('button', { name: 'Export', exact: true }).click(),
    ])
    return unzipped(await whole(download))
  }
  const files = await written()
  expect([...files.keys()].map((n) => n.replace(/^.* /, ''))).toEqual(['0003.png', '0004.png', '0005.png', '0006.png', '0007.png'])
  // At frame 6 the box is at 26, 10: in the picture, twice as large, its middle is at 120 + 52, 80 + or - 20.
  const six = [...files].find(([n]) => n.endsWith('0006.png'))?.[1] ?? Buffer.alloc(0)
  const seen = await pixels(page, six, [
    [172, 60],
    [172, 100],
    [30, 30],
  ])
  expect(seen.size).toEqual([240, 160])
  const red = seen.at.filter(([r = 0, g = 0, b = 0]) => r > 200 && g < 40 && b < 40)
  expect(red).toHaveLength(1)
  expect(seen.at[2]).toEqual([0, 0, 255, 255])
  // Once more, without the background.
  await dialog.getByRole('switch', { name: /Transparent/ }).click()
  const bare = await written()
  const clear = await pixels(page, [...bare.values()][3] ?? Buffer.alloc(0), [
    [30, 30],
    [172, 60],
    [172, 100],
  ])
  expect(clear.at[0]?.[3]).toBe(0)
  expect(clear.at.filter(([r = 0, , , a = 0]) => r > 200 && a === 255)).toHaveLength(1)
})

test('moving pictures: MP4 and WebM have all frames, in their time, and show what they should', async ({ page, server, studio }) => {
  await studio.open(server.address, await projectOf(server, 'Moving', moving))
  await page.getByRole('button', { name: 'Export', exact: true }).click()
  const dialog = page.getByRole('dialog', { name: /^Export / })
  for (const [name, type] of [
    ['MP4', 'video/mp4'],
    ['WebM', 'video/webm'],
  ] as const) {
    await dialog.getByRole('radio', { name, exact: true }).check()
    const [download] = await Promise.all([
      page.waitForEvent('download'),
      dialog.getByRole('button', { name: 'Export', exact: true }).click(),
    ])
    const film = await whole(download)
    const seen = await page.evaluate(
      async ({ source, type }) => {
        const video = document.createElement('video')
        video.muted = true
        video.src = URL.createObjectURL(new Blob([Uint8Array.from(atob(source), (c) => c.charCodeAt(0))], { type }))
        await new Promise((done, fail) => {
          video.oncanplaythrough = done
          video.onerror = () => fail(new Error(video.error?.message))
        })
        const canvas = new OffscreenCanvas(video.videoWidth, video.videoHeight)
        const context = canvas.getContext('2d', { willReadFrequently: true })
        /** Where the red box begins and ends, in a row through its middle. */
        const box = async (frame: number): Promise<number[]> => {
          const there = new Promise((done) => (video.onseeked = done))
          video.currentTime = (frame + 0.5) / 25
          await there
          await new Promise((done) => setTimeout(done, 150)) // until the picture of there is the one that is drawn
          context?.drawImage(video, 0, 0)
          for (const y of [30, 50]) {
            const row = context?.getImageData(0, y, canvas.width, 1).data ?? []
            const red = Array.from({ length: canvas.width }, (_, x) => x).filter(
              (x) => (row[4 * x] ?? 0) > 160 && (row[4 * x + 2] ?? 0) < 110,
            )
            if (red.length > 3) return [red[0] ?? -1, red.at(-1) ?? -1]
          }
          return []
        }
        return {
          size: [video.videoWidth, video.videoHeight],
          seconds: video.duration,
          second: await box(2),
          seventh: await box(7),
        }
      },
      { source: film.toString('base64'), type },
    )
    expect(seen.size).toEqual([120, 80])
    expect(seen.seconds).toBeCloseTo(9 / 25, 2)
    const near = (got: number[], left: number): void => {
      expect(Math.abs((got[0] ?? NaN) - left), `${name}: ${got.join()}, want ${left}`).toBeLessThanOrEqual(3)
      expect(Math.abs((got[1] ?? NaN) - left - 19), `${name}: ${got.join()}, want ${left + 19}`).toBeLessThanOrEqual(3)
    }
    near(seen.second, 60 + 2 * 11 - 40 - 10)
    near(seen.seventh, 60 + 7 * 11 - 40 - 10)
  }
})

test('pictures that move: GIF, PNG and WebP, at another rate, as often as wanted, with nothing behind them', async ({
  page,
  server,
  studio,
}) => {
  await studio.open(server.address, await projectOf(server, 'Looping', moving))
  await page.getByRole('button', { name: 'Export', exact: true }).click()
  const dialog = page.getByRole('dialog', { name: /^Export / })
  await expect(dialog.getByRole('img', { name: 'Frame 0 as it will be exported' })).toBeVisible()
  for (const [name, type, hard] of [
    ['Animated GIF', 'image/gif', true],
    ['Animated PNG', 'image/png', false],
    ['Animated WebP', 'image/webp', false],
  ] as const) {
    await dialog.getByRole('radio', { name, exact: true }).check()
    const transparent = dialog.getByRole('switch', { name: /Transparent/ })
    if (!(await transparent.isChecked())) await transparent.click()
    await dialog.getByLabel('Pictures a second').fill('50')
    await dialog.getByLabel('How often it plays').click()
    await page.locator('.n-base-select-option:visible').filter({ hasText: '3 times' }).click()
    await expect(dialog).toContainText('18 pictures, 0.4 s')
    const [download] = await Promise.all([
      page.waitForEvent('download'),
      dialog.getByRole('button', { name: 'Export', exact: true }).click(),
    ])
    const seen = await page.evaluate(
      async ({ source, type }) => {
        const decoder = new ImageDecoder({ data: Uint8Array.from(atob(source), (c) => c.charCodeAt(0)), type })
        await decoder.tracks.ready
        const track = decoder.tracks.selectedTrack
        const at: { lasts: number | null; row: number[][] }[] = []
        for (const frameIndex of [0, 5, 15]) {
          const { image } = await decoder.decode({ frameIndex })
          const canvas = new OffscreenCanvas(image.displayWidth, image.displayHeight)
          const context = canvas.getContext('2d')
          context?.drawImage(image, 0, 0)
          const pixel = (x: number): number[] => [...(context?.getImageData(x, 30, 1, 1).data ?? [])]
          at.push({ lasts: image.duration, row: Array.from({ length: canvas.width }, (_, x) => pixel(x)) })
        }
        return { frames: track?.frameCount, again: track?.repetitionCount, at }
      },
      { source: (await whole(download)).toString('base64'), type },
    )
    expect([seen.frames, seen.again], name).toEqual([18, 2])
    for (const [k, { lasts, row }] of seen.at.entries()) {
      expect(lasts, name).toBe(20_000)
      // The box is between 10 and 30 of the picture's height; its left edge is at 10 + 11 a frame, which is two pictures.
      const left = 60 - 40 - 10 + 11 * ([0, 2.5, 7.5][k] ?? NaN)
      const there = row.flatMap(([r = 0, , b = 0, a = 0], x) => (a > 127 && r > 180 && b < 90 ? [x] : []))
      expect(Math.abs((there[0] ?? NaN) - left), `${name}, ${k}: from ${there[0]}`).toBeLessThanOrEqual(1)
      expect(Math.abs((there.at(-1) ?? NaN) - left - 19), `${name}, ${k}: to ${there.at(-1)}`).toBeLessThanOrEqual(1)
      expect(row[2]?.[3], name).toBe(0)
      const soft = row.filter(([, , , a = 0]) => a > 0 && a < 255).length
      if (hard) expect(soft, name).toBe(0)
    }
  }
})

test('what is not drawn is written by the core: SVG, Lottie, glTF and CSV, and the player with its files', async ({
  page,
  demo,
  studio,
}) => {
  test.setTimeout(120_000)
  await studio.open(demo.address, 'lanternfall')
  await page.getByRole('button', { name: 'Export', exact: true }).click()
  const dialog = page.getByRole('dialog', { name: /^Export / })
  const lacks = dialog.getByRole('region', { name: 'What this format can’t hold' })
  const written = async (name: string): Promise<Buffer> => {
    await dialog.getByRole('radio', { name, exact: true }).check()
    const [download] = await Promise.all([
      page.waitForEvent('download'),
      dialog.getByRole('button', { name: 'Export', exact: true }).click(),
    ])
    return whole(download)
  }
  const svg = (await written('SVG that moves')).toString()
  expect(svg.match(/<animateTransform /g)?.length).toBeGreaterThan(100)
  expect(svg).toContain('href="data:image/png;base64,')
  expect(svg).not.toContain('"asset:')
  await expect(lacks).toContainText('Sparks')
  await expect(dialog.getByLabel('Pictures a second')).toHaveCount(0)
  const lottie = JSON.parse((await written('Lottie')).toString()) as { op: number; layers: object[]; assets: { p: string }[] }
  expect([lottie.op, lottie.layers.length > 100]).toEqual([300, true])
  for (const { p } of lottie.assets) expect(p).toMatch(/^data:image\/png;base64,/)
  expect(lottie.assets.length).toBeGreaterThan(1)
  await expect(lacks).not.toContainText('Signal flag')
  await expect(dialog.getByRole('img', { name: /as it will be exported/ })).toHaveAttribute('src', /data%3Aimage%2Fpng/)
  expect((await written('glTF')).subarray(0, 4).toString()).toBe('glTF')
  await expect(lacks).toContainText('cone angle: as at the first frame')
  const csv = (await written('CSV')).toString().trimEnd().split('\n')
  expect([csv.length, csv[0]?.startsWith('frame,Weather: Wind,')]).toEqual([301, true])
  await expect(lacks).toHaveCount(0)
  const still = (await written('SVG of a frame')).toString()
  expect(still).not.toContain('<animate')
  const files = unzipped(await written('Player'))
  expect([...files.keys()].filter((name) => !name.startsWith('assets/')).sort()).toEqual([
    'composition.json',
    'core.js',
    'core.wasm',
    'index.html',
    'page.css',
    'player.js',
    'still.webp',
  ])
  // Show leads to what is left out.
  await dialog.getByRole('radio', { name: 'Lottie', exact: true }).check()
  await lacks.locator('p').filter({ hasText: 'Sparks' }).getByRole('button', { name: 'Show' }).click()
  await expect(dialog).toHaveCount(0)
  await expect(page.getByRole('treeitem', { selected: true })).toContainText('Sparks')
})

test('a formula without a result at some frame is listed before anything is written, and leads to its item', async ({
  page,
  server,
  studio,
}) => {
  const formula = { id: 'l', kind: 'formula', gain: 1, formula: '70 / (frame - 13)' }
  await studio.open(
    server.address,
    await projectOf(server, 'Odd', [
      add({ id: 'vane', name: 'Vane', kind: 'rectangle', states: { rotation: { links: [formula] } } }),
      add({ id: 'roof', name: 'Roof', kind: 'rectangle' }),
    ]),
  )
  await page.getByRole('button', { name: 'Export', exact: true }).click()
  const listed = page.getByRole('region', { name: 'Formulas without a result at some frame' })
  await expect(listed).toContainText('Vanethe formula of rotation has no result at frame 13')
  await listed.getByRole('button', { name: 'Show' }).click()
  await expect(page.getByRole('treeitem', { selected: true })).toContainText('Vane')
})

test('one frame is written as a picture', async ({ page, server, studio }) => {
  await studio.open(server.address, await projectOf(server, 'One', moving))
  await studio.seek(4)
  await page.getByRole('button', { name: 'Export', exact: true }).click()
  const dialog = page.getByRole('dialog', { name: /^Export / })
  await dialog.getByRole('radio', { name: 'PNG of a frame' }).check()
  await expect(dialog.getByLabel('Frame', { exact: true })).toHaveValue('4')
  await expect(dialog.getByLabel('Range', { exact: true })).toHaveCount(0)
  const [download] = await Promise.all([page.waitForEvent('download'), dialog.getByRole('button', { name: 'Export', exact: true }).click()])
  expect(download.suggestedFilename()).toBe('Composition 1 0004.png')
  const seen = await pixels(page, await whole(download), [
    [63, 30],
    [63, 50],
  ])
  expect(seen.size).toEqual([120, 80])
  expect(seen.at.filter(([r = 0]) => r === 255)).toHaveLength(1)
})

test('motion blur is the average of what passes while the shutter is open, in linear light', async ({ page, server, studio }) => {
  await studio.open(server.address, await projectOf(server, 'Blurred', moving))
  await page.getByRole('button', { name: 'Export', exact: true }).click()
  const dialog = page.getByRole('dialog', { name: /^Export / })
  await dialog.getByRole('radio', { name: 'Numbered PNG' }).check()
  await dialog.getByRole('switch', { name: 'Motion blur' }).click()
  await dialog.getByLabel('Shutter angle in degrees').fill('360')
  await dialog.getByLabel('Samples of a frame').fill('11')
  await dialog.getByLabel('Samples of a frame').press('Tab')
  const [download] = await Promise.all([page.waitForEvent('download'), dialog.getByRole('button', { name: 'Export', exact: true }).click()])
  const files = unzipped(await whole(download))
  expect(files.size).toBe(9)
  const five = [...files].find(([n]) => n.endsWith('0005.png'))?.[1] ?? Buffer.alloc(0)
  // At frame 5 the box is at 15: from 65 to 85, and with the shutter open for a frame, from 59.5 to 90.5.
  const row = Array.from({ length: 120 }, (_, x): [number, number] => [x, 30])
  const other = row.map(([x]): [number, number] => [x, 50])
  const seen = await pixels(page, five, [...row, ...other])
  const reds = [seen.at.slice(0, 120), seen.at.slice(120)].map((line) => line.map(([r = 0]) => r)).find((line) => line[75] === 255) ?? []
  expect(reds.slice(0, 58).every((r) => r === 0)).toBe(true)
  expect(reds.slice(93).every((r) => r === 0)).toBe(true)
  expect(reds.filter((r) => r === 255).length).toBeGreaterThanOrEqual(8)
  expect(reds.filter((r) => r === 255).length).toBeLessThanOrEqual(11)
  for (let x = 59; x < 70; x++) expect(reds[x + 1], `at ${x + 1}`).toBeGreaterThanOrEqual(reds[x] ?? 0)
  // Half of the light is 188 of 255, and not 128.
  expect(Math.abs((reds[65] ?? 0) - 188)).toBeLessThan(16)
})

test('a long export goes on while one works, and is cancelled', async ({ page, demo, studio }) => {
  await studio.open(demo.address, 'lanternfall')
  await page.getByRole('button', { name: 'Export', exact: true }).click()
  const dialog = page.getByRole('dialog', { name: /^Export / })
  const lacks = dialog.getByRole('region', { name: 'What this format can’t hold' })
  await expect(lacks).toHaveCount(0)
  await dialog.getByRole('radio', { name: 'Numbered PNG' }).check()
  await expect(lacks).toContainText('Festival music')
  await dialog.getByRole('radio', { name: 'MP4' }).check()
  await dialog.getByRole('button', { name: 'Export', exact: true }).click()
  await expect(dialog.getByRole('status')).toContainText(/frame [1-9]\d* of 300/)
  await dialog.getByRole('button', { name: 'Close', exact: true }).last().click()
  await expect(dialog).toHaveCount(0)
  await studio.fader('Wind', 0.7)
  await expect.poll(() => studio.value(studio.control('Wind').locator('button.value'))).toBeGreaterThan(20)
  await page.getByRole('button', { name: /^Exporting, / }).click()
  await dialog.getByRole('button', { name: 'Cancel export' }).click()
  await expect(page.getByText('The export was cancelled.')).toBeVisible()
  await expect(page.getByRole('button', { name: 'Export', exact: true }).first()).toBeVisible()
})

test('a sound goes along, from the frame that it begins at, as loud as its volume', async ({ page, server, studio }) => {
  await studio.open(
    server.address,
    await projectOf(server, 'Heard', [{ op: 'composition.set', composition: 'main', width: 64, height: 48, frames: 50 }]),
  )
  await studio.seek(10)
  await studio.bring([{ name: 'hum.wav', mimeType: '', buffer: tone(3, () => 0.8) }])
  await expect(page.locator('[data-ruler]').getByRole('button', { name: 'hum, sound from frame 10' })).toBeVisible()
  // Loud until frame 30, then a quarter as loud, from one frame to the next.
  await studio.select('hum')
  await studio.field('volume').getByRole('button', { name: 'Actions for' }).click()
  await page
    .locator('.n-dropdown-option')
    .filter({ hasText: /^Formula$/ })
    .click()
  await page.locator('.cm-content').click()
  await page.keyboard.press('Control+a')
  await page.keyboard.insertText('if(frame < 30, 100, 25)')
  await page.keyboard.press('Control+Enter')
  await studio.saved()
  await page.getByRole('button', { name: 'Export', exact: true }).click()
  const dialog = page.getByRole('dialog', { name: /^Export / })
  for (const name of ['WebM', 'MP4']) {
    await dialog.getByRole('radio', { name, exact: true }).check()
    const [download] = await Promise.all([
      page.waitForEvent('download'),
      dialog.getByRole('button', { name: 'Export', exact: true }).click(),
    ])
    const loud = await page.evaluate(
      async (source) => {
        const bytes = Uint8Array.from(atob(source), (c) => c.charCodeAt(0))
        const sound = await new OfflineAudioContext(2, 1, 8000).decodeAudioData(bytes.buffer)
        const samples = sound.getChannelData(1)
        /** The root mean square between two frames. */
        const between = (a: number, b: number): number => {
          const part = samples.slice((a / 25) * 8000, (b / 25) * 8000)
          return Math.sqrt(part.reduce((sum, x) => sum + x * x, 0) / part.length)
        }
        return [between(1, 8), between(13, 27), between(34, 47)]
      },
      (await whole(download)).toString('base64'),
    )
    const [before = NaN, full = NaN, quarter = NaN] = loud
    expect(before, name).toBeLessThan(0.01)
    expect(full, name).toBeGreaterThan(0.4)
    expect(quarter / full, name).toBeCloseTo(0.25, 1)
  }
})

test('what is exported of the compositions of the demo is what the viewport shows', async ({ page, demo, studio }) => {
  test.setTimeout(180_000)
  await page.addInitScript(() => {
    localStorage.setItem('wunderkammer:smooth', 'on')
    localStorage.setItem('wunderkammer:marks', 'false')
  })
  await page.setViewportSize({ width: 1900, height: 1200 })
  // What the studio shows and is no output is hidden there as well.
  const { project } = (await (await fetch(`${demo.address}/api/projects/lanternfall`)).json()) as {
    project: {
      compositions: {
        id: string
        name: string
        width: number
        height: number
        reading?: string
        items: { id: string; notInOutput?: boolean }[]
      }[]
    }
  }
  const all = project.compositions.filter((c) => !c.reading)
  for (const [base, c] of all.entries()) {
    const guides = c.items.filter((item) => item.notInOutput)
    const hide = guides.map(({ id }) => ({ op: 'item.set', item: id, hidden: true }))
    await change(demo, 'lanternfall', base, [{ op: 'composition.set', name: c.name }, ...hide], c.id)
  }
  await studio.open(demo.address, 'lanternfall')
  await page.addStyleTag({ content: '[data-panel=viewport] :not(canvas, :has(canvas)) { opacity: 0 !important }' })
  // In the middle of a viewport of odd size, the picture would lie between its pixels.
  for (let height = 1200; ; height++) {
    await page.setViewportSize({ width: 1900, height })
    const box = await page.getByTestId('stage').boundingBox()
    if (box && box.width % 2 === 0 && box.height % 2 === 0) break
  }
  const dialog = page.getByRole('dialog', { name: /^Export / })
  for (const [k, { name, width, height }] of all.entries()) {
    if (k) {
      await page.getByRole('button', { name: 'Compositions' }).click()
      await page.locator('.n-dropdown-option').filter({ hasText: name }).click()
      await expect(page.getByRole('button', { name: `Composition name: ${name}` })).toBeVisible()
    }
    const frame = 61 + 23 * k
    await studio.seek(frame)
    const shown = await staged(page, width, height)
    await page.getByRole('button', { name: 'Export', exact: true }).click()
    await dialog.getByRole('radio', { name: 'Numbered PNG' }).check()
    await dialog.getByLabel('Range', { exact: true }).click()
    await page.locator('.n-base-select-option:visible').filter({ hasText: 'From … to …' }).click()
    await dialog.getByLabel('First frame').fill(String(frame))
    await dialog.getByLabel('Last frame').fill(String(frame))
    await dialog.getByLabel('Last frame').press('Tab')
    const [download] = await Promise.all([
      page.waitForEvent('download'),
      dialog.getByRole('button', { name: 'Export', exact: true }).click(),
    ])
    const [[file, picture] = ['', Buffer.alloc(0)]] = unzipped(await whole(download))
    expect(file).toContain(`${name} 0${String(frame).padStart(3, '0')}.png`)
    const share = await difference(page, picture, shown)
    console.log(`${name}, frame ${frame}: ${share.toFixed(2)} % of the pixels differ`)
    expect(share, name).toBeLessThan(0.2)
    await dialog.getByRole('button', { name: 'Close', exact: true }).last().click()
    await expect(dialog).toHaveCount(0)
  }
})
