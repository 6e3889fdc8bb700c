import { execFileSync, spawn, type ChildProcess } from 'node:child_process'
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs'
import { createServer } from 'node:net'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { add, projectOf } from '../helpers/api'
import { binary, run, Server } from '../helpers/server'
import { expect, test } from '../helpers/test'

let folder = ''
const running: ChildProcess[] = []
test.beforeAll(() => (folder = mkdtempSync(join(tmpdir(), 'farm-'))))
test.afterAll(() => {
  for (const child of running) child.kill('SIGKILL')
  rmSync(folder, { recursive: true, force: true })
})

const free = (): Promise<number> =>
  new Promise((done) => {
    const server = createServer().listen(0, '127.0.0.1', () => {
      const { port } = server.address() as { port: number }
      server.close(() => done(port))
    })
  })

/** A command that runs, and what it says. */
function begin(...args: string[]): { child: ChildProcess; says: () => string; ended: Promise<number | null> } {
  const child = spawn(binary, args)
  running.push(child)
  let text = ''
  child.stderr.on('data', (more: Buffer) => (text += more.toString()))
  return { child, says: () => text, ended: new Promise((done) => child.on('exit', done)) }
}

/** The sums of all frames of a moving picture, decoded. */
const sums = (file: string): string[] =>
  execFileSync('ffmpeg', ['-v', 'error', '-i', file, '-map', '0:v', '-f', 'framemd5', '-'], { encoding: 'utf8' })
    .split('\n')
    .filter((line) => line && !line.startsWith('#'))
    .map((line) => line.split(',').at(-1)?.trim() ?? '')

test('an export in parts, by two workers of which one is killed, is what one alone makes', async ({ server }) => {
  test.setTimeout(240_000)
  const id = await projectOf(server, 'Shared', [
    { op: 'composition.set', composition: 'main', width: 320, height: 180, frames: 90, rate: 24, background: [0, 0, 1, 1] },
    add({
      id: 'box',
      name: 'Box',
      kind: 'rectangle',
      states: {
        size: { own: [40, 40] },
        position: { links: [{ id: 'l', kind: 'formula', gain: 1, formula: '[frame * 3 - 120, 25 * wave(time)]' }] },
      },
    }),
  ])
  const project = join(folder, 'shared.wunderkammer')
  writeFileSync(project, Buffer.from(await (await fetch(`${server.address}/api/projects/${id}/package`)).arrayBuffer()))
  const out = join(folder, 'shared.zip')
  const port = await free()
  const job = begin('export', project, '-o', out, '--workers', '0', '--queue-listen', `127.0.0.1:${port}`, '--part', '10')
  await expect.poll(job.says, { timeout: 20_000 }).toContain(`wunderkammer work --queue nats://127.0.0.1:${port}`)
  const [doomed, steady] = [begin('work', '--queue', `nats://127.0.0.1:${port}`), begin('work', '--queue', `nats://127.0.0.1:${port}`)]
  await expect.poll(doomed.says, { timeout: 60_000 }).toContain('is made')
  doomed.child.kill('SIGKILL')
  expect(await job.ended, job.says()).toBe(0)
  expect(steady.says()).toContain('is made')
  steady.child.kill('SIGTERM')
  expect(await steady.ended).toBe(0)
  const alone = join(folder, 'alone.zip')
  run('export', project, '-o', alone)
  const contents = (zip: string): string =>
    execFileSync('unzip', ['-lv', zip], { encoding: 'utf8' })
      .split('\n')
      .slice(3, -3)
      .map((line) => line.trim().split(/\s+/).slice(6).join(' '))
      .join('\n')
  expect(contents(out).split('\n')).toHaveLength(90)
  expect(contents(out)).toBe(contents(alone))
})

test('moving pictures are joined as they are, with their sound from end to end', async () => {
  test.setTimeout(240_000)
  const [shared, alone] = [join(folder, 'shared.webm'), join(folder, 'alone.webm')]
  run('export', 'demo', '-o', shared, '--width', '320', '--from', '30', '--to', '69', '--workers', '2', '--part', '15')
  run('export', 'demo', '-o', alone, '--width', '320', '--from', '30', '--to', '69')
  const length = (file: string): { streams: { codec_name: string; nb_read_packets: string }[]; format: { duration: string } } =>
    JSON.parse(
      execFileSync('ffprobe', ['-v', 'error', '-count_packets', '-show_streams', '-show_format', '-of', 'json', file], {
        encoding: 'utf8',
      }),
    ) as never
  const [a, b] = [length(shared), length(alone)]
  expect(a.streams.map((s) => [s.codec_name, s.nb_read_packets])).toEqual(b.streams.map((s) => [s.codec_name, s.nb_read_packets]))
  expect(Number(a.format.duration)).toBeCloseTo(Number(b.format.duration), 1)
  // Up to the first seam they are the same to the bit; behind it, as much as an encoder allows that begins afresh.
  expect(sums(shared)).toHaveLength(40)
  expect(sums(shared).slice(0, 15)).toEqual(sums(alone).slice(0, 15))
})

test('what can’t be shared is said', () => {
  const refused = (...args: string[]): string => {
    try {
      run(...args)
      return ''
    } catch (error) {
      return String((error as { stderr: string }).stderr)
    }
  }
  expect(refused('export', 'demo', '-o', join(folder, 'x.gif'), '--workers', '2')).toContain('Animated GIF is not made in parts')
  expect(refused('export', 'demo', '-o', join(folder, 'x.mp4'), '--workers', '0')).toContain('1 to 64 workers here')
  expect(refused('export', 'demo', '-o', join(folder, 'x.mp4'), '--queue', 'nats://127.0.0.1:1')).toContain("can't be reached")
  expect(refused('work')).toContain('name the queue')
})

test('the server makes an export while the page is closed and opened again, and another one is cancelled', async ({ page, studio }) => {
  test.setTimeout(240_000)
  const server = new Server('serve', ['--workers', '1', '--part', '10'])
  await server.start()
  try {
    const id = await projectOf(server, 'Quay', [
      {
        op: 'composition.set',
        composition: 'main',
        name: 'Dusk',
        width: 320,
        height: 180,
        frames: 47,
        rate: 24,
        background: [0.1, 0.2, 0.4, 1],
      },
      add({ id: 'box', name: 'Box', kind: 'rectangle', states: { size: { own: [40, 40] } } }),
    ])
    await studio.open(server.address, id)
    const dialog = page.getByRole('dialog').filter({ hasText: 'Export Dusk' })
    const begin = async (): Promise<void> => {
      await page.getByRole('button', { name: /^Export/ }).click()
      await dialog.getByText('In this browser').click()
      await page.locator('.n-base-select-option:visible').filter({ hasText: 'on the server' }).click()
      await dialog.getByRole('button', { name: 'Export', exact: true }).click()
    }
    await begin()
    const row = dialog.getByRole('region', { name: 'Exports on the server' }).getByRole('listitem')
    await expect(row).toContainText(/waiting for its turn|frame \d+ of 47/)
    await page.goto('about:blank')
    await studio.open(server.address, id)
    await page.getByRole('button', { name: /^Export/ }).click()
    await expect(row).toContainText('ready', { timeout: 120_000 })
    const [file] = await Promise.all([page.waitForEvent('download'), row.getByRole('button', { name: 'Download' }).click()])
    expect(file.suggestedFilename()).toBe('Dusk.mp4')
    expect(sums(await file.path())).toHaveLength(47)
    await page.keyboard.press('Escape')
    // Another one, of what is there now: it is cancelled while it is made.
    await studio.add('ellipse', 'Moon')
    await begin()
    await expect(row).toHaveCount(2)
    await row.first().getByRole('button', { name: 'Cancel' }).click()
    await expect(row).toHaveCount(1)
    await expect(row).toContainText('ready')
    await row.getByRole('button', { name: 'Remove' }).click()
    await expect(row).toHaveCount(0)
  } finally {
    await server.remove()
  }
})
