import { execFileSync, spawn, spawnSync } from 'node:child_process'
import { existsSync, mkdtempSync, readdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import type { Server } from '../helpers/server'
import { add, projectOf } from '../helpers/api'
import { difference } from '../helpers/pixels'
import { binary } from '../helpers/server'
import { expect, test } from '../helpers/test'
import { tone } from '../helpers/tone'

let folder = ''
test.beforeAll(() => (folder = mkdtempSync(join(tmpdir(), 'export-'))))
test.afterAll(() => rmSync(folder, { recursive: true, force: true }))

/** Runs the command until it ends. */
function run(...args: string[]): { code: number | null; says: string } {
  const { status, stderr } = spawnSync(binary, ['export', ...args], { encoding: 'utf8', timeout: 120_000 })
  return { code: status, says: stderr }
}

/** What a file of moving pictures holds, as ffprobe reads it. */
function probed(file: string, ...show: string[]): Record<string, string>[] {
  const out = execFileSync('ffprobe', ['-v', 'error', '-count_frames', '-of', 'json', ...show, file], { encoding: 'utf8' })
  return (JSON.parse(out) as { streams: Record<string, string>[] }).streams
}

/** A project with a red box that moves by 11 pixels a frame over blue, as a package. */
async function packed(server: Server, name: string, more: object[] = []): Promise<string> {
  const id = await projectOf(server, name, [
    { op: 'composition.set', composition: 'main', width: 320, height: 180, frames: 23, rate: 24, background: [0, 0, 1, 1] },
    add({
      id: 'box',
      name: 'Box',
      kind: 'rectangle',
      states: {
        size: { own: [40, 40] },
        fill: { own: [1, 0, 0, 1] },
        position: { links: [{ id: 'l', kind: 'formula', gain: 1, formula: '[frame * 11 - 120, 25]' }] },
      },
    }),
    ...more,
  ])
  const file = join(folder, `${name}.wunderkammer`)
  const answer = await fetch(`${server.address}/api/projects/${id}/package`)
  writeFileSync(file, Buffer.from(await answer.arrayBuffer()))
  return file
}

test('the command writes moving pictures that ffprobe reads: all frames, in their size and rate', async ({ server }) => {
  test.setTimeout(120_000)
  const file = await packed(server, 'Written')
  for (const [ending, codec] of [
    ['mp4', 'h264'],
    ['webm', 'vp9'],
  ] as const) {
    const out = join(folder, `out.${ending}`)
    expect(run(file, '-o', out, '--from', '2', '--to', '18', '--width', '480'), ending).toMatchObject({ code: 0 })
    const [video] = probed(out, '-show_streams')
    expect(video, ending).toMatchObject({ codec_name: codec, width: 480, height: 270, nb_read_frames: '17', r_frame_rate: '24/1' })
    // The picture at the 13th frame is the one of frame 15, where the box is at 45 of 160, which is 307 of 480.
    const raw = execFileSync(
      'ffmpeg',
      ['-v', 'error', '-i', out, '-vf', 'select=eq(n\\,13)', '-frames:v', '1', '-f', 'rawvideo', '-pix_fmt', 'rgb24', '-'],
      { maxBuffer: 1 << 24 },
    )
    const red = Array.from({ length: 480 }, (_, x) => x).filter((x) => (raw[3 * (97 * 480 + x)] ?? 0) > 150)
    expect(Math.abs((red[0] ?? NaN) - 277.5), ending).toBeLessThan(3)
    expect(Math.abs((red.at(-1) ?? NaN) - 336.5), ending).toBeLessThan(3)
  }
})

test('the command draws what the studio draws', async ({ page, demo, studio }) => {
  test.setTimeout(120_000)
  const out = join(folder, 'frame.png')
  expect(run('demo#Buoy', '--as', 'picture', '--from', '83', '-o', out)).toMatchObject({ code: 0 })
  await studio.open(demo.address, 'lanternfall')
  await page.getByRole('button', { name: 'Compositions' }).click()
  await page.locator('.n-dropdown-option').filter({ hasText: 'Buoy' }).click()
  await studio.seek(83)
  await page.getByRole('button', { name: 'Export', exact: true }).click()
  const dialog = page.getByRole('dialog', { name: /^Export / })
  await dialog.getByRole('radio', { name: 'PNG of a frame' }).check()
  const [download] = await Promise.all([page.waitForEvent('download'), dialog.getByRole('button', { name: 'Export', exact: true }).click()])
  expect(await difference(page, readFileSync(out), readFileSync(await download.path()))).toBeLessThan(0.02)
})

test('a sound goes along from the command, too', async ({ page, server, studio }) => {
  test.setTimeout(120_000)
  const id = await projectOf(server, 'Humming', [{ op: 'composition.set', composition: 'main', width: 64, height: 48, frames: 50 }])
  await studio.open(server.address, id)
  await studio.bring([{ name: 'hum.wav', mimeType: '', buffer: tone(3, () => 0.8) }])
  await expect(page.locator('[data-ruler]').getByRole('button', { name: 'hum, sound from frame 0' })).toBeVisible()
  await studio.saved()
  const file = join(folder, 'hum.wunderkammer')
  writeFileSync(file, Buffer.from(await (await page.request.get(`${server.address}/api/projects/${id}/package`)).body()))
  const out = join(folder, 'hum.webm')
  expect(run(file, '-o', out)).toMatchObject({ code: 0 })
  const [video, sound] = probed(out, '-show_streams')
  expect(video?.nb_read_frames).toBe('50')
  expect(sound).toMatchObject({ codec_name: 'opus', sample_rate: '48000', channels: 2 })
})

test('what can’t be written is said, and nothing is left behind', async ({ server }) => {
  test.setTimeout(120_000)
  const file = await packed(server, 'Refused')
  const inside = join(folder, 'refused')
  expect(run(file, '-o', join(inside, 'x.mp4')).says).toContain('can’t be written'.replace('’', "'"))
  expect(run(file, '-o', join(folder, 'x.doc')).says).toContain('name one with --as')
  expect(run(file, '-o', join(folder, 'x.mp4'), '--to', '23').says).toContain('has the frames 0 to 22, not 0 to 23')
  expect(run(file, '-o', join(folder, 'x.mp4'), '--chromium', '/no/such').says).toContain('there is no Chromium at /no/such')
  // What is written leaves nothing of the browser either.
  const crumbs = (): number => readdirSync(tmpdir()).filter((name) => name.startsWith('org.chromium')).length
  const lying = crumbs()
  expect(run(file, '-o', join(folder, 'x.mp4')).code).toBe(0)
  expect(crumbs()).toBe(lying)
  // The browser dies under it. What was there before is none of its.
  const open = (): string[] => readdirSync(tmpdir()).filter((name) => name.startsWith('wunderkammer-draw-'))
  const before = open()
  const out = join(folder, 'dead.mp4')
  const child = spawn(binary, ['export', 'demo', '-o', out])
  let says = ''
  const ended = new Promise<number | null>((done) => child.on('exit', done))
  await new Promise<void>((done) =>
    child.stderr.on('data', (text: Buffer) => {
      says += text.toString()
      if (says.includes('picture ')) done()
    }),
  )
  const studios = open().filter((name) => !before.includes(name))
  expect(studios).toHaveLength(1)
  spawnSync('pkill', ['-9', '-f', `type=.*${studios[0]}|${studios[0]}.*--headless|--user-data-dir=.*${studios[0]}`])
  expect(await ended).toBe(2)
  expect(says).toContain('Chromium has ended')
  expect(existsSync(out)).toBe(false)
  expect(open().filter((name) => !before.includes(name))).toHaveLength(0)
  expect(readdirSync(folder).filter((name) => name.startsWith('.export'))).toHaveLength(0)
})
