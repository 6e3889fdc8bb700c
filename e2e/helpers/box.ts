import type { Page } from '@playwright/test'
import { option } from './hand'
import type { Studio } from './studio'
import { expect } from './test'

/** Sets faders of the simulated box at once, as several fingers do. */
export async function setFaders(box: Page, faders: number[], share: number): Promise<void> {
  await box.evaluate(
    ([list, to]) => {
      for (const n of list) {
        const fader = document.querySelector<HTMLInputElement>(`[aria-label="Fader ${n}"]`)
        if (!fader) throw new Error('no fader')
        fader.value = String(to)
        fader.dispatchEvent(new Event('input', { bubbles: true }))
      }
    },
    [faders, share] as const,
  )
}

/** Moves faders of the box together, by steps of a share. */
export async function moveFaders(box: Page, faders: number[], from: number, to: number, steps = 12): Promise<void> {
  for (let k = 0; k <= steps; k++) {
    await setFaders(box, faders, from + ((to - from) * k) / steps)
    await box.waitForTimeout(40)
  }
}

/** Arms controls, opens the simulated box, and binds its faders to them in their order. */
export async function learnt(page: Page, studio: Studio, watch: (page: Page) => void, item: string, names: string[]): Promise<Page> {
  for (const name of names) {
    await studio.control(name).hover()
    await page.getByRole('button', { name: `Arm ${name} for recording` }).click()
  }
  const menu = async (entry: string): Promise<void> => {
    await page.getByRole('button', { name: 'Box', exact: true }).click()
    await option(page, entry).click()
  }
  const [box] = await Promise.all([page.waitForEvent('popup'), menu('Open the simulated box')])
  watch(box)
  await expect(box.getByRole('heading', { name: 'Simulated box' })).toBeVisible()
  await menu('Learn: bind what is armed')
  const learning = page.getByRole('status').filter({ hasText: 'Learning' })
  for (const [k, name] of names.entries()) {
    await expect(learning).toContainText(`${item}: ${name}`)
    await moveFaders(box, [k + 1], 0, 0.2, 3)
    await box.waitForTimeout(850) // it is still being moved for a while
  }
  await expect(learning).toHaveCount(0)
  return box
}
