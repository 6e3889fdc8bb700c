import type { Page } from '@playwright/test'
import type { Server } from '../helpers/server'
import { add, projectOf } from '../helpers/api'
import { costs, drag, evaluation, summary, watchWorker } from '../helpers/costs'
import type { Studio } from '../helpers/studio'
import { pictured } from '../helpers/picture'
import { expect, test } from '../helpers/test'

/** Prints the figures of docs/benchmarks.md that need a browser. They are ratios of one run on one machine. */

/** How long it takes from the key that makes a link until the picture with it is drawn, and of that until its values are there. */
async function linking(page: Page, studio: Studio): Promise<string> {
  const times: number[] = []
  const values: number[] = []
  for (const [i, key] of ['rotation', 'rotationX', 'rotationY', 'strokeWidth', 'cornerRadius'].entries()) {
    await studio.select(`Item ${i}`)
    await studio.field(key).locator('.name').click()
    await page.keyboard.press('l')
    await page.getByLabel('Find a source').fill('amount')
    await page.evaluate(() => {
      const stage = document.querySelector('[data-testid=stage]') as Element
      window.addEventListener(
        'keydown',
        () => {
          const began = performance.now()
          new MutationObserver((_, o) => {
            o.disconnect()
            Object.assign(window, { linked: performance.now() - began })
          }).observe(stage, { attributeFilter: ['data-drawn'] })
        },
        { capture: true, once: true },
      )
    })
    await page.evaluate(() => ((window as unknown as { answers: number[] }).answers.length = 0))
    await page.keyboard.press('Enter')
    await page.waitForFunction(() => (window as unknown as { linked?: number }).linked !== undefined)
    await expect(page.getByRole('dialog')).toHaveCount(0)
    values.push(await page.evaluate(() => (window as unknown as { answers: number[] }).answers[0] ?? NaN))
    times.push(
      await page.evaluate(() => {
        const w = window as unknown as { linked?: number }
        const took = w.linked ?? NaN
        delete w.linked
        return took
      }),
    )
  }
  return `${summary(times)}; its values are there after ${summary(values)}`
}

/** A project in which one pinned slider drives n properties. */
async function followers(server: Server, n: number): Promise<string> {
  const ops = [
    add({ id: 'rig', name: 'Rig', kind: 'null', controls: [{ id: 'amount', name: 'Amount', kind: 'slider', softMax: 100, default: 0 }] }),
  ]
  for (let i = 0; i < n; i++) {
    const link = { id: `l${i}`, kind: 'follow', source: { item: 'rig', property: 'amount' }, gain: 1, offset: i % 7 }
    const states = {
      size: { own: [8, 8] },
      position: { own: [(i % 40) * 30 - 585, Math.floor(i / 40) * 3 - 340, 0] },
      opacity: { own: null, links: [link] },
    }
    ops.push(add({ id: `i${i}`, name: `Item ${i}`, kind: 'rectangle', hidden: i >= 200, states }))
  }
  return projectOf(server, `${n} links`, ops)
}

test('fader to picture in the demo', async ({ page, demo, studio }) => {
  await watchWorker(page)
  await studio.open(demo.address, 'lanternfall')
  console.log(`\nfader drag to drawn frame, demo: ${summary(await drag(page, 'Tide', 60))}`)
  console.log(`a frame asked of the worker until its values are on the page, demo: ${summary(await evaluation(page, 200))}`)
})

for (const n of [1000, 10_000]) {
  test(`${n} links`, async ({ page, server, studio }) => {
    const id = await followers(server, n)
    await watchWorker(page)
    const began = Date.now()
    await studio.open(server.address, id)
    console.log(
      `\n${n} links, 200 of them drawn: opened until the first picture: ${await pictured(page)} ms; until the core is ready: ${Date.now() - began} ms`,
    )
    console.log(`${n} links: a frame until its values are on the page: ${summary(await evaluation(page, 200))}`)
    console.log(`${n} links: a link added, from Enter to its first frame: ${await linking(page, studio)}`)
    console.log(`${n} links: fader drag to drawn frame: ${await costs(page, 'Amount', 40)}`)
  })
}
