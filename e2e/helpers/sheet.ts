import { expect, type Locator, type Page } from '@playwright/test'

export const sheet = (page: Page) => page.getByRole('application', { name: 'Sheet of the graph' })
export const slip = (page: Page, name: string) => page.locator(`[data-slip="${name}"]`)
export const port = (page: Page, name: string, side: 'in' | 'out', n = 0) => slip(page, name).locator(`.${side} .vue-flow__handle`).nth(n)

/** Finds something by typing, and puts it on the sheet. */
export async function put(page: Page, what: string): Promise<void> {
  const before = await page.locator('[data-slip]').count()
  await sheet(page).focus()
  await page.keyboard.press('/')
  await page.getByLabel('Find what to put on the sheet').fill(what)
  await page.keyboard.press('Enter')
  await expect(page.locator('[data-slip]')).toHaveCount(before + 1)
}

/** Where a port is, once the sheet stands still. */
async function place(page: Page, port: Locator): Promise<{ x: number; y: number; width: number; height: number }> {
  let before = ''
  for (;;) {
    const box = await port.boundingBox()
    if (!box) throw new Error('there is no such port')
    if (JSON.stringify(box) === before) return box
    before = JSON.stringify(box)
    await page.waitForTimeout(120)
  }
}

/** Pulls a cable from one place to another. */
export async function pull(page: Page, from: Locator, to: { x: number; y: number }): Promise<void> {
  const box = await place(page, from)
  await page.mouse.move(box.x + box.width / 2, box.y + box.height / 2)
  await page.mouse.down()
  await page.mouse.move(to.x - 8, to.y - 4, { steps: 6 })
  await page.mouse.move(to.x, to.y)
  await page.mouse.up()
}
export async function plug(page: Page, from: Locator, to: Locator): Promise<void> {
  const box = await place(page, to)
  await pull(page, from, {
    x: box.x + box.width / 2,
    y: box.y + box.height / 2,
  })
}

/** What a property of an item is at some frames, to the bit. */
export async function values(page: Page, property: string, frames: number[]): Promise<string> {
  return page.evaluate(
    async ({ property, frames }) => {
      const slots = window.wunderkammer.properties().filter((p) => p.property === property)
      const out: string[] = []
      for (const f of frames) {
        const all = await window.wunderkammer.values(f)
        out.push(slots.flatMap((s) => Array.from({ length: s.size }, (_, c) => String(all[s.slot + c]))).join(' '))
      }
      return out.join('\n')
    },
    { property, frames },
  )
}

/** Brings all slips into sight: F once shows them as large as can be read, F again all of them. */
export async function overlook(page: Page): Promise<void> {
  await sheet(page).focus()
  for (let n = 0; n < 2; n++) {
    await page.keyboard.press('f')
    await page.waitForTimeout(200)
  }
}
