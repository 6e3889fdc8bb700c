import AxeBuilder from '@axe-core/playwright'
import type { Page } from '@playwright/test'

/** What axe finds on the page once what fades in is there, a line each: the view, the rule, and where. */
export async function faults(page: Page, view: string): Promise<string[]> {
  await page.waitForTimeout(400)
  const { violations } = await new AxeBuilder({ page })
    .withTags(['wcag2a', 'wcag2aa', 'wcag21a', 'wcag21aa', 'wcag22aa', 'best-practice'])
    .analyze()
  return violations.flatMap((v) => v.nodes.map((n) => `${view}: ${v.id}: ${n.target.join(' ')} ${n.html.slice(0, 160)}`))
}
