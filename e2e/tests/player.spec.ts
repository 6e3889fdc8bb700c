import { execFileSync } from 'node:child_process'
import { mkdtempSync, readFileSync, rmSync } from 'node:fs'
import { createServer, type Server } from 'node:http'
import type { AddressInfo } from 'node:net'
import { tmpdir } from 'node:os'
import { extname, join } from 'node:path'
import { difference } from '../helpers/pixels'
import { run } from '../helpers/server'
import { expect, test } from '../helpers/test'

const types: Record<string, string> = {
  '.html': 'text/html',
  '.js': 'text/javascript',
  '.css': 'text/css',
  '.json': 'application/json',
  '.wasm': 'application/wasm',
  '.webp': 'image/webp',
  '.png': 'image/png',
}
/** Nothing from elsewhere, nothing inline. */
const policy =
  "default-src 'none'; script-src 'self' 'wasm-unsafe-eval'; style-src 'self'; connect-src 'self'; img-src 'self'; worker-src 'self'"

let folder = ''
let server: Server
let address = ''
const pages = new Map<string, string>()
const asked: string[] = []

test.beforeAll(async () => {
  test.setTimeout(60_000)
  folder = mkdtempSync(join(tmpdir(), 'player-'))
  const zip = join(folder, 'player.zip')
  run('export', 'demo', '--as', 'player', '-o', zip, '--from', '61')
  execFileSync('unzip', ['-q', zip, '-d', join(folder, 'harbour')])
  server = createServer((request, response) => {
    const path = request.url ?? ''
    asked.push(path)
    const head = { 'content-security-policy': policy, 'x-content-type-options': 'nosniff' }
    try {
      const page = pages.get(path)
      const body = page ?? readFileSync(join(folder, path.endsWith('/') ? `${path}index.html` : path))
      response.writeHead(200, { ...head, 'content-type': types[extname(path)] ?? 'text/html' })
      response.end(body)
    } catch {
      response.writeHead(404, head)
      response.end()
    }
  }).listen(0, '127.0.0.1')
  await new Promise((done) => server.once('listening', done))
  address = `http://127.0.0.1:${(server.address() as AddressInfo).port}`
  pages.set('/favicon.ico', '')
  // Ten lines of somebody's page.
  pages.set(
    '/blog',
    `<!doctype html><title>Blog</title><link rel="stylesheet" href="/blog.css">
     <script type="module" src="/harbour/player.js"></script><script type="module" src="/blog.js"></script>
     <wunderkammer-player src="/harbour" wind="3" sky-tint="#204060"></wunderkammer-player>
     <wunderkammer-player src="/harbour/" glow="11" kite="-100, 40, 5"></wunderkammer-player>
     <p id="said"></p>`,
  )
  pages.set('/blog.css', 'wunderkammer-player { width: 640px; height: 360px } body { margin: 0 }')
  pages.set(
    '/blog.js',
    `for (const player of document.querySelectorAll('wunderkammer-player'))
       for (const what of ['ready', 'change', 'error', 'ended'])
         player.addEventListener(what, (e) => said.append(what, ' ', JSON.stringify(e.detail ?? ''), ';'))`,
  )
})
test.afterAll(() => {
  server.close()
  rmSync(folder, { recursive: true, force: true })
})

type Player = HTMLElement & {
  play: () => void
  pause: () => void
  seek: (seconds: number) => void
  set: (name: string, value: unknown) => void
  get: (name: string) => unknown
  currentTime: number
  duration: number
  paused: boolean
  names: string[]
}

test('the folder plays from any server, under a strict policy, and shows what is exported', async ({ page }) => {
  await page.setViewportSize({ width: 1280, height: 720 })
  asked.length = 0
  const began = Date.now()
  await page.goto(`${address}/harbour/`)
  const player = page.locator('wunderkammer-player')
  await expect.poll(() => player.evaluate((p: Player) => p.duration)).toBe(12)
  console.log(`the player was ready after ${Date.now() - began} ms`)
  await expect.poll(() => player.evaluate((p: Player) => p.currentTime)).toBeGreaterThan(0.2)
  expect(asked.every((path) => path.startsWith('/harbour/') || path === '/favicon.ico')).toBe(true)
  // At a moment, it is the picture of that frame.
  await player.evaluate((p: Player) => {
    p.pause()
    return new Promise((done) => {
      p.addEventListener('frame', (e) => (e as CustomEvent<{ seconds: number }>).detail.seconds === 137 / 25 && done(null))
      p.seek(137 / 25)
    })
  })
  const frame = join(folder, 'frame.png')
  run('export', 'demo', '--as', 'picture', '--from', '137', '-o', frame)
  const other = await page.context().newPage() // whose policy allows it
  expect(await difference(other, await page.screenshot(), readFileSync(frame))).toBeLessThan(0.2)
})

test('two on one page have their own values; attributes, calls and events', async ({ page }) => {
  await page.goto(`${address}/blog`)
  const said = page.locator('#said')
  await expect(said).toContainText(/ready.*ready/)
  await expect(said).toContainText('change {"name":"wind","value":3};')
  const [one, two] = [page.locator('wunderkammer-player').first(), page.locator('wunderkammer-player').last()]
  expect(await one.evaluate((p: Player) => [p.get('wind'), p.get('sky-tint'), p.get('kite'), p.paused])).toEqual([
    3,
    '#204060',
    [-420, 125, 0],
    true,
  ])
  expect(await two.evaluate((p: Player) => [p.get('glow'), p.get('kite')])).toEqual([11, [-100, 40, 5]])
  expect(await two.evaluate((p: Player) => p.get('wind'))).not.toBe(3)
  expect(await one.evaluate((p: Player) => p.names.length)).toBeGreaterThan(10)
  // What a page sets holds, whatever is pinned, and is told once.
  const before = await one.screenshot()
  await one.evaluate((p: Player) => {
    p.setAttribute('wind', '88')
  })
  await expect(said).toContainText('change {"name":"wind","value":88};')
  await one.evaluate((p: Player) => new Promise((done) => (p.addEventListener('frame', () => done(null), { once: true }), p.seek(4.4))))
  expect(await one.evaluate((p: Player) => p.get('wind'))).toBe(88)
  const other = await page.context().newPage() // whose policy allows it
  expect(await difference(other, before, await one.screenshot())).toBeGreaterThan(0.5)
  expect(
    await one.evaluate((p: Player) => (p.set('wind', 88), document.getElementById('said')?.textContent?.split('"value":88').length)),
  ).toBe(2)
  // What there is not is said.
  const refused = (name: string, value: unknown): Promise<string> =>
    one.evaluate(
      (p: Player, [name, value]) => {
        try {
          p.set(name as string, value)
          return ''
        } catch (error) {
          return String(error)
        }
      },
      [name, value],
    )
  expect(await refused('waves', 3)).toContain('there is no control waves; there are wind, gusts')
  expect(await refused('wind', 'strong')).toContain('strong is no value of wind')
  await one.evaluate((p: Player) => p.setAttribute('wind', 'strong'))
  await expect(said).toContainText('error {"message":"strong is no value of wind"};')
  // Stopped and begun again on its way, it goes on as once, and is not at its end.
  const frames = await two.evaluate(async (p: Player) => {
    let drawn = 0
    p.addEventListener('frame', () => drawn++)
    p.seek(1)
    p.play()
    p.pause()
    p.play()
    // However slowly it is drawn here: until it has gone on for a while.
    while (p.currentTime < 1.2 || drawn < 2) await new Promise((done) => setTimeout(done, 20))
    p.pause()
    const at = p.currentTime
    await new Promise((done) => setTimeout(done, 300))
    return [at < 11.9, p.currentTime === at, drawn > 1]
  })
  expect(frames).toEqual([true, true, true])
  await expect(said).not.toContainText('ended')
  // It plays to its end.
  await two.evaluate((p: Player) => (p.seek(11.6), p.play()))
  await expect(said).toContainText('ended')
  expect(await two.evaluate((p: Player) => [p.paused, p.currentTime])).toEqual([true, 299 / 25])
})

test('a reading plays with what was handed off to it, within its limits', async ({ page }) => {
  test.setTimeout(120_000)
  const zip = join(folder, 'squall.zip')
  run('export', 'demo#Squall, for Ines', '--as', 'player', '-o', zip, '--from', '140')
  execFileSync('unzip', ['-q', zip, '-d', join(folder, 'squall')])
  pages.set(
    '/handed',
    '<!doctype html><title>Handed</title><script type="module" src="/squall/player.js"></script><wunderkammer-player src="/squall/" gusts="17"></wunderkammer-player>',
  )
  await page.goto(`${address}/handed`)
  const player = page.locator('wunderkammer-player')
  await expect.poll(() => player.evaluate((p: Player) => p.names?.length ?? 0)).toBe(4)
  expect(await player.evaluate((p: Player) => [p.names, p.get('wind'), p.get('gusts'), p.get('flag-on-the-quay')])).toEqual([
    ['wind', 'gusts', 'tide', 'flag-on-the-quay'],
    54,
    17,
    'stripes',
  ])
  await player.evaluate((p: Player) => (p.set('wind', -99), p.set('flag-on-the-quay', 'gate')))
  expect(await player.evaluate((p: Player) => [p.get('wind'), p.get('flag-on-the-quay')])).toEqual([-60, 'gate'])
})

test('where motion is not wanted, or there is no WebGL, the still picture stands in', async ({ page, browser }) => {
  const calm = await browser.newPage({ reducedMotion: 'reduce', viewport: { width: 1280, height: 720 } })
  await calm.goto(`${address}/harbour/`)
  const player = calm.locator('wunderkammer-player')
  await expect.poll(() => player.evaluate((p: Player) => p.duration)).toBe(12)
  expect(await player.evaluate((p: Player) => [p.paused, p.currentTime])).toEqual([true, 0])
  await calm.close()
  await page.addInitScript(() => {
    HTMLCanvasElement.prototype.getContext = () => null
  })
  await page.goto(`${address}/blog`)
  await expect(page.locator('#said')).toContainText('error')
  const still = await page
    .locator('wunderkammer-player')
    .first()
    .evaluate((p) => {
      const image = p.shadowRoot?.querySelector('img')
      return [image?.hidden, image?.naturalWidth, image?.clientWidth]
    })
  expect(still).toEqual([false, 1280, 640])
})

test('an address without a player is told as an event', async ({ page }) => {
  pages.set('/lost', pages.get('/blog')?.replaceAll('player src="/harbour', 'player src="/nowhere') ?? '')
  pages.set('/nowhere/still.webp', '')
  pages.set('/nowhere/composition.json', '<!doctype html>')
  await page.goto(`${address}/lost`)
  await expect(page.locator('#said')).toContainText('error {"message":"')
})
