import type { Page } from '@playwright/test'

/** When the first picture of a project was drawn, in milliseconds since the page was asked for; NaN where none was. */
export const pictured = (page: Page): Promise<number> =>
  page.evaluate(() => Math.round(performance.getEntriesByName('picture')[0]?.startTime ?? NaN))
