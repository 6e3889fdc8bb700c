import AxeBuilder from '@axe-core/playwright'
import type { Page } from '@playwright/test'

async function violations(axe: AxeBuilder, view: string): Promise<string[]> {
  const { violations } = await axe.analyze()
  return violations.flatMap((v) => v.nodes.map((n) => `${view}: ${v.id}: ${n.target.join(' ')} ${n.html.slice(0, 160)}`))
}

/** What axe finds on the page, a line each: the view, the rule, and where. Menus and pickers lie above all regions. */
export async function faults(page: Page, view: string): Promise<string[]> {
  const axe = new AxeBuilder({ page })
    .withTags(['wcag2a', 'wcag2aa', 'wcag21a', 'wcag21aa', 'wcag22aa', 'best-practice'])
    .disableRules('target-size') // which counts what is drawn; tooSmall counts what is met
  const found = await violations(axe, view)
  return found.filter((fault) => !/: region: (\.v-binder-follower-container|#v-\d+-)/.test(fault))
}

/** What of it is hard to read by lamplight; daylight comes back at the end. */
export async function dim(page: Page, view: string): Promise<string[]> {
  const light = (name: string): Promise<void> =>
    page.evaluate((newValue) => {
      localStorage.setItem('wunderkammer:theme', newValue)
      window.dispatchEvent(new StorageEvent('storage', { key: 'wunderkammer:theme', newValue, storageArea: localStorage }))
    }, name)
  await light('lamplight')
  await page.waitForFunction(() => document.documentElement.dataset.theme === 'lamplight')
  await page.waitForTimeout(320) // colours fade
  const found = await violations(new AxeBuilder({ page }).withRules(['color-contrast']), `${view}, by lamplight`)
  await light('daylight')
  return found
}
