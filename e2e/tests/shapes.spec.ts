import { createRequire } from 'node:module'
import { mkdtempSync, readFileSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import type { Page } from '@playwright/test'
import type { LottieValidator } from '@lottie-animation-community/lottie-specs/src/validator.js'
import { played } from '../helpers/lottie'
import { difference } from '../helpers/pixels'
import { run } from '../helpers/server'
import { expect, test } from '../helpers/test'

const need = createRequire(import.meta.url)
let folder = ''
test.beforeAll(() => (folder = mkdtempSync(join(tmpdir(), 'shapes-'))))
test.afterAll(() => rmSync(folder, { recursive: true, force: true }))

interface Told {
  id: string
  name: string
  width: number
  height: number
}

async function compositions(address: string): Promise<Told[]> {
  const { project } = (await (await fetch(`${address}/api/projects/lanternfall`)).json()) as { project: { compositions: Told[] } }
  return project.compositions
}

/** The frames at which what moves is compared: none of them at a key of everything. */
const frames = [0, 37, 113, 204, 299]

/** What a frame of a composition is as shapes, in Chromium. */
async function still(page: Page, address: string, c: Told, frame: number, pictures = false): Promise<Buffer> {
  let text: string
  if (pictures) {
    const file = join(folder, 'still.svg')
    run('export', `demo#${c.name}`, '--as', 'svg', '--from', String(frame), '-o', file)
    text = readFileSync(file, 'utf8')
  } else text = await (await fetch(`${address}/api/projects/lanternfall/frame.svg?composition=${c.id}&frame=${frame}`)).text()
  await page.setViewportSize({ width: c.width, height: c.height })
  await page.setContent(`<style>body{margin:0}svg{display:block}</style>${text.slice(text.indexOf('<svg'))}`)
  return page.screenshot()
}

test('SVG that moves shows at every moment what the frame is, of all compositions of the demo', async ({ page, demo }) => {
  test.setTimeout(240_000)
  const [first] = await compositions(demo.address)
  // The comparison tells frames apart.
  if (first) {
    const [a, b] = [await still(page, demo.address, first, 37), await still(page, demo.address, first, 113)]
    expect(await difference(page, a, b)).toBeGreaterThan(3)
  }
  for (const c of await compositions(demo.address)) {
    const file = join(folder, 'moving.svg')
    run('export', `demo#${c.name}`, '--as', 'moving', '-o', file)
    const text = readFileSync(file, 'utf8')
    const shares: number[] = []
    for (const frame of frames) {
      const want = await still(page, demo.address, c, frame, true)
      await page.setContent(`<style>body{margin:0}svg{display:block}</style>${text}`)
      await page.evaluate((seconds) => {
        const svg = document.querySelector('svg') as SVGSVGElement
        svg.pauseAnimations()
        svg.setCurrentTime(seconds)
      }, frame / 25)
      shares.push(await difference(page, await page.screenshot(), want))
    }
    console.log(`${c.name} as SVG that moves, ${Math.round(text.length / 1024)} kB: ${shares.map((x) => x.toFixed(2)).join(', ')} % differ`)
    for (const share of shares) expect(share, c.name).toBeLessThan(0.5)
  }
})

test('Lottie is what its specification says, and a player shows what the frame is', async ({ page, demo }) => {
  test.setTimeout(240_000)
  const { LottieValidator: Validator } = need('@lottie-animation-community/lottie-specs/src/validator.js') as {
    LottieValidator: typeof LottieValidator
  }
  const schema = need('@lottie-animation-community/lottie-specs/src/data/lottie.schema.json') as object
  const validator = new Validator(need('ajv/dist/2020') as never, schema)
  for (const c of await compositions(demo.address)) {
    const file = join(folder, 'moving.json')
    const began = performance.now()
    run('export', `demo#${c.name}`, '--as', 'lottie', '-o', file)
    const took = performance.now() - began
    const text = readFileSync(file, 'utf8')
    const wrong = validator.validate(JSON.parse(text) as object, true).filter(({ type }) => type === 'error')
    expect(wrong.slice(0, 3), c.name).toEqual([])
    const shares: number[] = []
    for (const frame of frames) {
      const want = await still(page, demo.address, c, frame, true)
      shares.push(await difference(page, await played(page, text, frame), want))
    }
    console.log(
      `${c.name} as Lottie, ${Math.round(text.length / 1024)} kB in ${Math.round(took)} ms: ${shares.map((x) => x.toFixed(2)).join(', ')} % differ`,
    )
    for (const share of shares) expect(share, c.name).toBeLessThan(3)
    if (c.name === 'Harbour opener') expect(text.length).toBeLessThan(2 << 20)
  }
})
